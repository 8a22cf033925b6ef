<?php

declare(strict_types=1);

namespace Tests\Core;

use MerryOrbit\Core\Analysis\Analyser;
use MerryOrbit\Core\Compile\ProgramStore;
use MerryOrbit\Core\Experiment\Trial;
use MerryOrbit\Core\Model\Method;
use MerryOrbit\Core\Model\Model;
use MerryOrbit\Core\Model\Setting;
use MerryOrbit\Core\Model\TimeSettings;
use MerryOrbit\Core\Problem\NotUnderstood;
use MerryOrbit\Core\Reduce\ColumnsAt;
use MerryOrbit\Core\Reduce\Distance;
use MerryOrbit\Core\Reduce\ManyRuns;
use MerryOrbit\Core\Reduce\Outcome;
use MerryOrbit\Core\Reduce\Outcomes;
use MerryOrbit\Core\Reduce\Reducer;
use MerryOrbit\Core\Simulate\Simulator;
use PHPUnit\Framework\Attributes\DataProvider;
use PHPUnit\Framework\TestCase;

/** Many runs of one model, of which only some numbers are wanted. */
final class ReduceTest extends TestCase
{
    private static function simulator(): Simulator
    {
        return new Simulator(new ProgramStore(sys_get_temp_dir().'/merry-orbit-tests-'.getmyuid()));
    }

    private static function tank(Method $method = Method::RungeKutta4): Model
    {
        return Build::model(
            ['share' => '0.1', 'start value' => '8'],
            ['tank' => 'start value'],
            ['leak' => ['tank * share', 'from' => 'tank']],
            ['tide' => 'sin(time)', 'level' => 'tank / 2'],
            new TimeSettings(0, 20, 0.125, 'day', $method, 5),
        );
    }

    /** @return list<float>|null */
    private static function outcomes(Model $model, string ...$written): ?array
    {
        $outcomes = array_map(
            static fn (string $text): Outcome => Outcome::read($text, Analyser::analyse($model)),
            array_values($written),
        );
        self::assertNotSame([], $outcomes);

        return ManyRuns::of(self::simulator(), $model, new Setting(), new Outcomes($outcomes), 1)->one([]);
    }

    /** What leaks at a rate of k from c is c e^(−k t), its integral c (1 − e^(−k t)). */
    public function test_outcomes_are_those_of_the_closed_form(): void
    {
        foreach ([Method::RungeKutta4, Method::DormandPrince, Method::Rosenbrock] as $method) {
            $values = self::outcomes(
                self::tank($method),
                'tank',
                'tank@7.3',
                'leak:total',
                'leak:mean',
                'tank:min',
                'tank:max',
                'tide:peak',
                'tide:max',
                'share:total',
            );
            self::assertNotNull($values);
            $end = 8 * exp(-2.0);
            foreach ([$end, 8 * exp(-0.73), 8 - $end, (8 - $end) / 20, $end, 8.0] as $i => $right) {
                self::assertEqualsWithDelta($right, $values[$i], $i === 1 ? 2e-4 : 2e-6, "$method->value, outcome $i");
            }
            // The step next to the first quarter of the third turn, the largest of three nearly equal ones.
            $steps = array_map(static fn (int $k): float => 0.125 * $k, range(0, 160));
            $heights = array_map(sin(...), $steps);
            self::assertSame($steps[array_search(max($heights), $heights, true)], $values[6]);
            self::assertEqualsWithDelta(max($heights), $values[7], 1e-12);
            self::assertEqualsWithDelta(2.0, $values[8], 1e-9);
        }
    }

    public function test_an_outcome_has_the_unit_of_what_it_is(): void
    {
        $model = Build::model([], ['heap' => '5'], ['in' => ['2', 'to' => 'heap']], [], new TimeSettings(0, 10, 1, 'year'));
        foreach (['heap' => 't', 'in' => 't/year'] as $id => $unit) {
            $model = $model->with(['elements' => [...$model->elements, $id => $model->elements[$id]->with(['unit' => $unit])]]);
        }
        $analysis = Analyser::analyse($model);
        $unit = static fn (string $text): string => Outcome::read($text, $analysis)->unit($model);
        self::assertSame(['t', 't', 't/year', 'year'], [$unit('heap'), $unit('heap:mean'), $unit('in:max'), $unit('heap:peak')]);
        // What flows in a year, over years, is tonnes.
        self::assertSame('t', $unit('in:total'));
        self::assertSame('t*year', $unit('heap:total'));
    }

    public function test_a_total_is_the_runs_own_not_that_of_what_is_saved(): void
    {
        foreach (Build::FIXED as $method) {
            $model = self::tank($method);
            $whole = Build::run($model);
            // What leaked is what is missing, by any method, to the last digits.
            self::assertEqualsWithDelta(8 - $whole->column('tank')[4], self::outcomes($model, 'leak:total')[0] ?? NAN, 1e-12);
        }
    }

    public function test_a_run_that_ends_early_counts_until_there(): void
    {
        $model = (new \MerryOrbit\Core\Edit\SetEnd('tank < 4'))->apply(self::tank());
        $run = Build::run($model);
        [$total, $mean, $last] = self::outcomes($model, 'leak:total', 'leak:mean', 'tank') ?? [NAN, NAN, NAN];
        $end = $run->times()[$run->length() - 1];
        self::assertLessThan(20.0, $end);
        self::assertEqualsWithDelta($run->column('tank')[$run->length() - 1], $last, 1e-12);
        self::assertEqualsWithDelta($total / $end, $mean, 1e-12);
    }

    public function test_an_outcome_that_means_nothing_is_refused_with_a_sentence(): void
    {
        $model = (new \MerryOrbit\Core\Edit\AddElement('odd', \MerryOrbit\Core\Model\Kind::Auxiliary, 'catch: max', '1'))->apply(
            self::tank(),
        );
        self::assertSame(
            ['odd', 'last'],
            [Outcome::read('catch: max', Analyser::analyse($model))->id, Outcome::read('"catch: max"', Analyser::analyse($model))->kind],
        );
        self::assertSame(
            ['tank', 'max'],
            [Outcome::read(' "tank":max ', Analyser::analyse($model))->id, Outcome::read('TANK:max', Analyser::analyse($model))->kind],
        );
        foreach (['tonk' => 'Did you mean', 'tank:median' => ':peak', 'tank@noon' => 'a time', '' => 'Nothing'] as $text => $words) {
            try {
                Outcome::read((string) $text, Analyser::analyse($model));
                self::fail("“{$text}” was understood.");
            } catch (NotUnderstood $e) {
                self::assertStringContainsString($words, $e->getMessage());
            }
        }
    }

    /** @return iterable<string, array{Reducer}> */
    public static function reducers(): iterable
    {
        $model = self::tank();
        yield 'columns' => [new ColumnsAt(['tank', 'share', 'gone', 'tide'], [0.0, 3.3, 20.0, 21.0])];
        yield 'outcomes' => [
            new Outcomes([
                Outcome::read('level', Analyser::analyse($model)),
                Outcome::read('leak:total', Analyser::analyse($model)),
                Outcome::read('tide:min', Analyser::analyse($model)),
            ]),
        ];
        yield 'a distance' => [new Distance([['id' => 'tank', 'times' => [1.0, 2.05, 30.0], 'values' => [7.0, NAN, 1.0], 'sd' => 0.5]])];
    }

    /** The second way is a whole run for each set of values, with nothing prepared and everything saved. */
    #[DataProvider('reducers')]
    public function test_prepared_runs_come_to_what_whole_runs_do(Reducer $reducer): void
    {
        mt_srand(4);
        foreach (Method::cases() as $method) {
            $model = self::tank($method);
            $many = ManyRuns::of(self::simulator(), $model, new Setting(['start value' => 3.0]), $reducer, 20);
            for ($i = 0; $i < 6; $i++) {
                $values = ['share' => mt_rand(1, 90) / 100, 'start-value' => (float) mt_rand(1, 9), 'nobody' => 4.0];
                $found = $many->one($values);
                $whole = $reducer->extended($model);
                $run = Trial::of(
                    $whole->with(['time' => $whole->time->with(['saveEvery' => null])]),
                    new Setting(array_intersect_key($values, $whole->elements)),
                )->run(self::simulator());
                self::assertSame(
                    json_encode(
                        array_map(static fn (float $v): string => bin2hex(pack('E', is_nan($v) ? NAN : $v)), $reducer->reduce($run)),
                    ),
                    json_encode(array_map(static fn (float $v): string => bin2hex(pack('E', is_nan($v) ? NAN : $v)), $found ?? [])),
                    "$method->value $i",
                );
                self::assertCount(count($reducer->names()), $found ?? []);
            }
        }
    }

    public function test_a_distance_is_a_weighted_sum_of_squares(): void
    {
        $model = Build::model([], [], [], ['line' => '2 * time'], new TimeSettings(0, 10, 1, 'day'));
        $distance = new Distance([
            ['id' => 'line', 'times' => [1.5, 4.0, 11.0], 'values' => [4.0, 7.0, 0.0], 'sd' => 0.5],
            ['id' => 'gone', 'times' => [], 'values' => [], 'sd' => 1.0],
        ]);
        $found = ManyRuns::of(self::simulator(), $model, new Setting(), $distance, 1)->one([]) ?? [];
        self::assertSame(4.0 + 4.0, $found[0]);
        self::assertNan($found[1]);
    }

    public function test_any_split_over_processes_gives_the_same_bits_also_with_chance_and_faults(): void
    {
        $model = Build::model(
            ['p' => '2'],
            ['s' => '10'],
            ['f' => ['s * p / 10 + gaussian(0, 0.2)', 'to' => 's']],
            ['root' => 'sqrt(s - 5)'],
            new TimeSettings(0, 10, 0.5, 'day', Method::Euler),
        );
        $many = ManyRuns::of(
            self::simulator(),
            $model,
            new Setting(),
            new Outcomes([Outcome::read('s', Analyser::analyse($model)), Outcome::read('root:min', Analyser::analyse($model))]),
            41,
        );
        $inputs = static fn (int $i): array => [['p' => (($i % 7) - 4) / 2.0], $i];
        $one = $many->all(41, $inputs);
        self::assertCount(41, $one);
        self::assertGreaterThan(3, count(array_filter($one, is_null(...))), 'some of them meet the root of a negative number');
        self::assertGreaterThan(10, count(array_unique(array_column(array_filter($one), 0))));
        foreach ([2, 3, 8] as $jobs) {
            self::assertSame($one, $many->all(41, $inputs, $jobs), "$jobs processes");
        }
        self::assertSame([], $many->all(0, $inputs, 2));
    }

    /** A fault in what nobody asked for is a fault of the run all the same. */
    public function test_all_of_the_model_is_computed_whatever_is_wanted(): void
    {
        $model = Build::model(
            [],
            ['s' => '1'],
            ['f' => ['1', 'to' => 's']],
            ['aside' => '1 / (5 - time)'],
            new TimeSettings(0, 10, 1, 'day', Method::Euler),
        );
        $many = ManyRuns::of(self::simulator(), $model, new Setting(), new ColumnsAt(['s'], [4.0]), 1);
        self::assertNull($many->one([]));
        self::assertNotNull(Build::run($model)->fault);
    }

    /** Every form the compiler has: stages written out, in a loop, with shared variables; with and without an end condition. */
    public function test_some_columns_are_those_of_the_whole_run_in_every_form(): void
    {
        foreach ([20, 150, 450] as $count) {
            $names = array_map(static fn (int $i): string => "a$i", range(1, $count));
            $formulas = array_map(
                static fn (int $i): string => $i === 1 ? 's * 0.1' : 'a'.($i - 1)." * 0.99 + time / $i",
                range(1, $count),
            );
            $model = Build::model(
                [],
                ['s' => '5', 'other' => '2'],
                ['f' => ["a$count * 0.01", 'from' => 's', 'to' => 'other']],
                array_combine($names, $formulas),
                new TimeSettings(0, 6, 0.25, 'day'),
            );
            foreach (
                [
                    $model,
                    (new \MerryOrbit\Core\Edit\SetStock('s', true, ''))->apply($model),
                    (new \MerryOrbit\Core\Edit\SetEnd('time > 4.1'))->apply($model),
                ] as $form
            ) {
                $analysis = \MerryOrbit\Core\Analysis\Analyser::analyse($form);
                $whole = self::simulator()->run($analysis);
                foreach ([['s', "a$count", 'f'], ['a3'], []] as $only) {
                    $some = self::simulator()->prepare($analysis, only: $only)->run();
                    self::assertSame($whole->times(), $some->times());
                    self::assertEqualsCanonicalizing($only, $some->columns());
                    foreach ($only as $id) {
                        self::assertSame($whole->column($id), $some->column($id), "$id of $count");
                    }
                }
            }
        }
    }
}
