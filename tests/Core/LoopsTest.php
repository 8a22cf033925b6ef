<?php

declare(strict_types=1);

namespace Tests\Core;

use MerryOrbit\Core\Analysis\Analyser;
use MerryOrbit\Core\Analysis\Analysis;
use MerryOrbit\Core\Compile\Loops\LoopCompiler;
use MerryOrbit\Core\Model\Method;
use MerryOrbit\Core\Model\Model;
use MerryOrbit\Core\Problem\NotUnderstood;
use MerryOrbit\Core\Simulate\RunOptions;
use MerryOrbit\Core\Simulate\RunRefused;
use MerryOrbit\Core\Simulate\Trajectory;
use PHPUnit\Framework\Attributes\DataProvider;
use PHPUnit\Framework\TestCase;

/** Large models run in loops over their elements. They are compared, to the bit, with the same models written out element by element. */
final class LoopsTest extends TestCase
{
    use ShapedModels;

    private static function looped(Model $model): Analysis
    {
        $analysis = Analyser::made($model, [], 1);
        self::assertNotNull($analysis->shaped, 'it is run in loops');

        return $analysis;
    }

    /** Every fixed method, with limits, delays, memory, exceptions, picks and gatherings. */
    public function test_random_models_give_the_same_as_written_out(): void
    {
        mt_srand(41);
        $faults = 0;
        for ($i = 0; $i < 150; $i++) {
            $random = new RandomShape();
            $time = ['end' => 3, 'step' => 0.25, 'method' => Build::FIXED[$i % 3]->value];
            $model = self::model($random->dimensions, $random->shaped, ['tables' => $random->tables, 'time' => $time]);
            $analysis = self::looped($model);
            $run = Build::simulator()->run($analysis, new RunOptions());
            self::same(Build::run($model), $run, $analysis, "model $i ".json_encode($random->shaped));
            $faults += $run->fault === null ? 0 : 1;
        }
        self::assertGreaterThan(1, $faults, 'some of them meet numbers that cannot be computed');
    }

    /** @return iterable<string, array{string}> */
    public static function formulas(): iterable
    {
        $all = [
            ...['share(p * p, bay)', 'rank(level, bay)', 'rank(crowd, age) * p', 'cumulate(crowd, age)', 'cumulate(level, bay)'],
            ...['allocate(tank, level, position(bay), bay)', 'allocate(k, crowd, q, age)', 'sum(rank(level, bay) * p, bay)'],
            ...['count(bay) * level', 'position(age) + crowd', 'number(age) * p', 'is(bay, c) + p', 'sum(crowd)', 'sum(p * p)'],
            ...['sum(crowd, home)', 'mean(level, home)', 'sd(crowd, age)', 'sd(crowd)', 'sd(level, home)', 'least(crowd, bay)'],
            ...[
                'greatest(level)',
                'any(level > 20, bay)',
                'all(crowd > 1, age)',
                'any(p)',
                'product(q, age)',
                'mean(share(level, bay) * cumulate(p, bay))',
            ],
            ...[
                'w[home; else 5]',
                'w[home; else p]',
                'level[lee: next; else 9]',
                'level[bay: d]',
                'crowd[bay: b, age: 2]',
                'crowd[bay: last]',
            ],
            ...['crowd[age: next; else p * 2]', 'crowd[bay: previous, age: previous; else 0]', 'crowd[age: previous 2; else sum(p)]'],
            ...['trips[origin: bay]', 'sum(level * trips[origin: bay, bay: a])', 'sum(trips * level[bay: origin], origin)'],
            ...['if(p > 2, sum(1 / (crowd + 1), age), 3)', 'if(p > 0, mean(level / p, bay), 0)', 'divide(level, p - 2, sum(crowd, age))'],
            ...['p > 0 and sum(level / (p + 5)) > 3', 'p > 9 or all(level / (p + 5) < 3)', 'choose(position(age), level, p, 3, k)'],
            ...[
                'level / sum(level, bay)',
                'crowd / sum(crowd, age) + level / mean(level)',
                'smooth(sum(crowd, age), 2)',
                'delay(crowd, 2, 3)',
            ],
            ...[
                'previous(level, p)',
                'highest(crowd)',
                'lowest(level)',
                'sum(highest(crowd), age)',
                'hold(level, 1)',
                'latch(level > 25, level < 22)',
            ],
            ...[
                'times(level > 22)',
                'initial(crowd)',
                'total(level)',
                'trend(crowd, 2)',
                'forecast(level, 2, 1)',
                'shift(level, 1)',
                'shift(tank, 0.5) * p',
            ],
            ...[
                'gaussian(level, 2)',
                'random(0, p + 3)',
                'lognormal(level, 2)',
                'drift(p, 1, 2)',
                'poisson(level)',
                'pulse(p, 1)',
                'step(level, 2)',
            ],
            ...[
                'ramp(0.5, 1, 3) * p',
                'window(p, 1, 2)',
                'max(level, 20) - min(crowd, 5)',
                'bend(level)',
                'bend(p) * crowd',
                'mod(level, p + 3.5)',
            ],
        ];
        foreach ($all as $formula) {
            yield $formula => [$formula];
        }
    }

    /** With tables, a mapping with weights, a part, the same elements twice, limits, and with the dimension limited. */
    #[DataProvider('formulas')]
    public function test_a_formula_gives_the_same_as_written_out(string $formula): void
    {
        foreach (Build::FIXED as $method) {
            foreach ([null, ['a', 'c', 'd']] as $limit) {
                $model = self::coast($formula, $method, $limit);
                $written = Analyser::made($model, [], PHP_INT_MAX);
                $plain = Build::simulator()->run($written, new RunOptions());
                if ($limit === null) {
                    self::assertSame([], $written->blockers());
                    self::assertNull($plain->fault);
                } elseif ($written->blockers() !== []) {
                    // It picks an element that is away.
                    self::assertEquals($written->blockers(), Analyser::made($model, [], 1)->blockers());

                    continue;
                }
                $analysis = self::looped($model);
                self::same($plain, Build::simulator()->run($analysis, new RunOptions()), $analysis, "$formula, $method->value");
            }
        }
    }

    /** @param  list<string>|null  $limit */
    private static function coast(string $formula, Method $method, ?array $limit): Model
    {
        $bay = ['name' => 'bay', 'elements' => ['a', 'b', 'c', 'd', 'e'], ...$limit === null ? [] : ['limitedTo' => $limit]];
        $part = ['name' => 'lee', 'elements' => ['b', 'd'], 'partOf' => 'bay'];
        $others = [
            ['name' => 'age', 'from' => 0, 'to' => 3],
            ['name' => 'origin', 'sameAs' => 'bay'],
            ['name' => 'coast', 'elements' => ['x', 'y', 'z']],
        ];

        return self::model(
            [$bay, $part, ...$others],
            [
                self::line('parameter', 'p', '2', 'bay'),
                self::line('parameter', 'q', '1.5', 'bay', 'age'),
                self::line('parameter', 'w', '1', 'coast'),
                self::line('parameter', 'trips', '0.25', 'origin', 'bay'),
                self::line('parameter', 'k', '3'),
                [...self::line('stock', 'level', 'p + 20', 'bay'), 'neverNegative' => true],
                self::line('stock', 'crowd', 'q * 4', 'bay', 'age'),
                self::line('stock', 'tank', '10'),
                ['kind' => 'curve', 'name' => 'bend', 'points' => [[0, 1], [20, 5], [24, 2]]],
                ['kind' => 'flow', 'name' => 'out', 'formula' => 'level * 0.9 + p * wave(3, 2)', 'from' => 'level'],
                ['kind' => 'flow', 'name' => 'into', 'formula' => 'sum(trips * level[bay: origin], origin) / 30', 'to' => 'level'],
                ['kind' => 'flow', 'name' => 'up', 'formula' => 'crowd * 0.3', 'from' => 'crowd'],
                ['kind' => 'flow', 'name' => 'on', 'formula' => 'up[age: previous; else k]', 'to' => 'crowd'],
                ['kind' => 'flow', 'name' => 'all up', 'formula' => 'up * 0.1', 'to' => 'tank'],
                ['kind' => 'auxiliary', 'name' => 'v', 'formula' => $formula],
            ],
            [
                'tables' => [
                    ['id' => 't1', 'of' => 'p', 'values' => [[['a'], 3.5], [['c'], 1.25], [['d'], -2]]],
                    ['id' => 't2', 'of' => 'q', 'values' => [[['a', '1'], 2], [['e', '3'], 0.5]]],
                    ['id' => 't3', 'of' => 'w', 'values' => [[['x'], 5], [['z'], 7.5]]],
                    ['id' => 't4', 'of' => 'trips', 'values' => [[['a', 'b'], 2], [['c', 'b'], 3], [['e', 'a'], 1.5]]],
                ],
                'mappings' => [
                    [
                        'id' => 'home',
                        'name' => 'home',
                        'from' => 'bay',
                        'to' => 'coast',
                        'pairs' => [['a', 'x'], ['b', 'x', 0.5], ['b', 'y', 0.25], ['c', 'z'], ['d', 'z', 2.0]],
                    ],
                ],
                'time' => ['end' => 4, 'step' => 0.25, 'method' => $method->value],
            ],
        );
    }

    private static function same(Trajectory $written, Trajectory $looped, Analysis $analysis, string $which): void
    {
        self::assertSame($written->fault?->element, $looped->fault?->element, $which);
        self::assertSame($written->fault?->time, $looped->fault?->time, $which);
        self::assertSame($written->fault?->reason, $looped->fault?->reason, $which);
        self::assertEqualsCanonicalizing(
            array_unique(array_column($written->notices, 'code')),
            array_unique(array_column($looped->notices, 'code')),
            $which,
        );
        foreach ($written->fault === null ? $analysis->columns() : [] as $key => $name) {
            self::assertSame($written->has($key), $looped->has($key), "$name $which");
            if ($written->has($key)) {
                self::assertSame($written->column($key), $looped->column($key), "$name $which");
            }
        }
    }

    /** @return iterable<string, array{string}> */
    public static function ends(): iterable
    {
        yield 'a single number' => ['tank > 30'];
        yield 'a sum' => ['sum(level) < 60'];
        yield 'any' => ['any(level < 8)'];
        yield 'one element' => ['level[bay: b] < 8'];
    }

    #[DataProvider('ends')]
    public function test_a_run_ends_where_its_condition_holds(string $condition): void
    {
        $model = self::emptying($condition);
        $analysis = self::looped($model);
        $run = Build::simulator()->run($analysis, new RunOptions());
        self::assertTrue($run->ended);
        self::assertLessThan(25, $run->length());
        self::same(Build::run($model), $run, $analysis, $condition);
    }

    public function test_an_end_for_single_elements_is_no_end(): void
    {
        self::assertContains('extent.end', self::codes(self::emptying('level < 8')));
        self::assertFalse(Build::run(self::emptying('level < 8'))->ended);
    }

    private static function emptying(string $condition): Model
    {
        return self::model(
            [['name' => 'bay', 'elements' => ['a', 'b', 'c']]],
            [
                self::line('stock', 'level', 'position(bay) * 20', 'bay'),
                self::line('stock', 'tank', '10'),
                ['kind' => 'flow', 'name' => 'out', 'formula' => 'level * 0.5', 'from' => 'level'],
                ['kind' => 'flow', 'name' => 'in', 'formula' => 'sum(out)', 'to' => 'tank'],
            ],
            ['endWhen' => $condition, 'time' => ['end' => 6, 'step' => 0.25]],
        );
    }

    /** What goes wrong in one of five thousand elements is told of that one, in the words of a model of few. */
    public function test_a_fault_is_told_of_the_element_that_met_it(): void
    {
        $boats = ['name' => 'boat', 'from' => 1, 'to' => 5_000];
        $model = static fn (string $formula, string $rate = '0.1'): Model => self::model(
            [$boats],
            [
                self::line('stock', 'rust', 'number(boat)', 'boat'),
                ['kind' => 'flow', 'name' => 'rusting', 'formula' => $rate, 'to' => 'rust'],
                self::line('auxiliary', 'value', $formula),
            ],
        );
        $sentence = static fn (Model $m): string => (string) Build::run($m)->fault?->sentence();
        self::assertSame(
            'The run stopped at year 0.5: `value[4321]` meets a division by zero, with rust[4321] = 4321.25.',
            $sentence($model('1 / (rust - 4321.25)', '0.5')),
        );
        self::assertSame(
            'The run stopped at year 0: `value[17]` meets the square root of a negative number, with rust[17] = 17.',
            $sentence($model('sqrt((rust - 17.5) * (rust - 16.5))')),
        );
        self::assertStringStartsWith(
            'The run stopped at year 0.5: `value` meets a division by zero',
            $sentence($model('3 + sum(1 / (rust - 4321.5), boat)', '1')),
        );
        self::assertStringContainsString(
            '`rust[2]` meets a level larger than the largest number',
            $sentence($model('1', 'if(is(boat, 2), 1.7e308, 0)')),
        );
        $start = self::model([$boats], [self::line('stock', 'rust', '1 / (number(boat) - 9)', 'boat')]);
        self::assertSame('The run stopped at year 0: `rust[9]` meets a division by zero in its initial value.', $sentence($start));
    }

    /** Of many values only some are kept, others when they are asked for; what is kept is the same. */
    public function test_of_very_many_values_those_are_kept_that_somebody_looks_at(): void
    {
        $model = self::model(
            [['name' => 'boat', 'from' => 1, 'to' => 20_000]],
            [
                self::line('stock', 'rust', 'number(boat)', 'boat'),
                ['kind' => 'flow', 'name' => 'rusting', 'formula' => 'rust * 0.1', 'to' => 'rust'],
                self::line('auxiliary', 'all', 'sum(rust)'),
            ],
            ['time' => ['end' => 200, 'step' => 1, 'method' => 'rk4']],
        );
        $analysis = Analyser::analyse($model);
        self::assertNotNull($analysis->shaped);
        $rust = (string) $model->idOf('rust');
        $few = Build::simulator()->run($analysis);
        self::assertTrue($few->has("{$rust}[12]"));
        self::assertFalse($few->has("{$rust}[13]"));
        $one = Build::simulator()->run($analysis, new RunOptions(), ["{$rust}[17000]"]);
        $growth = 1 + 0.1 + 0.005 + 0.1 ** 3 / 6 + 0.1 ** 4 / 24;
        self::assertEqualsWithDelta(1.0, $one->column("{$rust}[17000]")[200] / (17_000 * $growth ** 200), 1e-12);
        $whole = Build::simulator()->run($analysis, new RunOptions(), [$rust]);
        self::assertSame($one->column("{$rust}[17000]"), $whole->column("{$rust}[17000]"));
        self::assertSame($few->column((string) $model->idOf('all')), $whole->column((string) $model->idOf('all')));
        self::assertCount(20_000, array_filter($whole->columns(), static fn (string $k): bool => str_starts_with($k, $rust)));
    }

    /** An ageing chain of a thousand ages: a pulse comes out as a binomial distribution. */
    public function test_a_pulse_moves_through_a_long_chain(): void
    {
        $model = self::model(
            [['name' => 'age', 'from' => 0, 'to' => 999]],
            [
                self::line('stock', 'crowd', 'if(is(age, 0), 1, 0)', 'age'),
                ['kind' => 'flow', 'name' => 'ageing', 'formula' => 'crowd / 2', 'from' => 'crowd'],
                ['kind' => 'flow', 'name' => 'arriving', 'formula' => 'ageing[age: previous; else 0]', 'to' => 'crowd'],
            ],
            ['time' => ['end' => 40, 'step' => 1]],
        );
        $run = Build::run($model);
        $crowd = (string) $model->idOf('crowd');
        $chance = 0.5 ** 40;
        for ($k = 0; $k <= 40; $k++) {
            self::assertEqualsWithDelta($chance, $run->value("{$crowd}[$k]", 40), 1e-15);
            $chance *= (40 - $k) / ($k + 1);
        }
        self::assertSame(0.0, $run->value("{$crowd}[41]", 40));
    }

    /** Source and its compilation grow with the equations, not with the elements. */
    public function test_the_source_is_as_long_for_many_elements_as_for_few(): void
    {
        $length = static fn (int $boats): int => strlen(
            LoopCompiler::compile(
                self::looped(
                    self::model(
                        [['name' => 'boat', 'from' => 1, 'to' => $boats]],
                        [
                            self::line('stock', 'rust', 'number(boat)', 'boat'),
                            [
                                'kind' => 'flow',
                                'name' => 'rusting',
                                'formula' => 'rust / sum(rust) + rust[boat: previous; else 1]',
                                'to' => 'rust',
                            ],
                            self::line('auxiliary', 'place', 'rank(rust, boat)'),
                        ],
                    ),
                )->shaped ?? throw new \LogicException(),
                Method::RungeKutta4,
            )->source,
        );
        self::assertLessThan(1.02, $length(9_000) / $length(1_000));
    }

    /** Scenarios and dials set all elements of a parameter, or single ones. */
    public function test_what_is_set_for_a_parameter_counts_for_its_elements(): void
    {
        $model = self::coast('p * 2', Method::Euler, null);
        [$p, $v] = [(string) $model->idOf('p'), (string) $model->idOf('v')];
        $analysis = self::looped($model);
        $run = Build::simulator()->run($analysis, new RunOptions([$p => 7.0, "{$p}[c]" => 8.0]));
        self::assertSame([14.0, 16.0, 14.0], array_map(static fn (string $e): float => $run->column("{$v}[$e]")[0], ['b', 'c', 'd']));
        $again = Build::simulator()
            ->prepare($analysis, new RunOptions())
            ->run(["{$p}[a]" => 1.0]);
        self::assertSame([2.0, 4.0], [$again->value("{$v}[a]", 0), $again->value("{$v}[b]", 0)]);
    }

    /** Some things need their elements one by one; of a model that is too large for that it is said. */
    public function test_what_cannot_be_run_in_loops_is_written_out_or_refused(): void
    {
        $carts = static fn (int $count): Model => self::model(
            [['name' => 'cart', 'from' => 1, 'to' => $count]],
            [
                [...self::line('stock', 'under way', '5', 'cart'), 'travel' => '2'],
                ['kind' => 'flow', 'name' => 'sent', 'formula' => 'number(cart)', 'to' => 'under way'],
                ['kind' => 'flow', 'name' => 'arrived', 'from' => 'under way'],
            ],
        );
        self::assertNull(Analyser::made($carts(3), [], 1)->shaped);
        self::assertSame([], Analyser::made($carts(3), [], 1)->blockers());
        $sentences = implode(' ', array_map(static fn ($p): string => $p->sentence, Analyser::analyse($carts(19_000))->problems));
        self::assertStringContainsString('more than 40,000 values, more than can be computed where there is a transit stock', $sentences);
        $boats = self::model(
            [['name' => 'boat', 'from' => 1, 'to' => 15_000], ['name' => 'side', 'elements' => ['a', 'b', 'c']]],
            [self::line('stock', 'rust', 'number(boat)', 'boat', 'side')],
            ['time' => ['method' => 'dopri5']],
        );
        try {
            Build::simulator()->run(Analyser::analyse($boats));
            self::fail('It is too much.');
        } catch (RunRefused $e) {
            self::assertStringContainsString('computes every element by itself, at most 40,000 values', $e->getMessage());
        }
        $this->expectException(NotUnderstood::class);
        Analyser::analyse($boats)->plan();
    }
}
