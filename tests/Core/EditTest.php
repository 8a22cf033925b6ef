<?php

declare(strict_types=1);

namespace Tests\Core;

use MerryOrbit\Core\Analysis\Analyser;
use MerryOrbit\Core\Edit\AddElement;
use MerryOrbit\Core\Edit\AttachFlow;
use MerryOrbit\Core\Edit\ChangeKind;
use MerryOrbit\Core\Edit\Connect;
use MerryOrbit\Core\Edit\DeleteElements;
use MerryOrbit\Core\Edit\Disconnect;
use MerryOrbit\Core\Edit\Edit;
use MerryOrbit\Core\Edit\EditReader;
use MerryOrbit\Core\Edit\EditRefused;
use MerryOrbit\Core\Edit\Patch;
use MerryOrbit\Core\Edit\RenameElement;
use MerryOrbit\Core\Edit\SetFormula;
use MerryOrbit\Core\Model\Kind;
use MerryOrbit\Core\Model\Model;
use MerryOrbit\Core\Model\ModelRecord;
use PHPUnit\Framework\Attributes\DataProvider;
use PHPUnit\Framework\TestCase;

final class EditTest extends TestCase
{
    private static function water(): Model
    {
        return Build::model(
            ['rain' => '2', 'share' => '10%'],
            ['lens' => 'rain * 50'],
            ['seeping' => ['rain * share', 'to' => 'lens'], 'wells' => ['lens / 7 + nobody', 'from' => 'lens']],
            ['thickness' => 'lens / 3'],
        );
    }

    private static function refusal(Model $model, Edit $edit): string
    {
        try {
            $edit->apply($model);
        } catch (EditRefused $e) {
            return $e->getMessage();
        }
        self::fail('The edit was not refused');
    }

    public function test_a_rename_is_followed_by_every_formula(): void
    {
        $model = (new RenameElement('lens', 'fresh water & salt'))->apply(self::water());
        self::assertSame('"fresh water & salt" / 3', $model->formulaOf($model->elements['thickness']));
        self::assertSame('"fresh water & salt" / 7 + nobody', $model->formulaOf($model->elements['wells']));
        self::assertEquals(self::water()->elements['thickness']->formula, $model->elements['thickness']->formula);
        $back = (new RenameElement('lens', 'lens'))->apply($model);
        self::assertSame('lens / 3', $back->formulaOf($back->elements['thickness']));
    }

    public function test_a_name_that_formulas_wait_for_binds_when_it_comes(): void
    {
        $model = (new AddElement('n', Kind::Parameter, 'Nobody', '1'))->apply(self::water());
        $model = (new RenameElement('n', 'somebody'))->apply($model);
        self::assertSame('lens / 7 + somebody', $model->formulaOf($model->elements['wells']));
        self::assertSame([], Analyser::analyse($model)->problems);
    }

    public function test_what_uses_a_deleted_thing_keeps_its_name_and_says_that_it_is_missed(): void
    {
        $water = self::water();
        $delete = new DeleteElements(['lens']);
        $model = $delete->apply($water);
        self::assertSame('lens / 3', $model->formulaOf($model->elements['thickness']));
        self::assertContains(
            'Nothing is called `lens`.',
            array_map(static fn ($p): string => $p->sentence, Analyser::analyse($model)->problems),
        );
        self::assertNull(self::flowEnds($model, 'seeping')[1]);
        $back = $delete->inverse($water)->apply($model);
        self::assertSame(ModelRecord::of($water), ModelRecord::of($back));
    }

    /** @return array{?string, ?string} */
    private static function flowEnds(Model $model, string $id): array
    {
        $flow = $model->elements[$id];
        self::assertInstanceOf(\MerryOrbit\Core\Model\Flow::class, $flow);

        return [$flow->from, $flow->to];
    }

    public function test_a_link_waits_until_it_is_used(): void
    {
        $model = (new Connect('share', 'wells'))->apply(self::water());
        self::assertCount(1, $model->links);
        self::assertCount(0, (new SetFormula('wells', 'lens * share'))->apply($model)->links);
        self::assertCount(0, (new Disconnect('share', 'wells'))->apply($model)->links);
        self::assertCount(0, (new DeleteElements(['share']))->apply($model)->links);
    }

    /** @return iterable<string, array{Edit, string}> */
    public static function refused(): iterable
    {
        yield 'name taken' => [new RenameElement('rain', 'LENS'), 'already is a stock called `lens`'];
        yield 'name empty' => [new RenameElement('rain', ' _ '), 'at least one letter'];
        yield 'name hidden' => [new RenameElement('rain', "a\u{200b}b"), 'can be seen'];
        yield 'name long' => [new RenameElement('rain', str_repeat('x', 121)), 'at most 120'];
        yield 'add taken' => [new AddElement('x', Kind::Stock, 'Rain'), 'already is a parameter'];
        yield 'add twice' => [new AddElement('rain', Kind::Stock, 'y'), 'already in the model'];
        yield 'flow onto a parameter' => [new AddElement('x', Kind::Flow, 'f', from: 'rain'), '`rain` is no stock'];
        yield 'flow from nowhere known' => [new AttachFlow('wells', 'gone', null), 'not in the model any more'];
        yield 'flow to itself' => [new AttachFlow('wells', 'lens', 'lens'), 'changes nothing'];
        yield 'ends of a stock' => [new AttachFlow('lens', null, null), 'Only a flow has ends'];
        yield 'link to itself' => [new Connect('rain', 'rain'), 'cannot be linked to itself'];
        yield 'link to a parameter' => [new Connect('lens', 'rain'), 'Make it an auxiliary'];
        yield 'link in use' => [new Connect('lens', 'thickness'), 'already uses'];
        yield 'unlink in use' => [new Disconnect('lens', 'thickness'), 'Take it out there'];
        yield 'unlink in use at start' => [new Disconnect('rain', 'lens'), 'in its initial value'];
        yield 'stock to auxiliary' => [new ChangeKind('lens', Kind::Auxiliary), 'Flows enter or leave'];
        yield 'gone' => [new SetFormula('gone', '1'), 'undo brings it back'];
        yield 'too long' => [new SetFormula('rain', str_repeat('1+', 11_000).'1'), 'Split it'];
        yield 'delete nothing' => [new DeleteElements(['gone']), 'not in the model any more'];
        yield 'dial upside down' => [new \MerryOrbit\Core\Edit\SetRange('rain', 3, 2, null), 'low end'];
        yield 'dial of a stock' => [new \MerryOrbit\Core\Edit\SetRange('lens', 1, 2, null), 'Only a parameter'];
        yield 'time' => [new \MerryOrbit\Core\Edit\SetTime(new \MerryOrbit\Core\Model\TimeSettings(5, 1)), 'larger than the start'];
        yield 'limit of a flow' => [new \MerryOrbit\Core\Edit\SetStock('wells', true, ''), 'Only a stock'];
        yield 'one-way stock' => [new \MerryOrbit\Core\Edit\SetFlow('lens', true, null), 'Only a flow'];
        yield 'priority without end' => [new \MerryOrbit\Core\Edit\SetFlow('wells', true, NAN), 'plain number'];
        yield 'travel too long' => [new \MerryOrbit\Core\Edit\SetStock('lens', true, str_repeat('1+', 11_000).'1'), 'Split it'];
        yield 'points of a stock' => [
            new \MerryOrbit\Core\Edit\SetCurve(
                'lens',
                [],
                \MerryOrbit\Core\Model\Between::Straight,
                \MerryOrbit\Core\Model\Beyond::Held,
                '',
            ),
            'Only a curve or a series',
        ];
        yield 'end too long' => [new \MerryOrbit\Core\Edit\SetEnd(str_repeat('1+', 11_000).'1'), 'Put it into an auxiliary'];
        yield 'units without an equals sign' => [new \MerryOrbit\Core\Edit\SetSameUnits(['person, people']), 'with `=` between them'];
        yield 'date' => [
            new \MerryOrbit\Core\Edit\SetTime(new \MerryOrbit\Core\Model\TimeSettings(0, 1, 0.5, startDate: '2031-02-30')),
            'year, month and day',
        ];
        yield 'tolerance' => [
            new \MerryOrbit\Core\Edit\SetTime(new \MerryOrbit\Core\Model\TimeSettings(0, 1, 0.5, tolerance: 0.0)),
            'tolerance is a share',
        ];
        yield 'title' => [new \MerryOrbit\Core\Edit\SetTitle('  '), 'at least one letter'];
    }

    #[DataProvider('refused')]
    public function test_what_makes_no_sense_is_refused_with_a_sentence(Edit $edit, string $words): void
    {
        self::assertStringContainsString($words, self::refusal(self::water(), $edit));
    }

    /** Any sequence of edits, taken back in reverse, leads to the model at the start; and patches survive JSON. */
    public function test_any_edits_and_their_inverses_lead_back_to_the_start(): void
    {
        foreach ([1, 2, 3, 4] as $seed) {
            mt_srand($seed);
            $start = $model = self::water();
            $inverses = [];
            $kinds = [];
            for ($i = 0; $i < 250; $i++) {
                $edit = EditReader::read(RandomEdit::record($model, $i));
                try {
                    $inverse = $edit->inverse($model);
                    $next = $edit->apply($model);
                } catch (EditRefused) {
                    continue;
                }
                self::assertSame(ModelRecord::of($model), ModelRecord::of(self::throughJson($inverse)->apply($next)), $edit::class);
                $forward = self::throughJson(Patch::between($model, $next));
                self::assertSame(ModelRecord::of($next), ModelRecord::of($forward->apply($model)), $edit::class);
                self::assertNotSame('', $edit->words($model));
                $inverses[] = $inverse;
                $model = $next;
                $kinds[$edit::class] = true;
            }
            self::assertGreaterThan(11, count($kinds));
            self::assertNotSame(ModelRecord::of($start), ModelRecord::of($model));
            foreach (array_reverse($inverses) as $inverse) {
                $model = $inverse->apply($model);
            }
            self::assertSame(ModelRecord::of($start), ModelRecord::of($model));
        }
    }

    private static function throughJson(Patch $patch): Patch
    {
        /** @var array<string, mixed> $record */
        $record = json_decode(
            json_encode($patch->record, JSON_THROW_ON_ERROR | JSON_PRESERVE_ZERO_FRACTION),
            true,
            flags: JSON_THROW_ON_ERROR,
        );

        return Patch::fromRecord($record);
    }

    public function test_two_edits_clash_only_where_they_write_the_same(): void
    {
        $water = self::water();
        $touches = static fn (Edit $e): array => Patch::between($water, $e->apply($water))->touches();
        $formula = $touches(new SetFormula('wells', 'lens'));
        self::assertNull(Patch::clash($formula, $touches(new SetFormula('seeping', '1'))));
        self::assertNull(Patch::clash($formula, $touches(new RenameElement('wells', 'pumps'))));
        self::assertSame('element/wells/formula', Patch::clash($formula, $touches(new SetFormula('wells', '2'))));
        self::assertSame('element/wells/formula', Patch::clash($touches(new DeleteElements(['wells'])), $formula));
    }

    /** @return iterable<string, array{mixed, string}> */
    public static function unreadable(): iterable
    {
        yield 'no record' => ['delete all', 'object'];
        yield 'unknown kind' => [['kind' => 'explode'], 'no edit called `explode`'];
        yield 'no id' => [['kind' => 'rename', 'name' => 'x'], '`id`'];
        yield 'wrong id' => [['kind' => 'rename', 'id' => '../x', 'name' => 'x'], '`id`'];
        yield 'wrong text' => [['kind' => 'formula', 'id' => 'a', 'text' => 5], '`text`'];
        yield 'wrong number' => [['kind' => 'range', 'id' => 'a', 'low' => 'x'], '`low`'];
        yield 'wrong place' => [['kind' => 'move', 'placements' => ['a' => ['at' => ['x' => 'left', 'y' => 1]]]], '`x`'];
        yield 'a patch from outside' => [['kind' => 'patch', 'removed' => ['lens']], 'no edit called'];
        yield 'wrong kind of element' => [['kind' => 'add', 'id' => 'a', 'element' => 'boat'], '`element`'];
        yield 'wrong points' => [['kind' => 'curve', 'id' => 'a', 'points' => [[1]]], 'pair of numbers'];
        yield 'wrong lines' => [['kind' => 'same-units', 'lines' => [5]], '`lines`'];
        yield 'wrong way between' => [['kind' => 'curve', 'id' => 'a', 'points' => [], 'between' => 'wavy'], '`between`'];
        yield 'wrong method' => [['kind' => 'time', 'method' => 'magic'], 'method'];
    }

    #[DataProvider('unreadable')]
    public function test_records_that_are_no_edits_are_refused_with_a_sentence(mixed $record, string $words): void
    {
        try {
            EditReader::read($record);
            self::fail('It was read without complaint');
        } catch (EditRefused $e) {
            self::assertStringContainsString($words, $e->getMessage());
        }
    }

    /** @param  list<array<string, mixed>>  $edits  each sets one field; in whichever order they come, all of them hold in the end */
    #[DataProvider('fields')]
    public function test_what_an_edit_does_not_say_stays_as_it_is(string $id, array $edits): void
    {
        /** @param  array<array<string, mixed>>  $edits */
        $do = static function (array $edits) use ($id): array {
            $model = (new AddElement('bend', Kind::Curve, 'bend'))->apply(self::water());
            foreach ($edits as $edit) {
                $model = EditReader::read(['id' => $id] + (array) $edit)->apply($model);
            }

            return ModelRecord::ofElement($model->elements[$id]);
        };
        $record = $do($edits);
        self::assertSame($record, $do(array_reverse($edits)));
        foreach ($edits as $edit) {
            self::assertNotSame(
                $record,
                $do(array_filter($edits, static fn (array $e): bool => $e !== $edit)),
                'each of them did something',
            );
        }
    }

    /** @return iterable<string, array{string, list<array<string, mixed>>}> */
    public static function fields(): iterable
    {
        yield 'a flow' => ['wells', [['kind' => 'flow', 'oneWay' => true], ['kind' => 'flow', 'priority' => 2]]];
        yield 'a stock' => ['lens', [['kind' => 'stock', 'neverNegative' => true], ['kind' => 'stock', 'travel' => '3']]];
        yield 'a curve' => [
            'bend',
            [
                ['kind' => 'curve', 'points' => [[0, 1], [2, 5]]],
                ['kind' => 'curve', 'between' => 'smooth'],
                ['kind' => 'curve', 'beyond' => 'extended'],
                ['kind' => 'curve', 'inputUnit' => 'm'],
            ],
        ];
    }

    public function test_words_of_an_edit_tell_the_field_it_says(): void
    {
        $words = static fn (array $edit): string => EditReader::read($edit)->words(self::water());
        self::assertSame(
            [
                'Priority of `wells`: 2',
                'Priority of `wells`: by order',
                'Made `wells` one-way',
                'Travel time of `lens`: 3',
                'Let `lens` go below zero',
            ],
            [
                $words(['kind' => 'flow', 'id' => 'wells', 'priority' => 2]),
                $words(['kind' => 'flow', 'id' => 'wells', 'priority' => null]),
                $words(['kind' => 'flow', 'id' => 'wells', 'oneWay' => true]),
                $words(['kind' => 'stock', 'id' => 'lens', 'travel' => '3']),
                $words(['kind' => 'stock', 'id' => 'lens', 'neverNegative' => false]),
            ],
        );
    }
}
