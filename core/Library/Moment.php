<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Library;

use MerryOrbit\Core\Model\TimeSettings;

/** An instant of a run: which step it belongs to, and how far into the step a stage looks. */
final readonly class Moment
{
    /** Events closer than this to the start of a step, in steps, belong to it. */
    public const TOLERANCE = 1e-9;

    public float $time;

    /** Time from the run's start to the step's start, with the tolerance of events. */
    public float $begun;

    /** @param  float  $within how far into the step, in steps: 0, 0.5 or 1 */
    public function __construct(public TimeSettings $settings, public int $step = 0, float $within = 0.0)
    {
        $this->time = $settings->timeAt($step) + $within * $settings->step;
        $this->begun = ($step + self::TOLERANCE) * $settings->step;
    }
}
