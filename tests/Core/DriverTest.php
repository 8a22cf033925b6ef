<?php

declare(strict_types=1);

namespace Tests\Core;

use MerryOrbit\Core\Analysis\Analyser;
use MerryOrbit\Core\Edit\AddElement;
use MerryOrbit\Core\Edit\SetCurve;
use MerryOrbit\Core\Model\Between;
use MerryOrbit\Core\Model\Beyond;
use MerryOrbit\Core\Model\Grip;
use MerryOrbit\Core\Model\Kind;
use MerryOrbit\Core\Model\Method;
use MerryOrbit\Core\Model\TimeSettings;
use MerryOrbit\Core\Simulate\RunOptions;
use MerryOrbit\Core\Simulate\Trajectory;
use PHPUnit\Framework\Attributes\DataProvider;
use PHPUnit\Framework\TestCase;

/** A series in the place of a parameter: under every method it acts at the times at which it should, against closed forms. */
final class DriverTest extends TestCase
{
    /** What was measured: 2 from time 3 on, 6 from 5, 1 from 8 to the end. */
    private const POINTS = [[3.0, 2.0], [5.0, 6.0], [8.0, 1.0]];

    /** @return iterable<string, array{Method}> */
    public static function methods(): iterable
    {
        foreach (Method::cases() as $method) {
            yield $method->title() => [$method];
        }
    }

    /** A tank filled at a rate, which is 3 by itself and follows the series. */
    private static function driven(Method $method, Between $between, ?float $from = null, ?float $until = null): Trajectory
    {
        $model = Build::model(
            ['rate' => '3'],
            ['tank' => '10'],
            ['filling' => ['rate', 'to' => 'tank']],
            [],
            new TimeSettings(0, 12, 0.25, 'week', $method),
        );
        $model = (new AddElement('data', Kind::Series, 'measured'))->apply($model);
        $model = (new SetCurve('data', self::POINTS, $between, Beyond::Held, ''))->apply($model);
        $grip = Grip::read('rate', [
            'signal' => 'series',
            'series' => 'data',
            ...$from === null ? [] : ['from' => $from, 'until' => $until],
        ]);

        return Build::simulator()->run(Analyser::analyse($model, ['rate' => $grip]), new RunOptions());
    }

    /** @return float how near a method must come: all know where the corners are */
    private static function near(Method $method): float
    {
        return $method->isAdaptive() ? 1e-6 : 1e-9;
    }

    #[DataProvider('methods')]
    public function test_steps_act_from_their_time_on(Method $method): void
    {
        $run = self::driven($method, Between::Stepped);
        // 2 until 5 (held before its first point), 6 until 8, 1 after.
        $exact = static fn (float $t): float => 10.0 + 2.0 * min($t, 5.0) + 6.0 * max(0.0, min($t, 8.0) - 5.0) + max(0.0, $t - 8.0);
        foreach ($run->times() as $i => $t) {
            self::assertEqualsWithDelta($exact($t), $run->column('tank')[$i], self::near($method), "at $t");
        }
    }

    #[DataProvider('methods')]
    public function test_ramps_rise_between_their_points(Method $method): void
    {
        $run = self::driven($method, Between::Straight);
        $exact = static function (float $t): float {
            $up = max(0.0, min($t, 5.0) - 3.0);
            $down = max(0.0, min($t, 8.0) - 5.0);

            return 10.0 + 2.0 * min($t, 3.0) + 2.0 * $up + $up ** 2 + 6.0 * $down - (5.0 / 6.0) * $down ** 2 + max(0.0, $t - 8.0);
        };
        foreach ($run->times() as $i => $t) {
            // By Euler each step has the rate of its beginning: for a rise of s per week it lags by s · step ÷ 2 for each week.
            $lag = $method === Method::Euler ? (0.25 / 2.0) * 9.0 : self::near($method);
            self::assertEqualsWithDelta($exact($t), $run->column('tank')[$i], $lag, "at $t");
        }
    }

    #[DataProvider('methods')]
    public function test_outside_of_its_span_the_formula_has_its_own_value(Method $method): void
    {
        $run = self::driven($method, Between::Stepped, 3.0, 8.0);
        $exact = static fn (float $t): float => 10.0 +
            3.0 * min($t, 3.0) +
            2.0 * max(0.0, min($t, 5.0) - 3.0) +
            6.0 * max(0.0, min($t, 8.0) - 5.0) +
            3.0 * max(0.0, $t - 8.0);
        foreach ($run->times() as $i => $t) {
            self::assertEqualsWithDelta($exact($t), $run->column('tank')[$i], self::near($method), "at $t");
        }
    }
}
