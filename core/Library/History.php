<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Library;

/** What `shift` remembers: the values at the starts of all steps so far, on straight lines in between. */
final class History
{
    /** @var array<int, float> by step */
    private array $values = [];

    public function __construct(private readonly float $first, private readonly float $start, private readonly float $step)
    {
    }

    /** Only the first value of a step counts. */
    public function put(int $step, float $value): void
    {
        $this->values[$step] ??= $value;
    }

    /** The value so long before a time; a lag shorter than a step counts as one. */
    public function at(float $time, float $lag): float
    {
        if (! ($lag >= 0.0)) {
            return NAN;
        }
        $position = ($time - $this->start - max($lag, $this->step)) / $this->step;
        if ($position < -Moment::TOLERANCE) {
            return $this->first;
        }
        $before = (int) floor($position + Moment::TOLERANCE);
        $share = $position - $before;
        $value = $this->values[$before] ?? $this->first;

        return $share > Moment::TOLERANCE && isset($this->values[$before + 1])
            ? $value + $share * ($this->values[$before + 1] - $value)
            : $value;
    }
}
