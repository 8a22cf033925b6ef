<?php

declare(strict_types=1);

namespace Tests\Core;

use MerryOrbit\Core\Edit\EditReader;
use MerryOrbit\Core\Exchange\NativeFile;
use MerryOrbit\Core\Exchange\RosterTable;
use MerryOrbit\Core\Model\Model;
use MerryOrbit\Core\Model\Roster;
use MerryOrbit\Core\Problem\NotUnderstood;

/** A table of members becomes a roster by ordinary edits; the whole stands in files. */
final class RosterTableTest extends RosterCase
{
    private const TABLE = "name;built;length [m];home harbour;remark\nSlack Water;1989;7,7;Lee;sound\nKelpie;2001;9,2;Quay;\nTern;;6,4;Lee;a little leak\n";

    private static function made(RosterTable $table, Model $model): Model
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
}
