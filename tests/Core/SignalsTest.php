<?php

declare(strict_types=1);

namespace Tests\Core;

use MerryOrbit\Core\Library\Signals;
use PHPUnit\Framework\TestCase;

final class SignalsTest extends TestCase
{
    /** Each pulse of a random train, counted one by one, lands in the first step at or after its time, and in no other. */
    public function test_a_train_of_pulses_agrees_with_counting_them(): void
    {
        mt_srand(9);
        for ($round = 0; $round < 300; $round++) {
            $step = [0.1, 0.25, 0.5, 1.0, 1 / 3][mt_rand(0, 4)];
            $start = (float) mt_rand(-5, 5);
            $steps = mt_rand(5, 60);
            $at = $start + mt_rand(-40, 40) / 8;
            $every = mt_rand(1, 24) / 8;
            $until = $start + mt_rand(0, 20);
            $wanted = array_fill(0, $steps, 0);
            for ($m = 0; ($when = $at + $m * $every) < $until - 1e-9 * $step; $m++) {
                $index = (int) ceil(($when - $start) / $step - 1e-9);
                if ($when >= $start - 1e-9 * $step && $index < $steps) {
                    $wanted[$index]++;
                }
            }
            foreach ($wanted as $i => $count) {
                $value = Signals::pulse(6.0, $at, $every, $until, $start, ($i + 1e-9) * $step, $step);
                self::assertEqualsWithDelta(
                    ($count * 6.0) / $step,
                    $value,
                    1e-9,
                    "at $at every $every until $until, start $start, step $step, index $i",
                );
            }
        }
    }

    public function test_a_ramp_rises_between_its_times_and_stays(): void
    {
        self::assertSame(
            [0.0, 0.0, 3.0, 6.0, 6.0],
            array_map(static fn (float $t): float => Signals::ramp(2.0, 1.0, 4.0, $t), [0.0, 1.0, 2.5, 4.0, 9.0]),
        );
        self::assertSame(0.0, Signals::ramp(2.0, 5.0, 4.0, 9.0), 'an end before the beginning is no ramp');
        self::assertSame(-3.0, Signals::ramp(-2.0, 1.0, 4.0, 2.5));
    }

    public function test_rounding_is_away_from_zero_and_takes_any_digits(): void
    {
        self::assertSame(
            [3.0, -3.0, 2.6, 1200.0],
            [Signals::round(2.5, 0.0), Signals::round(-2.5, 0.0), Signals::round(2.567, 1.0), Signals::round(1234.0, -2.0)],
        );
        self::assertSame(1.5, Signals::round(1.5, 1e300));
    }
}
