<?php

declare(strict_types=1);

namespace Tests\Core;

use MerryOrbit\Core\Analysis\Analyser;
use MerryOrbit\Core\Analysis\Holding;
use MerryOrbit\Core\Edit\AddElement;
use MerryOrbit\Core\Model\Curve;
use MerryOrbit\Core\Model\Grip;
use MerryOrbit\Core\Model\Kind;
use MerryOrbit\Core\Model\Method;
use MerryOrbit\Core\Model\Model;
use MerryOrbit\Core\Model\Series;
use MerryOrbit\Core\Model\Stock;
use MerryOrbit\Core\Model\TimeSettings;
use MerryOrbit\Core\Problem\NotUnderstood;
use MerryOrbit\Core\Simulate\RunOptions;
use MerryOrbit\Core\Simulate\Trajectory;
use MerryOrbit\Core\Simulate\Walker;
use PHPUnit\Framework\Attributes\DataProvider;
use PHPUnit\Framework\TestCase;

final class GripTest extends TestCase
{
    /** @return iterable<string, array{Method}> */
    public static function methods(): iterable
    {
        foreach (Method::cases() as $method) {
            yield $method->value => [$method];
        }
    }

    /** @param  array<string, array<string, mixed>>  $grips */
    private static function held(Model $model, array $grips, RunOptions $settings = new RunOptions()): Trajectory
    {
        $read = [];
        foreach ($grips as $id => $record) {
            $read[$id] = Grip::read($id, $record);
        }

        return Build::simulator()->run(Analyser::analyse($model, $read), $settings);
    }

    private static function tank(Method $method): Model
    {
        return Build::model(
            ['rate' => '0.2'],
            ['tank' => '50'],
            ['filling' => ['4', 'to' => 'tank'], 'leaking' => ['tank * rate', 'from' => 'tank']],
            ['half' => 'tank / 2'],
            new TimeSettings(0, 20, 0.25, 'day', $method, tolerance: 1e-9),
        );
    }

    private static function at(Trajectory $run, string $id, float $time): float
    {
        $index = array_search($time, $run->times(), true);
        self::assertIsInt($index, "no moment $time");

        return $run->column($id)[$index];
    }

    /** What is held at 30 from 5 to 10 decays to 20 from there as exponentials do: 20 + 10·e^(−0.2 (t−10)). */
    #[DataProvider('methods')]
    public function test_a_stock_takes_the_course_and_goes_on_from_it(Method $method): void
    {
        $run = self::held(self::tank($method), [
            'tank' => ['signal' => 'constant', 'values' => ['value' => 30], 'from' => 5, 'until' => 10],
        ]);
        $free = self::held(self::tank($method), []);
        self::assertEqualsWithDelta(
            self::at($free, 'tank', 4.75),
            self::at($run, 'tank', 4.75),
            1e-9,
            'before the hand takes hold nothing differs',
        );
        foreach ([5.0, 7.25, 9.75] as $time) {
            self::assertSame(30.0, self::at($run, 'tank', $time));
            self::assertEqualsWithDelta(15.0, self::at($run, 'half', $time), 1e-12);
            self::assertEqualsWithDelta(6.0, self::at($run, 'leaking', $time), 1e-12, 'the flows stay as they are computed');
        }
        $error = match ($method) {
            Method::Euler => 0.1,
            Method::Heun => 2e-3,
            default => 1e-5,
        };
        foreach ([10.0, 14.0, 20.0] as $time) {
            self::assertEqualsWithDelta(20.0 + 10.0 * exp(-0.2 * ($time - 10.0)), self::at($run, 'tank', $time), $error, "time $time");
        }
    }

    #[DataProvider('methods')]
    public function test_a_held_flow_fills_a_stock_by_what_is_under_its_course(Method $method): void
    {
        $time = new TimeSettings(0, 20, 0.25, 'day', $method, tolerance: 1e-10);
        $model = Build::model([], ['tank' => '0'], ['filling' => ['1', 'to' => 'tank']], [], $time);
        $wanted = [
            [['signal' => 'constant', 'values' => ['value' => 2]], 40.0, 0.0],
            [['signal' => 'constant', 'values' => ['value' => 2], 'from' => 5, 'until' => 10], 25.0, 0.0],
            [['signal' => 'constant', 'values' => ['value' => 2], 'until' => 10], 30.0, 0.0],
            [['signal' => 'step', 'values' => ['before' => 1, 'value' => 3, 'at' => 8]], 8.0 + 36.0, 0.0],
            [['signal' => 'window', 'values' => ['before' => 1, 'value' => 5, 'at' => 4, 'to' => 6]], 18.0 + 10.0, 0.0],
            [['signal' => 'pulses', 'values' => ['before' => 0, 'value' => 4, 'at' => 2, 'width' => 1, 'every' => 5]], 16.0, 0.0],
            // A ramp from 0 to 10 between 5 and 15: 50 under it, then 50; Euler looks at the left end of each step.
            [
                ['signal' => 'ramp', 'values' => ['before' => 0, 'value' => 10, 'at' => 5, 'to' => 15]],
                100.0,
                $method === Method::Euler ? 1.25 : 1e-4,
            ],
            [['signal' => 'wave', 'values' => ['value' => 3, 'amplitude' => 2, 'period' => 10, 'at' => 0]], 60.0, 1e-4],
            [['signal' => 'drawn', 'points' => [[0, 0], [10, 4], [20, 0]]], 40.0, 1e-4],
        ];
        foreach ($wanted as [$grip, $area, $error]) {
            $run = self::held($model, ['filling' => $grip]);
            self::assertNull($run->fault);
            self::assertEqualsWithDelta(
                $area,
                self::at($run, 'tank', 20.0),
                $error + 1e-9 * $area,
                json_encode($grip).' '.$method->value,
            );
        }
    }

    public function test_machine_code_and_the_walker_agree_on_what_is_held(): void
    {
        foreach (Build::FIXED as $method) {
            $model = Build::model(
                ['rate' => '0.2', 'far' => '3'],
                ['tank' => '50', 'pond' => '1'],
                [
                    'filling' => ['4 + wave(1, 5)', 'to' => 'tank'],
                    'leaking' => ['smooth(tank, far) * rate', 'from' => 'tank', 'to' => 'pond'],
                ],
                ['half' => 'tank / 2 + pond'],
                new TimeSettings(0, 12, 0.5, 'day', $method),
            );
            $grips = [
                'tank' => Grip::read('tank', [
                    'signal' => 'wave',
                    'values' => ['value' => 40, 'amplitude' => 5, 'period' => 7, 'at' => 1],
                    'from' => 2,
                    'until' => 8,
                ]),
                'rate' => Grip::read('rate', [
                    'signal' => 'pulses',
                    'values' => ['before' => 0.1, 'value' => 0.4, 'at' => 1, 'width' => 1, 'every' => 3],
                    'from' => 3,
                ]),
                'half' => Grip::read('half', [
                    'signal' => 'ramp',
                    'values' => ['before' => 1, 'value' => 9, 'at' => 2, 'to' => 6],
                    'until' => 9,
                ]),
            ];
            $analysis = Analyser::analyse($model, $grips);
            $run = Build::simulator()->run($analysis);
            $walker = new Walker(
                $analysis->model,
                $analysis->plan(),
                $model->time,
                array_intersect_key([...$analysis->parameters], array_flip($analysis->plan()->parameters)),
            );
            $walker->start();
            for ($i = 0; $i <= $model->time->steps(); $i++) {
                $walker->look($i);
                foreach ($run->columns() as $position => $id) {
                    self::assertEqualsWithDelta(
                        $walker->values[$id],
                        $run->row($i)[$position],
                        1e-10,
                        "$id at step $i under {$method->value}",
                    );
                }
                if ($i < $model->time->steps()) {
                    $walker->advance($i);
                }
            }
        }
    }

    /** A thousand variables take another way through the compiler. */
    public function test_large_models_hold_stocks_too(): void
    {
        foreach ([Method::Euler, Method::RungeKutta4] as $method) {
            $stocks = $flows = $auxiliaries = [];
            for ($i = 0; $i < 450; $i++) {
                $auxiliaries["a $i"] = $i === 0 ? 'tank / 10' : 'a '.($i - 1).' + 0.001';
            }
            $model = Build::model(
                [],
                ['tank' => '50', 'pond' => '0'],
                ['leaking' => ['tank * 0.2', 'from' => 'tank'], 'spilling' => ['a 449', 'to' => 'pond']],
                $auxiliaries,
                new TimeSettings(0, 10, 0.5, 'day', $method),
            );
            $run = self::held($model, ['tank' => ['signal' => 'constant', 'values' => ['value' => 30], 'from' => 2, 'until' => 6]]);
            self::assertSame(30.0, self::at($run, 'tank', 2.0));
            self::assertSame(30.0, self::at($run, 'tank', 5.5));
            self::assertEqualsWithDelta(3.0 + 0.449, self::at($run, 'a-449', 4.0), 1e-9);
            $decay = $method === Method::Euler ? 0.9 : 1 - 0.1 + 0.005 - 0.1 ** 3 / 6 + 0.1 ** 4 / 24;
            self::assertSame(30.0, self::at($run, 'tank', 6.0));
            self::assertEqualsWithDelta(30.0 * $decay, self::at($run, 'tank', 6.5), 1e-9, 'it goes on from where it was held');
        }
    }

    public function test_a_parameter_moves_while_it_is_held_and_its_dial_still_counts_beside(): void
    {
        $run = self::held(
            self::tank(Method::Euler),
            ['rate' => ['signal' => 'constant', 'values' => ['value' => 0.5], 'from' => 4, 'until' => 8]],
            new RunOptions(['rate' => 0.3]),
        );
        $rate = static fn (float $t): float => self::at($run, 'rate', $t);
        self::assertSame([0.3, 0.5, 0.5, 0.3], array_map($rate, [3.75, 4.0, 7.75, 8.0]));
        $always = self::held(self::tank(Method::Euler), ['rate' => ['signal' => 'constant', 'values' => ['value' => 0.5]]]);
        self::assertSame(0.5, $always->steady()['rate']);
        self::assertEqualsWithDelta(
            self::at(Build::run(self::tank(Method::Euler), ['rate' => 0.5]), 'tank', 20.0),
            self::at($always, 'tank', 20.0),
            1e-9,
        );
    }

    public function test_a_curve_gives_the_course_wherever_it_is_used(): void
    {
        $model = (new AddElement('crowding', Kind::Curve, 'crowding'))->apply(
            Build::model([], ['tank' => '5'], [], [], new TimeSettings(0, 4, 1, 'day', Method::Euler)),
        );
        $curve = $model->elements['crowding'];
        self::assertInstanceOf(Curve::class, $curve);
        $model = (new AddElement('use', Kind::Auxiliary, 'use', 'crowding(tank) + 1'))->apply(
            $model->withElement($curve->with(['points' => [[0.0, 0.0], [10.0, 1.0]]])),
        );
        self::assertSame([1.5, 1.5, 1.5, 1.5, 1.5], self::held($model, [])->column('use'));
        self::assertSame(
            [1.5, 1.5, 3.0, 3.0, 3.0],
            self::held($model, ['crowding' => ['signal' => 'constant', 'values' => ['value' => 2], 'from' => 2]])->column('use'),
        );
    }

    public function test_a_series_is_followed(): void
    {
        $model = self::tank(Method::Euler);
        $model = $model->withElement(new Series('data', 'data', $model->elements['rate']->formula, points: [[0.0, 1.0], [20.0, 21.0]]));
        $run = self::held($model, ['filling' => ['signal' => 'series', 'series' => 'data']]);
        self::assertEqualsWithDelta(11.0, self::at($run, 'filling', 10.0), 1e-12);
    }

    public function test_moving_a_handle_compiles_nothing(): void
    {
        $program = static fn (float $at): string => Build::simulator()->program(
            Analyser::analyse(self::tank(Method::Heun), [
                'tank' => Grip::read('tank', ['signal' => 'step', 'values' => ['before' => 1, 'value' => 2, 'at' => $at]]),
            ])->plan(),
            Method::Heun,
        )->function;
        self::assertSame($program(3.0), $program(7.5));
    }

    public function test_switched_off_it_holds_nothing(): void
    {
        $off = self::held(self::tank(Method::Euler), ['tank' => ['signal' => 'constant', 'values' => ['value' => 1], 'on' => false]]);
        self::assertSame(Build::run(self::tank(Method::Euler))->column('tank'), $off->column('tank'));
    }

    public function test_what_cannot_be_held_is_said(): void
    {
        $model = self::tank(Method::Euler);
        $constant = static fn (string $id): Grip => Grip::read($id, ['signal' => 'constant', 'values' => ['value' => 1]]);
        self::assertNull(Holding::refusal($model, $constant('tank')));
        self::assertStringContainsString('gone from the model', (string) Holding::refusal($model, $constant('nothing')));
        self::assertStringContainsString(
            'follow a series',
            (string) Holding::refusal($model, Grip::read('tank', ['signal' => 'series', 'series' => 'half'])),
        );
        $stock = $model->elements['tank'];
        self::assertInstanceOf(Stock::class, $stock);
        $transit = $model->withElement($stock->with(['travel' => $model->elements['rate']->formula]));
        self::assertStringContainsString('Take its inflow', (string) Holding::refusal($transit, $constant('tank')));
        self::assertStringContainsString('arrives out of `tank`', (string) Holding::refusal($transit, $constant('leaking')));
        // Held all the same, it is passed over.
        self::assertSame(
            Build::run($model)->column('tank'),
            self::held($model, ['nothing' => ['signal' => 'constant', 'values' => ['value' => 1]]])->column('tank'),
        );
    }

    /** @return iterable<string, array{mixed, string}> */
    public static function unclear(): iterable
    {
        yield 'no signal' => [[], 'one of constant, step'];
        yield 'unknown' => [['signal' => 'wobble'], 'one of constant, step'];
        yield 'no number' => [['signal' => 'step', 'values' => ['before' => 1, 'value' => 2]], 'needs `at` as a number'];
        yield 'a word' => [['signal' => 'constant', 'values' => ['value' => 'much']], 'needs `value` as a number'];
        yield 'backward' => [['signal' => 'constant', 'values' => ['value' => 1], 'from' => 5, 'until' => 5], 'after it takes hold'];
        yield 'ramp backward' => [
            ['signal' => 'ramp', 'values' => ['before' => 0, 'value' => 1, 'at' => 4, 'to' => 3]],
            'end after it begins',
        ];
        yield 'no period' => [
            ['signal' => 'wave', 'values' => ['value' => 0, 'amplitude' => 1, 'period' => 0, 'at' => 0]],
            'larger than zero',
        ];
        yield 'crowded pulses' => [
            ['signal' => 'pulses', 'values' => ['before' => 0, 'value' => 1, 'at' => 0, 'width' => 3, 'every' => 2]],
            'come no closer',
        ];
        yield 'one point' => [['signal' => 'drawn', 'points' => [[0, 1]]], 'at least two points'];
        yield 'points in disorder' => [['signal' => 'drawn', 'points' => [[1, 1], [0, 1]]], 'must increase'];
        yield 'no pair' => [['signal' => 'drawn', 'points' => [[1], [2, 3]]], 'pairs of a time and a value'];
        yield 'no series' => [['signal' => 'series'], 'Choose the series'];
    }

    #[DataProvider('unclear')]
    public function test_what_is_no_grip_is_refused_with_a_sentence(mixed $record, string $sentence): void
    {
        $this->expectException(NotUnderstood::class);
        $this->expectExceptionMessageMatches('/'.preg_quote($sentence, '/').'/');
        Grip::read('x', $record);
    }
}
