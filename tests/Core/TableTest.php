<?php

declare(strict_types=1);

namespace Tests\Core;

use MerryOrbit\Core\Experiment\Table;
use MerryOrbit\Core\Model\Method;
use MerryOrbit\Core\Model\TimeSettings;
use MerryOrbit\Core\Simulate\Trajectory;
use PHPUnit\Framework\TestCase;

final class TableTest extends TestCase
{
    /** A decay of 8 with a rate of a half: 8 e^(−t/2). */
    private static function decay(float $from = 8.0, float $end = 20.0): Trajectory
    {
        return Build::run(
            Build::model(
                ['rate' => '0.5'],
                ['a' => (string) $from],
                ['out' => ['a * rate', 'from' => 'a']],
                [],
                new TimeSettings(0, $end, 0.125, 'year', Method::RungeKutta4),
            ),
        );
    }

    /**
     * @param  non-empty-list<Trajectory>  $runs
     * @return list<array{value: ?float, difference: ?float, percent: ?float}>
     */
    private static function against(array $runs, ?float $time = null): array
    {
        return Table::against(array_map(static fn (Trajectory $run): ?float => Table::valueAt($run, 'a', $time), $runs));
    }

    public function test_values_stand_at_the_times_that_are_asked_for(): void
    {
        $values = Table::values(self::decay(), 'a', [0.0, 1.0, 1.05, 21.0]);
        // Between saved moments by h²/8 · max|a''| at most, with a'' = a/4.
        self::assertEqualsWithDelta([8.0, 8 * exp(-0.5), 8 * exp(-0.525), null], $values, (0.125 ** 2 / 8) * 2 * exp(-0.5));
        self::assertSame([0.5, 0.5], Table::values(self::decay(), 'rate', [0.0, 3.0]), 'what stays the same has a value at every time');
        self::assertSame([null], Table::values(self::decay(), 'nothing', [0.0]));
    }

    public function test_ends_are_told_against_the_first_run_though_they_end_at_other_times(): void
    {
        [$base, $other, $short] = self::against([self::decay(), self::decay(16.0), self::decay(8.0, 10.0)]);
        self::assertSame([0.0, 0.0], [$base['difference'], $base['percent']]);
        self::assertEqualsWithDelta(100.0, (float) $other['percent'], 1e-9, 'twice as much at the start is twice as much ever after');
        self::assertEqualsWithDelta(8 * exp(-5.0) - 8 * exp(-10.0), (float) $short['difference'], 1e-5);
        self::assertEqualsWithDelta(8 * exp(-1.0), (float) Table::valueAt(self::decay(), 'a', 2.0), 1e-5);
        self::assertSame(
            ['value' => null, 'difference' => null, 'percent' => null],
            self::against([self::decay(), self::decay(8.0, 10.0)], 15.0)[1],
            'a run has no value after its end',
        );
    }

    public function test_against_nothing_there_is_no_per_cent(): void
    {
        $zero = self::against([self::decay(0.0), self::decay(8.0)]);
        self::assertNull($zero[1]['percent']);
        self::assertGreaterThan(0.0, $zero[1]['difference']);
    }

    public function test_a_summary_tells_extremes_mean_total_and_rest(): void
    {
        $summary = Table::summary(self::decay(), 'a');
        self::assertNotNull($summary);
        self::assertSame([8.0, 0.0, 8.0, 20.0], [$summary['most'], $summary['mostAt'], $summary['first'], $summary['leastAt']]);
        self::assertSame($summary['least'], $summary['last']);
        // ∫ 8 e^(−t/2) = 16 (1 − e^(−10)), by trapezia of an eighth.
        self::assertEqualsWithDelta(16 * (1 - exp(-10.0)), $summary['total'], (16 * 0.125 ** 2) / 48 + 1e-4);
        self::assertEqualsWithDelta($summary['total'] / 20, $summary['mean'], 1e-12);
        // Within a thousandth of its range of the last value from about 2 ln(1000) on.
        self::assertEqualsWithDelta(2 * log(1 / (1e-3 + exp(-10.0))), (float) $summary['settled'], 0.2);
        self::assertNull(Table::summary(self::decay(8.0, 2.0), 'a')['settled'] ?? null, 'it still falls');
        self::assertNull(Table::summary(self::decay(), 'nothing'));
        $steady = Table::summary(self::decay(), 'rate');
        self::assertSame(
            [0.5, 0.5, 0.5, 0.0],
            [$steady['least'] ?? null, $steady['most'] ?? null, $steady['mean'] ?? null, $steady['settled'] ?? null],
        );
    }

    public function test_times_between_saved_moments_are_known(): void
    {
        $run = Build::run(Build::model([], ['s' => '1'], [], ['t' => 'time']), [], new \MerryOrbit\Core\Model\TimeSettings(0, 5, 0.5));
        self::assertSame([1, 4], \MerryOrbit\Core\Experiment\Table::between($run, [0.0, 0.2, 0.5, 2.0, 4.999, 5.0, 9.0]));
    }
}
