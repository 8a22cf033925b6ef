<?php

declare(strict_types=1);

namespace Tests\Core;

use MerryOrbit\Core\Experiment\Alignment;
use MerryOrbit\Core\Model\Method;
use MerryOrbit\Core\Model\TimeSettings;
use MerryOrbit\Core\Simulate\Thinning;
use MerryOrbit\Core\Simulate\Trajectory;
use PHPUnit\Framework\TestCase;

final class ThinningTest extends TestCase
{
    /** @param  list<float>  $values */
    private static function trajectory(array $values): Trajectory
    {
        return new Trajectory(
            \MerryOrbit\Core\Simulate\Values::byColumn([$values]),
            ['x'],
            ['c' => 7.0],
            array_map(floatval(...), array_keys($values)),
            null,
            0,
        );
    }

    public function test_extremes_of_random_runs_are_kept_at_every_resolution(): void
    {
        mt_srand(4);
        for ($round = 0; $round < 60; $round++) {
            $n = mt_rand(2, 900);
            $values = array_map(
                static fn (): float => mt_rand(0, 20) === 0 ? mt_rand(-1000, 1000) / 1.0 : mt_rand(0, 100) / 10,
                range(1, $n),
            );
            $most = mt_rand(2, 60);
            $thin = Thinning::of(self::trajectory($values), $most);
            [$lows, $highs] = $thin->extremes('x');
            $times = $thin->times();
            self::assertSame([min([INF, ...$values]), max([-INF, ...$values])], [min([INF, ...$lows]), max([-INF, ...$highs])]);
            self::assertLessThanOrEqual(max(2, $most), count($times));
            self::assertSame([0.0, (float) ($n - 1)], [$times[0], $times[count($times) - 1]], 'the ends stay');
            self::assertSame($n > max(2, $most), $thin->isCoarse());
            foreach ($times as $k => $time) {
                self::assertSame($values[(int) $time], $thin->column('x')[$k], 'what stays is exact');
                $stretch = array_slice($values, (int) $time, max(1, (int) (($times[$k + 1] ?? $time + 1) - $time)));
                self::assertSame([min([INF, ...$stretch]), max([-INF, ...$stretch])], [$lows[$k], $highs[$k]]);
            }
            self::assertSame(array_fill(0, count($times), 7.0), $thin->column('c'));
        }
    }

    public function test_a_span_of_time_is_cut_with_one_moment_beyond(): void
    {
        $values = array_map(static fn (int $i): float => sin($i / 7), range(0, 99));
        $thin = Thinning::of(self::trajectory($values), 500, 20.5, 30.5);
        self::assertSame(range(20.0, 31.0), $thin->times());
        self::assertSame(array_slice($values, 20, 12), $thin->column('x'));
        self::assertFalse($thin->isCoarse());
        self::assertSame([99.0], array_slice(Thinning::of(self::trajectory($values), 500, 200.0)->times(), -1));
        self::assertSame([], Thinning::of(self::trajectory([]), 10)->times());
    }

    public function test_differences_align_runs_of_different_steps(): void
    {
        // A straight line is met exactly wherever it is looked at.
        $coarse = [0.0, 1.0, 2.0, 3.0];
        $fine = [0.0, 0.25, 0.5, 0.75, 1.0, 1.25, 3.0, 3.5];
        /** @param  list<float>  $times */
        $line = static fn (array $times): array => array_map(
            static fn (mixed $t): float => 4 + 2 * (is_float($t) ? $t : NAN),
            array_values($times),
        );
        $there = Alignment::at($coarse, $line($coarse), $fine);
        self::assertSame($line([0.0, 0.25, 0.5, 0.75, 1.0, 1.25, 3.0]), array_slice($there, 0, 7));
        self::assertNan($there[7], 'beyond the end nothing is known');
        self::assertSame([-1.0, 1.0], Alignment::difference([1.0, 3.0], [2.0, 2.0]));
        self::assertSame([-50.0, 50.0], Alignment::percent([1.0, -1.0], [2.0, -2.0]));
        self::assertNan(Alignment::percent([1.0], [0.0])[0]);

        // Two runs of one decay with steps of 0.25 and 0.1 under a method of fourth order: apart by the error of straight lines only.
        $run = static fn (float $step): Trajectory => Build::run(
            Build::model(
                [],
                ['a' => '8'],
                ['out' => ['a / 2', 'from' => 'a']],
                [],
                new TimeSettings(0, 5, $step, 'year', Method::RungeKutta4),
            ),
        );
        [$one, $two] = [$run(0.25), $run(0.1)];
        $difference = Alignment::difference(Alignment::at($two->times(), $two->column('a'), $one->times()), $one->column('a'));
        // h²/8 · max|a''| with a'' = a/4 ≤ 2.
        self::assertLessThan((0.1 ** 2 / 8) * 2 + 1e-5, max([0.0, ...array_map(abs(...), $difference)]));
        self::assertGreaterThan(0.0, max([0.0, ...$difference]));
    }
}
