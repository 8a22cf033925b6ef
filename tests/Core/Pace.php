<?php

declare(strict_types=1);

namespace Tests\Core;

/**
 * How long a work takes on a machine at the pace of the one that its limit was set on.
 *
 * A wall clock also counts what else the machine does, and a shared core is slower for minutes at a time: what counts
 * here is what this process itself (and what it started) has worked, against a fixed work done just before and just after.
 */
final class Pace
{
    /** What the fixed work took on the machine that the limits were set on, in seconds. */
    private const USUAL = 0.05;

    /** @param  \Closure(): mixed  $work */
    public static function seconds(\Closure $work): float
    {
        $before = self::fixed();
        $took = self::worked($work);

        return ($took * self::USUAL) / max($before, self::fixed());
    }

    /** Arrays, texts and numbers, as the works have them that are timed. */
    private static function fixed(): float
    {
        return self::worked(static function (): void {
            $all = [];
            for ($i = 0; $i < 40_000; $i++) {
                $all["k$i"] = [$i, $i * 0.5, substr("name of $i", 5)];
            }
            ksort($all);
        });
    }

    /** @param  \Closure(): mixed  $work */
    private static function worked(\Closure $work): float
    {
        $begun = self::processor();
        $work();

        return self::processor() - $begun;
    }

    private static function processor(): float
    {
        $seconds = 0.0;
        // This process, and those that it has started and that have ended.
        foreach ([0, 1] as $whose) {
            $usage = (array) getrusage($whose);
            foreach (['ru_utime', 'ru_stime'] as $kind) {
                foreach (['tv_sec' => 1.0, 'tv_usec' => 1e-6] as $unit => $long) {
                    $seconds += is_numeric($usage["$kind.$unit"] ?? null) ? $usage["$kind.$unit"] * $long : 0.0;
                }
            }
        }

        return $seconds;
    }
}
