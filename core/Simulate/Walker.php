<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Simulate;

use MerryOrbit\Core\Formula\Node\Call;
use MerryOrbit\Core\Formula\Node\Node;
use MerryOrbit\Core\Library\Chance;
use MerryOrbit\Core\Library\EvaluationError;
use MerryOrbit\Core\Library\Evaluator;
use MerryOrbit\Core\Library\History;
use MerryOrbit\Core\Library\Moment;
use MerryOrbit\Core\Library\Passage;
use MerryOrbit\Core\Library\Signals;
use MerryOrbit\Core\Model\Model;
use MerryOrbit\Core\Model\TimeSettings;
use MerryOrbit\Core\Plan\Equation;
use MerryOrbit\Core\Plan\Pace;
use MerryOrbit\Core\Plan\Plan;

/**
 * Runs a plan slowly, walking the formulas and watching every operation: it finds the culprit when compiled code meets a number
 * it cannot go on with, and tests compare compiled code with it. For methods with fixed steps.
 */
final class Walker
{
    /** @var array<string, float> by key */
    public array $values;

    /** @var array<string, float|History|Passage> what cells hold */
    private array $held = [];

    /** @var array<string, float> */
    private array $masses = [];

    private bool $starting = false;

    /** @param  array<string, float>  $parameters  by id */
    public function __construct(
        private readonly Model $model,
        private readonly Plan $plan,
        private readonly TimeSettings $time,
        array $parameters,
        private readonly int $seed = 1,
        private readonly int $grain = 1,
    ) {
        $this->values = $parameters;
    }

    /** @throws Culprit */
    public function start(): void
    {
        $moment = new Moment($this->time);
        $this->starting = true;
        foreach ($this->plan->starts as $key => $node) {
            $equation = $this->plan->equations[$key] ?? null;
            $this->values[$key] = $equation?->draw !== null ? $this->draw($equation, $moment) : $this->value($key, $node, $moment);
        }
        foreach ($this->plan->cells as $key => $cell) {
            $first = $this->values[$key] ?? 0.0;
            $this->held[$key] = match ($cell->kind) {
                'shift' => new History($first, $this->time->start, $this->time->step),
                'highest' => -INF,
                'lowest' => INF,
                'previous' => $first,
                default => 0.0,
            };
            if ($cell->kind === 'times') {
                $this->values[$key] = 0.0;
            }
        }
        foreach ($this->plan->transits as $stock => $transit) {
            $this->held[$stock] = new Passage(
                $this->values[$stock],
                $this->value($stock, $transit->travel, $moment),
                $this->time->step,
                $this->time->steps(),
            );
        }
        $this->starting = false;
    }

    /**
     * Goes on from what compiled code carried.
     *
     * @param  array<string, float|History|Passage>  $carried  by key, a cell's own memory with its letter
     * @param  array<string, float>  $constants  by key
     */
    public function resume(array $carried, array $constants): void
    {
        $this->values = [...$this->values, ...$constants];
        foreach ($carried as $key => $value) {
            if (isset($this->plan->states[$key])) {
                $this->values[$key] = is_float($value) ? $value : NAN;
            } else {
                $base = rtrim($key, 'hq');
                $kind = $this->plan->cells[$base]->kind ?? '';
                if ($kind === 'times' && $key === $base) {
                    $this->values[$base] = is_float($value) ? $value : NAN;
                } else {
                    $this->held[$base] = $value;
                    if (is_float($value) && in_array($kind, ['hold', 'latch', 'drift', 'previous'], true)) {
                        $this->values[$base] = $value;
                    }
                }
            }
        }
    }

    /**
     * Everything at the start of a step.
     *
     * @throws Culprit
     */
    public function look(int $step): void
    {
        $this->evaluate(new Moment($this->time, $step), true);
    }

    /**
     * From the start of one step to that of the next; look() comes before.
     *
     * @throws Culprit
     */
    public function advance(int $step): void
    {
        $next = [];
        $now = new Moment($this->time, $step);
        foreach ($this->plan->cells as $key => $cell) {
            $held = $this->held[$key];
            if ($cell->watched === null) {
                continue;
            }
            $value = $this->value($cell->owner, $cell->watched, $now);
            if ($held instanceof History) {
                $held->put($step, $value);
            } elseif ($cell->kind === 'previous') {
                $next[$key] = $value;
            } else {
                $this->held[$key] = $value;
            }
        }
        $this->integrate($step);
        foreach ($next as $key => $value) {
            $this->values[$key] = $this->held[$key] = $value;
        }
    }

    /**
     * What some equations of the present step would be worth, were some values others. What is kept through a step stays.
     *
     * @param  list<string>  $keys  in the order of the plan
     * @param  array<string, float>  $changed  by key
     * @param  float  $within  how far into the step, in steps
     * @return ?array<string, float> by key; null where there is no value
     */
    public function probe(array $keys, array $changed, int $step, float $within = 0.0): ?array
    {
        $other = clone $this;
        $other->values = [...$this->values, ...$changed];
        $moment = new Moment($this->time, $step, $within);
        $found = [];
        try {
            foreach ($keys as $key) {
                $equation = $this->plan->equations[$key];
                if ($equation->pace !== Pace::Step && ! isset($this->plan->cells[$key])) {
                    $other->values[$key] = $other->cut($key, $other->value($key, $equation->node, $moment));
                }
                $found[$key] = $other->values[$key];
            }
        } catch (Culprit) {
            return null;
        }

        return $found;
    }

    /** Where a hand would hold a stock a little later; null where none does. */
    public function courseOf(string $stock, int $step, float $within): ?float
    {
        $forced = $this->plan->states[$stock]->forced ?? null;
        if ($forced === null) {
            return null;
        }
        $other = clone $this;
        // Left alone, a stock keeps the value it is asked with.
        $other->values[$stock] = NAN;
        try {
            return (new Evaluator($other->values, new Moment($this->time, $step, $within), $this->plan->curves))->value($forced);
        } catch (EvaluationError) {
            return null;
        }
    }

    private function integrate(int $step): void
    {
        $h = $this->time->step;
        $stages = $this->time->method->stages();
        $weights = array_sum(array_column($stages, 1));
        $before = array_intersect_key($this->values, $this->plan->states);
        $sums = array_fill_keys(array_keys($this->plan->equations), 0.0);
        foreach ($stages as $s => [$within, $weight]) {
            if ($s > 0) {
                $moment = new Moment($this->time, $step, $within);
                $reached = [];
                foreach ($this->plan->states as $key => $_) {
                    $reached[$key] = $this->finite($key, $before[$key] + $within * $h * $this->rate($key, $this->values), $moment);
                }
                $this->values = [...$this->values, ...$reached];
                $this->evaluate($moment, false);
            }
            foreach ($sums as $key => $_) {
                $sums[$key] += ($weight / $weights) * $this->values[$key];
            }
        }
        $this->values = [...$this->values, ...$before];
        $this->masses = array_map(static fn (float $s): float => $s * $h, $sums);
        (new Limiter($this->plan, $this->held))->cut($this->masses, $before, $step);
        foreach ($this->plan->transits as $stock => $transit) {
            $this->closePassage($stock, $transit->travel, $step);
        }
        foreach ($this->plan->states as $key => $_) {
            $this->values[$key] = $this->finite(
                $key,
                $before[$key] + $this->rate($key, $this->masses),
                new Moment($this->time, $step, 1.0),
            );
        }
        $this->hold(new Moment($this->time, $step, 1.0));
    }

    /** Sets stocks that hands hold on their courses. */
    private function hold(Moment $moment): void
    {
        foreach ($this->plan->states as $key => $state) {
            if ($state->forced !== null) {
                $this->values[$key] = $this->value($key, $state->forced, $moment);
            }
        }
    }

    private function closePassage(string $stock, Node $travel, int $step): void
    {
        $arrival = $this->plan->transits[$stock]->arrival;
        $arrived = $arrival === null ? 0.0 : $this->masses[$arrival];
        $leak = $entered = 0.0;
        foreach ($this->plan->states[$stock]->rates as [$flow, $sign]) {
            if ($sign < 0 && $flow === $arrival) {
                continue;
            }
            // What flows backward enters by an outflow, or is taken along the way by an inflow.
            $into = $sign * $this->masses[$flow];
            $entered += max(0.0, $into);
            $leak += max(0.0, -$into);
        }
        $passage = $this->held[$stock];
        if ($passage instanceof Passage) {
            $passage->close(
                $step,
                $leak,
                $this->values[$stock] - $arrived,
                $entered,
                $this->value($stock, $travel, new Moment($this->time, $step)),
            );
        }
    }

    /** @param  array<string, float>  $values */
    private function rate(string $state, array $values): float
    {
        $rate = 0.0;
        foreach ($this->plan->states[$state]->rates as [$key, $sign]) {
            $rate += $sign * $values[$key];
        }

        return $rate;
    }

    private function evaluate(Moment $moment, bool $first): void
    {
        $this->hold($moment);
        foreach ($this->plan->equations as $key => $equation) {
            if (! $first && ($equation->pace === Pace::Step || ! isset($this->plan->drives[$key]))) {
                continue;
            }
            $from = $this->plan->flows[$key]['from'] ?? null;
            if ($from !== null && ($this->plan->transits[$from]->arrival ?? null) === $key) {
                $passage = $this->held[$from];
                $this->values[$key] = $passage instanceof Passage ? $passage->arriving($moment->step) / $this->time->step : 0.0;
            } elseif ($equation->draw !== null) {
                $this->values[$key] = $this->draw($equation, $moment);
            } elseif (isset($this->plan->cells[$key])) {
                $this->values[$key] = $this->remembered($equation, $moment);
            } else {
                $this->values[$key] = $this->cut($key, $this->value($key, $equation->node, $moment));
            }
        }
    }

    /** What a flow may be within a step. */
    private function cut(string $key, float $value): float
    {
        $flow = $this->plan->flows[$key] ?? null;
        if ($flow === null) {
            return $value;
        }
        $value = $flow['oneWay'] ? max(0.0, $value) : $value;
        $cap = fn (?string $stock): float => $stock !== null && isset($this->plan->limited[$stock])
            ? max(0.0, $this->values[$stock]) / $this->time->step
            : INF;

        return max(-$cap($flow['to']), min($cap($flow['from']), $value));
    }

    private function remembered(Equation $equation, Moment $moment): float
    {
        $key = $equation->key;
        $node = $equation->node;
        $held = $this->held[$key];
        $a = $node instanceof Call ? $node->arguments : [];
        $x = $this->value($key, $a[0], $moment);
        if ($held instanceof History) {
            return $held->at($moment->time, $x);
        }
        $held = is_float($held) ? $held : 0.0;
        switch ($this->plan->cells[$key]->kind) {
            case 'highest':
                return max($x, $held);
            case 'lowest':
                return min($x, $held);
            case 'hold':
                $value = Signals::hold($x, $this->value($key, $a[1], $moment), $held, $moment->begun, $this->time->step, $moment->step);
                if (is_nan($value)) {
                    throw $this->culprit($key, '`hold` with no time between its looks', $moment);
                }

                return $this->held[$key] = $value;
            case 'latch':
                return $this->held[$key] = $this->value($key, $a[1], $moment) != 0.0 ? 0.0 : ($x != 0.0 ? 1.0 : $held);
            default:
                // times
                $this->held[$key] = $x != 0.0 ? 1.0 : 0.0;

                return ($this->values[$key] ?? 0.0) + ($this->held[$key] > $held ? 1.0 : 0.0);
        }
    }

    private function draw(Equation $equation, Moment $moment): float
    {
        $node = $equation->node;
        $name = $node instanceof Call ? $node->function->name : '';
        $x = $node instanceof Call ? array_map(fn (Node $n): float => $this->value($equation->key, $n, $moment), $node->arguments) : [];
        $how = [$this->seed, (string) $equation->draw, $moment->step, $this->grain];
        $before = $this->held[$equation->key] ?? 0.0;
        $value = match ($name) {
            'random' => Chance::random($x[0], $x[1], ...$how),
            'gaussian' => Chance::gaussian($x[0], $x[1], ...$how),
            'lognormal' => Chance::lognormal($x[0], $x[1], ...$how),
            'exponential' => Chance::exponential($x[0], ...$how),
            'poisson' => Chance::poisson($x[0], ...[...$how, $this->time->step]),
            'binomial' => Chance::binomial($x[0], $x[1], ...$how),
            default => Chance::drift(is_float($before) ? $before : 0.0, $x[0], $x[1], $x[2], ...[...$how, $this->time->step]),
        };
        if (! is_finite($value)) {
            throw $this->culprit($equation->key, "`$name` with arguments for which there is no such distribution", $moment);
        }
        if ($name === 'drift' && ! $this->starting) {
            $this->held[$equation->key] = $value;
        }

        return $value;
    }

    private function value(string $key, Node $node, Moment $moment): float
    {
        try {
            return (new Evaluator($this->values, $moment, $this->plan->curves))->value($node);
        } catch (EvaluationError $e) {
            throw $this->culprit(
                $key,
                $e->getMessage().
                    ($this->starting && isset($this->plan->states[$key]) && ! $this->plan->keys->isHidden($key)
                        ? ' in its initial value'
                        : ''),
                $moment,
                $node,
            );
        }
    }

    private function finite(string $state, float $value, Moment $moment): float
    {
        return is_finite($value)
            ? $value
            : throw $this->culprit($state, 'a level larger than the largest number that can be computed with', $moment);
    }

    private function culprit(string $key, string $reason, Moment $moment, ?Node $node = null): Culprit
    {
        $node ??= $this->plan->equations[$key]->node ?? null;
        $used = $node === null ? array_column($this->plan->states[$key]->rates ?? [], 0) : Plan::keys($node);
        $known = array_intersect_key($this->values, array_flip($used));
        $values = array_filter(array_replace(array_fill_keys($used, null), $known), is_float(...));

        return new Culprit(NumericFault::of($this->model, $this->plan, $key, $reason, $moment->time, $this->time->unit, $values));
    }
}
