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
     * @param  ''|'mean'|'sum'  $over  of moments, or of periods that begin at the times
     * @param  list<float>  $ends  of the periods
     */
    public function __construct(
        public string $label,
        public string $key,
        public array $times,
        public array $values,
        public string $over = '',
        public array $ends = [],
    ) {
    }

    /** Where a point is shown: of a period, in its middle. */
    public function middle(int $point): float
    {
        return ($this->times[$point] + ($this->ends[$point] ?? $this->times[$point])) / 2.0;
    }

    /**
     * A course at the times of what was measured, on straight lines between its own; of periods, its mean or its integral there. Null
     * beyond its ends.
     *
     * @param  list<float>  $times  increasing
     * @param  list<float>  $course  as many
     * @param  bool  $isHeld  whether values are held until the next time, as the method of Euler takes them
     * @return list<float|null>
     */
    public function simulated(array $times, array $course, bool $isHeld = false): array
    {
        if ($this->over === '') {
            return array_map(static fn (float $v): ?float => is_nan($v) ? null : $v, Alignment::at($times, $course, $this->times));
        }
        $integral = new Integral($times, $course, $isHeld);
        $means = [];
        foreach ($this->times as $i => $time) {
            $sum = $integral->between($time, $this->ends[$i]);
            $means[] = $sum === null || $this->over === 'sum' ? $sum : $sum / ($this->ends[$i] - $time);
        }

        return $means;
    }
}
