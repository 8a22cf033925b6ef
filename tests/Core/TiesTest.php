<?php

declare(strict_types=1);

namespace Tests\Core;

use MerryOrbit\Core\Analysis\Analyser;
use MerryOrbit\Core\Edit\EditReader;
use MerryOrbit\Core\Exchange\NativeFile;
use MerryOrbit\Core\Exchange\RelationTable;
use MerryOrbit\Core\Model\Model;
use MerryOrbit\Core\Model\Roster;
use MerryOrbit\Core\Roster\Network;
use MerryOrbit\Core\Simulate\RunOptions;

/** Who is related to whom is made and ended by chance while a run goes on. */
final class TiesTest extends RosterCase
{
    private const ELEMENTS = [
        ['name' => 'meeting', 'formula' => '0', 'dimensions' => ['boat']],
        ['name' => 'parting', 'formula' => '0', 'dimensions' => ['boat']],
        ['name' => 'friends', 'formula' => 'count(partners)', 'dimensions' => ['boat']],
        ['name' => 'ties', 'formula' => 'sum(friends, boat)'],
        ['name' => 'size', 'formula' => '1 + age of each', 'dimensions' => ['boat']],
        ['name' => 'age of each', 'kind' => 'stock', 'formula' => '0', 'dimensions' => ['boat']],
        ['name' => 'ageing', 'kind' => 'flow', 'formula' => '1', 'to' => 'age of each', 'dimensions' => ['boat']],
        ['name' => 'sizes', 'formula' => 'sum(size, partners)', 'dimensions' => ['boat']],
    ];

    /**
     * @param  array<string, string>  $formulas
     * @param  array<string, mixed>  $tie
     * @param  list<array{string, string}>  $pairs
     * @param  array<string, mixed>  $roster
     */
    private static function harbour(int $count, array $formulas, array $tie, array $pairs = [], array $roster = []): Model
    {
        $names = array_map(static fn (int $k): string => "b$k", range(1, $count));

        return self::model(
            $names,
            array_map(static fn (array $e): array => [...$e, 'formula' => $formulas[$e['name']] ?? $e['formula']], self::ELEMENTS),
            ['ties' => [['of' => 'partners', ...$tie]], ...$roster],
            ['step' => 0.5],
            [
                'dimensions' => [['id' => 'cove', 'name' => 'cove', 'elements' => [['name' => 'lee'], ['name' => 'quay']]]],
                'mappings' => [
                    ['id' => 'partners', 'name' => 'partners', 'from' => 'boat', 'to' => 'boat', 'pairs' => $pairs],
                    [
                        'id' => 'home',
                        'name' => 'home',
                        'from' => 'boat',
                        'to' => 'cove',
                        'pairs' => array_map(
                            static fn (string $n, int $k): array => [$n, $k % 2 === 0 ? 'lee' : 'quay'],
                            $names,
                            array_keys($names),
                        ),
                    ],
                ],
            ],
        );
    }

    /** Each member gets a partner in a step by chance: binomial, with mean and spread known; both ways, ties are twice as many. */
    public function test_ties_are_made_as_often_as_the_chance_says(): void
    {
        [$n, $steps, $rate] = [40, 20, 0.2];
        $p = 1.0 - exp(-$rate * 0.5);
        foreach ([false, true] as $both) {
            $model = self::harbour($n, ['meeting' => (string) $rate], ['made' => 'meeting', 'both' => $both]);
            $made = [];
            for ($seed = 1; $seed <= 30; $seed++) {
                $run = Build::simulator()->run(Analyser::analyse($model), new RunOptions(seed: $seed));
                self::assertNull($run->fault);
                $made[] = (float) $run->value('ties', $steps) / ($both ? 2.0 : 1.0);
            }
            $mean = array_sum($made) / count($made);
            $error = sqrt(($n * $steps * $p * (1 - $p)) / count($made));
            // Whoever has become a partner already is not chosen again: each finds another.
            self::assertEqualsWithDelta($n * $steps * $p, $mean, 4 * $error, $both ? 'both ways' : 'one way');
        }
    }

    /** Ties that only end: each lasts geometrically long, whatever becomes of others. */
    public function test_ties_end_one_by_one(): void
    {
        $pairs = [];
        for ($a = 1; $a <= 20; $a++) {
            for ($b = 1; $b <= 20; $b++) {
                $pairs = $a === $b ? $pairs : [...$pairs, ["b$a", "b$b"]];
            }
        }
        $run = self::ran(self::harbour(20, ['parting' => '0.4'], ['ended' => 'parting'], $pairs));
        foreach ([1, 4, 10] as $step) {
            $left = exp(-0.4 * 0.5 * $step);
            $error = sqrt(count($pairs) * $left * (1 - $left));
            self::assertEqualsWithDelta(count($pairs) * $left, $run->value('ties', $step), 4 * $error);
        }
        // What is gathered through the relation is gathered of those who are left: all are alike here.
        foreach ([0, 5, 20] as $i) {
            self::assertEqualsWithDelta((float) $run->value('ties', $i) * (1 + $i * 0.5), 20 * (float) $run->value('sizes', $i), 1e-9);
        }
    }

    public function test_partners_belong_to_the_same_place_where_that_is_said(): void
    {
        $model = self::harbour(12, ['meeting' => '2'], ['made' => 'meeting', 'within' => 'home', 'both' => true]);
        $run = self::ran($model);
        // In each of two coves each can have five others, and in the end has.
        self::assertSame(12.0 * 5.0, $run->value('ties', 20));
        self::assertSame(5.0, $run->value('friends', 20));
    }

    /** Another member changes no tie between others, except where it is chosen itself. */
    public function test_another_member_changes_nobody_elses_ties(): void
    {
        $who = range(0, 29);
        $names = array_map(static fn (int $k): string => "b$k", $who);
        $few = Network::tied([[], [], []], $who, $who, $names, 30, [], false, 7, 'salt ', 3);
        $more = Network::tied([[], [], []], $who, [...$who, 30], [...$names, 'new'], 31, [], false, 7, 'salt ', 3);
        self::assertCount(30, $few[0]);
        $changed = 0;
        foreach ($few[0] as $k => $one) {
            self::assertSame($few[1][$k], $more[1][$k]);
            self::assertContains($more[0][$k], [$one, 30]);
            $changed += $more[0][$k] === 30 ? 1 : 0;
            self::assertNotSame($one, $few[1][$k]);
        }
        self::assertLessThan(6, $changed);
        // In another order of places the same are chosen.
        $turned = Network::tied([[], [], []], $who, array_reverse($who), array_reverse($names), 30, [], false, 7, 'salt ', 3);
        self::assertSame($few, $turned);
    }

    /** With members coming and going: ties of the gone are gone, newcomers get some, and the same seed gives the same to the bit. */
    public function test_ties_with_members_that_come_and_go(): void
    {
        $model = self::harbour(
            10,
            ['meeting' => '1', 'parting' => '0.2'],
            ['made' => 'meeting', 'ended' => 'parting'],
            [['b1', 'b2'], ['b2', 'b1']],
            [
                'entries' => [['id' => 'new', 'words' => 'bought', 'of' => 'bought']],
                'exits' => [['id' => 'x', 'words' => 'sunk', 'kind' => 'chance', 'of' => 'risk']],
            ],
        );
        $record = json_decode(NativeFile::export($model), true);
        self::assertIsArray($record);
        self::assertSame(
            [['ended' => 'parting', 'made' => 'meeting', 'of' => 'partners']],
            array_map(
                static function (mixed $tie): mixed {
                    self::assertIsArray($tie);
                    ksort($tie);

                    return $tie;
                },
                is_array($record['rosters'] ?? null) && is_array($record['rosters'][0] ?? null)
                    ? (array) $record['rosters'][0]['ties']
                    : [],
            ),
        );
        self::assertIsArray($record['elements']);
        array_push(
            $record['elements'],
            ['id' => 'bought', 'kind' => 'auxiliary', 'name' => 'bought', 'formula' => '2'],
            ['id' => 'risk', 'kind' => 'auxiliary', 'name' => 'risk', 'formula' => '0.3', 'dimensions' => ['boat']],
        );
        $again = NativeFile::import((string) json_encode($record))->model;
        [$one, $other] = [self::ran($again), self::ran($again)];
        $crew = $one->crews['boat'];
        self::assertGreaterThan(15, count($crew->members));
        foreach (array_keys($crew->present) as $i) {
            self::assertSame($one->value('ties', $i), $other->value('ties', $i));
            $friends = $crew->at('friends', $i);
            self::assertSame((float) array_sum($friends), $one->value('ties', $i));
            self::assertLessThan(count($friends), max([0.0, ...$friends]));
        }
        self::assertGreaterThan(0.0, $one->value('ties', 20));
    }

    /**
     * Households that own boats, both coming and going: what a household has of its boats is what those have who are related to it and still
     * there, found here from who was there when; and what all households have is what owned boats have.
     */
    public function test_a_relation_leads_to_members_of_another_roster(): void
    {
        mt_srand(11);
        $boats = array_map(static fn (int $k): string => "b$k", range(1, 12));
        $houses = array_map(static fn (int $k): string => "h$k", range(1, 5));
        $pairs = [];
        foreach ($boats as $boat) {
            foreach ($houses as $house) {
                if (mt_rand(0, 2) === 0) {
                    $pairs[] = [$boat, $house, mt_rand(1, 3)];
                }
            }
        }
        $leaving = static fn (string $of): array => [['id' => 'x', 'words' => 'gone', 'kind' => 'chance', 'of' => $of]];
        $record = json_decode(
            NativeFile::export(
                self::model(
                    $boats,
                    [
                        ['name' => 'age', 'kind' => 'stock', 'formula' => '1', 'dimensions' => ['boat']],
                        ['name' => 'ageing', 'kind' => 'flow', 'formula' => '1', 'to' => 'age', 'dimensions' => ['boat']],
                        ['name' => 'risk', 'formula' => '0.15', 'dimensions' => ['boat']],
                        ['name' => 'moving', 'formula' => '0.1', 'dimensions' => ['house']],
                        ['name' => 'bought', 'formula' => '1'],
                        ['name' => 'settling', 'formula' => '0.7'],
                        ['name' => 'owned', 'formula' => 'sum(age, owners)', 'dimensions' => ['house']],
                        ['name' => 'number', 'formula' => 'count(owners)', 'dimensions' => ['house']],
                        ['name' => 'all owned', 'formula' => 'sum(owned, house)'],
                    ],
                    ['entries' => [['id' => 'new', 'words' => 'bought', 'of' => 'bought']], 'exits' => $leaving('risk')],
                    ['method' => 'heun'],
                    [
                        'dimensions' => [
                            [
                                'id' => 'house',
                                'name' => 'house',
                                'elements' => array_map(static fn (string $h): array => ['id' => $h, 'name' => $h], $houses),
                            ],
                        ],
                        'mappings' => [['id' => 'owners', 'name' => 'owners', 'from' => 'boat', 'to' => 'house', 'pairs' => $pairs]],
                    ],
                ),
            ),
            true,
        );
        self::assertIsArray($record);
        self::assertIsArray($record['rosters']);
        $record['rosters'][] = [
            'id' => 'houses',
            'of' => 'house',
            'entries' => [['id' => 'come', 'words' => 'settled', 'of' => 'settling']],
            'exits' => $leaving('moving'),
        ];
        $model = NativeFile::import((string) json_encode($record))->model;
        // The same by a table of pairs, called from both sides.
        $lines = implode("\n", array_map(static fn (array $p): string => implode(',', $p), $pairs));
        $table = RelationTable::read(
            $model,
            'boat',
            "boat,house,share\n$lines\nb1,nobody,1\n",
            'Owners',
            'x',
            'boats of',
            false,
            'house',
        );
        self::assertSame(count($pairs), $table->count());
        self::assertStringContainsString('1 line is left out', $table->remarks[0]);
        $again = $model;
        foreach ($table->edits() as $edit) {
            $again = EditReader::read($edit)->apply($again);
        }
        self::assertEquals($model->mappings()['owners']->pairs, $again->mappings()['owners']->pairs);
        self::assertSame(['house', 'boat'], [$again->mappings()['boats of']->from, $again->mappings()['boats of']->to]);
        $run = self::ran($model, 4);
        [$fleet, $town] = [$run->crews['boat'], $run->crews['house']];
        self::assertNotSame([], array_filter(array_column(array_slice($town->members, 0, 5), 'why')));
        $weights = [];
        foreach ($pairs as [$boat, $house, $weight]) {
            $weights[$house][$boat] = $weight;
        }
        foreach (array_keys($town->present) as $i) {
            $ages = $fleet->at('age', $i);
            $sum = 0.0;
            foreach ($town->at('owned', $i) as $n => $owned) {
                $expected = 0.0;
                $count = 0;
                foreach ($ages as $b => $age) {
                    $weight = $weights[$town->members[$n]['id']][$fleet->members[$b]['id']] ?? 0;
                    $expected += $weight * $age;
                    $count += $weight > 0 ? 1 : 0;
                }
                self::assertEqualsWithDelta($expected, $owned, 1e-9, "{$town->members[$n]['id']} at $i");
                self::assertSame((float) $count, $town->at('number', $i)[$n]);
                $sum += $owned;
            }
            self::assertEqualsWithDelta($sum, $run->value('all-owned', $i), 1e-9);
        }
        self::assertGreaterThan(0.0, $run->value('all-owned', 10));
    }

    public function test_what_cannot_be_is_said(): void
    {
        foreach (
            [
                [['of' => 'home', 'made' => 'meeting'], '`home` is no relation between members of `boat`'],
                [['within' => 'partners', 'made' => 'meeting'], 'By `partners` members of `boat` do not belong to anything.'],
                [[], 'Say how ties of `partners` are made, or how they end.'],
            ] as [$tie, $words]
        ) {
            $roster = Roster::read(['id' => 'boats', 'of' => 'boat', 'ties' => [['of' => 'partners', ...$tie]]]);
            self::assertStringContainsString($words, (string) $roster->unfit(self::harbour(4, [], ['made' => 'meeting'])));
        }
        $run = Build::simulator()->run(
            Analyser::analyse(self::harbour(4, ['parting' => '3 - time'], ['ended' => 'parting'], [['b1', 'b2']])),
        );
        self::assertSame(
            'The run stopped at year 3.5: `parting` meets a value below 0 for one of the members, which cannot be a chance.',
            $run->fault?->sentence(),
        );
        self::assertStringContainsString(
            'says how soon a tie is made',
            implode(self::sentences(self::harbour(4, [], ['made' => 'ties']))),
        );
    }
}
