<?php

declare(strict_types=1);

namespace Tests\Core;

use MerryOrbit\Core\Law\Distribution;
use MerryOrbit\Core\Model\TimeSettings;
use MerryOrbit\Core\Reduce\ColumnsAt;
use MerryOrbit\Core\Uncertain\Beyond;
use MerryOrbit\Core\Uncertain\Density;
use MerryOrbit\Core\Uncertain\Histogram;
use MerryOrbit\Core\Uncertain\PackedRuns;
use PHPUnit\Framework\TestCase;

/** How many values of one kind are told: smoothed, counted, kept. */
final class ManyValuesTest extends TestCase
{
    /** @return list<float> quantiles of a normal distribution at even shares */
    private static function normal(int $n): array
    {
        $law = Distribution::read('normal(100, 15)');

        return array_map(static fn (int $i): float => $law->quantile(($i + 0.5) / $n), range(0, $n - 1));
    }

    public function test_a_smoothed_density_is_that_of_the_law_and_a_little_wider(): void
    {
        $values = self::normal(4_000);
        $density = Density::of($values);
        // Silverman's: 0.9 · 15 · 4000^(−1/5), where quartiles and sd agree.
        self::assertEqualsWithDelta(0.9 * 15 * 4_000 ** -0.2, $density->width, 0.02);
        $wider = Distribution::read('normal(100, '.sqrt(15 ** 2 + $density->width ** 2).')');
        foreach ($density->at as $i => $x) {
            self::assertEqualsWithDelta($wider->density($x), $density->density[$i], 2e-5, "at $x");
        }
        self::assertSame([], Density::of([3.0, 3.0])->at);
        self::assertSame([], Density::of([])->at);
    }

    public function test_bars_are_round_and_hold_every_value_once(): void
    {
        $bars = Histogram::of(self::normal(1_000));
        self::assertSame(1_000, array_sum(array_column($bars, 2)));
        self::assertContains($bars[0][1] - $bars[0][0], [1.0, 2.0, 5.0, 10.0]);
        foreach ($bars as [$from, $to, $count]) {
            $law = Distribution::read('normal(100, 15)');
            self::assertEqualsWithDelta(1_000 * ($law->until($to) - $law->until($from)), $count, 1.6);
        }
        self::assertSame([[2.0, 2.0, 3]], Histogram::of([2.0, 2.0, 2.0]));
        self::assertSame([], Histogram::of([]));
        self::assertSame([[1.0, 0.25], [2.0, 0.5], [2.5, 0.75], [9.0, 1.0]], Histogram::cumulative([1.0, 2.0, 2.5, 9.0], 10));
        self::assertSame([[2.0, 2 / 5], [3.0, 4 / 5], [9.0, 1.0]], Histogram::cumulative([1.0, 2.0, 2.5, 3.0, 9.0], 3));
    }

    public function test_the_interval_of_a_share_is_wilsons_and_covers_as_often_as_it_says(): void
    {
        // By hand, of 7 in 10: (0.7 + z²/20 ± z √(0.021 + z²/400)) ÷ (1 + z²/10).
        $z = 1.959963984540054;
        $beyond = Beyond::of([...array_fill(0, 7, 2.0), 0.0, 0.5, 1.0], 1.0);
        self::assertNotNull($beyond);
        self::assertEqualsWithDelta(0.7, $beyond->share, 1e-15);
        self::assertEqualsWithDelta((0.7 + $z ** 2 / 20 - $z * sqrt(0.021 + $z ** 2 / 400)) / (1 + $z ** 2 / 10), $beyond->low, 1e-12);
        self::assertSame(1.0, Beyond::of([2.0, 3.0], 1.0)?->high);
        self::assertNull(Beyond::of([], 1.0));
        // Over many true shares, the interval of 60 values holds the truth in 95 of 100 cases.
        $covered = 0.0;
        $n = 60;
        foreach (range(5, 95) as $percent) {
            $true = $percent / 100;
            for ($k = 0, $ways = (1 - $true) ** $n; $k <= $n; $ways *= (($n - $k) / ++$k) * ($true / (1 - $true))) {
                $interval = Beyond::of([...array_fill(0, $k, 1.0), ...array_fill(0, $n - $k, 0.0)], 0.5);
                $covered += $interval !== null && $interval->low <= $true && $interval->high >= $true ? $ways / 91 : 0.0;
            }
        }
        self::assertEqualsWithDelta(0.95, $covered, 0.01);
    }

    public function test_packed_runs_come_back_numbers_to_the_bit_and_columns_to_seven_digits(): void
    {
        $rows = [[1 / 3, M_PI, 1 / 7, 2e5 / 3, 5.0, 6.0], [NAN, 2.0, NAN, NAN, 0.5, 0.25]];
        $bytes = PackedRuns::pack($rows, 2, 2, 2);
        $head = PackedRuns::head($bytes);
        self::assertSame([2, 2, 2, 2], [$head->runs, $head->numbers, $head->columns, $head->moments]);
        $numbers = $head->numbers(substr($bytes, ...$head->atNumbers()));
        self::assertSame([1 / 3, M_PI, 2.0], [...$numbers[0], $numbers[1][1]]);
        self::assertNan($numbers[1][0]);
        $column = $head->column(substr($bytes, ...$head->atColumn(0)));
        self::assertEqualsWithDelta(2e5 / 3, $column[0][1], 0.01);
        self::assertNan($column[1][0]);
        self::assertSame([[5.0, 6.0], [0.5, 0.25]], $head->column(substr($bytes, ...$head->atColumn(1))));
        self::assertSame(strlen($bytes), array_sum($head->atColumn(1)));
    }

    public function test_moments_are_saved_ones_evenly_thinned_and_runs_save_no_more_often_than_they_need(): void
    {
        $time = new TimeSettings(0, 10, 0.01, 'year', saveEvery: 0.05);
        $moments = ColumnsAt::moments($time, 101);
        self::assertSame([101, 0.0, 10.0], [count($moments), $moments[0], $moments[100]]);
        self::assertEqualsWithDelta(0.1, $moments[1], 1e-12);
        self::assertEqualsWithDelta(0.1, (new ColumnsAt(['x'], $moments))->saving($time)->saveEvery, 1e-12);
        self::assertNull((new ColumnsAt(['x'], [0.0, 0.015, 10.0]))->saving($time)->saveEvery, 'between steps');
        self::assertEqualsWithDelta(0.03, (new ColumnsAt(['x'], [0.06, 0.09, 10.0]))->saving($time)->saveEvery, 1e-12);
        self::assertEqualsWithDelta(10.0, (new ColumnsAt(['x'], [10.0]))->saving($time)->saveEvery, 1e-12);
        self::assertCount(51, ColumnsAt::moments(new TimeSettings(0, 50, 1, 'year'), 100));
    }
}
