<?php

declare(strict_types=1);

namespace Tests\Core;

use MerryOrbit\Core\Analysis\Analyser;
use MerryOrbit\Core\Simulate\RunOptions;

/** Members against what is known of them without running a program: distributions, matrices, aggregates. */
final class RosterTruthTest extends RosterCase
{
    private const SOUND = ['name' => 'soundness', 'kind' => 'stock', 'dimensions' => ['boat'], 'formula' => '1'];

    private const ENTERS = [['id' => 'new', 'words' => 'born', 'of' => 'born']];

    /** @return list<string> */
    private static function names(int $count): array
    {
        return array_map(static fn (int $k): string => "m$k", range(1, $count));
    }

    /**
     * Each of n dies in a step with p = 1 − exp(−h·step), on its own: after k steps their number is binomial with q = (1 − p)^k. With
     * whole numbers born in every step, those of step j live on with (1 − p)^(k − j), so mean and variance are sums of such.
     */
    public function test_births_and_deaths_have_their_exact_mean_and_variance(): void
    {
        [$n, $hazard, $step, $born, $runs] = [20, 0.3, 0.5, 2, 2_000];
        $model = self::model(
            self::names($n),
            [
                self::SOUND,
                ['name' => 'hazard', 'formula' => "$hazard + 0 * soundness"],
                ['name' => 'born', 'formula' => (string) ($born / $step)],
                ['name' => 'all', 'formula' => 'count(boat)'],
            ],
            ['entries' => self::ENTERS, 'exits' => [self::sinks('hazard')]],
            ['step' => $step, 'end' => 4],
        );
        $prepared = Build::simulator()->prepare(Analyser::analyse($model), only: ['all'], times: $runs);
        $steps = 8;
        $counts = [];
        for ($seed = 1; $seed <= $runs; $seed++) {
            $counts[] = $prepared->run(seed: $seed)->column('all')[$steps];
        }
        $stay = exp(-$hazard * $step);
        $mean = $n * $stay ** $steps;
        $variance = $n * $stay ** $steps * (1 - $stay ** $steps);
        for ($j = 1; $j <= $steps; $j++) {
            $q = $stay ** ($steps - $j);
            $mean += $born * $q;
            $variance += $born * $q * (1 - $q);
        }
        $found = array_sum($counts) / $runs;
        $spread = array_sum(array_map(static fn (float $c): float => ($c - $found) ** 2, $counts)) / ($runs - 1);
        self::assertEqualsWithDelta($mean, $found, 4 * sqrt($variance / $runs));
        // The standard error of a variance, where the fourth moment is about that of a normal distribution.
        self::assertEqualsWithDelta($variance, $spread, 4 * $variance * sqrt(2 / $runs));
    }

    /** A constant hazard gives geometric lives: a chi-square test over the steps in which 4,000 leave. */
    public function test_a_constant_hazard_gives_geometric_lives(): void
    {
        $n = 4_000;
        $p = 1 - exp(-0.4 * 0.5);
        $run = self::ran(
            self::model(
                self::names($n),
                [self::SOUND, ['name' => 'hazard', 'formula' => '0.4 + 0 * soundness']],
                ['exits' => [self::sinks('hazard')]],
                ['step' => 0.5, 'end' => 20, 'saveEvery' => 20],
            ),
        );
        $classes = array_fill(0, 16, 0);
        foreach ($run->crews['boat']->members as $member) {
            $steps = $member['to'] === null ? 40 : (int) round($member['to'] / 0.5);
            $classes[min(15, $steps - 1)]++;
        }
        $chi = 0.0;
        foreach ($classes as $k => $count) {
            $expected = $n * ($k < 15 ? $p * (1 - $p) ** $k : (1 - $p) ** 15);
            $chi += ($count - $expected) ** 2 / $expected;
        }
        // The 0.1 % point of chi-square with 15 degrees of freedom.
        self::assertLessThan(37.7, $chi);
    }

    /** Deterministic ageing by whole steps is a Leslie matrix: the counts of age classes are its powers. */
    public function test_ageing_equals_the_leslie_matrix(): void
    {
        // Each has young at the end of its years 2 and 3 of age, one and two, and is gone after its third.
        $run = self::ran(
            self::model(
                ['a', 'b', 'c'],
                [
                    ['name' => 'age', 'kind' => 'stock', 'dimensions' => ['boat'], 'formula' => '0'],
                    ['name' => 'growing', 'kind' => 'flow', 'to' => 'age', 'formula' => '1 + 0 * age'],
                    ['name' => 'too old', 'formula' => 'age >= 2'],
                    ['name' => 'born', 'formula' => 'count(boat, age = 1) + 2 * count(boat, age = 2)'],
                    ['name' => 'zero', 'formula' => 'count(boat, age = 0)'],
                    ['name' => 'one', 'formula' => 'count(boat, age = 1)'],
                    ['name' => 'two', 'formula' => 'count(boat, age = 2)'],
                ],
                [
                    'entries' => [['id' => 'new', 'words' => 'born', 'of' => 'born']],
                    'exits' => [['id' => 'old', 'words' => 'too old', 'kind' => 'when', 'of' => 'too old']],
                ],
                ['step' => 1, 'end' => 14],
            ),
        );
        $leslie = [[0, 1, 2], [1, 0, 0], [0, 1, 0]];
        $x = [3, 0, 0];
        for ($t = 0; $t <= 14; $t++) {
            self::assertEquals($x, [$run->column('zero')[$t], $run->column('one')[$t], $run->column('two')[$t]], "year $t");
            $x = array_map(
                static fn (array $row): int => (int) array_sum(array_map(static fn (int $a, int $b): int => $a * $b, $row, $x)),
                $leslie,
            );
        }
    }

    /** With no spread and no thresholds all are their mean: n of one are the aggregate. */
    public function test_members_that_are_alike_equal_the_aggregate(): void
    {
        foreach (['euler', 'heun', 'rk4'] as $method) {
            $members = self::ran(
                self::model(
                    self::names(40),
                    [
                        ['name' => 'load', 'kind' => 'stock', 'dimensions' => ['boat'], 'formula' => '2'],
                        ['name' => 'in', 'kind' => 'flow', 'to' => 'load', 'formula' => 'load * (1 - all / 300)'],
                        ['name' => 'all', 'formula' => 'sum(load, boat)'],
                        ['name' => 'never', 'formula' => 'load < 0'],
                    ],
                    ['exits' => [['id' => 'x', 'words' => 'gone', 'kind' => 'when', 'of' => 'never']]],
                    ['method' => $method],
                ),
            );
            $one = self::ran(
                self::model(
                    ['a'],
                    [
                        ['name' => 'all', 'kind' => 'stock', 'formula' => '80'],
                        ['name' => 'in', 'kind' => 'flow', 'to' => 'all', 'formula' => 'all * (1 - all / 300)'],
                    ],
                    [],
                    ['method' => $method],
                ),
            );
            foreach ($one->column('all') as $k => $value) {
                self::assertEqualsWithDelta($value, $members->column('all')[$k], 1e-11 * $value, $method);
            }
        }
    }

    /** Members that all stay give what the same dimension gives, whichever way it is computed. */
    public function test_an_open_roster_from_which_nobody_goes_equals_the_closed_one(): void
    {
        $elements = [
            ['name' => 'first', 'kind' => 'parameter', 'dimensions' => ['boat'], 'formula' => '3'],
            ['name' => 'load', 'kind' => 'stock', 'dimensions' => ['boat'], 'formula' => 'first'],
            [
                'name' => 'in',
                'kind' => 'flow',
                'to' => 'load',
                'formula' => 'smooth(load, 2) * 0.1 + rank(load, boat) - share(load, boat)',
            ],
            [
                'name' => 'out',
                'kind' => 'flow',
                'from' => 'load',
                'formula' => 'load / max(1, greatest(load, boat)) + highest(load) * 0.01 + random(0, 1)',
            ],
            ['name' => 'never', 'formula' => 'load < -1e9'],
            ['name' => 'all', 'formula' => 'sum(load, boat) + mean(out, boat) + sd(load, boat) + count(boat, load > 2)'],
        ];
        $tables = ['tables' => [['id' => 't', 'of' => 'first', 'values' => [[['m2'], 1], [['m5'], 8.5]]]]];
        foreach (['euler', 'heun', 'rk4'] as $method) {
            $closed = self::ran(self::model(self::names(6), $elements, [], ['method' => $method], $tables), 5);
            $open = self::ran(
                self::model(
                    self::names(6),
                    $elements,
                    ['exits' => [['id' => 'x', 'words' => 'gone', 'kind' => 'when', 'of' => 'never']]],
                    ['method' => $method],
                    $tables,
                ),
                5,
            );
            foreach ($closed->column('all') as $k => $value) {
                self::assertEqualsWithDelta($value, $open->column('all')[$k], 1e-11 * abs($value), "$method, $k");
            }
            foreach (self::names(6) as $n => $name) {
                self::assertEqualsWithDelta(
                    $closed->column("load[$name]"),
                    $open->crews['boat']->lifeOf($n, 'load'),
                    1e-11 * 20,
                    "$method, $name",
                );
            }
        }
    }

    /** Along random networks with members that leave, what is gathered is the product of a sparse matrix with what they have. */
    public function test_what_is_gathered_along_random_networks_is_a_matrix_product(): void
    {
        mt_srand(11);
        for ($round = 0; $round < 8; $round++) {
            $names = self::names(12);
            $pairs = [];
            foreach ($names as $a) {
                foreach ($names as $b) {
                    if (mt_rand(0, 3) === 0) {
                        $pairs[] = [$a, $b, mt_rand(1, 9) / 4];
                    }
                }
            }
            $values = array_map(static fn (string $n): array => [[$n], mt_rand(1, 100) / 8], $names);
            $run = self::ran(
                self::model(
                    $names,
                    [
                        ['name' => 'x', 'kind' => 'parameter', 'dimensions' => ['boat'], 'formula' => '0'],
                        ['name' => 'hazard', 'formula' => '0.1 + 0 * x'],
                        ['name' => 'near', 'formula' => 'sum(x, knows)'],
                        ['name' => 'how many', 'dimensions' => ['boat'], 'formula' => 'count(knows)'],
                    ],
                    ['exits' => [self::sinks('hazard')]],
                    ['step' => 1],
                    [
                        'tables' => [['id' => 't', 'of' => 'x', 'values' => $values]],
                        'mappings' => [['id' => 'k', 'name' => 'knows', 'from' => 'boat', 'to' => 'boat', 'pairs' => $pairs]],
                    ],
                ),
                $round,
            );
            $crew = $run->crews['boat'];
            $x = array_column($values, 1);
            for ($t = 0; $t <= 10; $t++) {
                $there = $crew->present[$t];
                foreach ($crew->at('near', $t) as $number => $value) {
                    $mine = array_filter(
                        $pairs,
                        static fn (array $p): bool => $p[1] === $names[$number] &&
                            in_array(array_search($p[0], $names, true), $there, true),
                    );
                    $expected = array_sum(
                        array_map(static fn (array $p): float => $p[2] * $x[(int) array_search($p[0], $names, true)], $mine),
                    );
                    self::assertEqualsWithDelta($expected, $value, 1e-12 * max(1.0, $expected));
                    self::assertSame((float) count($mine), $crew->at('how-many', $t)[$number]);
                }
            }
            self::assertLessThan(12, count($crew->present[10]));
        }
    }

    public function test_the_same_bits_in_loops_that_keep_little_and_in_many_runs(): void
    {
        $model = self::model(
            self::names(30),
            [
                self::SOUND,
                ['name' => 'wear', 'kind' => 'flow', 'from' => 'soundness', 'formula' => 'soundness * random(0, 0.4)'],
                ['name' => 'hazard', 'formula' => '1 - soundness'],
                ['name' => 'born', 'formula' => 'poisson(3)'],
                ['name' => 'all', 'formula' => 'sum(soundness, boat)'],
            ],
            ['entries' => self::ENTERS, 'exits' => [self::sinks('hazard')]],
            ['end' => 30, 'method' => 'rk4'],
        );
        $analysis = Analyser::analyse($model);
        $prepared = Build::simulator()->prepare($analysis, only: ['all']);
        $prepared->run(seed: 4);
        self::assertSame(
            Build::simulator()->run($analysis, new RunOptions(seed: 9))->column('all'),
            $prepared->run(seed: 9)->column('all'),
        );
    }
}
