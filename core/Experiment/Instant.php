<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Experiment;

use MerryOrbit\Core\Formula\Node\CurveCall;
use MerryOrbit\Core\Formula\Node\Node;
use MerryOrbit\Core\Model\Relation;
use MerryOrbit\Core\Plan\Plan;
use MerryOrbit\Core\Problem\NotUnderstood;
use MerryOrbit\Core\Simulate\RunRefused;
use MerryOrbit\Core\Simulate\Simulator;
use MerryOrbit\Core\Simulate\Walker;

/**
 * A run at one moment: what everything is worth, how fast it changes, and what makes it change. What is asked about is an element, or the
 * key of one of its elements along dimensions: `harvest[north,old]`.
 *
 * Rates follow from the formulas, not from the saved points: a stock's from its flows, all others' by moving every stock and time
 * a little way ahead. A cause's contribution is what its own movement alone does to the formula, ∂y/∂x · dx/dt; differences
 * look forward in time only, so at a kink they take the side that the run is moving to.
 */
final class Instant
{
    /** Stands for time itself among the causes. */
    public const TIME = 'time';

    /** Stands for what a variable remembers: the inside of its delays and averages. */
    public const MEMORY = 'memory';

    /** How far differences look ahead, in steps. */
    private const AHEAD = 1e-4;

    private readonly Plan $plan;

    private readonly float $step;

    /** @var array<string, float>|null per time unit, by key */
    private ?array $rates = null;

    private function __construct(public readonly Trial $trial, public readonly Walker $walker, public readonly int $index)
    {
        $this->plan = $trial->analysis->plan();
        $this->step = $trial->model()->time->step;
    }

    /**
     * @return ?self null if the run does not get there
     *
     * @throws RunRefused|NotUnderstood
     */
    public static function of(Simulator $simulator, Trial $trial, float $time): ?self
    {
        if ($trial->analysis->shaped?->extents->rosters->isAny() === true) {
            $standing = Standing::at($simulator, $trial, $time);

            return $standing === null ? null : new self($standing->trial, $standing->walker, $standing->index);
        }
        $settings = $trial->model()->time;
        $index = max(0, min($settings->steps(), (int) round(($time - $settings->start) / $settings->step)));
        $walker = $simulator->walkerAt($trial->analysis, $trial->settings, $index);

        return $walker === null ? null : new self($trial, $walker, $index);
    }

    public function time(): float
    {
        return $this->trial->model()->time->timeAt($this->index);
    }

    public function value(string $id): ?float
    {
        return $this->walker->values[$id] ?? null;
    }

    /** How fast something changes, per time unit; null where that is not known. */
    public function rate(string $id): ?float
    {
        return isset($this->walker->values[$id]) ? $this->rates()[$id] ?? 0.0 : null;
    }

    /**
     * What makes it change now, strongest first. Together they come to rate(), up to the rest.
     *
     * @return array{causes: list<array{cause: string, change: float}>, rest: float} ids of elements, or TIME or MEMORY; per time unit
     */
    public function causes(string $id): array
    {
        $rate = $this->rate($id) ?? 0.0;
        $causes = [];
        $state = $this->plan->states[$id] ?? null;
        if ($state !== null && $this->walker->courseOf($id, $this->index, 0.0) === null) {
            foreach ($state->rates as [$flow, $sign]) {
                $causes[] = ['cause' => $flow, 'change' => $sign * ($this->value($flow) ?? 0.0)];
            }
        } elseif ($state !== null) {
            $causes[] = ['cause' => self::TIME, 'change' => $rate];
        } else {
            foreach ($this->movers($id) as $cause => $keys) {
                $causes[] = ['cause' => $cause, 'change' => $this->slope($id, $keys, $cause === self::TIME)];
            }
        }
        usort($causes, static fn (array $a, array $b): int => abs($b['change']) <=> abs($a['change']));

        return ['causes' => $causes, 'rest' => $rate - array_sum(array_column($causes, 'change'))];
    }

    /**
     * What it changes by moving as it does now, strongest share first.
     *
     * @return list<array{effect: string, change: float, share: float}> share of what moves that effect now, 0 to 1
     */
    public function effects(string $id): array
    {
        $effects = [];
        foreach ($this->others() as $other) {
            if (
                ! isset($this->walker->values[$other]) ||
                ! in_array($id, [...$this->inputs($other), ...array_column($this->plan->states[$other]->rates ?? [], 0)], true)
            ) {
                continue;
            }
            $causes = $this->causes($other)['causes'];
            $all = array_sum(array_map(static fn (array $c): float => abs($c['change']), $causes));
            foreach ($causes as ['cause' => $cause, 'change' => $change]) {
                if ($cause === $id) {
                    $effects[] = ['effect' => $other, 'change' => $change, 'share' => $all > 0.0 ? abs($change) / $all : 0.0];
                }
            }
        }
        usort($effects, static fn (array $a, array $b): int => $b['share'] <=> $a['share']);

        return $effects;
    }

    /** @return list<string> all that could be an effect, by key */
    private function others(): array
    {
        $positions = $this->trial->analysis->positions;

        return array_merge([], ...array_map($positions->of(...), array_map(strval(...), array_keys($this->trial->model()->elements))));
    }

    /** Whether a key belongs to what is asked about: of something along dimensions, to the same place. */
    private function belongs(string $key, string $id): bool
    {
        $keys = $this->plan->keys;
        if ($keys->owner($key) !== $keys->owner($id)) {
            return false;
        }
        [$at, $own] = [$keys->of($key)->at, $keys->of($id)->at];

        return $own === [] || $at === $own || ($at === [] && $keys->isHidden($key));
    }

    /** @return list<string> keys of the equations that make up an element, in their order */
    public function equations(string $id): array
    {
        return array_keys(array_filter($this->plan->equations, fn ($e): bool => $this->belongs($e->key, $id)));
    }

    /** @return list<Node> */
    public function nodes(string $id): array
    {
        return array_map(fn (string $key): Node => $this->plan->equations[$key]->node, $this->equations($id));
    }

    /** @return list<string> ids of the elements, or keys along dimensions, whose values an element's equations look at */
    public function inputs(string $id): array
    {
        $inputs = [];
        foreach ($this->nodes($id) as $node) {
            foreach (Plan::keys($node) as $key) {
                // What is hidden belongs to the element itself.
                $inputs[$this->plan->keys->isHidden($key) ? $this->plan->keys->owner($key) : $key] = true;
            }
        }
        unset($inputs[$id], $inputs[$this->plan->keys->owner($id)]);

        return array_map(strval(...), array_keys($inputs));
    }

    /** @return list<string> hidden stocks and cells of an element, by key */
    public function memory(string $id): array
    {
        $own = fn (string $key): bool => $this->plan->keys->isHidden($key) && $this->belongs($key, $id);

        return array_values(array_filter([...array_keys($this->plan->states), ...array_keys($this->plan->cells)], $own));
    }

    /** @return array<string, Relation> the curves that an element's equations look up, by key */
    public function curves(string $id): array
    {
        $curves = [];
        foreach ($this->nodes($id) as $node) {
            foreach ($node->all() as $part) {
                if ($part instanceof CurveCall) {
                    $curves[$part->key] = $this->plan->curves[$part->key];
                }
            }
        }

        return $curves;
    }

    /** @return array<string, list<string>> by cause, the keys that move with it */
    private function movers(string $id): array
    {
        $movers = [];
        foreach ($this->inputs($id) as $input) {
            if (isset($this->walker->values[$input])) {
                $movers[$input] = [$input];
            }
        }
        $memory = $this->memory($id);

        return [...$movers, ...$memory === [] ? [] : [self::MEMORY => $memory], self::TIME => []];
    }

    /**
     * The rate of an element when only some keys move, or only time.
     *
     * @param  list<string>  $moving
     */
    private function slope(string $id, array $moving, bool $time): float
    {
        $keys = $this->equations($id);
        $rates = array_intersect_key($this->rates(), array_flip($moving));
        if (! $time && array_filter($rates) === []) {
            return 0.0;
        }

        return $this->forward(
            fn (float $h): ?float => $this->walker->probe($keys, $this->moved($rates, $h), $this->index, $time ? $h : 0.0)[$id] ?? null,
        );
    }

    /**
     * The derivative at zero from values at and after it, of second order.
     *
     * @param  \Closure(float): ?float  $value  by how far ahead, in steps
     */
    private function forward(\Closure $value): float
    {
        $h = self::AHEAD;
        [$here, $near, $far] = [$value(0.0), $value($h), $value(2 * $h)];
        if ($here === null || $near === null) {
            return 0.0;
        }

        return ($far === null ? $near - $here : (4.0 * $near - 3.0 * $here - $far) / 2.0) / ($h * $this->step);
    }

    /**
     * @param  array<string, float>  $rates
     * @return array<string, float>
     */
    private function moved(array $rates, float $h): array
    {
        $values = [];
        foreach ($rates as $key => $rate) {
            $values[$key] = $this->walker->values[$key] + $rate * $h * $this->step;
        }

        return $values;
    }

    /** @return array<string, float> */
    private function rates(): array
    {
        if ($this->rates !== null) {
            return $this->rates;
        }
        $rates = [];
        foreach ($this->plan->states as $key => $state) {
            $rates[$key] = 0.0;
            if ($state->forced !== null && $this->walker->courseOf($key, $this->index, 0.0) !== null) {
                $rates[$key] = $this->forward(fn (float $h): ?float => $this->walker->courseOf($key, $this->index, $h));
            } else {
                foreach ($state->rates as [$flow, $sign]) {
                    $rates[$key] += $sign * ($this->walker->values[$flow] ?? 0.0);
                }
            }
        }
        $keys = array_keys($this->plan->equations);
        $h = self::AHEAD;
        $here = $this->walker->probe($keys, [], $this->index) ?? [];
        $near = $this->walker->probe($keys, $this->moved($rates, $h), $this->index, $h) ?? $here;
        $far = $this->walker->probe($keys, $this->moved($rates, 2 * $h), $this->index, 2 * $h);
        foreach ($here as $key => $value) {
            $rates[$key] =
                ($far === null ? $near[$key] - $value : (4.0 * $near[$key] - 3.0 * $value - $far[$key]) / 2.0) / ($h * $this->step);
        }

        return $this->rates = $rates;
    }
}
