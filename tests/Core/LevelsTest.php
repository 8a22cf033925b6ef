<?php

declare(strict_types=1);

namespace Tests\Core;

use MerryOrbit\Core\Experiment\Levels;
use MerryOrbit\Core\Model\Model;
use MerryOrbit\Core\Model\Roster;
use MerryOrbit\Core\Problem\NotUnderstood;

/** The same definition by members, by classes and as one: equal where it has to be. */
final class LevelsTest extends RosterCase
{
    use Commanded;

    private static function at(Model $model, ?string $since = null, float $width = 1.0, int $classes = 10): Model
    {
        $roster = $model->part('rosters')['boats'] ?? null;
        self::assertInstanceOf(Roster::class, $roster);

        return Levels::of($model, $roster, $since, $width, $classes)[0];
    }

    /** Entries in whole numbers, exits at times, no spread: the numbers and sums are the same to rounding. */
    public function test_members_that_are_alike_are_one_class(): void
    {
        foreach (['euler', 'rk4'] as $method) {
            $model = self::model(
                ['a', 'b', 'c'],
                [
                    ['name' => 'load', 'kind' => 'stock', 'dimensions' => ['boat'], 'formula' => '2'],
                    ['name' => 'in', 'kind' => 'flow', 'to' => 'load', 'formula' => 'load * (1 - all / 300)'],
                    ['name' => 'all', 'formula' => 'sum(load, boat)'],
                    ['name' => 'mean load', 'formula' => 'mean(load, boat)'],
                    ['name' => 'boats', 'formula' => 'count(boat)'],
                    ['name' => 'large', 'formula' => 'count(boat, load > 20)'],
                    ['name' => 'never', 'formula' => 'load < 0'],
                ],
                ['exits' => [['id' => 'x', 'words' => 'gone', 'kind' => 'when', 'of' => 'never']]],
                ['method' => $method],
            );
            $members = self::ran($model);
            $one = self::ran(self::at($model));
            foreach (['all', 'mean-load', 'boats', 'large'] as $key) {
                foreach ($members->column($key) as $k => $value) {
                    self::assertEqualsWithDelta($value, $one->column($key)[$k], 1e-9 * max(1.0, abs($value)), "$method $key $k");
                }
            }
        }
    }

    /** With as many as one likes, births and deaths by chance are their expectation, which the one class follows exactly. */
    public function test_one_class_follows_the_expectation_of_births_and_deaths(): void
    {
        $model = self::model(
            ['a', 'b', 'c', 'd'],
            [
                ['name' => 'worth', 'kind' => 'stock', 'dimensions' => ['boat'], 'formula' => '3'],
                ['name' => 'hazard', 'formula' => '0.3 + 0 * worth'],
                ['name' => 'born', 'formula' => '2'],
                ['name' => 'boats', 'formula' => 'count(boat)'],
                ['name' => 'all', 'formula' => 'sum(worth, boat)'],
            ],
            ['entries' => [['id' => 'n', 'words' => 'born', 'of' => 'born']], 'exits' => [self::sinks('hazard')]],
            ['step' => 0.5, 'end' => 10],
        );
        $one = self::ran(self::at($model));
        $expected = 4.0;
        foreach ($one->column('boats') as $k => $value) {
            self::assertEqualsWithDelta($expected, $value, 1e-10);
            self::assertEqualsWithDelta(3 * $expected, $one->column('all')[$k], 1e-9);
            $expected = $expected * exp(-0.15) + 1;
        }
    }

    /** Classes as wide as the step pass on all of them in each: ageing is exact, and a Leslie matrix says how many there are. */
    public function test_classes_as_wide_as_the_step_age_as_members_do(): void
    {
        $model = self::model(
            ['a', 'b', 'c'],
            [
                ['name' => 'since', 'kind' => 'parameter', 'dimensions' => ['boat'], 'formula' => '0'],
                // Who is born in a step is there, at age 0, when it ends.
                ['name' => 'next', 'formula' => 'time + 1'],
                ['name' => 'age', 'formula' => 'time - since'],
                ['name' => 'old', 'formula' => 'age >= 2'],
                ['name' => 'born', 'formula' => 'count(boat, age = 1) + 2 * count(boat, age = 2)'],
                ['name' => 'boats', 'formula' => 'count(boat)'],
                ['name' => 'all age', 'formula' => 'sum(age, boat)'],
            ],
            [
                'entries' => [['id' => 'n', 'words' => 'born', 'of' => 'born', 'starts' => [['of' => 'since', 'from' => 'next']]]],
                'exits' => [['id' => 'o', 'words' => 'old', 'kind' => 'when', 'of' => 'old']],
            ],
            ['step' => 1, 'end' => 9],
        );
        $members = self::ran($model);
        $classes = self::ran(self::at($model, 'since', 1.0, 4));
        self::assertSame($members->column('boats'), array_map(static fn (float $v): float => round($v, 9), $classes->column('boats')));
        self::assertEqualsWithDelta($members->column('all-age'), $classes->column('all-age'), 1e-6);
    }

    public function test_there_is_a_class_for_each_place_that_members_belong_to(): void
    {
        $model = self::model(
            ['a', 'b', 'c'],
            [
                ['name' => 'price', 'kind' => 'parameter', 'dimensions' => ['harbour'], 'formula' => '0'],
                ['name' => 'length', 'kind' => 'parameter', 'dimensions' => ['boat'], 'formula' => '7'],
                ['name' => 'value', 'dimensions' => ['boat'], 'formula' => 'price[home] * length'],
                ['name' => 'landed', 'formula' => 'sum(value, home)'],
                ['name' => 'at home', 'formula' => 'count(home)'],
                ['name' => 'all', 'formula' => 'sum(value, boat)'],
                ['name' => 'bought', 'formula' => '1'],
            ],
            ['entries' => [['id' => 'n', 'words' => 'new', 'of' => 'bought', 'joins' => ['home' => 'lee']]]],
            ['step' => 1, 'end' => 3],
            [
                'dimensions' => [['id' => 'harbour', 'name' => 'harbour', 'elements' => ['north', 'lee']]],
                'mappings' => [
                    [
                        'id' => 'home',
                        'name' => 'home',
                        'from' => 'boat',
                        'to' => 'harbour',
                        'pairs' => [['a', 'north'], ['b', 'north'], ['c', 'lee']],
                    ],
                ],
                'tables' => [
                    ['id' => 'p', 'of' => 'price', 'values' => [[['north'], 5], [['lee'], 3]]],
                    ['id' => 'l', 'of' => 'length', 'values' => [[['a'], 9], [['c'], 5]]],
                ],
            ],
        );
        $members = self::ran($model);
        $one = self::ran(self::at($model));
        foreach (['landed[north]', 'landed[lee]', 'at-home[lee]', 'all'] as $key) {
            self::assertEqualsWithDelta($members->column($key), $one->column($key), 1e-9, $key);
        }
    }

    public function test_what_has_no_counterpart_is_said_and_what_is_lost_too(): void
    {
        $of = static fn (string $formula, bool $related = false): Model => self::model(
            ['a', 'b'],
            [
                ['name' => 'load', 'kind' => 'stock', 'dimensions' => ['boat'], 'formula' => '1'],
                ['name' => 'luck', 'dimensions' => ['boat'], 'formula' => 'random(2, 4)'],
                ['name' => 'x', 'formula' => $formula],
                ['name' => 'never', 'formula' => 'load < 0'],
            ],
            ['exits' => [['id' => 'x', 'words' => 'gone', 'kind' => 'when', 'of' => 'never']]],
            [],
            $related ? ['mappings' => [['id' => 'n', 'name' => 'near', 'from' => 'boat', 'to' => 'boat', 'pairs' => [['a', 'b']]]]] : [],
        );
        $roster = $of('1')->part('rosters')['boats'];
        self::assertInstanceOf(Roster::class, $roster);
        [$model, $lost] = Levels::of($of('sum(luck, boat) + greatest(load, boat)'), $roster);
        self::assertSame(7.0, self::ran($model)->column('x')[0]);
        self::assertCount(2, $lost);
        $refused = [['sd(load, boat)', false, 'looks at single members'], ['sum(sum(load, near), boat)', true, 'The relation `near`']];
        foreach ($refused as [$formula, $related, $sentence]) {
            try {
                Levels::of($of($formula, $related), $roster);
                self::fail($sentence);
            } catch (NotUnderstood $e) {
                self::assertStringContainsString($sentence, $e->getMessage());
            }
        }
    }

    /** The open standard knows no members: written at a level that it can hold, and read again, a model runs as it did at that level. */
    public function test_a_file_of_the_open_standard_holds_members_taken_together(): void
    {
        $demo = __DIR__.'/../../demo/new-boats-for-old.json';
        foreach (['classes', 'one'] as $level) {
            $file = $this->file('', '.xmile');
            [$code, , $said] = self::orbit(['convert', $demo, "--out=$file", "--level=boat=$level"]);
            self::assertSame(0, $code, $said);
            self::assertStringNotContainsString('Members that come and go have no place', $said);
            $run = ['--only=boats', '--only=price', '--save-every=5'];
            [$code, $again] = self::orbit(['run', $file, ...$run]);
            self::assertSame(0, $code);
            self::assertSame(self::orbit(['run', $demo, "--level=boat=$level", ...$run])[1], $again);
            self::assertNotSame(self::orbit(['run', $demo, ...$run])[1], $again);
        }
        self::assertStringContainsString(
            'in classes or as one aggregate, they can be written',
            self::orbit(['convert', $demo, '--to=xmile'])[2],
        );
        foreach (
            [
                'boat=few' => '--level is one of members, classes, one, not `few`.',
                'boat' => '--level takes ROSTER=LEVEL',
                'ship=one' => 'There is no roster called `ship`. There is `boat`.',
            ] as $said => $words
        ) {
            [$code, , $told] = self::orbit(['run', $demo, "--level=$said"]);
            self::assertContains($code, [2, 3]);
            self::assertStringContainsString($words, $told);
        }
    }
}
