<?php

declare(strict_types=1);

namespace Tests\Core;

use MerryOrbit\Core\Model\Method;
use MerryOrbit\Core\Model\Model;
use MerryOrbit\Core\Model\TimeSettings;
use MerryOrbit\Core\Simulate\RunLimits;
use MerryOrbit\Core\Simulate\RunRefused;
use MerryOrbit\Core\Simulate\Simulator;
use PHPUnit\Framework\Attributes\DataProvider;
use PHPUnit\Framework\TestCase;

final class SimulationTest extends TestCase
{
    /**
     * Models with the closed form of their first stock.
     *
     * @return iterable<string, array{Model, string, \Closure(float): float}>
     */
    public static function closedForms(): iterable
    {
        yield 'first-order decay' => [
            Build::model(['lifespan' => '4'], ['stored rain' => '100'], ['leaking' => ['stored rain / lifespan', 'from' => 'stored rain']]),
            'stored-rain',
            static fn (float $t): float => 100 * exp(-$t / 4),
        ];
        yield 'goal seeking' => [
            Build::model(
                ['goal' => '80', 'time to adjust' => '3'],
                ['beds' => '20'],
                ['building' => ['(goal - beds) / time to adjust', 'to' => 'beds']],
            ),
            'beds',
            static fn (float $t): float => 80 - 60 * exp(-$t / 3),
        ];
        yield 'logistic growth' => [
            Build::model(
                ['growth rate' => '0.9', 'room' => '100'],
                ['kelp' => '10'],
                ['growth' => ['growth rate * kelp * (1 - kelp / room)', 'to' => 'kelp']],
            ),
            'kelp',
            static fn (float $t): float => 100 / (1 + 9 * exp(-0.9 * $t)),
        ];
        // x' = y, y' = -x: a circle around the origin.
        yield 'two coupled stocks' => [
            Build::model(
                [],
                ['tide' => '1', 'current' => '0'],
                ['rising' => ['current', 'to' => 'tide'], 'pulling' => ['tide', 'from' => 'current']],
            ),
            'tide',
            static fn (float $t): float => cos($t),
        ];
    }

    /** @param  \Closure(float): float  $exact */
    private static function largestError(Model $model, string $id, \Closure $exact, Method $method, float $step): float
    {
        $run = Build::run($model, [], new TimeSettings(0, 10, $step, 'year', $method));
        $error = 0.0;
        foreach ($run->column($id) as $i => $value) {
            $error = max($error, abs($value - $exact($run->times()[$i])));
        }

        return $error;
    }

    /** @param  \Closure(float): float  $exact */
    #[DataProvider('closedForms')]
    public function test_runs_agree_with_closed_forms_and_converge_as_the_method_promises(Model $model, string $id, \Closure $exact): void
    {
        foreach ([[Method::Euler, 1, 0.01], [Method::Heun, 2, 0.05], [Method::RungeKutta4, 4, 0.1]] as [$method, $order, $step]) {
            $coarse = self::largestError($model, $id, $exact, $method, $step);
            $fine = self::largestError($model, $id, $exact, $method, $step / 2);
            // The next term of the error is a step smaller; at these steps it bends the ratio by less than 15 %.
            self::assertEqualsWithDelta(2 ** $order, $coarse / $fine, 0.15 * 2 ** $order, $method->title());
        }
        // 1/120 h^5 per step bounds the local error for rates and derivatives of order one; 1e-5 leaves room for amplitudes of 100.
        self::assertLessThan(1e-5 * 100, self::largestError($model, $id, $exact, Method::RungeKutta4, 0.05));
    }

    public function test_loops_over_stages_and_written_out_stages_agree(): void
    {
        $stocks = $flows = [];
        for ($i = 0; $i < 100; $i++) {
            $stocks["tank $i"] = (string) (1 + ($i % 7));
            $flows["leak $i"] = ["tank $i / 4 + time / 100", 'from' => "tank $i"];
        }
        // Each tank alone is a small model; a hundred of them exceed what is written out.
        $many = Build::run(Build::model([], $stocks, $flows));
        foreach ([0, 3, 99] as $i) {
            $alone = Build::run(Build::model([], ["tank $i" => $stocks["tank $i"]], ["leak $i" => $flows["leak $i"]]));
            self::assertSame($alone->column("tank-$i"), $many->column("tank-$i"));
        }
    }

    public function test_mass_is_conserved_between_stocks(): void
    {
        $model = Build::model(
            [],
            ['a' => '1000', 'b' => '0', 'c' => '0'],
            [
                'f' => ['a / 3', 'from' => 'a', 'to' => 'b'],
                'g' => ['b * 0.7', 'from' => 'b', 'to' => 'c'],
                'h' => ['c^2 / 5000', 'from' => 'c', 'to' => 'a'],
            ],
        );
        foreach (Build::FIXED as $method) {
            $run = Build::run($model, [], new TimeSettings(0, 50, 0.1, 'year', $method));
            foreach ($run->column('a') as $i => $a) {
                // Rounding of some 500 steps of three additions to 1000.
                self::assertEqualsWithDelta(1000, $a + $run->column('b')[$i] + $run->column('c')[$i], 500 * 3 * 1000 * PHP_FLOAT_EPSILON);
            }
        }
    }

    public function test_the_last_saved_time_is_exactly_the_end(): void
    {
        $model = Build::model([], ['clock' => '0'], ['passing' => ['1', 'to' => 'clock']]);
        $run = Build::run($model, [], new TimeSettings(0, 1000, 0.1, 'day'));
        self::assertCount(10_001, $run->times());
        self::assertSame(1000.0, $run->times()[10_000]);
        self::assertSame(0.1 * 3, $run->times()[3]);
        $sparse = Build::run($model, [], new TimeSettings(0, 1000, 0.1, 'day', saveEvery: 30.0));
        self::assertSame(
            [0.0, 30.0, 990.0, 1000.0],
            [$sparse->times()[0], $sparse->times()[1], $sparse->times()[33], $sparse->times()[34]],
        );
        self::assertSame(35, $sparse->length());
        self::assertSame($run->column('clock')[9_900], $sparse->column('clock')[33]);
    }

    /** @return iterable<string, array{string, float}> */
    public static function pulses(): iterable
    {
        yield 'once' => ['pulse(120, 3)', 120];
        yield 'between two steps' => ['pulse(120, 3.1)', 120];
        yield 'at the start' => ['pulse(120, 0)', 120];
        yield 'before the start' => ['pulse(120, -1)', 0];
        yield 'at the end, too late' => ['pulse(120, 10)', 0];
        yield 'again and again' => ['pulse(120, 1, 2)', 120 * 5];
        yield 'until, exclusive' => ['pulse(120, 1, 2, 5)', 120 * 2];
        yield 'begun before the start' => ['pulse(120, -3, 2)', 120 * 5];
        yield 'several in one step' => ['pulse(12, 0, 0.01, 1)', 12 * 100];
    }

    #[DataProvider('pulses')]
    public function test_a_pulse_delivers_exactly_its_amount(string $formula, float $amount): void
    {
        $model = Build::model([], ['cistern' => '0'], ['boat' => [$formula, 'to' => 'cistern']]);
        foreach (Build::FIXED as $method) {
            foreach ([0.5, 0.25, 0.1, 0.05, 1 / 3] as $step) {
                $column = Build::run($model, [], new TimeSettings(0, 10, $step, 'week', $method))->column('cistern');
                self::assertEqualsWithDelta($amount, end($column), 1e-12 * max(1, $amount), "$formula, step $step, {$method->value}");
            }
        }
    }

    public function test_signals_keep_their_value_within_a_step_and_act_at_its_start(): void
    {
        $model = Build::model(
            [],
            ['level' => '0'],
            ['rising' => ['step(10, 2.5)', 'to' => 'level']],
            [
                'slope' => 'ramp(2, 1, 4)',
                'open' => 'window(1, 2, 4)',
                'swell' => 'wave(3, 8, 1)',
                'late' => 'step(1, 2.6)',
            ],
        );
        $run = Build::run($model, [], new TimeSettings(0, 10, 0.5, 'week'));
        self::assertEqualsWithDelta(75.0, $run->column('level')[20], 1e-12);
        self::assertSame([0.0, 0.0, 2.0, 6.0, 6.0], array_map(static fn (int $i): float => $run->column('slope')[$i], [0, 2, 4, 8, 20]));
        self::assertSame([0.0, 1.0, 1.0, 0.0], array_map(static fn (int $i): float => $run->column('open')[$i], [3, 4, 7, 8]));
        self::assertSame([0.0, 1.0], [$run->column('late')[5], $run->column('late')[6]]);
        self::assertEqualsWithDelta(3.0, $run->column('swell')[6], 1e-12);
    }

    public function test_initial_values_may_depend_on_anything_at_the_start(): void
    {
        $model = Build::model(
            ['depth' => '3'],
            ['lens' => 'area * depth', 'half' => 'lens / 2 + drain'],
            ['drain' => ['lens / 10', 'from' => 'lens']],
            ['area' => '20 + time'],
        );
        $run = Build::run($model);
        self::assertSame([60.0, 36.0, 6.0], [$run->column('lens')[0], $run->column('half')[0], $run->column('drain')[0]]);
    }

    public function test_parameters_can_be_set_for_one_run(): void
    {
        $model = Build::model(
            ['inflow rate' => '2'],
            ['tank' => '0'],
            ['filling' => ['inflow rate', 'to' => 'tank']],
            ['double' => 'inflow rate * 2'],
        );
        self::assertEqualsWithDelta(20.0, Build::run($model)->column('tank')[20], 1e-12);
        $run = Build::run($model, ['inflow-rate' => 5.0]);
        self::assertEqualsWithDelta(50.0, $run->column('tank')[20], 1e-12);
        self::assertSame([5.0, 10.0], [$run->column('inflow-rate')[7], $run->column('double')[7]]);
    }

    /** @return iterable<string, array{string, string, string}> */
    public static function faults(): iterable
    {
        yield 'division by zero' => ['10 / (5 - tank)', 'division by zero', 'tank = 5'];
        yield 'logarithm' => ['ln(5 - tank)', 'logarithm', 'tank = 5'];
        yield 'root' => ['sqrt(4.9 - tank)', 'square root', 'tank = 5'];
        yield 'hidden in a choice that is made' => ['if(tank >= 5, 1 / (tank - 5), 0)', 'division by zero', 'tank = 5'];
        yield 'hidden in a comparison' => ['max(ln(5 - tank), 0) > 3', 'logarithm', 'tank = 5'];
        yield 'hidden in a denominator' => ['1 / (1 + exp(200 * tank))', 'larger than the largest', 'tank = 4'];
        yield 'power' => ['(4.5 - tank)^0.5', 'power', 'tank = 5'];
        yield 'choice out of range' => ['choose(tank, 1, 2, 3, 4)', 'number 5 of 4', 'tank = 5'];
        yield 'wave without a period' => ['wave(1, 5 - tank)', 'period of zero', 'tank = 5'];
    }

    #[DataProvider('faults')]
    public function test_a_run_stops_at_a_numeric_fault_and_says_why(string $formula, string $reason, string $inputs): void
    {
        foreach (Build::FIXED as $method) {
            // `tank` is 1 at the start and gains 1 a year; `watched` may be seen by nothing but this formula.
            $model = Build::model(
                [],
                ['tank' => '1'],
                ['filling' => ['1', 'to' => 'tank']],
                ['watched' => $formula, 'calm' => 'if(watched > 1e300, 1, 2)'],
                new TimeSettings(0, 10, 1, 'year', $method),
            );
            $run = Build::run($model);
            self::assertNotNull($run->fault, $method->title());
            self::assertSame('watched', $run->fault->name);
            self::assertStringContainsString($reason, $run->fault->sentence());
            // Halfway through a step Runge–Kutta may meet it a little earlier.
            self::assertEqualsWithDelta($run->fault->inputs['tank'], (float) explode(' = ', $inputs)[1], 0.5);
            self::assertSame($run->fault->time + 1.0, $run->fault->inputs['tank']);
            foreach ($run->column('watched') as $value) {
                self::assertTrue(is_finite($value));
            }
            self::assertSame((int) ceil($run->fault->time), $run->length());
        }
    }

    public function test_a_choice_not_made_cannot_fail(): void
    {
        $run = Build::run(
            Build::model(
                [],
                ['tank' => '5'],
                [],
                ['a' => 'if(tank = 5, 1, 1 / 0)', 'b' => 'divide(1, tank - 5, ln(tank))', 'c' => 'tank <> 5 and 1 / (tank - 5) > 0'],
            ),
        );
        self::assertNull($run->fault);
        self::assertSame([1.0, log(5), 0.0], [$run->column('a')[0], $run->column('b')[0], $run->column('c')[0]]);
    }

    public function test_an_overflowing_stock_and_a_bad_initial_value_are_named(): void
    {
        $grown = Build::run(
            Build::model(
                [],
                ['gain' => '1'],
                ['interest' => ['1e300', 'to' => 'gain']],
                [],
                new TimeSettings(0, 1e9, 1e8, 'year', Method::Euler),
            ),
        );
        self::assertSame(['gain', ['interest' => 1e300]], [$grown->fault?->name, $grown->fault?->inputs]);
        $start = Build::run(Build::model(['none' => '0'], ['tank' => '1 / none']));
        self::assertSame(['tank', 0.0, 0], [$start->fault?->name, $start->fault?->time, $start->length()]);
        self::assertStringContainsString('initial value', (string) $start->fault?->sentence());
    }

    public function test_what_waits_does_not_hinder_the_rest(): void
    {
        $model = Build::model(
            [],
            ['full' => '1', 'stuck' => '1'],
            ['good' => ['2', 'to' => 'full'], 'open' => ['missing thing', 'to' => 'stuck']],
            ['after' => 'stuck * 2'],
        );
        $run = Build::run($model);
        self::assertTrue($run->has('full') && $run->has('good'));
        self::assertFalse($run->has('stuck') || $run->has('open') || $run->has('after'));
        self::assertEqualsWithDelta(21.0, $run->column('full')[20], 1e-12);
    }

    public function test_runs_that_would_be_too_much_are_refused_with_a_sentence(): void
    {
        $model = Build::model([], ['a' => '1'], [], ['b' => 'time']);
        $simulator = new Simulator(
            new \MerryOrbit\Core\Compile\ProgramStore(sys_get_temp_dir().'/merry-orbit-tests-'.getmyuid()),
            new RunLimits(1000, 1000),
        );
        $this->expectException(RunRefused::class);
        $this->expectExceptionMessage('Choose a longer step');
        $simulator->run(
            \MerryOrbit\Core\Analysis\Analyser::analyse($model),
            new \MerryOrbit\Core\Simulate\RunOptions([], new TimeSettings(0, 1000, 0.1)),
        );
    }
}
