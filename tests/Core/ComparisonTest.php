<?php

declare(strict_types=1);

namespace Tests\Core;

use MerryOrbit\Core\Data\Comparison;
use MerryOrbit\Core\Data\Evidence;
use PHPUnit\Framework\TestCase;

final class ComparisonTest extends TestCase
{
    public function test_all_statistics_by_hand(): void
    {
        $c = Comparison::of([1.0, 2.0, 3.0, 4.0], [2.0, 2.0, 4.0, 4.0]);
        self::assertSame(4, $c->n);
        self::assertEqualsWithDelta(sqrt(0.5), $c->rmse, 1e-15);
        self::assertSame(0.5, $c->mae);
        self::assertEqualsWithDelta(100.0 / 3.0, $c->mape, 1e-13);
        self::assertSame(0.5, $c->meanError);
        self::assertEqualsWithDelta(2.0 / sqrt(5.0), $c->correlation, 1e-15);
        self::assertEqualsWithDelta(0.6, $c->r2, 1e-15);
        self::assertEqualsWithDelta(0.5, $c->bias, 1e-15);
        self::assertEqualsWithDelta((1.0 - sqrt(1.25)) ** 2 / 0.5, $c->variation, 1e-15);
        self::assertEqualsWithDelta((2.0 * (sqrt(1.25) - 1.0)) / 0.5, $c->covariation, 1e-15);
        // Errors of ½ about their mean, in turn: each is minus the one before.
        self::assertEqualsWithDelta(-0.75, $c->autocorrelation, 1e-15);
    }

    public function test_errors_of_one_kind_fall_into_one_share(): void
    {
        $measured = [1.0, 5.0, 2.0, 8.0];
        $shifted = Comparison::of($measured, array_map(static fn (float $v): float => $v + 3.0, $measured));
        self::assertEqualsWithDelta([1.0, 0.0, 0.0], [$shifted->bias, $shifted->variation, $shifted->covariation], 1e-14);
        self::assertStringContainsString('75 % too high', (string) $shifted->sentence());
        $wider = Comparison::of($measured, array_map(static fn (float $v): float => 4.0 + 2.0 * ($v - 4.0), $measured));
        self::assertEqualsWithDelta([0.0, 1.0, 0.0], [$wider->bias, $wider->variation, $wider->covariation], 1e-14);
        self::assertStringContainsString('too wide', (string) $wider->sentence());
        $wave = static fn (float $shift): array => array_map(static fn (int $i): float => sin($i / 5 + $shift), range(0, 62));
        self::assertStringContainsString('at other times', (string) Comparison::of($wave(0.0), $wave(0.5))->sentence());
        $mixed = Comparison::of([1.0, 2.0, 3.0, 4.0], [4.0, 3.0, 2.0, 1.0]);
        self::assertEqualsWithDelta([0.0, 0.0, 1.0], [$mixed->bias, $mixed->variation, $mixed->covariation], 1e-14);
    }

    public function test_shares_add_up_to_one_and_agree_with_sums_of_squares(): void
    {
        mt_srand(7);
        for ($round = 0; $round < 300; $round++) {
            $n = mt_rand(1, 40);
            $scale = 10.0 ** mt_rand(-6, 9);
            $measured = array_map(static fn (): float => $scale * (mt_rand(-1000, 1000) / 100.0 + 50.0), range(1, $n));
            $simulated = array_map(static fn (float $v): float => 1.1 * $v + ($scale * mt_rand(-500, 500)) / 100.0, $measured);
            $c = Comparison::of($measured, $simulated);
            self::assertEqualsWithDelta(1.0, $c->bias + $c->variation + $c->covariation, 1e-9);
            // A second way: the coefficient by sums of products, in another order and with no means taken off.
            if ($n > 2) {
                $r = self::correlation($measured, $simulated, $scale);
                self::assertEqualsWithDelta($r, $c->correlation, 1e-7);
            }
        }
    }

    public function test_what_would_be_nothing_by_nothing_is_null(): void
    {
        $exact = Comparison::of([0.1, 0.1, 0.1], [0.1, 0.1, 0.1]);
        self::assertSame(
            [0.0, null, null, null, null, null],
            [$exact->rmse, $exact->correlation, $exact->r2, $exact->bias, $exact->variation, $exact->covariation],
        );
        $flat = Comparison::of([1.0, 2.0], [0.3, 0.3]);
        self::assertNull($flat->correlation);
        self::assertNotNull($flat->r2);
        self::assertNull(Comparison::of([0.0, 0.0], [1.0, 2.0])->mape);
        self::assertSame(2, Comparison::of([0.0, 0.0], [1.0, 2.0])->zeros);
        $none = Comparison::of([null, 1.0], [1.0, null]);
        self::assertSame([0, null, null, null], [$none->n, $none->rmse, $none->r2, $none->sentence()]);
    }

    /**
     * @param  list<float>  $a
     * @param  list<float>  $b
     */
    private static function correlation(array $a, array $b, float $scale): float
    {
        [$n, $sa, $sb, $aa, $bb, $ab] = [count($a), 0.0, 0.0, 0.0, 0.0, 0.0];
        foreach ($a as $i => $x) {
            [$x, $y] = [$x / $scale, $b[$i] / $scale];
            [$sa, $sb, $aa, $bb, $ab] = [$sa + $x, $sb + $y, $aa + $x * $x, $bb + $y * $y, $ab + $x * $y];
        }

        return ($n * $ab - $sa * $sb) / sqrt(($n * $aa - $sa ** 2) * ($n * $bb - $sb ** 2));
    }

    public function test_what_was_measured_over_periods_is_held_against_the_mean_and_the_integral_there(): void
    {
        $times = array_map(static fn (int $i): float => $i / 100, range(0, 1000));
        $course = array_map(static fn (float $t): float => $t * $t, $times);
        $mean = new Evidence('x', 'x', [1.0, 2.005, 9.0], [0.0, 0.0, 0.0], 'mean', [2.0, 3.5, 11.0]);
        $cubes = static fn (float $a, float $b): float => ($b ** 3 - $a ** 3) / 3.0;
        $simulated = $mean->simulated($times, $course);
        // The trapezium rule on steps of 0.01 is off by h²/12 · f″ a unit of time.
        self::assertEqualsWithDelta($cubes(1.0, 2.0), $simulated[0], 2e-5);
        self::assertEqualsWithDelta($cubes(2.005, 3.5) / 1.495, $simulated[1], 2e-5);
        self::assertNull($simulated[2], 'the run ends before the period');
        $sum = new Evidence('x', 'x', [0.0, 4.0], [0.0, 0.0], 'sum', [4.0, 10.0]);
        self::assertEqualsWithDelta([$cubes(0.0, 4.0), $cubes(4.0, 10.0)], $sum->simulated($times, $course), 2e-4);
        // By the method of Euler a value holds until the next step: a stock grows by exactly this sum.
        $held = (new Evidence('x', 'x', [0.0], [0.0], 'sum', [3.0]))->simulated([0.0, 1.0, 2.0, 3.0], [5.0, 7.0, 1.0, 100.0], true);
        self::assertSame([13.0], $held);
        $within = (new Evidence('x', 'x', [0.5], [0.0], 'sum', [1.5]))->simulated([0.0, 1.0, 2.0], [5.0, 7.0, 1.0], true);
        self::assertEqualsWithDelta([6.0], $within, 1e-12);
    }
}
