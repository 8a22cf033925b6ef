<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Data;

use MerryOrbit\Core\Experiment\Alignment;
use MerryOrbit\Core\Simulate\Trajectory;

/** A series tied to a variable: measured values at times of the study, in the variable's own unit, each time once or more. */
final readonly class Evidence
{
    /**
     * @param  string  $label  what the column is called
     * @param  string  $key  of the variable, or of one element of it
     * @param  list<float>  $times  increasing
     * @param  list<float>  $values  as many
     */
    public function __construct(public string $label, public string $key, public array $times, public array $values)
    {
    }

    /**
     * @param  list<float>  $times  of the study, one for each value of the series
     * @param  float  $factor  from the unit of the series to that of the variable
     */
    public static function of(DataSeries $series, string $key, array $times, float $factor): self
    {
        $kept = $values = [];
        foreach ($series->values as $i => $value) {
            if ($value !== null) {
                $kept[] = $times[$i];
                $values[] = $value * $factor;
            }
        }

        return new self($series->label(), $key, $kept, $values);
    }

    /**
     * What the run has at these times, on straight lines between its saved moments; null outside of it.
     *
     * @return list<float|null>
     */
    public function simulated(Trajectory $run): array
    {
        $column = $run->has($this->key) ? $run->column($this->key) : [];
        if ($column === []) {
            return array_fill(0, count($this->times), null);
        }

        return array_map(static fn (float $v): ?float => is_nan($v) ? null : $v, Alignment::at($run->times(), $column, $this->times));
    }

    public function compared(Trajectory $run): Comparison
    {
        return Comparison::of($this->values, $this->simulated($run));
    }
}
