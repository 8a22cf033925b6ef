<?php

declare(strict_types=1);

namespace Tests\Core;

use MerryOrbit\Core\Experiment\Instant;
use MerryOrbit\Core\Experiment\Trial;
use MerryOrbit\Core\Model\Model;
use PHPUnit\Framework\TestCase;

/** Values that extend over dimensions, against closed forms and against models written out by hand. */
final class DimensionsTest extends TestCase
{
    use ShapedModels;

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
            [self::$terraces, ['name' => 'bay', 'elements' => ['east', 'west']]],
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
                [self::$ages],
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
                [self::$terraces, ['name' => 'outer', 'partOf' => 'terrace', 'elements' => ['north', 'south']],
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
            [self::$terraces, ['name' => 'outer', 'partOf' => 'terrace', 'elements' => ['north', 'south']], self::$ages],
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
        $three = self::columns(self::model([self::$terraces], $elements));
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
        $chain = self::model([self::$ages], [
            self::line('parameter', 'new', '2', 'age'),
            self::line('auxiliary', 'so far', 'so far[age: previous; else 0] + new'),
        ]);
        $start = self::start($chain);
        self::assertSame([2.0, 4.0, 6.0, 8.0], array_map(static fn (int $a): float => $start["so far[$a]"], range(0, 3)));
        $circle = self::model([self::$ages], [
            self::line('parameter', 'new', '2', 'age'),
            self::line('auxiliary', 'so far', 'so far[age: first] + new'),
        ]);
        self::assertContains('circle.now', self::codes($circle));
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

    /** Why one element changes: its causes are elements too, and together they come to its rate. */
    public function test_what_moves_one_element_are_elements_of_its_causes(): void
    {
        $model = self::model(
            [self::$terraces, ['name' => 'age', 'from' => 0, 'to' => 2]],
            [
                self::line('stock', 'oysters', '10 + number(age)', 'terrace', 'age'),
                ['kind' => 'flow', 'name' => 'moving', 'formula' => 'oysters / 2 + smooth(oysters, 3)', 'from' => 'oysters'],
                ['kind' => 'flow', 'name' => 'arriving', 'formula' => 'moving[age: previous; else 4]', 'to' => 'oysters'],
                self::line('auxiliary', 'by terrace', 'sum(oysters, age) * 2'),
            ],
            ['time' => ['step' => 0.01, 'method' => 'rk4']],
        );
        $id = static fn (string $name): string => (string) $model->idOf($name);
        $instant = Instant::of(Build::simulator(), Trial::of($model), 1.0);
        self::assertNotNull($instant);
        $causes = static fn (string $key): array => array_column($instant->causes($key)['causes'], 'change', 'cause');
        $of = $causes($id('oysters').'[north,1]');
        self::assertEqualsCanonicalizing([$id('moving').'[north,1]', $id('arriving').'[north,1]'], array_keys($of));
        self::assertEqualsWithDelta($instant->rate($id('oysters').'[north,1]'), array_sum($of), 1e-9);
        $sums = $causes($id('by terrace').'[middle]');
        self::assertEqualsCanonicalizing(
            ['time', ...array_map(static fn (int $age): string => $id('oysters')."[middle,$age]", [0, 1, 2])],
            array_keys($sums),
        );
        self::assertEqualsWithDelta($instant->rate($id('by terrace').'[middle]'), array_sum($sums), 1e-5);
        $memory = $causes($id('moving').'[south,2]');
        self::assertEqualsCanonicalizing(['time', 'memory', $id('oysters').'[south,2]'], array_keys($memory));
        self::assertEqualsWithDelta($instant->rate($id('moving').'[south,2]'), array_sum($memory), 1e-5);
        $effects = array_column($instant->effects($id('moving').'[north,0]'), 'effect');
        self::assertEqualsCanonicalizing([$id('oysters').'[north,0]', $id('arriving').'[north,1]'], $effects);
    }
}
