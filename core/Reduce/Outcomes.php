<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Reduce;

use MerryOrbit\Core\Experiment\Alignment;
use MerryOrbit\Core\Model\Model;
use MerryOrbit\Core\Model\TimeSettings;
use MerryOrbit\Core\Plan\Key;
use MerryOrbit\Core\Simulate\Totals;
use MerryOrbit\Core\Simulate\Trajectory;

/** Outcomes of a run. Integrals are totals that the run itself keeps, by its own method; least, greatest and peak look at every step. */
final class Outcomes implements Reducer
{
    private ?Totals $totals = null;

    /** @param  non-empty-list<Outcome>  $outcomes */
    public function __construct(private readonly array $outcomes)
    {
    }

    public function extended(Model $model): Model
    {
        $integrals = array_filter($this->outcomes, static fn (Outcome $o): bool => $o->isIntegral());
        $this->totals = Totals::of(
            $model,
            array_values(array_unique(array_map(static fn (Outcome $o): string => Key::ownerOf($o->id), $integrals))),
        );

        return $this->totals->model;
    }

    public function columns(): array
    {
        $others = array_filter(
            array_map(static fn (Outcome $o): string => $o->from, $this->outcomes),
            static fn (string $k): bool => $k !== '',
        );

        return array_values(array_unique([...array_map($this->column(...), $this->outcomes), ...$others]));
    }

    private function column(Outcome $outcome): string
    {
        if (! $outcome->isIntegral()) {
            return $outcome->id;
        }
        $owner = Key::ownerOf($outcome->id);

        // The total of a thing has the elements that it has.
        return ($this->totals->ids[$owner] ?? $owner).substr($outcome->id, strlen($owner));
    }

    public function saving(TimeSettings $time): TimeSettings
    {
        $steps = array_filter($this->outcomes, static fn (Outcome $o): bool => $o->needsSteps());

        return $time->with(['saveEvery' => $steps === [] ? $time->end - $time->start : null]);
    }

    public function names(): array
    {
        return array_map(static fn (Outcome $o): string => $o->written, $this->outcomes);
    }

    public function reduce(Trajectory $run): array
    {
        return array_map(fn (Outcome $o): float => $this->one($run, $o), $this->outcomes);
    }

    private function one(Trajectory $run, Outcome $outcome): float
    {
        $id = $this->column($outcome);
        if (! $run->has($id) || $run->length() === 0) {
            return NAN;
        }
        /** @var non-empty-list<float> $values */
        $values = $run->column($id);
        $times = $run->times();
        $last = $values[count($values) - 1];

        return match ($outcome->kind) {
            'last', 'total' => $last,
            'mean' => ($duration = $times[count($times) - 1] - $times[0]) > 0.0 ? $last / $duration : NAN,
            'min' => min($values),
            'max' => max($values),
            'peak' => $times[(int) array_search(max($values), $values, true)],
            'at' => Alignment::at($times, $values, [$outcome->time])[0],
            'apart' => self::apart($run, $outcome, $times, $values),
        };
    }

    /**
     * The root of the mean square of how far one course is from the other, where both are known.
     *
     * @param  list<float>  $times
     * @param  list<float>  $values
     */
    private static function apart(Trajectory $run, Outcome $outcome, array $times, array $values): float
    {
        if ($outcome->from !== '' && ! $run->has($outcome->from)) {
            return NAN;
        }
        $wanted =
            $outcome->from !== ''
                ? $run->column($outcome->from)
                : Alignment::at(array_column($outcome->course, 0), array_column($outcome->course, 1), $times);
        $sum = 0.0;
        $n = 0;
        foreach ($values as $i => $value) {
            if (! is_nan($wanted[$i])) {
                $sum += ($value - $wanted[$i]) ** 2;
                $n++;
            }
        }

        return $n === 0 ? NAN : sqrt($sum / $n);
    }
}
