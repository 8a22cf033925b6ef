<?php

declare(strict_types=1);

namespace Tests\Core;

use MerryOrbit\Core\Edit\AddElement;
use MerryOrbit\Core\Edit\AttachFlow;
use MerryOrbit\Core\Edit\ChangeKind;
use MerryOrbit\Core\Edit\Connect;
use MerryOrbit\Core\Edit\DeleteElements;
use MerryOrbit\Core\Edit\Disconnect;
use MerryOrbit\Core\Edit\Edit;
use MerryOrbit\Core\Edit\Move;
use MerryOrbit\Core\Edit\Patch;
use MerryOrbit\Core\Edit\RenameElement;
use MerryOrbit\Core\Edit\SetFormula;
use MerryOrbit\Core\Edit\SetNote;
use MerryOrbit\Core\Edit\SetRange;
use MerryOrbit\Core\Edit\SetTime;
use MerryOrbit\Core\Edit\SetTitle;
use MerryOrbit\Core\Edit\SetTrack;
use MerryOrbit\Core\Edit\SetUnit;
use MerryOrbit\Core\Model\Kind;
use MerryOrbit\Core\Model\Method;
use MerryOrbit\Core\Model\Model;
use MerryOrbit\Core\Model\ModelRecord;
use MerryOrbit\Core\Model\Placement;
use MerryOrbit\Core\Model\Point;
use MerryOrbit\Core\Model\TimeSettings;
use PHPUnit\Framework\Attributes\DataProvider;
use PHPUnit\Framework\TestCase;

final class PatchTest extends TestCase
{
    private static function model(): Model
    {
        return Build::model(
            ['rain' => '2', 'share' => '10%'],
            ['lens' => '100', 'sea' => '0'],
            ['wells' => ['lens / 7', 'from' => 'lens']],
            ['thickness' => 'lens / 3'],
        );
    }

    private static function patch(Model $model, Edit ...$edits): Patch
    {
        $next = $model;
        foreach ($edits as $edit) {
            $next = $edit->apply($next);
        }

        return Patch::between($model, $next);
    }

    public function test_nothing_changed_is_an_empty_patch(): void
    {
        $model = self::model();
        self::assertTrue(Patch::between($model, $model)->isEmpty());
        self::assertTrue(self::patch($model, new SetUnit('rain', 'mm'), new SetUnit('rain', ''))->isEmpty());
        self::assertFalse(self::patch($model, new SetUnit('rain', 'mm'))->isEmpty());
    }

    public function test_a_patch_changes_only_the_fields_it_names(): void
    {
        $model = self::model();
        $formula = self::patch($model, new SetFormula('wells', 'rain'));
        // Meanwhile the same element got a new name, a unit and other ends.
        $later = (new AttachFlow('wells', 'sea', 'lens'))->apply(
            (new SetUnit('wells', 'm^3'))->apply((new RenameElement('wells', 'pumps'))->apply($model)),
        );
        $merged = $formula->apply($later);
        self::assertSame(
            ['pumps', 'rain', 'm^3'],
            [$merged->elements['wells']->name, $merged->formulaOf($merged->elements['wells']), $merged->elements['wells']->unit],
        );
        self::assertSame(['element/wells/formula'], $formula->touches());
    }

    public function test_what_comes_back_stands_where_it_stood_or_at_the_end(): void
    {
        $model = self::model();
        $order = array_keys($model->elements);
        $delete = new DeleteElements(['sea', 'rain']);
        $inverse = $delete->inverse($model);
        self::assertSame($order, array_keys($inverse->apply($delete->apply($model))->elements));
        // The neighbour it stood behind is gone by now.
        $without = (new DeleteElements(['lens']))->apply($delete->apply($model));
        $back = array_keys($inverse->apply($without)->elements);
        self::assertEqualsCanonicalizing(array_values(array_diff($order, ['lens'])), $back);
    }

    public function test_a_patch_for_what_is_gone_does_no_harm(): void
    {
        $model = self::model();
        $patch = self::patch($model, new SetFormula('wells', '1'), new Connect('share', 'thickness'));
        $gone = (new DeleteElements(['wells', 'thickness']))->apply($model);
        $result = $patch->apply($gone);
        self::assertSame(ModelRecord::of($gone), ModelRecord::of($result));
    }

    public function test_a_formula_written_meanwhile_binds_to_what_comes_back(): void
    {
        $model = self::model();
        $delete = new DeleteElements(['rain']);
        $meanwhile = (new SetFormula('thickness', 'rain * 5'))->apply($delete->apply($model));
        $back = $delete->inverse($model)->apply($meanwhile);
        self::assertTrue($back->elements['thickness']->formula->mentions('rain'));
    }

    public function test_the_kind_changes_with_everything_else_kept(): void
    {
        $model = (new SetNote('rain', 'per year'))->apply(self::model());
        $edit = new ChangeKind('rain', Kind::Auxiliary);
        $changed = $edit->apply($model);
        self::assertSame(
            [Kind::Auxiliary, 'per year', '2'],
            [$changed->elements['rain']->kind(), $changed->elements['rain']->note, $changed->formulaOf($changed->elements['rain'])],
        );
        self::assertSame(array_keys($model->elements), array_keys(Patch::between($model, $changed)->apply($model)->elements));
        self::assertSame(ModelRecord::of($model), ModelRecord::of($edit->inverse($model)->apply($changed)));
    }

    /** @return iterable<string, array{Edit, string}> */
    public static function said(): iterable
    {
        yield 'add' => [new AddElement('x', Kind::Stock, ' fresh  water '), 'Added the stock `fresh water`'];
        yield 'add without a name' => [new AddElement('x', Kind::Flow), 'Added the flow `new flow`'];
        yield 'rename' => [new RenameElement('rain', 'drizzle'), 'Renamed `rain` to `drizzle`'];
        yield 'formula' => [new SetFormula('wells', 'lens / 8'), '`wells`: lens / 7 → lens / 8'];
        yield 'formula taken away' => [new SetFormula('wells', ' '), '`wells`: lens / 7 → nothing'];
        yield 'long formula' => [new SetFormula('rain', str_repeat('1 + ', 40).'1'), '`rain`: 2 → '.str_repeat('1 + ', 14).'1 +…'];
        yield 'unit' => [new SetUnit('rain', 'mm'), 'Unit of `rain`: mm'];
        yield 'no unit' => [new SetUnit('rain', ''), 'Unit of `rain`: unknown'];
        yield 'note' => [new SetNote('rain', 'x'), 'Changed the note of `rain`'];
        yield 'dial' => [new SetRange('rain', 0, 1, null), 'Changed the dial of `rain`'];
        yield 'ends' => [new AttachFlow('wells', null, 'sea'), '`wells` now runs from outside to `sea`'];
        yield 'move' => [new Move(['rain' => new Placement(new Point(1, 2))]), 'Moved `rain`'];
        yield 'move several' => [
            new Move(['rain' => new Placement(new Point(1, 2)), 'lens' => new Placement(new Point(1, 2))]),
            'Moved 2 things',
        ];
        yield 'link' => [new Connect('rain', 'thickness'), 'Linked `rain` to `thickness`'];
        yield 'unlink' => [new Disconnect('rain', 'thickness'), 'Removed the link from `rain` to `thickness`'];
        yield 'delete' => [new DeleteElements(['rain']), 'Deleted `rain`'];
        yield 'delete several' => [new DeleteElements(['rain', 'lens']), 'Deleted 2 things'];
        yield 'time' => [new SetTime(new TimeSettings(0, 20, 0.5, 'year', Method::Euler)), 'Time: end 20, method euler'];
        yield 'time as it was' => [new SetTime(new TimeSettings(0, 10, 0.5, 'year')), 'Kept the time settings'];
        yield 'track' => [new SetTrack('rain', true), 'Showed a track of `rain`'];
        yield 'no track' => [new SetTrack('rain', false), 'Took away the track of `rain`'];
        yield 'title' => [new SetTitle('Dry years'), 'Named the study `Dry years`'];
        yield 'words' => [new SetTitle('Dry years', 'why'), 'Changed the words about the study'];
        yield 'kind' => [new ChangeKind('rain', Kind::Auxiliary), 'Made `rain` an auxiliary'];
    }

    #[DataProvider('said')]
    public function test_an_edit_says_what_it_does_in_words(Edit $edit, string $words): void
    {
        self::assertSame($words, $edit->words(self::model()));
    }
}
