<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Library;

/**
 * The functions of time that are too long to be written out in compiled source. Times are in the study's unit;
 * `begun` is the time from the run's start to the step's start, with the tolerance of events (see Moment).
 */
final class Signals
{
    public static function ramp(float $slope, float $from, float $until, float $time): float
    {
        $reached = $time < $until ? $time : $until;

        return $reached > $from ? $slope * ($reached - $from) : 0.0;
    }

    /**
     * Each pulse acts in the first step at or after its time; those before the run's start are past.
     *
     * @param  float  $every  0 for a single pulse, else larger than 0
     */
    public static function pulse(float $amount, float $at, float $every, float $until, float $start, float $begun, float $step): float
    {
        if (is_nan($every)) {
            return NAN;
        }
        $tolerance = Moment::TOLERANCE * $step;
        $first = $at - $start;
        // This step takes what lies after the last one's start; the very first takes nothing from before the run.
        $after = $begun < 0.5 * $step ? -2 * $tolerance : $begun - $step;
        if ($every === 0.0) {
            return $first <= $begun && $first > $after ? $amount / $step : 0.0;
        }
        $most = ceil(($until - $at - $tolerance) / $every);
        $arrived = static fn (float $when): float => $when < $first ? 0.0 : min($most, floor(($when - $first) / $every) + 1.0);
        $count = $arrived($begun) - $arrived($after);

        return $count > 0.0 ? ($count * $amount) / $step : 0.0;
    }

    /** The time between pulses; NAN if there is none. */
    public static function every(float $every): float
    {
        return $every > 0.0 ? $every : NAN;
    }

    /** 1 within the window and its repetitions, else 0; NAN if there is no time between them. */
    public static function repeats(float $from, float $until, float $every, float $start, float $begun): float
    {
        if (! ($every > 0.0)) {
            return NAN;
        }
        $since = $begun - ($from - $start);

        return $since >= 0.0 && $since - $every * floor($since / $every) < $until - $from ? 1.0 : 0.0;
    }

    /** Halves away from zero. */
    public static function round(float $x, float $digits): float
    {
        return round($x, (int) max(-300.0, min(300.0, $digits)));
    }

    /** The held value: a new one in the first step at or after each look; NAN if there is no time between looks. */
    public static function hold(float $now, float $every, float $held, float $begun, float $step, int $index): float
    {
        if (! ($every > 0.0)) {
            return NAN;
        }

        return $index === 0 || floor($begun / $every) > floor(($begun - $step) / $every) ? $now : $held;
    }
}
