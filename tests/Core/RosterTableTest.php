<?php

declare(strict_types=1);

namespace Tests\Core;

use MerryOrbit\Core\Analysis\Analyser;
use MerryOrbit\Core\Edit\EditReader;
use MerryOrbit\Core\Exchange\NativeFile;
use MerryOrbit\Core\Exchange\RelationTable;
use MerryOrbit\Core\Exchange\RosterTable;
use MerryOrbit\Core\Model\Method;
use MerryOrbit\Core\Model\Model;
use MerryOrbit\Core\Model\Roster;
use MerryOrbit\Core\Model\TimeSettings;
use MerryOrbit\Core\Problem\NotUnderstood;

/** A table of members becomes a roster by ordinary edits; the whole stands in files. */
final class RosterTableTest extends RosterCase
{
    private const TABLE = "name;built;length [m];home harbour;remark\nSlack Water;1989;7,7;Lee;sound\nKelpie;2001;9,2;Quay;\nTern;;6,4;Lee;a little leak\n";

    private static function made(RosterTable|RelationTable $table, Model $model): Model
    {
        foreach ($table->edits() as $record) {
            $model = EditReader::read($record)->apply($model);
        }

        return $model;
    }

    public function test_columns_become_attributes_and_places(): void
    {
        $before = Build::model(['price' => '5']);
        $table = RosterTable::read($before, self::TABLE, 'boat', 'r1');
        self::assertSame(['Slack Water', 'Kelpie', 'Tern'], $table->members);
        self::assertSame([['built', 'length'], ['home harbour']], [$table->attributes, $table->places]);
        self::assertSame(['`remark` is neither a number nor one of a few words, and is left out.'], $table->remarks);

        $model = self::made($table, $before);
        $id = (string) $model->idOf('length');
        self::assertSame(['m', '7.7'], [$model->element($id)?->unit, $model->formulaOf($model->elements[$id])]);
        self::assertSame(['slack-water' => 7.7, 'kelpie' => 9.2, 'tern' => 6.4], $model->table($id));
        self::assertSame(
            ['Lee', 'Quay'],
            array_map(
                static fn (string $e): string => $model->dimensions()->elementName('r1-d3', $e),
                $model->dimensions()->elements('r1-d3'),
            ),
        );
        // Where nothing is written the usual holds.
        self::assertArrayNotHasKey('tern', $model->table((string) $model->idOf('built')));

        $again = NativeFile::import(NativeFile::export($model))->model;
        self::assertSame(NativeFile::export($model), NativeFile::export($again));
        $roster = $again->part('rosters')['r1-roster'] ?? null;
        self::assertInstanceOf(Roster::class, $roster);
        self::assertSame('boat', $again->dimensions()->nameOf($roster->of));
    }

    public function test_words_that_are_elements_already_lead_to_their_dimension(): void
    {
        $model = self::made(RosterTable::read(Build::model([]), self::TABLE, 'boat', 'r1'), Build::model([]));
        $table = RosterTable::read($model, "name,port\nAnna,lee\nBert,LEE\nCleo,Quay\nDora,Quay\n", 'crew', 'r2');
        self::assertCount(count($model->dimensions) + 1, self::made($table, $model)->dimensions);
    }

    public function test_another_list_takes_the_place_of_the_first_and_the_model_stays(): void
    {
        $model = self::made(RosterTable::read(Build::model([]), self::TABLE, 'boat', 'r1'), Build::model([]));
        $roster = $model->dimensions()->find('boat');
        self::assertNotNull($roster);
        $table = RosterTable::another(
            $model,
            $roster,
            "boat,length,home harbour,crew\nKelpie,9.5,Quay,3\nNew Leaf,8,North cove,2\n",
            'r9',
        );
        self::assertSame([['length', 'crew'], ['home harbour']], [$table->attributes, $table->places]);
        $after = self::made($table, $model);
        $length = (string) $after->idOf('length');
        self::assertSame($model->idOf('length'), $length);
        self::assertSame(['kelpie' => 9.5, 'new-leaf' => 8.0], $after->table($length));
        // What the table does not tell stays with those who were there before.
        self::assertSame(['kelpie' => 2001.0], $after->table((string) $after->idOf('built')));
        self::assertSame(
            ['Lee', 'Quay', 'North cove'],
            array_map(
                static fn (string $e): string => $after->dimensions()->elementName('r1-d3', $e),
                $after->dimensions()->elements('r1-d3'),
            ),
        );
        self::assertSame([['kelpie', 'quay', 1.0], ['new-leaf', 'north-cove', 1.0]], $after->mappings()['home harbour']->pairs);
        self::assertCount(count($model->dimensions), $after->dimensions);
    }

    /**
     * Works that wait for others, each taking its days: the last is done when the longest path is over, whatever the tables are. The path is
     * found by another way, backward.
     */
    public function test_two_tables_make_an_undertaking_that_takes_its_longest_path(): void
    {
        mt_srand(5);
        for ($round = 0; $round < 6; $round++) {
            $names = array_map(static fn (int $k): string => "work $k", range(1, 12));
            $days = array_map(static fn (): int => mt_rand(1, 9), $names);
            $edges = [];
            foreach ($names as $b => $_) {
                for ($a = 0; $a < $b; $a++) {
                    if (mt_rand(0, 3) === 0) {
                        $edges[] = [$a, $b];
                    }
                }
            }
            $works = "work,days\n".implode("\n", array_map(static fn (string $n, int $d): string => "$n,$d", $names, $days))."\n";
            $pairs =
                "first,then\n".
                implode("\n", array_map(static fn (array $e): string => "{$names[$e[0]]},{$names[$e[1]]}", $edges)).
                "\nnobody,work 1\n";
            $base = Build::model([], time: new TimeSettings(0, 100, 0.25, 'day', Method::Euler));
            $model = self::made(RosterTable::read($base, $works, 'work', 'w'), $base);
            if ($edges !== []) {
                $relation = RelationTable::read($model, 'w', $pairs, 'waits for', 'r');
                self::assertSame(count($edges), $relation->count());
                self::assertStringContainsString('1 line is left out', $relation->remarks[0]);
                foreach ($relation->edits() as $record) {
                    $model = EditReader::read($record)->apply($model);
                }
            }
            foreach (
                [
                    ['kind' => 'add', 'id' => 'left', 'element' => 'stock', 'name' => 'left', 'formula' => 'days'],
                    ['kind' => 'extent', 'id' => 'left', 'dimensions' => ['w']],
                    ['kind' => 'add', 'id' => 'done', 'element' => 'auxiliary', 'name' => 'done', 'formula' => 'left < 1e-9'],
                    [
                        'kind' => 'add',
                        'id' => 'free',
                        'element' => 'auxiliary',
                        'name' => 'free',
                        'formula' => $edges === [] ? '1' : 'all(done, waits for)',
                    ],
                    ['kind' => 'extent', 'id' => 'free', 'dimensions' => ['w']],
                    [
                        'kind' => 'add',
                        'id' => 'doing',
                        'element' => 'flow',
                        'name' => 'doing',
                        'from' => 'left',
                        'formula' => 'if(free and not done, 1, 0)',
                    ],
                    ['kind' => 'add', 'id' => 'ready', 'element' => 'auxiliary', 'name' => 'ready', 'formula' => 'count(work, done)'],
                ] as $record
            ) {
                $model = EditReader::read($record)->apply($model);
            }
            $longest = [];
            foreach (array_reverse(array_keys($names)) as $a) {
                $after = array_map(
                    static fn (array $e): int => $longest[$e[1]] ?? 0,
                    array_filter($edges, static fn (array $e): bool => $e[0] === $a),
                );
                $longest[$a] = $days[$a] + max([0, ...array_values($after)]);
            }
            $run = self::ran($model);
            $ready = $run->column('ready');
            $end = (int) array_search(12.0, $ready, true);
            self::assertSame((float) max($longest), $run->times()[$end], "round $round");
        }
    }

    public function test_what_cannot_be_read_is_said(): void
    {
        foreach (
            [
                ["name\n", 'boat', 'a line for each member'],
                ["name,x\na,1\na,2\n", 'boat', 'Two elements'],
                [self::TABLE, 'price', 'called `price` already'],
            ] as [$text, $name, $sentence]
        ) {
            try {
                RosterTable::read(Build::model(['price' => '5']), $text, $name, 'r1');
                self::fail($sentence);
            } catch (NotUnderstood $e) {
                self::assertStringContainsString($sentence, $e->getMessage());
            }
        }
    }

    public function test_rules_stand_in_files_by_names_and_renames_change_nothing(): void
    {
        $model = self::model(
            ['a', 'b'],
            [
                ['name' => 'soundness', 'kind' => 'stock', 'dimensions' => ['boat'], 'formula' => '1'],
                ['name' => 'worth', 'kind' => 'parameter', 'dimensions' => ['boat'], 'formula' => '1'],
                ['name' => 'kept', 'kind' => 'stock', 'formula' => '0'],
                ['name' => 'bought', 'formula' => '1'],
                ['name' => 'chance to sink', 'formula' => '0.1 + 0 * soundness'],
            ],
            [
                'entries' => [['id' => 'n', 'words' => 'new', 'of' => 'bought', 'starts' => [['of' => 'worth', 'from' => 'kept']]]],
                'exits' => [self::sinks()],
                'hands' => [['of' => 'soundness', 'to' => 'kept']],
                'most' => 50,
            ],
        );
        $renamed = EditReader::read(['kind' => 'rename', 'id' => 'bought', 'name' => 'how many are bought'])->apply($model);
        $file = NativeFile::export($renamed);
        self::assertStringContainsString('"of":"how many are bought"', $file);
        $again = NativeFile::import($file)->model;
        self::assertEquals($renamed->part('rosters'), $again->part('rosters'));
        self::assertSame(self::ran($model, 3)->column('kept'), self::ran($again, 3)->column('kept'));
    }

    /** What else a pair has, in columns of its own, is gathered as the product with that matrix; where it says nothing, the pair has none. */
    public function test_pairs_have_more_than_one_number(): void
    {
        mt_srand(11);
        $names = array_map(static fn (int $k): string => "house $k", range(1, 9));
        $sizes = array_map(static fn (): int => mt_rand(1, 99), $names);
        [$lines, $days, $price] = ['first,then,share,days,price per crate', [], []];
        foreach ($names as $a => $one) {
            foreach ($names as $b => $other) {
                if ($a !== $b && mt_rand(0, 2) === 0) {
                    [$d, $p] = [mt_rand(1, 20) / 4, mt_rand(0, 3) === 0 ? null : mt_rand(1, 9)];
                    $lines .= "\n$one,$other,0.5,$d,$p";
                    $days[$b] = ($days[$b] ?? 0.0) + $d * $sizes[$a];
                    $price[$b] = ($price[$b] ?? 0.0) + ($p ?? 0) * $sizes[$a];
                }
            }
        }
        $base = Build::model([], time: new TimeSettings(0, 1, 1, 'day', Method::Euler));
        $houses = "house,size\n".implode("\n", array_map(static fn (string $n, int $s): string => "$n,$s", $names, $sizes));
        $model = self::made(RosterTable::read($base, $houses, 'house', 'h'), $base);
        $table = RelationTable::read($model, 'h', $lines, 'suppliers', 'r', 'customers');
        self::assertSame(['Further numbers of a pair: `suppliers days`, `suppliers price per crate`.'], $table->remarks);
        $model = self::made($table, $model);
        self::assertSame(
            ['customers', 'customers days', 'customers price per crate', 'suppliers', 'suppliers days', 'suppliers price per crate'],
            (static function (array $all): array {
                sort($all);

                return $all;
            })(array_values(array_map(static fn ($m): string => $m->name, $model->mappings()))),
        );
        foreach (['waited' => 'sum(size, suppliers days)', 'paid' => 'sum(size, suppliers price per crate)'] as $name => $formula) {
            foreach (
                [
                    ['kind' => 'add', 'id' => $name, 'element' => 'auxiliary', 'name' => $name, 'formula' => $formula],
                    ['kind' => 'extent', 'id' => $name, 'dimensions' => ['h']],
                ] as $edit
            ) {
                $model = EditReader::read($edit)->apply($model);
            }
        }
        $run = Build::simulator()->run(Analyser::analyse($model));
        foreach ($model->dimensions()->elements('h') as $k => $id) {
            self::assertEqualsWithDelta($days[$k] ?? 0.0, $run->value("waited[$id]", 0) ?? NAN, 1e-9);
            self::assertEqualsWithDelta($price[$k] ?? 0.0, $run->value("paid[$id]", 0) ?? NAN, 1e-9);
        }
        // The same table again: each relation is known, and gets the same pairs.
        $again = self::made(RelationTable::read($model, 'h', $lines, 'suppliers', 'other', 'customers'), $model);
        self::assertEquals($model->mappings(), $again->mappings());
    }

    /**
     * Who supplies whom, by one table alone: after it has settled, each house is asked for what those ask for together whom it supplies,
     * found here by hand from the end to the start; nothing gets lost on the way; and a tenth more at the end is more at the start.
     */
    public function test_one_table_is_a_chain_of_any_shape(): void
    {
        $demo = NativeFile::import((string) file_get_contents(__DIR__.'/../../demo/oysters-on-order.json'))->model;
        $first = self::chain($demo);
        self::assertSame(['Oyster terraces', 'Packing house', 'Market hall', 'Inn at the quay'], array_keys($first['asked']));
        // In a row all are asked for the same, and the first house swings most.
        self::assertEqualsWithDelta([110.0, 110.0, 110.0, 110.0], array_values($first['asked']), 0.01);
        $swings = array_values($first['most']);
        self::assertGreaterThan($swings[1], $swings[0]);
        self::assertGreaterThan($swings[2], $swings[1]);
        self::assertGreaterThan($swings[3], $swings[2]);

        $text = (string) file_get_contents(__DIR__.'/../../demo/files/oysters branching.csv');
        $table = RelationTable::read($demo, 'house', $text, 'suppliers', 'x', 'customers', true);
        self::assertSame([], $table->remarks);
        self::assertSame([7, 8], [$table->count(), count($table->members)]);
        $branching = self::made($table, $demo);
        // Who is called as before is who it was; nothing else of the model has changed.
        self::assertSame(
            $demo->dimensions()->elementOf('house', 'Market hall'),
            $branching->dimensions()->elementOf('house', 'Market hall'),
        );
        self::assertEquals($demo->elements, $branching->elements);
        $second = self::chain($branching);
        $each = 110 / 4;
        $expected = ['Oyster terraces' => 2.0, 'Packing house' => 4.0, 'Lee terraces' => 2.0, 'Market hall' => 3.0];
        foreach (['Ferry kitchen', 'Inn at the quay', 'Bath house', 'School'] as $end) {
            $expected[$end] = 1.0;
        }
        foreach ($expected as $house => $ends) {
            self::assertEqualsWithDelta($each * $ends, $second['asked'][$house], 0.05, $house);
        }

        // The other side is the same pairs, and has a name of its own.
        self::assertSame(
            array_map(
                static fn (array $p): array => [$p[1], $p[0]],
                array_map(array_values(...), $branching->mappings()['suppliers']->pairs),
            ),
            array_map(static fn (array $p): array => [$p[0], $p[1]], $branching->mappings()['customers']->pairs),
        );
        foreach (
            [
                ['suppliers', 'suppliers', 'From the other side the relation needs another name.'],
                ['orders', '', '`orders` is called something else already.'],
            ] as [$name, $back, $words]
        ) {
            try {
                RelationTable::read($demo, 'house', $text, $name, 'x', $back, true)->edits();
                self::fail("$name, $back");
            } catch (NotUnderstood $problem) {
                self::assertStringContainsStringIgnoringCase($words, $problem->getMessage());
            }
        }
    }

    /** @return array{asked: array<string, float>, most: array<string, float>} by name of the house, at the end, and at most */
    private static function chain(Model $model): array
    {
        $analysis = Analyser::analyse($model);
        $run = Build::simulator()->run($analysis);
        self::assertNull($run->fault);
        $asked = $most = [];
        $last = count($run->times()) - 1;
        $sent = $came = 0.0;
        foreach ($model->dimensions()->elements('house') as $id) {
            $name = $model->dimensions()->elementName('house', $id);
            $asked[$name] = (float) $run->value("asked[$id]", $last);
            $most[$name] = max(
                0.0,
                ...array_map(static fn (int $i): float => (float) $run->value("asked[$id]", $i), array_keys($run->times())),
            );
            // What is ordered is waited for, on the way or in store, or has left: nothing else.
            $step = $model->time->step;
            $balance = 0.0;
            foreach (array_slice(array_keys($run->times()), 0, -1) as $i) {
                $balance += $step * ((float) $run->value("arriving[$id]", $i) - (float) $run->value("leaving[$id]", $i));
            }
            $change = (float) $run->value("store[$id]", $last) - (float) $run->value("store[$id]", 0);
            self::assertEqualsWithDelta($change, $balance, 1e-6);
            $sent += (float) $run->value("sending[$id]", $last);
            $came += (float) $run->value("leaving[$id]", $last);
        }
        // At rest, as much is sent to those who order as leaves those who are ordered from, the sea and the guests aside.
        self::assertEqualsWithDelta($sent, $came, 0.1);

        return ['asked' => $asked, 'most' => $most];
    }
}
