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
 * What a run has where something was measured, minus what was measured, in standard deviations of its error: a number for each point of
 * each series, those outside of the run left out.
 */
final class Gaps implements Reducer
{
    private readonly ColumnsAt $columns;

    /** @var list<float> when the run is looked at */
    private readonly array $wanted;

    /** @var list<string> */
    private readonly array $keys;

    /**
     * @param  non-empty-list<Evidence>  $evidence
     * @param  list<float>  $sds  of each series, above 0
     */
    public function __construct(private readonly array $evidence, private readonly array $sds, private readonly TimeSettings $time)
    {
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
        foreach ($this->evidence as $s => $e) {
            foreach (array_keys($this->within($e)) as $i) {
                $names[] = "$s/$i";
            }
        }

        return $names;
    }

    public function reduce(Trajectory $run): array
    {
        $gaps = [];
        foreach ($this->simulated($run) as $s => $values) {
            foreach ($this->within($this->evidence[$s]) as $i => $measured) {
                $gaps[] = (($values[$i] ?? NAN) - $measured) / $this->sds[$s];
            }
        }

        return $gaps;
    }

    /** @return list<list<?float>> of each series, what the run has at its times */
    private function simulated(Trajectory $run): array
    {
        $columns = array_combine($this->keys, array_chunk($this->columns->reduce($run), max(1, count($this->wanted))));
        $isHeld = $this->time->method === Method::Euler;

        return array_map(fn (Evidence $e): array => $e->simulated($this->wanted, $columns[$e->key] ?? [], $isHeld), $this->evidence);
    }

    /** @return array<int, float> the points that lie within the run, by their place */
    private function within(Evidence $e): array
    {
        $end = $this->time->timeAt($this->time->steps());

        return array_filter(
            $e->values,
            fn (float $v, int $i): bool => is_finite($v) && $e->times[$i] >= $this->time->start && ($e->ends[$i] ?? $e->times[$i]) <= $end,
            ARRAY_FILTER_USE_BOTH,
        );
    }

    /** @return list<int> of each number that reduce() gives, which series it is of */
    public function series(): array
    {
        return array_map(static fn (string $name): int => (int) $name, $this->names());
    }
}
