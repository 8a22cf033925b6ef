<?php

declare(strict_types=1);

namespace Tests\Core;

use MerryOrbit\Core\Analysis\Analyser;
use MerryOrbit\Core\Edit\SetStock;
use MerryOrbit\Core\Model\Method;
use MerryOrbit\Core\Model\Model;
use MerryOrbit\Core\Model\TimeSettings;
use MerryOrbit\Core\Simulate\Health;
use MerryOrbit\Core\Simulate\RunOptions;
use MerryOrbit\Core\Simulate\RunRefused;
use MerryOrbit\Core\Simulate\Trajectory;
use PHPUnit\Framework\Attributes\DataProvider;
use PHPUnit\Framework\TestCase;

/** Methods against closed forms and published solutions. */
final class SolverTest extends TestCase
{
    /** @return iterable<string, array{Model, string, \Closure(float): float, float}> model, stock, solution, largest value */
    public static function closedForms(): iterable
    {
        yield 'decay' => [
            Build::model([], ['x' => '100'], ['f' => ['x / 4', 'from' => 'x']]),
            'x',
            static fn (float $t): float => 100 * exp(-$t / 4),
            100,
        ];
        yield 'growth' => [
            Build::model([], ['x' => '1'], ['f' => ['0.3 * x', 'to' => 'x']]),
            'x',
            static fn (float $t): float => exp(0.3 * $t),
            exp(3),
        ];
        yield 'logistic' => [
            Build::model([], ['x' => '10'], ['f' => ['0.9 * x * (1 - x / 100)', 'to' => 'x']]),
            'x',
            static fn (float $t): float => 100 / (1 + 9 * exp(-0.9 * $t)),
            100,
        ];
        yield 'Gompertz' => [
            Build::model([], ['x' => '5'], ['f' => ['0.6 * x * ln(80 / x)', 'to' => 'x']]),
            'x',
            static fn (float $t): float => 80 * exp(log(5 / 80) * exp(-0.6 * $t)),
            80,
        ];
        // x'' + 0.4 x' + 4.04 x = 0 with x = 1, x' = −0.2 at the start: e^(−0.2 t) cos 2t.
        yield 'damped oscillator' => [
            Build::model([], ['x' => '1', 'v' => '-0.2'], ['f' => ['v', 'to' => 'x'], 'g' => ['-0.4 * v - 4.04 * x', 'to' => 'v']]),
            'x',
            static fn (float $t): float => exp(-0.2 * $t) * cos(2 * $t),
            1,
        ];
        // Bateman: 100 in the gut, uptake 1.2, elimination 0.3 a time unit.
        yield 'two compartments' => [
            Build::model(
                [],
                ['gut' => '100', 'blood' => '0'],
                ['uptake' => ['1.2 * gut', 'from' => 'gut', 'to' => 'blood'], 'out' => ['0.3 * blood', 'from' => 'blood']],
            ),
            'blood',
            static fn (float $t): float => ((100 * 1.2) / 0.9) * (exp(-0.3 * $t) - exp(-1.2 * $t)),
            60,
        ];
        yield 'driven by time' => [
            Build::model([], ['x' => '0'], ['f' => ['cos(time) - x', 'to' => 'x']]),
            'x',
            static fn (float $t): float => 0.5 * (cos($t) + sin($t) - exp(-$t)),
            1,
        ];
        yield 'a chain' => [
            Build::model(
                [],
                ['a' => '1', 'b' => '0', 'c' => '0'],
                ['f' => ['a', 'from' => 'a', 'to' => 'b'], 'g' => ['b', 'from' => 'b', 'to' => 'c'], 'h' => ['c', 'from' => 'c']],
            ),
            'c',
            static fn (float $t): float => (($t * $t) / 2) * exp(-$t),
            1,
        ];
    }

    /** @param  \Closure(float): float  $exact */
    #[DataProvider('closedForms')]
    public function test_fixed_steps_converge_with_their_order(Model $model, string $id, \Closure $exact, float $largest): void
    {
        foreach ([[Method::Euler, 1, 0.0125], [Method::Heun, 2, 0.05], [Method::RungeKutta4, 4, 0.1]] as [$method, $order, $step]) {
            $coarse = self::error($model, $id, $exact, new TimeSettings(0, 10, $step, 'year', $method));
            $fine = self::error($model, $id, $exact, new TimeSettings(0, 10, $step / 2, 'year', $method));
            self::assertEqualsWithDelta($order, log($coarse / $fine, 2), 0.25, $method->title());
        }
    }

    /** @param  \Closure(float): float  $exact */
    #[DataProvider('closedForms')]
    public function test_adaptive_methods_meet_their_tolerance(Model $model, string $id, \Closure $exact, float $largest): void
    {
        foreach ([Method::DormandPrince, Method::Rosenbrock] as $method) {
            $before = INF;
            foreach ([1e-4, 1e-6, 1e-8] as $tolerance) {
                $time = new TimeSettings(0, 10, 0.5, 'year', $method, tolerance: $tolerance, absoluteTolerance: $tolerance * 1e-2);
                $error = self::error($model, $id, $exact, $time) / $largest;
                // The tolerance bounds the error of a step; those of some tens of steps add up.
                self::assertLessThan(30 * $tolerance, $error, "{$method->title()} at $tolerance");
                self::assertLessThan($before, $error + 1e-13);
                $before = $error;
            }
        }
    }

    /** @param  \Closure(float): float  $exact */
    private static function error(Model $model, string $id, \Closure $exact, TimeSettings $time): float
    {
        $run = Build::run($model, [], $time);
        self::assertNull($run->fault, (string) $run->fault?->sentence());
        $error = 0.0;
        foreach ($run->column($id) as $i => $value) {
            $error = max($error, abs($value - $exact($run->times()[$i])));
        }

        return $error;
    }

    /** H. H. Robertson's reactions (1966) over ten decades of time; reference values from Hairer and Wanner, Solving ODEs II. */
    public function test_stiff_kinetics_over_ten_decades(): void
    {
        $model = Build::model(
            [],
            ['a' => '1', 'b' => '0', 'c' => '0'],
            [
                'slow' => ['0.04 * a', 'from' => 'a', 'to' => 'b'],
                'back' => ['1e4 * b * c', 'from' => 'b', 'to' => 'a'],
                'fast' => ['3e7 * b * b', 'from' => 'b', 'to' => 'c'],
            ],
        );
        $time = static fn (float $end): TimeSettings => new TimeSettings(
            0,
            $end,
            $end / 10,
            'second',
            Method::Rosenbrock,
            tolerance: 1e-8,
            absoluteTolerance: 1e-14,
        );
        foreach ([[40.0, 0.7158270688, 0.2841637457], [4e10, 5.2083e-8, 0.99999994792]] as [$end, $a, $c]) {
            $run = Build::run($model, [], $time($end));
            self::assertNull($run->fault);
            self::assertEqualsWithDelta($a, $run->column('a')[10], 1e-3 * $a);
            self::assertEqualsWithDelta($c, $run->column('c')[10], 1e-5);
            // The method keeps a linear sum to rounding.
            self::assertEqualsWithDelta(1.0, $run->column('a')[10] + $run->column('b')[10] + $run->column('c')[10], 1e-7);
            self::assertLessThan(20_000, $run->evaluations);
        }
    }

    public function test_repeated_doses_under_every_method(): void
    {
        // 50 every 6 hours into blood that loses 0.2 an hour: the sum of what is left of each dose.
        $model = Build::model(
            [],
            ['blood' => '0'],
            ['dose' => ['pulse(50, 0, 6)', 'to' => 'blood'], 'loss' => ['0.2 * blood', 'from' => 'blood']],
        );
        foreach ([[Method::RungeKutta4, 1e-4], [Method::DormandPrince, 1e-4], [Method::Rosenbrock, 1e-4]] as [$method, $tolerance]) {
            $step = 1 / 64;
            $run = Build::run($model, [], new TimeSettings(0, 24, $step, 'hour', $method, 6.0));
            foreach ([6, 12, 18, 24] as $i => $hour) {
                $left = 0.0;
                for ($given = 0; $given < $hour; $given += 6) {
                    // A dose flows for one step.
                    $left += (((50 / $step) * (exp(0.2 * $step) - 1)) / 0.2) * exp(-0.2 * ($hour - $given));
                }
                self::assertEqualsWithDelta($left, $run->column('blood')[$i + 1], $tolerance * 50, "{$method->title()}, hour $hour");
            }
        }
    }

    public function test_methods_say_what_they_took_and_cannot_do(): void
    {
        $calm = Build::model([], ['x' => '1'], ['f' => ['x / 10', 'from' => 'x']]);
        $evaluations = [];
        foreach (Method::cases() as $method) {
            $run = Build::run($calm, [], new TimeSettings(0, 10, 0.1, 'year', $method));
            self::assertSame($method, $run->method);
            $evaluations[$method->value] = $run->evaluations;
            self::assertNotSame('', $method->sentence());
        }
        self::assertSame([101, 201, 401], array_slice(array_values($evaluations), 0, 3));
        self::assertLessThan(200, $evaluations['dopri5'], 'it takes long steps through calm water');
        foreach (['random(0, 1)' => 'draws chance', 'previous(x)' => '`previous`', 'hold(x, 1)' => '`hold`'] as $formula => $words) {
            self::assertRefused(Build::model([], ['x' => '1'], ['f' => [(string) $formula, 'from' => 'x']]), 'f', $words);
        }
        self::assertRefused((new SetStock('x', true, ''))->apply($calm), 'x', 'never goes below zero');
        self::assertRefused((new SetStock('x', false, '3'))->apply($calm), 'x', 'transit stock');
    }

    private static function assertRefused(Model $model, string $element, string $words): void
    {
        foreach ([Method::DormandPrince, Method::Rosenbrock] as $method) {
            try {
                Build::run($model, [], new TimeSettings(0, 10, 0.1, 'year', $method));
                self::fail("$words was not refused");
            } catch (RunRefused $refused) {
                self::assertSame($element, $refused->problem->element);
                self::assertStringContainsString($words, $refused->getMessage());
                self::assertStringContainsString('Choose Runge–Kutta 4', $refused->getMessage());
            }
        }
    }

    public function test_adaptive_faults_stop_at_the_instant(): void
    {
        // x' = x² runs away at time 1.
        $model = Build::model([], ['x' => '1'], ['f' => ['x * x', 'to' => 'x']], ['y' => 'ln(1.5 - time)']);
        foreach ([Method::DormandPrince, Method::Rosenbrock] as $method) {
            $run = Build::run($model, [], new TimeSettings(0, 3, 0.125, 'year', $method));
            self::assertNotNull($run->fault);
            self::assertEqualsWithDelta(1.0, $run->fault->time, 1e-3);
            self::assertEqualsWithDelta(1.0, $run->times()[$run->length() - 1], 0.13);
            $log = Build::run(
                Build::model([], ['x' => '1'], ['f' => ['0', 'to' => 'x']], ['y' => 'ln(1.5 - time)']),
                [],
                new TimeSettings(0, 3, 0.125, 'year', $method),
            );
            self::assertSame('y', $log->fault?->name);
        }
    }

    public function test_the_end_condition_ends_a_run_with_that_moment(): void
    {
        foreach (Method::cases() as $method) {
            $model = Build::model(
                [],
                ['x' => '0'],
                ['f' => ['1', 'to' => 'x']],
                ['double' => 'x * 2'],
                new TimeSettings(0, 10, 0.25, 'year', $method, 1.0),
            );
            $model = (new \MerryOrbit\Core\Edit\SetEnd('double > 6.6'))->apply($model);
            $run = Build::run($model);
            self::assertTrue($run->ended);
            // An adaptive method looks where its steps end, the others at every step.
            self::assertGreaterThan(6.6, $run->column('double')[$run->length() - 1]);
            if (! $method->isAdaptive()) {
                self::assertEqualsWithDelta([0.0, 1.0, 2.0, 3.0, 3.5], $run->times(), 1e-9);
            }
        }
        self::assertSame(['name.unknown'], Build::codes((new \MerryOrbit\Core\Edit\SetEnd('nothing > 1'))->apply(Build::model())));
    }

    public function test_numerical_health_finds_a_step_that_is_too_long(): void
    {
        $model = Build::model(['tau' => '1'], ['x' => '100', 'y' => '0'], ['f' => ['x / tau', 'from' => 'x', 'to' => 'y']]);
        $check = static fn (float $step, Method $method, Model $m): Health => Health::check(
            Build::simulator(),
            $m,
            new RunOptions([], new TimeSettings(0, 10, $step, 'year', $method)),
        );
        self::assertSame(
            ['fine', 'poor', 'fine'],
            [
                $check(0.05, Method::RungeKutta4, $model)->verdict,
                $check(0.5, Method::Euler, $model)->verdict,
                $check(1.0, Method::DormandPrince, $model)->verdict,
            ],
        );
        $poor = $check(0.5, Method::Euler, $model);
        self::assertSame(['y', 'stock'], [$poor->differences[0]['element'], $poor->differences[0]['what']]);
        self::assertContains('accumulated flow', array_column($poor->differences, 'what'));
        // Euler halves its error with the step: the difference is about half the error of the coarse run.
        $euler = Build::run($model, [], new TimeSettings(0, 10, 0.01, 'year', Method::Euler));
        $exact = 100 * exp(-1.0);
        self::assertEqualsWithDelta(
            (0.5 * ($exact - $euler->column('x')[100])) / 100,
            $check(0.01, Method::Euler, $model)->differences[0]['difference'],
            1e-4,
        );
        // The same draws of chance at the finer step: what is left is the method's own error, which is none for a sum.
        $luck = Build::model([], ['x' => '0'], ['f' => ['gaussian(5, 2) + drift(0, 1, 4) + poisson(3)', 'to' => 'x']]);
        self::assertLessThan(1e-12, $check(0.5, Method::Euler, $luck)->differences[0]['difference']);
        self::assertSame(
            'fault',
            $check(0.5, Method::Euler, Build::model([], ['x' => '1'], ['f' => ['1 / (x - 1)', 'to' => 'x']]))->verdict,
        );
        self::assertSame('fine', Health::check(Build::simulator(), Build::model())->verdict);
    }

    public function test_the_same_analysis_runs_again_without_compiling(): void
    {
        $simulator = Build::simulator();
        $analysis = Analyser::analyse(Build::model(['p' => '1'], ['x' => '1'], ['f' => ['p', 'to' => 'x']]));
        self::assertSame($simulator->program($analysis->plan(), Method::Euler), $simulator->program($analysis->plan(), Method::Euler));
        self::assertNotSame($simulator->program($analysis->plan(), Method::Euler), $simulator->program($analysis->plan(), Method::Heun));
    }

    /** Between its own steps an adaptive method knows its course as well as at their ends. */
    public function test_dense_output_is_as_good_as_the_steps(): void
    {
        $model = Build::model([], ['x' => '1', 'v' => '0'], ['f' => ['v', 'to' => 'x'], 'g' => ['-x', 'to' => 'v']]);
        foreach ([Method::DormandPrince, Method::Rosenbrock] as $method) {
            $fine = Build::run($model, [], new TimeSettings(0, 20, 0.01, 'year', $method, tolerance: 1e-7, absoluteTolerance: 1e-9));
            $sparse = Build::run($model, [], new TimeSettings(0, 20, 10, 'year', $method, tolerance: 1e-7, absoluteTolerance: 1e-9));
            self::assertLessThan(1.2 * $sparse->evaluations, $fine->evaluations, 'saving often makes no more steps');
            foreach ($fine->times() as $i => $t) {
                self::assertEqualsWithDelta(cos($t), $fine->column('x')[$i], 2e-5, "{$method->title()} at $t");
            }
        }
    }

    public function test_adaptive_methods_stop_at_events_exactly(): void
    {
        // A fast pull begins at 3.7 and ends at 7.1: a method that stepped over it would miss it.
        $model = Build::model([], ['x' => '0'], ['f' => ['window(1000, 3.7, 3.8) + pulse(50, 7.1) + step(2, 9)', 'to' => 'x']]);
        foreach ([Method::DormandPrince, Method::Rosenbrock] as $method) {
            $run = Build::run($model, [], new TimeSettings(0, 10, 0.1, 'year', $method));
            foreach ($run->times() as $i => $t) {
                $expected = 1000 * max(0.0, min(0.1, $t - 3.7)) + 50 * max(0.0, min(1.0, ($t - 7.1) / 0.1)) + 2 * max(0.0, $t - 9);
                self::assertEqualsWithDelta($expected, $run->column('x')[$i], 1e-6, "{$method->title()} at $t");
            }
            self::assertLessThan(800, $run->evaluations);
        }
    }

    public function test_memory_that_goes_by_steps_of_the_grid_works_with_adaptive_methods_too(): void
    {
        $names = [
            'swell' => '3 * cos(pi * time / 4)',
            'on' => 'latch(swell > 2, swell < -2)',
            'often' => 'times(swell > 0)',
            'late' => 'shift(swell, 1)',
            'area' => 'total(swell)',
        ];
        $fixed = Build::run(Build::model([], ['s' => '1'], ['f' => ['on', 'to' => 's']], $names, new TimeSettings(0, 12, 0.25)));
        foreach ([Method::DormandPrince, Method::Rosenbrock] as $method) {
            $run = Build::run(
                Build::model([], ['s' => '1'], ['f' => ['on', 'to' => 's']], $names, new TimeSettings(0, 12, 0.25, 'year', $method)),
            );
            foreach (['on', 'often', 'late', 's'] as $id) {
                self::assertEqualsWithDelta($fixed->column($id), $run->column($id), 1e-9, "$id with {$method->title()}");
            }
            foreach ($run->times() as $i => $t) {
                self::assertEqualsWithDelta((12 / M_PI) * sin((M_PI * $t) / 4), $run->column('area')[$i], 1e-4);
            }
        }
    }

    public function test_a_stiff_system_that_is_too_large_is_refused(): void
    {
        $stocks = [];
        for ($i = 0; $i < 301; $i++) {
            $stocks["s$i"] = '1';
        }
        $this->expectException(RunRefused::class);
        $this->expectExceptionMessage('takes at most 300 of them; this model has 301');
        Build::run(Build::model([], $stocks), [], new TimeSettings(0, 1, 0.5, 'year', Method::Rosenbrock));
    }

    /** What is fast only at its start is given its time, though the pace of its beginning would take for ever. */
    public function test_a_run_that_gets_faster_is_not_given_up(): void
    {
        $model = Build::model(
            [],
            ['x' => '1', 'v' => '0'],
            ['f' => ['v * pace', 'to' => 'x'], 'g' => ['x * pace', 'from' => 'v']],
            ['pace' => '4e3 * exp(-time)'],
            new TimeSettings(0, 1000, 1, 'year', Method::DormandPrince),
        );
        $run = Build::run($model);
        self::assertNull($run->fault, (string) $run->fault?->sentence());
        // The angle that was turned is the integral of the pace.
        self::assertEqualsWithDelta(cos(4e3), $run->column('x')[1000], 2e-2);
    }

    /** y' = -1e6 (y - cos t): an explicit method would take some ten million steps to get to 100. */
    public function test_a_stiff_model_is_noticed_at_once_and_the_stiff_method_offered(): void
    {
        $model = Build::model(
            [],
            ['y' => '0'],
            ['f' => ['1e6 * (y - cos(time))', 'from' => 'y']],
            [],
            new TimeSettings(0, 100, 1, 'year', Method::DormandPrince),
        );
        $run = null;
        $took = Pace::seconds(static function () use (&$run, $model): void {
            $run = Build::run($model);
        });
        self::assertLessThan(2.0, $took);
        self::assertInstanceOf(Trajectory::class, $run);
        self::assertNotNull($run->fault);
        self::assertStringContainsString('it is stiff', $run->fault->sentence());
        $edits = $run->fault->remedy->edits ?? [];
        self::assertCount(1, $edits);
        $mended = Build::run(\MerryOrbit\Core\Edit\EditReader::read($edits[0])->apply($model));
        self::assertNull($mended->fault);
        self::assertEqualsWithDelta(cos(100.0), $mended->column('y')[100], 1e-5);
    }

    /** A model that is stiff only for a short while is run to the end. */
    public function test_what_is_stiff_but_short_is_run(): void
    {
        $model = Build::model(
            [],
            ['y' => '0'],
            ['f' => ['500 * (y - cos(time))', 'from' => 'y']],
            [],
            new TimeSettings(0, 10, 1, 'year', Method::DormandPrince),
        );
        $run = Build::run($model);
        self::assertNull($run->fault);
        self::assertEqualsWithDelta(cos(10.0), $run->column('y')[10], 1e-2);
    }

    /** @return iterable<string, array{Method, array<string, string>, array<string, array{0: string, from?: string, to?: string}>, array<string, string>}> */
    public static function hostile(): iterable
    {
        foreach (Method::cases() as $method) {
            yield "$method->value: overflow at once" => [$method, ['s' => '1'], ['f' => ['1e160 * s * s', 'to' => 's']], []];
            yield "$method->value: a flood" => [$method, ['s' => '1'], ['f' => ['1e308', 'to' => 's']], []];
            yield "$method->value: growth without end" => [$method, ['s' => '1'], ['f' => ['s * s', 'to' => 's']], []];
            yield "$method->value: a number over its bound at the start" => [
                $method,
                ['s' => '1e160'],
                ['f' => ['s * s', 'to' => 's']],
                [],
            ];
            yield "$method->value: division by zero within" => [
                $method,
                ['s' => '1'],
                ['f' => ['1 / if(s > 1.5, 0, 1)', 'to' => 's']],
                [],
            ];
            yield "$method->value: a pole in time" => [
                $method,
                ['s' => '1'],
                ['f' => ['if(time < 40.25, 1, 1 / (time - time))', 'to' => 's']],
                [],
            ];
            if ($method->isAdaptive()) {
                // Fixed steps walk over what they do not see.
                yield "$method->value: faster than any step" => [
                    $method,
                    ['s' => '1'],
                    ['f' => ['sin(time * 1e6) * 1e3', 'to' => 's']],
                    [],
                ];
                yield "$method->value: weeks of swinging" => [
                    $method,
                    ['x' => '1', 'v' => '0'],
                    ['f' => ['v * 1e5', 'to' => 'x'], 'g' => ['x * 1e5', 'from' => 'v']],
                    [],
                ];
                yield "$method->value: to and fro" => [$method, ['s' => '1'], ['f' => ['if(s > 0, 1, -1) * 10', 'from' => 's']], []];
            }
            yield "$method->value: a root of less than nothing" => [
                $method,
                ['s' => '10'],
                ['f' => ['1', 'to' => 's']],
                ['v' => 'asin(s)'],
            ];
        }
    }

    /**
     * @param  array<string, string>  $stocks
     * @param  array<string, array{0: string, from?: string, to?: string}>  $flows
     * @param  array<string, string>  $auxiliaries
     */
    #[\PHPUnit\Framework\Attributes\DataProvider('hostile')]
    public function test_hostile_models_end_soon_with_a_sentence_and_finite_numbers(
        Method $method,
        array $stocks,
        array $flows,
        array $auxiliaries,
    ): void {
        $model = Build::model([], $stocks, $flows, $auxiliaries, new TimeSettings(0, 100, 0.5, 'year', $method));
        $simulator = new \MerryOrbit\Core\Simulate\Simulator(
            new \MerryOrbit\Core\Compile\ProgramStore(sys_get_temp_dir().'/merry-orbit-tests-'.getmyuid()),
        );
        $run = null;
        $took = Pace::seconds(static function () use (&$run, $simulator, $model): void {
            $run = $simulator->run(Analyser::analyse($model));
        });
        self::assertLessThan(2.0, $took);
        self::assertInstanceOf(Trajectory::class, $run);
        self::assertNotNull($run->fault);
        self::assertNotSame('', $run->fault->sentence());
        foreach ($run->columns() as $id) {
            foreach ($run->column($id) as $value) {
                self::assertTrue(is_finite($value), "$id is $value");
            }
        }
    }
}
