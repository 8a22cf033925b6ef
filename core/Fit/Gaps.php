<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Fit;

use MerryOrbit\Core\Data\Evidence;
use MerryOrbit\Core\Model\Method;
use MerryOrbit\Core\Model\Model;
use MerryOrbit\Core\Model\TimeSettings;
use MerryOrbit\Core\Reduce\ColumnsAt;
use MerryOrbit\Core\Reduce\Reducer;
use MerryOrbit\Core\Simulate\Trajectory;

/**
 * What a run has where something was measured: a number for each point of each series, those outside of the run left out. And the gaps
 * between that and what was measured, as they count.
 */
final class Gaps implements Reducer
{
    private readonly ColumnsAt $columns;

    /** @var list<float> when the run is looked at */
    private readonly array $wanted;

    /** @var list<string> */
    private readonly array $keys;

    /** @var list<array<int, float>> of each series the points that lie within the run, by their place */
    private readonly array $measured;

    /**
     * @param  non-empty-list<Evidence>  $evidence
     * @param  list<Misses>  $misses  of each series
     */
    public function __construct(private readonly array $evidence, public readonly array $misses, private readonly TimeSettings $time)
    {
        $this->measured = array_map($this->within(...), $evidence, $misses);
        $wanted = [];
        foreach ($evidence as $e) {
            array_push($wanted, ...$e->times, ...$e->ends);
            // Means and integrals over periods look at every step.
            for ($i = 0; $e->over !== '' && $i <= $time->steps(); $i++) {
                $wanted[] = $time->timeAt($i);
            }
        }
        $end = $time->timeAt($time->steps());
        $wanted = array_filter($wanted, static fn (float $t): bool => $t >= $time->start && $t <= $end);
        sort($wanted);
        $this->wanted = array_values(array_unique($wanted, SORT_NUMERIC));
        $this->keys = array_values(array_unique(array_map(static fn (Evidence $e): string => $e->key, $evidence)));
        $this->columns = new ColumnsAt($this->keys, $this->wanted);
    }

    public function extended(Model $model): Model
    {
        return $model;
    }

    public function columns(): array
    {
        return $this->columns->columns();
    }

    public function saving(TimeSettings $time): TimeSettings
    {
        return $this->columns->saving($time);
    }

    public function names(): array
    {
        $names = [];
        foreach ($this->measured as $s => $points) {
            foreach (array_keys($points) as $i) {
                $names[] = "$s/$i";
            }
        }

        return $names;
    }

    /** @return list<float> what the run has at each point */
    public function reduce(Trajectory $run): array
    {
        $there = [];
        foreach ($this->simulated($run) as $s => $values) {
            foreach ($this->measured[$s] as $i => $measured) {
                $there[] = $values[$i] ?? NAN;
            }
        }

        return $there;
    }

    /** @return list<list<?float>> of each series, what the run has at its times */
    private function simulated(Trajectory $run): array
    {
        $columns = array_combine($this->keys, array_chunk($this->columns->reduce($run), max(1, count($this->wanted))));
        $isHeld = $this->time->method === Method::Euler;

        return array_map(fn (Evidence $e): array => $e->simulated($this->wanted, $columns[$e->key] ?? [], $isHeld), $this->evidence);
    }

    /** @return array<int, float> */
    private function within(Evidence $e, Misses $misses): array
    {
        $end = $this->time->timeAt($this->time->steps());

        return array_filter(
            $e->values,
            fn (float $v, int $i): bool => is_finite($v) &&
                $misses->takes($v) &&
                $e->times[$i] >= $this->time->start &&
                ($e->ends[$i] ?? $e->times[$i]) <= $end,
            ARRAY_FILTER_USE_BOTH,
        );
    }

    /** @return list<int> of each number that reduce() gives, which series it is of */
    public function series(): array
    {
        $series = [];
        foreach ($this->measured as $s => $points) {
            array_push($series, ...array_fill(0, count($points), $s));
        }

        return $series;
    }

    /** @return list<float> what was measured at each point */
    public function measured(): array
    {
        return array_merge(...array_map(array_values(...), $this->measured));
    }

    /**
     * @param  list<float>  $there  what reduce() gave
     * @param  list<float>  $scales  of each series, by how much its errors are larger than taken to begin with; none: as they are
     * @return ?list<float> how much each point counts as missed; null where a run cannot have that
     */
    public function of(array $there, array $scales = []): ?array
    {
        $gaps = [];
        $at = 0;
        foreach ($this->measured as $s => $points) {
            $misses = $this->misses[$s];
            [$root, $scale] = [sqrt($misses->weight), $scales[$s] ?? 1.0];
            foreach ($points as $i => $measured) {
                $gap = $root * $misses->gap($there[$at++], $measured, $i, $scale);
                if (! is_finite($gap)) {
                    return null;
                }
                $gaps[] = $gap;
            }
        }

        return $gaps;
    }

    /**
     * How large the errors of each series are against what was taken to begin with: 1 where that is known.
     *
     * @param  list<float>  $there
     * @return list<float>
     */
    public function scales(array $there): array
    {
        $scales = [];
        $at = 0;
        foreach ($this->measured as $s => $points) {
            $plain = [];
            foreach ($points as $i => $measured) {
                $plain[] = $this->misses[$s]->plain($there[$at++], $measured, $i);
            }
            $scales[] = $this->misses[$s]->isEstimated ? $this->misses[$s]->scale($plain) : 1.0;
        }

        return $scales;
    }

    /**
     * How far off a run is: twice the negative logarithm of its likelihood with errors of these sizes, but for a constant, and as a sum of
     * squares: of one series of an estimated size it is the sum of squares as such.
     *
     * @param  list<float>  $there
     * @param  list<float>  $scales
     * @param  float  $besides  squares that count besides, as those of what was held to be likely before
     */
    public function distance(array $there, array $scales, float $besides = 0.0): float
    {
        $gaps = $this->of($there, $scales);
        $sum = Found::distance($gaps) + $besides;
        $points = 0.0;
        foreach ($this->measured as $s => $own) {
            if ($this->misses[$s]->isEstimated) {
                $weight = $this->misses[$s]->weight * count($own);
                $sum += $weight * (2.0 * log($scales[$s]) - 1.0);
            }
            $points += $this->misses[$s]->weight * count($own);
        }

        return $this->isKnown() || ! is_finite($sum) ? $sum : $points * exp(min(700.0, $sum / $points));
    }

    /** Whether the sizes of all errors are known. */
    public function isKnown(): bool
    {
        return array_filter($this->misses, static fn (Misses $m): bool => $m->isEstimated) === [];
    }
}
