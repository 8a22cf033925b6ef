<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Data;

use MerryOrbit\Core\Experiment\Alignment;

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
     * A course at the times of what was measured, on straight lines between its own; null beyond its ends.
     *
     * @param  list<float>  $times  increasing
     * @param  list<float>  $course  as many
     * @return list<float|null>
     */
    public function simulated(array $times, array $course): array
    {
        return array_map(static fn (float $v): ?float => is_nan($v) ? null : $v, Alignment::at($times, $course, $this->times));
    }
}
