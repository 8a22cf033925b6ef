<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Formula;

/** What every formula can mention without defining it. */
enum Quantity: string
{
    case Time = 'time';
    case TimeStep = 'time step';
    case StartTime = 'start time';
    case EndTime = 'end time';
    case Pi = 'pi';

    /** Whether it stays the same during a run. */
    public function isConstant(): bool
    {
        return $this !== self::Time;
    }

    public function sentence(): string
    {
        return match ($this) {
            self::Time => 'The present time of the run, in the study’s time unit.',
            self::TimeStep => 'The time from one step to the next.',
            self::StartTime => 'The time at which the run starts.',
            self::EndTime => 'The time at which the run ends.',
            self::Pi => 'The ratio of a circle’s circumference to its diameter, 3.14159…',
        };
    }
}
