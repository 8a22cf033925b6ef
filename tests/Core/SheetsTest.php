<?php

declare(strict_types=1);

namespace Tests\Core;

use MerryOrbit\Core\Edit\AddEcho;
use MerryOrbit\Core\Edit\AddSheet;
use MerryOrbit\Core\Edit\AttachFlow;
use MerryOrbit\Core\Edit\BendLink;
use MerryOrbit\Core\Edit\DeleteElements;
use MerryOrbit\Core\Edit\Echoes;
use MerryOrbit\Core\Edit\Edit;
use MerryOrbit\Core\Edit\EditReader;
use MerryOrbit\Core\Edit\EditRefused;
use MerryOrbit\Core\Edit\MoveToSheet;
use MerryOrbit\Core\Edit\OrderSheets;
use MerryOrbit\Core\Edit\Paste;
use MerryOrbit\Core\Edit\RemoveSheet;
use MerryOrbit\Core\Edit\RenameSheet;
use MerryOrbit\Core\Edit\Restore;
use MerryOrbit\Core\Edit\SetFormula;
use MerryOrbit\Core\Edit\SetGroup;
use MerryOrbit\Core\Edit\Together;
use MerryOrbit\Core\Exchange\NativeFile;
use MerryOrbit\Core\Model\Model;
use MerryOrbit\Core\Model\ModelRecord;
use MerryOrbit\Core\Model\Placement;
use MerryOrbit\Core\Model\Point;
use MerryOrbit\Core\Structure\Layout;
use PHPUnit\Framework\Attributes\DataProvider;
use PHPUnit\Framework\TestCase;

final class SheetsTest extends TestCase
{
    private static function reef(): Model
    {
        $model = Layout::complete(
            Build::model(
                ['growth rate' => '0.9', 'bite' => '0.02', 'hunting skill' => '1'],
                ['kelp' => '60', 'urchins' => '20', 'otters' => '9'],
                [
                    'growth' => ['growth rate * kelp', 'to' => 'kelp'],
                    'grazing' => ['bite * kelp * urchins', 'from' => 'kelp'],
                    'hunted' => ['hunting skill * otters', 'from' => 'urchins', 'to' => 'otters'],
                ],
                ['cover' => 'kelp / 100'],
            ),
        );

        return (new AddSheet('animals', 'Animals'))->apply($model);
    }

    /** Every thing sees on its own sheet what it depends on. */
    private static function assertSeen(Model $model): void
    {
        foreach ($model->elements as $id => $element) {
            foreach (Echoes::causes($model, $element) as $cause) {
                self::assertTrue($model->isOn($cause, $model->sheetOf($id)), "$cause is not in sight of $id");
            }
        }
    }

    public function test_moving_half_of_a_model_leaves_echoes_where_links_need_them(): void
    {
        $model = self::reef();
        $moved = (new MoveToSheet(['urchins', 'otters', 'hunted', 'hunting-skill'], 'animals'))->apply($model);
        self::assertSame('animals', $moved->sheetOf('otters'));
        self::assertSeen($moved);
        // Grazing stays and uses the urchins, which have left; nothing on the new sheet uses what stayed.
        self::assertSame(
            [['urchins', 'sheet-1']],
            array_values(array_map(static fn ($e): array => [$e->element, $e->sheet], $moved->echoes)),
        );
        self::assertEquals($model->placements['urchins']->at, array_values($moved->echoes)[0]->at, 'the echo stands where the thing stood');

        $further = (new MoveToSheet(['grazing'], 'animals'))->apply($moved);
        self::assertSeen($further);
        $echoes = array_map(static fn ($e): string => "$e->element on $e->sheet", $further->echoes);
        sort($echoes);
        self::assertSame(['bite on animals', 'kelp on animals'], $echoes, 'the echo of the urchins is not needed any more');

        $back = (new MoveToSheet(array_keys($model->elements), 'sheet-1'))->apply($further);
        self::assertSame([], $back->echoes);
        self::assertEquals($model->placements, $back->placements);
    }

    public function test_whatever_is_moved_everything_stays_in_sight_and_is_undone_exactly(): void
    {
        mt_srand(7);
        $model = self::reef();
        for ($i = 0; $i < 60; $i++) {
            $ids = array_values(array_filter(array_keys($model->elements), static fn (): bool => mt_rand(0, 2) === 0));
            $edit = new MoveToSheet($ids, ['sheet-1', 'animals'][mt_rand(0, 1)]);
            try {
                $next = $edit->apply($model);
            } catch (EditRefused) {
                continue;
            }
            self::assertSeen($next);
            self::assertEquals(ModelRecord::of($model), ModelRecord::of($edit->inverse($model)->apply($next)));
            $model = $next;
        }
        self::assertGreaterThan(2, count($model->echoes) + 2);
    }

    public function test_a_formula_that_reaches_to_another_sheet_brings_an_echo(): void
    {
        $model = (new MoveToSheet(['cover'], 'animals'))->apply(self::reef());
        $model = (new SetFormula('cover', 'kelp / 100 + bite'))->apply($model);
        self::assertSeen($model);
        self::assertTrue($model->isOn('bite', 'animals'));
        $model = (new AttachFlow('growth', null, 'otters'))->apply((new MoveToSheet(['growth'], 'animals'))->apply($model));
        self::assertTrue($model->isOn('otters', 'animals'));
    }

    public function test_deleting_a_thing_deletes_its_echoes_and_bends_and_leaves_its_group(): void
    {
        $model = (new AddEcho('e1', 'kelp', new Point(1, 2), 'animals'))->apply(self::reef());
        $model = (new BendLink('kelp', 'cover', new Point(0, 40)))->apply((new SetGroup(['kelp'], 'Plants', 'moss'))->apply($model));
        $without = (new DeleteElements(['e1']))->apply($model);
        self::assertSame([], $without->echoes);
        self::assertNotNull($without->element('kelp'));
        $gone = (new DeleteElements(['kelp']))->apply($model);
        self::assertSame([[], [], []], [$gone->echoes, $gone->bends, $gone->groups]);
        self::assertEquals(ModelRecord::of($model), ModelRecord::of((new DeleteElements(['kelp']))->inverse($model)->apply($gone)));
    }

    public function test_a_thing_is_in_one_group_at_most(): void
    {
        $model = (new SetGroup(['kelp', 'urchins'], 'Reef'))->apply(self::reef());
        $model = (new SetGroup(['urchins', 'otters'], 'Animals', 'clay'))->apply($model);
        self::assertSame(
            [['Reef', 'moss', ['kelp']], ['Animals', 'clay', ['urchins', 'otters']]],
            array_map(static fn ($g): array => [$g->name, $g->tint, $g->members], $model->groups),
        );
        self::assertSame([], (new SetGroup(array_keys($model->elements), ''))->apply($model)->groups);
    }

    public function test_pasted_copies_have_free_names_and_formulas_follow(): void
    {
        $source = self::reef();
        $fragment = $source->with(['elements' => array_intersect_key($source->elements, ['kelp' => 1, 'growth' => 1, 'cover' => 1])]);
        // As it travels between studies: a file, in which what was not copied is a mere name.
        $fragment = NativeFile::import(
            NativeFile::export(
                $fragment->with([
                    'elements' => array_map(
                        static fn ($e) => $e->with(['formula' => new \MerryOrbit\Core\Formula\FormulaText([$source->formulaOf($e)])]),
                        $fragment->elements,
                    ),
                ]),
            ),
        )->model;
        $model = (new Paste('p1', $fragment, new Point(1000, 500), 'sheet-1'))->apply($source);
        self::assertSame(['kelp 2', 'growth 2', 'cover 2'], array_slice($model->names(), -3));
        $copy = $model->elements[(string) $model->idOf('growth 2')];
        self::assertInstanceOf(\MerryOrbit\Core\Model\Flow::class, $copy);
        self::assertSame('growth rate * kelp 2', $model->formulaOf($copy));
        self::assertSame($model->idOf('kelp 2'), $copy->to);
        self::assertSame([], Build::codes($model));
        self::assertSame(
            1000.0,
            min([INF, ...array_map(static fn (Placement $p): float => $p->at->x, array_values(array_slice($model->placements, -3)))]),
        );

        $other = (new Paste('p1', $fragment, new Point(0, 0)))->apply(new Model('Other'));
        self::assertSame(['kelp', 'growth', 'cover'], $other->names());
        self::assertSame(['name.unknown'], Build::codes($other), 'the growth rate was not copied');
        $twice = (new Paste('p2', $fragment, new Point(0, 0)))->apply($model);
        self::assertNotNull($twice->idOf('kelp 3'));
    }

    public function test_one_element_is_brought_back_as_it_was(): void
    {
        $old = self::reef();
        $now = (new DeleteElements(['bite', 'cover']))->apply((new SetFormula('kelp', '80'))->apply($old));
        $kelp = (new Restore($old, ['kelp'], 'revision 3'))->apply($now);
        self::assertSame('60', $kelp->formulaOf($kelp->elements['kelp']));
        self::assertNull($kelp->element('cover'));
        $more = (new Restore($old, ['bite', 'cover'], 'revision 3'))->apply($now);
        self::assertSame('bite * kelp * urchins', $more->formulaOf($more->elements['grazing']));
        self::assertSame([], Build::codes($more));
        self::assertSame(ModelRecord::of($old), ModelRecord::of((new Restore($old, null, 'revision 3'))->apply($now)));
        $this->expectException(EditRefused::class);
        (new Restore($old, ['nobody'], 'revision 3'))->apply($now);
    }

    public function test_edits_made_together_are_one_and_all_or_none(): void
    {
        $edit = EditReader::read([
            'kind' => 'together',
            'words' => 'Renamed 2 things',
            'edits' => [['kind' => 'rename', 'id' => 'kelp', 'name' => 'weed'], ['kind' => 'rename', 'id' => 'bite', 'name' => 'nibble']],
        ]);
        $model = $edit->apply(self::reef());
        self::assertSame('nibble * weed * urchins', $model->formulaOf($model->elements['grazing']));
        self::assertSame('Renamed 2 things', $edit->words(self::reef()));
        $bad = new Together([new SetFormula('kelp', '1'), new SetFormula('nobody', '1')]);
        $this->expectException(EditRefused::class);
        $bad->apply(self::reef());
    }

    public function test_the_drawing_survives_the_file(): void
    {
        $model = (new MoveToSheet(['urchins', 'hunted'], 'animals'))->apply(self::reef());
        $model = (new SetGroup(['kelp', 'cover'], 'Plants', 'sky'))->apply(
            (new BendLink('kelp', 'cover', new Point(12.5, -40)))->apply($model),
        );
        $place = $model->placements['growth'];
        $model = EditReader::read([
            'kind' => 'move',
            'placements' => ['growth' => $place->with(['bendIn' => new Point(3, 4), 'plot' => true])->toRecord()],
        ])->apply($model);
        $file = NativeFile::export($model);
        $imported = NativeFile::import($file);
        self::assertSame([], $imported->log);
        self::assertEquals(ModelRecord::of($model), ModelRecord::of($imported->model));
        self::assertSame($file, NativeFile::export($imported->model));
    }

    public function test_a_damaged_drawing_cannot_make_a_file_unreadable(): void
    {
        $text = NativeFile::export(
            (new AddEcho('e1', 'kelp', new Point(1, 2), 'animals'))->apply(
                (new BendLink('kelp', 'cover', new Point(1, 1)))->apply(self::reef()),
            ),
        );
        /** @var array<string, mixed> $file */
        $file = json_decode($text, true);
        $file['echoes'] = [
            ['element' => 'nobody', 'at' => [0, 0]],
            ['element' => 'kelp', 'at' => 'there'],
            7,
            ['element' => 'kelp', 'id' => 'kelp', 'at' => [1, 1], 'sheet' => 'nowhere'],
        ];
        $file['bends'] = [['from' => 'kelp', 'to' => 'nobody', 'by' => [1, 1]], 'x'];
        $file['groups'] = [
            ['name' => 'A', 'tint' => 'no colour', 'elements' => ['kelp', 'kelp', 'nobody', 5]],
            ['name' => 'B', 'elements' => ['kelp']],
        ];
        $imported = NativeFile::import((string) json_encode($file));
        self::assertCount(5, $imported->log);
        self::assertCount(1, $imported->model->echoes);
        self::assertNotSame('kelp', array_key_first($imported->model->echoes));
        self::assertSame([['A', ['kelp']]], array_map(static fn ($g): array => [$g->name, $g->members], $imported->model->groups));
    }

    /** @return iterable<string, array{array<string, mixed>, string}> */
    public static function refusals(): iterable
    {
        yield 'echo of nothing' => [
            ['kind' => 'echo', 'id' => 'x', 'element' => 'nobody', 'at' => ['x' => 0, 'y' => 0], 'sheet' => 'sheet-1'],
            'not in the model any more',
        ];
        yield 'echo with a taken id' => [
            ['kind' => 'echo', 'id' => 'kelp', 'element' => 'kelp', 'at' => ['x' => 0, 'y' => 0], 'sheet' => 'sheet-1'],
            'already in the model',
        ];
        yield 'echo on no sheet' => [
            ['kind' => 'echo', 'id' => 'x', 'element' => 'kelp', 'at' => ['x' => 0, 'y' => 0], 'sheet' => 'gone'],
            'sheet is not in the model',
        ];
        yield 'echo nowhere' => [['kind' => 'echo', 'id' => 'x', 'element' => 'kelp', 'sheet' => 'sheet-1'], 'A place needs'];
        yield 'bend of nothing' => [
            ['kind' => 'bend', 'from' => 'kelp', 'to' => 'nobody', 'by' => ['x' => 0, 'y' => 0]],
            'not in the model',
        ];
        yield 'group of nothing' => [['kind' => 'group', 'ids' => ['nobody'], 'name' => 'A'], 'not in the model'];
        yield 'group without colour' => [['kind' => 'group', 'ids' => ['kelp'], 'name' => 'A', 'tint' => 'red'], 'one of moss'];
        yield 'group with a long name' => [['kind' => 'group', 'ids' => ['kelp'], 'name' => str_repeat('long ', 30)], 'at most 120'];
        yield 'plot of nothing' => [['kind' => 'plot', 'ids' => ['nobody'], 'shown' => true], 'not in the model'];
        yield 'sheet twice' => [['kind' => 'sheet-add', 'id' => 'animals', 'name' => 'More'], 'already in the model'];
        yield 'sheet name taken' => [['kind' => 'sheet-add', 'id' => 'x', 'name' => ' animals '], 'already is a sheet called “Animals”'];
        yield 'sheet without name' => [['kind' => 'sheet-rename', 'id' => 'animals', 'name' => ' '], 'needs a name'];
        yield 'no such sheet' => [['kind' => 'sheet-rename', 'id' => 'gone', 'name' => 'A'], 'undo brings it back'];
        yield 'order that forgets' => [['kind' => 'sheet-order', 'ids' => ['animals']], 'name every sheet'];
        yield 'sheet in use' => [['kind' => 'sheet-remove', 'id' => 'sheet-1'], '10 things are defined on “Main”'];
        yield 'move to the same sheet' => [['kind' => 'to-sheet', 'ids' => ['kelp'], 'sheet' => 'sheet-1'], 'on this sheet already'];
        yield 'move of nothing' => [['kind' => 'to-sheet', 'ids' => ['nobody'], 'sheet' => 'animals'], 'not in the model'];
        yield 'paste where there is no reader' => [
            ['kind' => 'paste', 'id' => 'p', 'text' => '{}', 'at' => ['x' => 0, 'y' => 0], 'sheet' => 'sheet-1'],
            'Nothing can be pasted',
        ];
        yield 'nothing together' => [['kind' => 'together', 'edits' => []], 'one to 5,000'];
        yield 'together in together' => [['kind' => 'together', 'edits' => [['kind' => 'together', 'edits' => []]]], 'cannot hold others'];
        yield 'ids that are none' => [['kind' => 'to-sheet', 'ids' => 'kelp', 'sheet' => 'animals'], 'list of ids'];
    }

    /** @param  array<string, mixed>  $record */
    #[DataProvider('refusals')]
    public function test_what_makes_no_sense_is_refused(array $record, string $words): void
    {
        $this->expectException(EditRefused::class);
        $this->expectExceptionMessage($words);
        EditReader::read($record)->apply(self::reef());
    }

    public function test_sheets_are_renamed_ordered_and_removed(): void
    {
        $model = (new RenameSheet('animals', 'Who eats whom'))->apply(self::reef());
        $model = (new OrderSheets(['animals', 'sheet-1']))->apply($model);
        self::assertSame(['Who eats whom', 'Main'], array_map(static fn ($s): string => $s->name, $model->sheets));
        $model = (new RemoveSheet('animals'))->apply((new AddEcho('e1', 'kelp', new Point(0, 0), 'animals'))->apply($model));
        self::assertSame([1, []], [count($model->sheets), $model->echoes]);
        $this->expectExceptionMessage('the last one');
        (new RemoveSheet('sheet-1'))->apply($model);
    }

    /** @return iterable<string, array{Edit}> */
    public static function told(): iterable
    {
        yield 'Moved `kelp` to the sheet “Animals”' => [new MoveToSheet(['kelp'], 'animals')];
        yield 'Echoed `kelp` on Animals' => [new AddEcho('e', 'kelp', new Point(0, 0), 'animals')];
        yield 'Put 2 things into the group “Reef”' => [new SetGroup(['kelp', 'urchins'], 'Reef')];
        yield 'Went back to revision 3' => [new Restore(new Model('x'), null, 'revision 3')];
        yield '`bite`: 0.02 → 0.03' => [new SetFormula('bite', '0.03')];
    }

    #[DataProvider('told')]
    public function test_edits_are_told_in_words(Edit $edit): void
    {
        self::assertSame($this->dataName(), $edit->words(self::reef()));
        self::assertFalse($edit->inverse(self::reef())->isEmpty());
    }
}
