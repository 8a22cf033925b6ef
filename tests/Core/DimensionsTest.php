<?php

declare(strict_types=1);

namespace Tests\Core;

use MerryOrbit\Core\Analysis\Analyser;
use MerryOrbit\Core\Edit\EditReader;
use MerryOrbit\Core\Edit\EditRefused;
use MerryOrbit\Core\Exchange\FileRefused;
use MerryOrbit\Core\Exchange\NativeFile;
use MerryOrbit\Core\Model\Model;
use PHPUnit\Framework\Attributes\DataProvider;
use PHPUnit\Framework\TestCase;

/** Values that extend over dimensions, against closed forms and against models written out by hand. */
final class DimensionsTest extends TestCase
{
    private const TERRACES = ['name' => 'terrace', 'elements' => ['north', 'middle', 'south']];

    private const AGES = ['name' => 'age', 'from' => 0, 'to' => 3];

    /**
     * @param  list<array<string, mixed>>  $dimensions
     * @param  list<array<string, mixed>>  $elements
     * @param  array<string, mixed>  $more
     */
    private static function model(array $dimensions, array $elements, array $more = []): Model
    {
        $time = ['start' => 0, 'end' => 4, 'step' => 0.5, 'unit' => 'year', 'method' => 'euler', ...(array) ($more['time'] ?? [])];
        unset($more['time']);
        $head = ['format' => NativeFile::FORMAT, 'version' => NativeFile::VERSION];
        $file = [...$head, 'dimensions' => $dimensions, 'elements' => $elements, 'time' => $time, ...$more];

        return NativeFile::import(json_encode($file, JSON_THROW_ON_ERROR | JSON_PRESERVE_ZERO_FRACTION))->model;
    }

    /** @return array<string, mixed> */
    private static function line(string $kind, string $name, string $formula, string ...$over): array
    {
        return ['kind' => $kind, 'name' => $name, 'formula' => $formula, ...$over === [] ? [] : ['dimensions' => array_values($over)]];
    }

    /** @return array<string, list<float>> columns by name */
    private static function columns(Model $model): array
    {
        $analysis = Analyser::analyse($model);
        self::assertSame([], array_map(static fn ($p): string => $p->sentence, $analysis->blockers()));
        $run = Build::simulator()->run($analysis, new \MerryOrbit\Core\Simulate\RunOptions());
        self::assertNull($run->fault);
        $columns = [];
        foreach ($analysis->columns() as $key => $name) {
            if ($run->has($key)) {
                $columns[$name] = $run->column($key);
            }
        }

        return $columns;
    }

    /** @return array<string, float> the values at the start, by name */
    private static function start(Model $model): array
    {
        return array_map(static fn (array $c): float => $c[0], self::columns($model));
    }

    /** @return list<string> codes */
    private static function codes(Model $model): array
    {
        return Build::codes($model);
    }

    public function test_a_formula_written_for_single_numbers_takes_the_union_of_its_inputs(): void
    {
        $elements = [
            self::line('parameter', 'volume', '100'),
            self::line('parameter', 'sea temperature', '10'),
            self::line('auxiliary', 'need', 'volume * (30 - sea temperature)'),
            self::line('auxiliary', 'wood', 'need / 50'),
        ];
        $plain = self::model([], $elements);
        self::assertSame(2000.0, self::start($plain)['need']);
        $elements[0]['dimensions'] = ['pool'];
        $pools = ['name' => 'pool', 'elements' => ['children', 'swimmers', 'hot']];
        $table = ['id' => 't', 'of' => 'volume', 'values' => [[['children'], 40], [['hot'], 12.5]]];
        $late = self::model([$pools], $elements, ['tables' => [$table]]);
        $start = self::start($late);
        self::assertSame([800.0, 2000.0, 250.0], [$start['need[children]'], $start['need[swimmers]'], $start['need[hot]']]);
        self::assertSame([16.0, 40.0, 5.0], [$start['wood[children]'], $start['wood[swimmers]'], $start['wood[hot]']]);
        $elements[1]['dimensions'] = ['month'];
        $both = self::start(
            self::model([$pools, ['name' => 'month', 'from' => 1, 'to' => 12]], $elements, [
                'tables' => [$table, ['id' => 'm', 'of' => 'sea temperature', 'values' => [[['12'], 4]]]],
            ]),
        );
        self::assertCount(3 + 12 + 36 + 36, $both);
        self::assertSame([40 * 26.0, 40 * 20.0], [$both['need[children, 12]'], $both['need[children, 11]']]);
    }

    /** What stands in an ageing chain is what a pulse through so many stages leaves: the terms of an Erlang distribution. */
    public function test_an_ageing_chain_is_the_closed_form_of_a_pulse_through_stages(): void
    {
        $model = self::model(
            [['name' => 'age', 'from' => 0, 'to' => 5]],
            [
                self::line('stock', 'oysters', '1000 * is(age, 0)', 'age'),
                ['kind' => 'flow', 'name' => 'entering', 'formula' => 'ageing[age: previous; else 0]', 'to' => 'oysters'],
                ['kind' => 'flow', 'name' => 'ageing', 'formula' => 'oysters / 2', 'from' => 'oysters'],
            ],
            ['time' => ['end' => 10, 'step' => 0.01, 'method' => 'rk4']],
        );
        $columns = self::columns($model);
        $factorial = 1.0;
        foreach (range(0, 5) as $n) {
            $factorial *= max(1, $n);
            $values = $columns["oysters[$n]"];
            foreach ([100, 500, 1000] as $i) {
                $t = $i * 0.01 / 2.0;
                self::assertEqualsWithDelta(1000.0 * $t ** $n / $factorial * exp(-$t), $values[$i], 1e-6, "age $n");
            }
        }
    }

    public function test_sums_through_a_mapping_are_matrix_products(): void
    {
        $model = self::model(
            [self::TERRACES, ['name' => 'bay', 'elements' => ['east', 'west']]],
            [
                self::line('parameter', 'harvest', '1', 'terrace'),
                self::line('parameter', 'price', '1', 'bay'),
                self::line('auxiliary', 'landed', 'sum(harvest, home bay)'),
                self::line('auxiliary', 'typical', 'mean(harvest, home bay)'),
                self::line('auxiliary', 'most', 'greatest(harvest, home bay)'),
                self::line('auxiliary', 'worth', 'harvest * price[home bay]'),
            ],
            [
                'mappings' => [
                    ['id' => 'home', 'name' => 'home bay', 'from' => 'terrace', 'to' => 'bay',
                        'pairs' => [['north', 'east', 0.25], ['north', 'west', 0.75], ['middle', 'east'], ['south', 'west', 2]]],
                ],
                'tables' => [
                    ['id' => 'h', 'of' => 'harvest', 'values' => [[['north'], 8], [['middle'], 3], [['south'], 5]]],
                    ['id' => 'p', 'of' => 'price', 'values' => [[['east'], 2], [['west'], 6]]],
                ],
            ],
        );
        $start = self::start($model);
        $weights = ['east' => [0.25, 1.0, 0.0], 'west' => [0.75, 0.0, 2.0]];
        $harvest = [8.0, 3.0, 5.0];
        foreach ($weights as $bay => $row) {
            $sum = array_sum(array_map(static fn (float $w, float $x): float => $w * $x, $row, $harvest));
            self::assertSame($sum, $start["landed[$bay]"]);
            self::assertSame($sum / array_sum($row), $start["typical[$bay]"]);
        }
        self::assertSame([8.0, 8.0], [$start['most[east]'], $start['most[west]']]);
        // Where a terrace belongs to two bays it has the mean of their prices by weight.
        self::assertSame([8.0 * 5.0, 3.0 * 2.0, 5.0 * 6.0], [$start['worth[north]'], $start['worth[middle]'], $start['worth[south]']]);
    }

    /** The growth of a population by ages comes to the dominant eigenvalue of its Leslie matrix. */
    public function test_a_leslie_matrix_reaches_its_dominant_eigenvalue(): void
    {
        [$births, $survival] = [[0.0, 1.2, 1.1], [0.7, 0.5]];
        $model = self::model(
            [['name' => 'age', 'from' => 0, 'to' => 2]],
            [
                self::line('parameter', 'fertility', '0', 'age'),
                self::line('parameter', 'survival', '0', 'age'),
                self::line('stock', 'fish', '10', 'age'),
                ['kind' => 'flow', 'name' => 'next', 'to' => 'fish',
                    'formula' => 'if(is(age, 0) = 1, sum(fertility * fish, age), (survival * fish)[age: previous; else 0]) / time step'],
                ['kind' => 'flow', 'name' => 'gone', 'from' => 'fish', 'formula' => 'fish / time step'],
            ],
            [
                'tables' => [
                    ['id' => 'f', 'of' => 'fertility', 'values' => [[['1'], 1.2], [['2'], 1.1]]],
                    ['id' => 's', 'of' => 'survival', 'values' => [[['0'], 0.7], [['1'], 0.5]]],
                ],
                'time' => ['end' => 80, 'step' => 1],
            ],
        );
        self::assertContains('formula.character', self::codes($model), 'only a name can be picked from');
        $elements = array_map(static fn (array $e): array => $e, [
            self::line('parameter', 'fertility', '0', 'age'),
            self::line('parameter', 'survival', '0', 'age'),
            self::line('stock', 'fish', '10', 'age'),
            self::line('auxiliary', 'survivors', 'survival * fish'),
            ['kind' => 'flow', 'name' => 'coming', 'to' => 'fish',
                'formula' => '(is(age, 0) * sum(fertility * fish, age) + survivors[age: previous; else 0]) / time step'],
            ['kind' => 'flow', 'name' => 'gone', 'from' => 'fish', 'formula' => 'fish / time step'],
            self::line('auxiliary', 'all fish', 'sum(fish)'),
        ]);
        $columns = self::columns(
            self::model([['name' => 'age', 'from' => 0, 'to' => 2]], $elements, [
                'tables' => [
                    ['id' => 'f', 'of' => 'fertility', 'values' => [[['1'], 1.2], [['2'], 1.1]]],
                    ['id' => 's', 'of' => 'survival', 'values' => [[['0'], 0.7], [['1'], 0.5]]],
                ],
                'time' => ['end' => 80, 'step' => 1],
            ]),
        );
        // λ³ = f₁ s₀ λ + f₂ s₀ s₁, by halving.
        [$low, $high] = [0.5, 2.0];
        for ($i = 0; $i < 100; $i++) {
            $mid = ($low + $high) / 2;
            $right = $births[1] * $survival[0] * $mid + $births[2] * $survival[0] * $survival[1];
            [$low, $high] = $mid ** 3 < $right ? [$mid, $high] : [$low, $mid];
        }
        self::assertEqualsWithDelta($low, $columns['all fish'][80] / $columns['all fish'][79], 1e-9);
    }

    public function test_allocate_serves_higher_priorities_first_and_equals_in_proportion(): void
    {
        $ask = [['a', 4.0, 2.0], ['b', 6.0, 1.0], ['c', 3.0, 1.0], ['d', 5.0, 0.0]];
        $model = static fn (float $supply): Model => self::model(
            [['name' => 'boat', 'elements' => array_column($ask, 0)]],
            [
                self::line('parameter', 'wanted', '0', 'boat'),
                self::line('parameter', 'rank of it', '0', 'boat'),
                self::line('auxiliary', 'given', "allocate($supply, wanted, rank of it, boat)"),
            ],
            ['tables' => [
                ['id' => 'w', 'of' => 'wanted', 'values' => array_map(static fn (array $a): array => [[$a[0]], $a[1]], $ask)],
                ['id' => 'r', 'of' => 'rank of it', 'values' => array_map(static fn (array $a): array => [[$a[0]], $a[2]], $ask)],
            ]],
        );
        foreach ([0.0, 3.0, 4.0, 7.0, 13.0, 15.0, 18.0, 30.0] as $supply) {
            $start = self::start($model($supply));
            $left = $supply;
            foreach ([2.0, 1.0, 0.0] as $level) {
                $group = array_values(array_filter($ask, static fn (array $a): bool => $a[2] === $level));
                $all = 0.0;
                foreach ($group as [$_, $demand]) {
                    $all += $demand;
                }
                foreach ($group as [$boat, $demand]) {
                    self::assertEqualsWithDelta($demand * min(1.0, $left / $all), $start["given[$boat]"], 1e-12, "$boat of $supply");
                }
                $left = max(0.0, $left - $all);
            }
        }
    }

    public function test_gatherings_and_places_along_a_dimension(): void
    {
        $start = self::start(
            self::model(
                [self::AGES],
                [
                    self::line('parameter', 'x', '2', 'age'),
                    self::line('auxiliary', 'the sum', 'sum(x)'),
                    self::line('auxiliary', 'the mean', 'mean(x, age)'),
                    self::line('auxiliary', 'spread', 'sd(x)'),
                    self::line('auxiliary', 'times', 'product(x)'),
                    self::line('auxiliary', 'low', 'least(x)'),
                    self::line('auxiliary', 'high', 'greatest(x)'),
                    self::line('auxiliary', 'one', 'any(x > 6)'),
                    self::line('auxiliary', 'each', 'all(x > 2)'),
                    self::line('auxiliary', 'place', 'rank(x, age)'),
                    self::line('auxiliary', 'part', 'share(x, age)'),
                    self::line('auxiliary', 'so far', 'cumulate(x, age)'),
                    self::line('auxiliary', 'number of', 'number(age) * 10 + position(age)'),
                    self::line('auxiliary', 'how many', 'count(age)'),
                    self::line('auxiliary', 'ends', 'x[age: last] - x[age: first] + x[0] + x[age: 3]'),
                    self::line('auxiliary', 'far', 'x[age: next 2; else -1]'),
                ],
                ['tables' => [['id' => 't', 'of' => 'x', 'values' => [[['0'], 7], [['2'], 7], [['3'], 4]]]]],
            ),
        );
        self::assertSame(
            [20.0, 5.0, 392.0, 2.0, 7.0, 1.0, 0.0, 4.0],
            array_map(
                static fn (string $n): float => $start[$n],
                ['the sum', 'the mean', 'times', 'low', 'high', 'one', 'each', 'how many'],
            ),
        );
        self::assertEqualsWithDelta(sqrt((4 + 9 + 4 + 1) / 4), $start['spread'], 1e-15);
        $row = static fn (string $name): array => array_map(static fn (int $a): float => $start["{$name}[$a]"], [0, 1, 2, 3]);
        self::assertSame([1.0, 4.0, 2.0, 3.0], $row('place'));
        self::assertSame([0.35, 0.1, 0.35, 0.2], $row('part'));
        self::assertSame([7.0, 9.0, 16.0, 20.0], $row('so far'));
        self::assertSame([1.0, 12.0, 23.0, 34.0], $row('number of'));
        self::assertSame([7.0, 4.0, -1.0, -1.0], $row('far'));
        self::assertSame(4.0 - 7.0 + 7.0 + 4.0, $start['ends']);
    }

    public function test_a_network_over_two_dimensions_with_the_same_elements(): void
    {
        $bays = ['name' => 'bay', 'elements' => ['a', 'b', 'c']];
        $values = [];
        foreach (['a', 'b', 'c'] as $i => $from) {
            foreach (['a', 'b', 'c'] as $j => $to) {
                $values[] = [[$from, $to], 10 * ($i + 1) + $j + 1];
            }
        }
        $start = self::start(
            self::model(
                [$bays, ['name' => 'origin', 'sameAs' => 'bay'], ['name' => 'destination', 'sameAs' => 'bay']],
                [
                    self::line('parameter', 'trips', '0', 'origin', 'destination'),
                    self::line('auxiliary', 'leaving', 'sum(trips, destination)'),
                    self::line('auxiliary', 'arriving', 'sum(trips, origin)'),
                    self::line('auxiliary', 'staying', 'trips[origin: destination]'),
                    self::line('auxiliary', 'back', 'trips[origin: destination, destination: origin]', 'origin', 'destination'),
                    self::line('auxiliary', 'net', 'arriving[destination: bay] - leaving[origin: bay]'),
                ],
                ['tables' => [['id' => 't', 'of' => 'trips', 'values' => $values]]],
            ),
        );
        self::assertSame([36.0, 66.0, 96.0], [$start['leaving[a]'], $start['leaving[b]'], $start['leaving[c]']]);
        self::assertSame([63.0, 66.0, 69.0], [$start['arriving[a]'], $start['arriving[b]'], $start['arriving[c]']]);
        self::assertSame([11.0, 22.0, 33.0], [$start['staying[a]'], $start['staying[b]'], $start['staying[c]']]);
        // The transpose.
        self::assertSame([21.0, 12.0], [$start['back[a, b]'], $start['back[b, a]']]);
        self::assertSame([27.0, 0.0, -27.0], [$start['net[a]'], $start['net[b]'], $start['net[c]']]);
    }

    public function test_parts_and_wholes(): void
    {
        $start = self::start(
            self::model(
                [self::TERRACES, ['name' => 'outer', 'partOf' => 'terrace', 'elements' => ['north', 'south']],
                    ['name' => 'lower', 'partOf' => 'terrace', 'elements' => ['middle', 'south']]],
                [
                    self::line('parameter', 'area', '1', 'terrace'),
                    self::line('parameter', 'storms', '2', 'outer'),
                    self::line('parameter', 'mud', '3', 'lower'),
                    self::line('auxiliary', 'lost', 'area * storms'),
                    self::line('auxiliary', 'both', 'storms * mud'),
                    self::line('stock', 'oysters', '100', 'terrace'),
                    ['kind' => 'flow', 'name' => 'losing', 'formula' => 'lost', 'from' => 'oysters'],
                    self::line('auxiliary', 'outer area', 'sum(area, outer)'),
                ],
                ['tables' => [['id' => 't', 'of' => 'area', 'values' => [[['north'], 5], [['south'], 7]]]]],
            ),
        );
        self::assertSame([10.0, 14.0], [$start['lost[north]'], $start['lost[south]']]);
        self::assertArrayNotHasKey('lost[middle]', $start);
        self::assertSame(6.0, $start['both[south]']);
        self::assertCount(1, array_filter(array_keys($start), static fn (string $n): bool => str_starts_with($n, 'both')));
        self::assertArrayHasKey('oysters[middle]', $start);
    }

    public function test_a_flow_over_a_part_is_nothing_elsewhere_and_a_wider_one_counts_with_its_sum(): void
    {
        $model = self::model(
            [self::TERRACES, ['name' => 'outer', 'partOf' => 'terrace', 'elements' => ['north', 'south']], self::AGES],
            [
                self::line('parameter', 'storms', '2', 'outer'),
                self::line('parameter', 'seed', '1', 'terrace', 'age'),
                self::line('stock', 'oysters', '100', 'terrace'),
                self::line('stock', 'market', '0'),
                ['kind' => 'flow', 'name' => 'losing', 'formula' => 'storms', 'from' => 'oysters'],
                ['kind' => 'flow', 'name' => 'seeding', 'formula' => 'seed', 'to' => 'oysters'],
                ['kind' => 'flow', 'name' => 'rain', 'formula' => '1', 'to' => 'oysters'],
            ],
        );
        self::assertSame(['flow.wider', 'flow.each'], array_values(array_intersect(self::codes($model), ['flow.wider', 'flow.each'])));
        $columns = self::columns($model);
        // Four ages of seed, one of rain, two of storms where there are some; over four years.
        $ends = array_map(static fn (string $t): float => $columns["oysters[$t]"][8], ['north', 'middle', 'south']);
        self::assertSame([112.0, 120.0, 112.0], $ends);
    }

    public function test_every_element_draws_for_itself_and_none_for_another(): void
    {
        $elements = [
            self::line('parameter', 'size', '1', 'terrace'),
            self::line('auxiliary', 'luck', 'size * random(0, 1)'),
        ];
        $three = self::columns(self::model([self::TERRACES], $elements));
        self::assertNotSame($three['luck[north]'], $three['luck[south]']);
        self::assertGreaterThan(1, count(array_unique($three['luck[north]'])));
        // Others before it, in another order, under another name: it draws the same.
        $four = self::columns(
            self::model(
                [['name' => 'bed', 'id' => 'terrace', 'elements' => [
                    ['id' => 'far', 'name' => 'far'], ['id' => 'south', 'name' => 'the south one'], ['id' => 'north', 'name' => 'north'],
                ]]],
                [self::line('parameter', 'size', '1', 'bed'), $elements[1]],
            ),
        );
        self::assertSame($three['luck[north]'], $four['luck[north]']);
        self::assertSame($three['luck[south]'], $four['luck[the south one]']);
    }

    public function test_a_definition_may_go_in_a_circle_where_its_elements_do_not(): void
    {
        $chain = self::model([self::AGES], [
            self::line('parameter', 'new', '2', 'age'),
            self::line('auxiliary', 'so far', 'so far[age: previous; else 0] + new'),
        ]);
        $start = self::start($chain);
        self::assertSame([2.0, 4.0, 6.0, 8.0], array_map(static fn (int $a): float => $start["so far[$a]"], range(0, 3)));
        $circle = self::model([self::AGES], [
            self::line('parameter', 'new', '2', 'age'),
            self::line('auxiliary', 'so far', 'so far[age: first] + new'),
        ]);
        self::assertContains('circle.now', self::codes($circle));
    }

    /** @return iterable<string, array{string, string, string, string}> formula, code, what is marked, words of the sentence */
    public static function mistakes(): iterable
    {
        yield 'an element that is none' => ['x[terrace: west]', 'element.unknown', 'terrace: west', '`west` is no element of'];
        yield 'an element of no dimension' => ['1 + x[west]', 'element.unknown', 'west', 'which extends over `terrace`'];
        yield 'an element of two dimensions' => ['trips[a]', 'element.shared', 'a', 'an element of both `origin` and `destination`'];
        yield 'a dimension that is none' => ['x[terace: north]', 'dimension.unknown', 'terace: north', 'Did you mean `terrace`?'];
        yield 'a dimension it does not have' => ['2 * x[age: 1]', 'dimension.not', 'age: 1', '`x` does not extend over `age`'];
        yield 'a single number' => ['single[north]', 'element.unknown', 'north', 'which is a single number'];
        yield 'over the edge' => ['y[age: previous]', 'pick.edge', 'y[age: previous]', 'Along `age` nothing is there for the pick of `0`'];
        yield 'twice' => ['x[north, south]', 'pick.twice', 'south', 'picked twice'];
        yield 'others as elements' => ['x[terrace: age]', 'dimension.others', 'terrace: age', 'do not have the same elements'];
        yield 'a gathering over what is not there' => ['sum(x, age)', 'dimension.not', 'age', 'does not extend over `age`'];
        yield 'a gathering over nothing' => ['sum(x, harbour)', 'dimension.unknown', 'harbour', 'no dimension called `harbour`'];
        yield 'a number of what is listed' => ['number(terrace)', 'dimension.listed', 'terrace', 'are no numbers'];
        yield 'is of no element' => ['is(terrace, 3)', 'element.unknown', '3', 'no element of the dimension `terrace`'];
        yield 'parts that share nothing' => ['left + right', 'dimension.apart', 'left + right', 'share no element'];
        yield 'a pick that does not end' => ['x[north', 'formula.bracket', '[', 'is not closed'];
        yield 'a pick of nothing' => ['x[]', 'pick.unreadable', ']', 'A pick names an element'];
        yield 'a pick of a sum' => ['x[north + 1]', 'pick.unreadable', '+', 'A pick names an element'];
        yield 'no else' => ['y[age: next; 0]', 'pick.else', '0', 'Behind `;` stands'];
        yield 'a pick that closes alone' => ['x + north]', 'formula.character', ']', 'never opened'];
        yield 'a pick from a bracket' => ['(x + 1)[north]', 'formula.character', '[', 'right behind its name'];
        yield 'a colon' => ['x : 2', 'formula.character', ':', 'Divide with `/`'];
        yield 'a semicolon' => ['max(1; 2)', 'formula.character', ';', 'Separate the arguments'];
    }

    #[DataProvider('mistakes')]
    public function test_every_mistake_gets_a_sentence_at_its_place(string $formula, string $code, string $marked, string $words): void
    {
        $model = self::model(
            [
                self::TERRACES,
                self::AGES,
                ['name' => 'bay', 'elements' => ['a', 'b']],
                ['name' => 'origin', 'sameAs' => 'bay'],
                ['name' => 'destination', 'sameAs' => 'bay'],
                ['name' => 'one', 'partOf' => 'terrace', 'elements' => ['north']],
                ['name' => 'other', 'partOf' => 'terrace', 'elements' => ['south']],
            ],
            [
                self::line('parameter', 'x', '1', 'terrace'),
                self::line('parameter', 'y', '1', 'age'),
                self::line('parameter', 'trips', '1', 'origin', 'destination'),
                self::line('parameter', 'left', '1', 'one'),
                self::line('parameter', 'right', '1', 'other'),
                self::line('parameter', 'single', '1'),
                self::line('auxiliary', 'wrong', $formula),
                self::line('auxiliary', 'user', 'wrong * 2'),
            ],
        );
        $analysis = Analyser::analyse($model);
        $problems = array_values(array_filter($analysis->problems, static fn ($p): bool => $p->element === $model->idOf('wrong')));
        self::assertNotSame([], $problems);
        self::assertSame($code, $problems[0]->code, $problems[0]->sentence);
        self::assertStringContainsString($words, $problems[0]->sentence);
        self::assertSame($marked, mb_substr($formula, (int) $problems[0]->from, (int) $problems[0]->length));
        // What uses it waits; all else runs.
        self::assertFalse($analysis->canCompute((string) $model->idOf('user')));
        self::assertNull(Build::simulator()->run($analysis, new \MerryOrbit\Core\Simulate\RunOptions())->fault);
    }

    public function test_what_is_wider_than_its_stock_or_between_stocks_narrower_is_said(): void
    {
        $stocks = [
            self::line('parameter', 'x', '1', 'terrace'),
            self::line('stock', 'oysters', '1', 'terrace'),
            self::line('stock', 'market', '0'),
        ];
        $wider = self::model([self::TERRACES, self::AGES], [...$stocks, self::line('auxiliary', 'two', 'x', 'age')]);
        self::assertContains('extent.wider', self::codes($wider));
        $between = self::model([self::TERRACES], [
            ...$stocks,
            ['kind' => 'flow', 'name' => 'harvest', 'formula' => '1', 'from' => 'oysters', 'to' => 'market'],
        ]);
        self::assertContains('flow.narrower', self::codes($between));
        $good = self::model([self::TERRACES], [
            ...$stocks,
            ['kind' => 'flow', 'name' => 'harvest', 'formula' => 'oysters / 2', 'from' => 'oysters', 'to' => 'market'],
        ]);
        $columns = self::columns($good);
        $all = $columns['oysters[north]'][8] + $columns['oysters[middle]'][8] + $columns['oysters[south]'][8];
        self::assertEqualsWithDelta(3.0, $all + $columns['market'][8], 1e-12, 'nothing is lost or made');
    }

    /** @param  array<string, mixed>  ...$edits */
    private static function after(Model $model, array ...$edits): Model
    {
        foreach ($edits as $edit) {
            $model = EditReader::read($edit)->apply($model);
        }

        return $model;
    }

    /** @return array<string, mixed> */
    private static function pools(string $last = 'hot', string $name = 'pool'): array
    {
        return ['id' => 'pool', 'name' => $name, 'elements' => [
            ['id' => 'children', 'name' => 'children'],
            ['id' => 'swimmers', 'name' => 'swimmers'],
            ['id' => 'hot', 'name' => $last],
        ]];
    }

    public function test_a_dimension_that_comes_late_and_goes_again_leaves_the_model_as_it_was(): void
    {
        $plain = self::model([], [
            self::line('parameter', 'volume', '100'),
            self::line('auxiliary', 'need', 'volume * 20'),
            self::line('stock', 'heat', 'need'),
        ]);
        $id = (string) $plain->idOf('volume');
        $month = ['id' => 'month', 'name' => 'month', 'from' => 1, 'to' => 3];
        $wide = self::after(
            $plain,
            ['kind' => 'dimensions', 'dimensions' => [self::pools()]],
            ['kind' => 'extent', 'id' => $id, 'dimensions' => ['pool']],
            ['kind' => 'put', 'part' => 'tables', 'id' => 't1', 'fields' => ['of' => $id, 'values' => [[['children'], 40], [['hot'], 12]]]],
        );
        self::assertSame([800.0, 2000.0, 240.0], array_values(array_filter(
            self::start($wide),
            static fn (string $n): bool => str_starts_with($n, 'need['),
            ARRAY_FILTER_USE_KEY,
        )));
        // Another dimension takes the values over for each of its elements, and leaves them behind when it goes.
        $wider = self::after(
            $wide,
            ['kind' => 'dimensions', 'dimensions' => [self::pools(), $month]],
            ['kind' => 'extent', 'id' => $id, 'dimensions' => ['month', 'pool']],
        );
        self::assertSame(800.0, self::start($wider)['need[3, children]']);
        $back = self::after(
            $wider,
            ['kind' => 'extent', 'id' => $id, 'dimensions' => ['pool']],
            ['kind' => 'dimensions', 'dimensions' => [self::pools()]],
        );
        self::assertSame(NativeFile::export($wide), NativeFile::export($back));
        $none = self::after($back, ['kind' => 'extent', 'id' => $id, 'dimensions' => []], ['kind' => 'dimensions', 'dimensions' => []]);
        self::assertSame(NativeFile::export($plain), NativeFile::export($none));
        // Taken away at once, with all that extends over it, it is the same.
        self::assertSame(NativeFile::export($plain), NativeFile::export(self::after($wider, ['kind' => 'dimensions', 'dimensions' => []])));
    }

    public function test_formulas_follow_what_is_called_otherwise_and_say_what_is_gone(): void
    {
        $model = self::after(
            self::model([], [self::line('parameter', 'volume', '100')]),
            ['kind' => 'dimensions', 'dimensions' => [self::pools()]],
        );
        $id = (string) $model->idOf('volume');
        $model = self::after(
            $model,
            ['kind' => 'extent', 'id' => $id, 'dimensions' => ['pool']],
            ['kind' => 'add', 'id' => 'a', 'element' => 'auxiliary', 'name' => 'a', 'at' => ['x' => 1, 'y' => 1]],
            ['kind' => 'formula', 'id' => 'a', 'text' => 'volume[hot] + volume[pool: hot] + sum(volume, pool) + sum(is(pool, hot) * volume)'],
        );
        $renamed = self::after($model, ['kind' => 'dimensions', 'dimensions' => [self::pools('2 hot ones', 'basin of water')]]);
        self::assertSame(
            'volume["2 hot ones"] + volume[basin of water: "2 hot ones"] + sum(volume, basin of water) + '.
                'sum(is(basin of water, "2 hot ones") * volume)',
            $renamed->formulaOf($renamed->elements['a']),
        );
        self::assertSame(self::columns($model)['a'], self::columns($renamed)['a']);
        $fewer = self::pools();
        $fewer['elements'] = array_slice((array) $fewer['elements'], 0, 2);
        $gone = self::after($model, ['kind' => 'dimensions', 'dimensions' => [$fewer]]);
        self::assertContains('element.unknown', self::codes($gone));
        self::assertFalse(Analyser::analyse($gone)->canCompute('a'));
    }

    /** @return iterable<string, array{array<string, mixed>, string}> */
    public static function refused(): iterable
    {
        $bay = ['id' => 'bay', 'name' => 'bay', 'elements' => [['id' => 'n', 'name' => 'north']]];
        $taken = ['id' => 'x', 'name' => 'volume'];
        yield 'a name that a thing has' => [['kind' => 'dimensions', 'dimensions' => [$taken]], 'called so already'];
        $part = ['id' => 'x', 'name' => 'x', 'partOf' => 'bay'];
        yield 'a part of nothing' => [['kind' => 'dimensions', 'dimensions' => [$part]], 'none such'];
        yield 'a part with more' => [
            ['kind' => 'dimensions', 'dimensions' => [$bay, ['id' => 'x', 'name' => 'x', 'partOf' => 'bay', 'elements' => ['south']]]],
            'can have only its elements',
        ];
        yield 'over what is gone' => [['kind' => 'extent', 'id' => 'v', 'dimensions' => ['bay']], 'gone meanwhile'];
        yield 'no list' => [['kind' => 'extent', 'id' => 'v', 'dimensions' => [1]], 'list of texts'];
    }

    /** @param  array<string, mixed>  $edit */
    #[DataProvider('refused')]
    public function test_edits_that_do_not_fit_are_refused_in_words(array $edit, string $words): void
    {
        $model = self::model([], [['id' => 'v', ...self::line('parameter', 'volume', '1')]]);
        $this->expectException(EditRefused::class);
        $this->expectExceptionMessageMatches('/'.preg_quote($words, '/').'/');
        self::after($model, $edit);
    }

    public function test_what_is_too_large_is_said(): void
    {
        $counted = static fn (string $name, int $to): array => ['name' => $name, 'from' => 1, 'to' => $to];
        $dimensions = [$counted('a', 20_000), $counted('b', 20_000), $counted('c', 3_000)];
        $wide = self::model($dimensions, [
            self::line('parameter', 'x', '1', 'a'),
            self::line('parameter', 'y', '2', 'b'),
            self::line('auxiliary', 'both', 'x * y'),
            self::line('auxiliary', 'plain', '3'),
        ]);
        self::assertContains('extent.large', self::codes($wide));
        self::assertTrue(Analyser::analyse($wide)->canCompute((string) $wide->idOf('plain')));
        $long = self::model($dimensions, [self::line('parameter', 'z', '1', 'c'), self::line('auxiliary', 'places', 'rank(z, c)')]);
        self::assertContains('extent.large', self::codes($long));
    }

    /** @return iterable<string, array{array<string, mixed>, string}> */
    public static function files(): iterable
    {
        yield 'elements twice' => [['dimensions' => [['name' => 'bay', 'elements' => ['a', 'A']]]], 'Two elements of the dimension `bay`'];
        $many = array_map(static fn (int $i): array => ['name' => "d $i", 'from' => 1, 'to' => 19_999], range(1, 8));
        yield 'more elements than fit' => [['dimensions' => $many], '100,000 elements in all'];
        yield 'downward' => [['dimensions' => [['name' => 'age', 'from' => 5, 'to' => 1]]], 'count upward'];
        $part = ['name' => 'outer', 'partOf' => 'bay', 'elements' => ['a']];
        yield 'a whole that is none' => [['dimensions' => [$part]], 'no other dimension'];
        yield 'parts of each other' => [
            ['dimensions' => [['name' => 'p', 'partOf' => 'q', 'elements' => []], ['name' => 'q', 'partOf' => 'p', 'elements' => []]]],
            'no other dimension',
        ];
        yield 'an element that the whole lacks' => [
            ['dimensions' => [['name' => 'bay', 'elements' => ['a']], ['name' => 'outer', 'partOf' => 'bay', 'elements' => ['z']]]],
            'names `z`',
        ];
        yield 'a name twice' => [['dimensions' => [['name' => 'bay'], ['name' => 'Bay']]], 'Two dimensions'];
        yield 'over what is not there' => [
            ['elements' => [['kind' => 'parameter', 'name' => 'x', 'formula' => '1', 'dimensions' => ['bay']]]],
            'no dimension of that name',
        ];
    }

    /** @param  array<string, mixed>  $part */
    #[DataProvider('files')]
    public function test_a_file_whose_dimensions_do_not_fit_is_refused_in_words(array $part, string $words): void
    {
        $this->expectException(FileRefused::class);
        $this->expectExceptionMessageMatches('/'.preg_quote($words, '/').'/');
        NativeFile::import(json_encode(['format' => NativeFile::FORMAT, 'version' => NativeFile::VERSION, ...$part], JSON_THROW_ON_ERROR));
    }

    public function test_files_may_name_dimensions_and_elements_where_ids_are_kept(): void
    {
        $model = self::model(
            [['name' => 'Terrace', 'elements' => ['North one', 'South']], ['name' => 'bay', 'elements' => ['East side']]],
            [
                self::line('parameter', 'h', '2', 'terrace'),
                self::line('auxiliary', 's', 'sum(h, home bay)'),
                self::line('auxiliary', 'm', 'sum(h * (1 + s[home bay]))'),
            ],
            [
                'mappings' => [['id' => 'm', 'name' => 'home bay', 'from' => 'Terrace', 'to' => 'Bay',
                    'pairs' => [['north one', 'East side'], ['South', 'east side', 0.5]]]],
                'tables' => [['id' => 't', 'of' => 'h', 'values' => [[['North one'], 5]]]],
            ],
        );
        $start = self::start($model);
        self::assertSame([6.0, 49.0], [$start['s[East side]'], $start['m']]);
    }

    public function test_native_files_keep_dimensions_mappings_and_tables_to_the_byte(): void
    {
        $model = self::model(
            [
                self::TERRACES,
                self::AGES,
                ['name' => 'outer', 'partOf' => 'terrace', 'elements' => ['south', 'north']],
                ['name' => 'other', 'sameAs' => 'terrace'],
            ],
            [
                self::line('parameter', 'x', '1', 'terrace', 'age'),
                self::line('auxiliary', 'y', 'sum(x[age: previous; else 0], age) + x[north, 2]'),
            ],
            [
                'mappings' => [
                    ['id' => 'm', 'name' => 'home', 'from' => 'terrace', 'to' => 'age', 'pairs' => [['north', '2', 0.5], ['south', '0']]],
                ],
                'tables' => [['id' => 't', 'of' => 'x', 'values' => [[['north', '2'], 3.5]]]],
            ],
        );
        $file = NativeFile::export($model);
        self::assertSame($file, NativeFile::export(NativeFile::import($file)->model));
        self::assertSame(self::columns($model), self::columns(NativeFile::import($file)->model));
        self::assertStringContainsString('sum(x[age: previous; else 0], age) + x[north, 2]', $file);
    }

    /**
     * A random model over dimensions of one to three elements computes, to the bit, what the same model computes that is written out
     * by hand, one variable for each element: by every method, with limits, delays and memory.
     */
    public function test_random_models_compute_what_the_same_written_out_by_hand_computes(): void
    {
        mt_srand(16);
        $compared = 0;
        for ($i = 0; $i < 60; $i++) {
            $random = new RandomShape();
            $time = ['end' => 3, 'step' => 0.25, 'method' => Build::FIXED[$i % 3]->value];
            $ours = self::model($random->dimensions, $random->shaped, ['tables' => $random->tables, 'time' => $time]);
            $byHand = self::model([], $random->plain, ['time' => $time]);
            $fault = Build::run($byHand)->fault;
            self::assertSame($fault?->time, Build::run($ours)->fault?->time);
            if ($fault !== null) {
                continue;
            }
            $compared++;
            [$shaped, $plain] = [self::columns($ours), self::columns($byHand)];
            self::assertCount(count($random->names), $plain, 'every variable is written out');
            foreach ($random->names as $ours => $byHand) {
                self::assertSame($plain[$byHand], $shaped[$ours], "$ours of model $i: ".json_encode($random->shaped));
            }
        }
        self::assertGreaterThan(45, $compared);
    }
}
