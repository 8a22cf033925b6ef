<?php

declare(strict_types=1);

namespace Tests\Feature;

use App\Models\EditRow;
use App\Models\ModelDocument;
use Illuminate\Support\Str;
use MerryOrbit\Core\Exchange\NativeFile;

final class EditingTest extends TestCase
{
    public function test_an_edit_is_answered_with_what_changed_and_what_follows(): void
    {
        $model = $this->study()->model;
        $answer = $this->edit($model, ['kind' => 'rename', 'id' => 'wells', 'name' => 'deep wells'])->assertOk();
        $answer
            ->assertJsonPath('revision', 1)
            ->assertJsonPath('changed.elements.wells.name', 'deep wells')
            ->assertJsonPath('undo', 'Renamed `wells` to `deep wells`')
            ->assertJsonPath('done.0.window', 'window-1');
        self::assertSame(['wells'], array_keys($answer->json('changed.elements')));
        self::assertNull($answer->json('changed.links'), 'links did not change');

        $this->edit($model, ['kind' => 'formula', 'id' => 'wells', 'text' => 'water wanted * rian'])
            ->assertOk()
            ->assertJsonPath('changed.problems.0.code', 'name.unknown')
            ->assertJsonPath('changed.waiting.fresh-water', 'wells');
        $this->getJson("/api/models/$model->id")
            ->assertOk()
            ->assertJsonPath('revision', 2)
            ->assertJsonPath('model.elements.wells.formula', 'water wanted * rian');
    }

    public function test_sending_an_edit_twice_does_no_harm(): void
    {
        $model = $this->study()->model;
        $id = (string) Str::uuid();
        for ($i = 0; $i < 2; $i++) {
            $this->edit($model, ['kind' => 'add', 'id' => 'tank', 'element' => 'stock', 'name' => 'tank'], 0, 'window-1', $id)
                ->assertOk()
                ->assertJsonPath('revision', 1)
                ->assertJsonPath('changed.elements.tank.name', 'tank');
        }
        self::assertSame(1, EditRow::query()->count());
    }

    public function test_a_refused_edit_leaves_the_model_as_it_was(): void
    {
        $model = $this->study()->model;
        $before = $model->document;
        foreach (
            [
                [['kind' => 'rename', 'id' => 'wells', 'name' => 'rainfall'], 'name.taken', 'already is a'],
                [
                    ['kind' => 'time', 'start' => 0, 'end' => 10, 'step' => 0.3, 'unit' => 'week', 'method' => 'rk4'],
                    'time.step',
                    'nearest step',
                ],
                [['kind' => 'time', 'start' => 'soon', 'end' => 10, 'step' => 1], 'edit.unreadable', '`start` must be a number'],
                [['kind' => 'patch', 'set' => []], 'edit.unreadable', 'no edit called'],
            ] as [$edit, $code, $words]
        ) {
            $answer = $this->edit($model, $edit)
                ->assertUnprocessable()
                ->assertHeader('Content-Type', 'application/problem+json')
                ->assertJsonPath('code', $code);
            self::assertStringContainsString($words, $answer->json('detail'));
        }
        $this->postJson("/api/models/$model->id/edits", ['base' => 0, 'window' => 'w', 'edits' => []])->assertUnprocessable();
        $this->postJson("/api/models/$model->id/edits", ['base' => 0, 'window' => 'w', 'edits' => [['id' => 'x', 'edit' => []]]])
            ->assertUnprocessable()
            ->assertJsonPath('status', 422);
        self::assertSame($before, $model->refresh()->document);
        self::assertSame(0, $model->revision);
    }

    public function test_undo_and_redo_lead_back_to_the_byte(): void
    {
        $model = $this->study()->model;
        $states = [$model->document];
        foreach (
            [
                ['kind' => 'delete', 'ids' => ['fresh-water']],
                ['kind' => 'formula', 'id' => 'wells', 'text' => 'water wanted'],
                ['kind' => 'add', 'id' => 'n1', 'element' => 'stock', 'name' => 'fresh water', 'formula' => '5'],
                ['kind' => 'move', 'placements' => ['n1' => ['at' => ['x' => 1.5, 'y' => 2]]]],
                ['kind' => 'title', 'name' => 'Dry years'],
            ] as $edit
        ) {
            $this->edit($model, $edit)->assertOk();
            $states[] = $model->refresh()->document;
        }
        for ($round = 0; $round < 2; $round++) {
            for ($i = 4; $i >= 0; $i--) {
                $this->step($model, 'undo')->assertOk();
                self::assertSame($states[$i], $model->refresh()->document, "undo to $i");
            }
            $this->step($model, 'undo')->assertUnprocessable()->assertJsonPath('code', 'undo.none');
            for ($i = 1; $i <= 5; $i++) {
                $this->step($model, 'redo')->assertOk();
                self::assertSame($states[$i], $model->refresh()->document, "redo to $i");
            }
            $this->step($model, 'redo')->assertUnprocessable();
        }
        self::assertSame('Dry years', $model->refresh()->study()->value('name'));
        // A new edit ends what could be redone.
        $this->step($model, 'undo')->assertOk()->assertJsonPath('redo', 'Named the study `Dry years`');
        $this->edit($model, ['kind' => 'unit', 'id' => 'wells', 'text' => 'm^3/day'])
            ->assertOk()
            ->assertJsonPath('redo', null);
        $this->step($model, 'redo')->assertUnprocessable();
    }

    public function test_a_new_thing_and_its_name_are_one_step(): void
    {
        $model = $this->study()->model;
        $add = static fn (string $id): array => [
            'kind' => 'add',
            'id' => $id,
            'element' => 'auxiliary',
            'placement' => ['at' => ['x' => 0, 'y' => 0], 'sheet' => 'sheet-1'],
        ];
        $name = static fn (string $id, string $name): array => ['kind' => 'rename', 'id' => $id, 'name' => $name];
        $before = $model->document;
        $this->edit($model, $add('tide'))->assertOk();
        $undo = $this->edit($model, $name('tide', 'tide'))->assertOk()->json('undo');
        self::assertMatchesRegularExpression('/^Added .*, renamed `.*` to `tide`$/', $undo);
        $named = $model->refresh()->document;
        $this->edit($model, ['kind' => 'formula', 'id' => 'tide', 'text' => '3'])->assertOk();
        $all = $model->refresh()->document;

        // The formula is a step of its own; the name goes with the thing, again and again.
        for ($round = 0; $round < 2; $round++) {
            $this->step($model, 'undo')->assertOk()->assertJsonPath('undo', $undo);
            self::assertSame($named, $model->refresh()->document);
            $this->step($model, 'undo')->assertOk()->assertJsonPath('redo', $undo)->assertJsonPath('undo', null);
            self::assertSame($before, $model->refresh()->document);
            $this->step($model, 'redo')->assertOk()->assertJsonPath('undo', $undo);
            self::assertSame($named, $model->refresh()->document);
            $this->step($model, 'redo')->assertOk()->assertJsonPath('redo', null);
            self::assertSame($all, $model->refresh()->document);
        }
    }

    /** @return list<string> */
    private static function ids(ModelDocument $model): array
    {
        return array_map(strval(...), array_keys($model->refresh()->core()->elements));
    }

    public function test_a_name_given_later_or_elsewhere_is_a_step_of_its_own(): void
    {
        $model = $this->study()->model;
        $add = [
            'kind' => 'add',
            'id' => 'tide',
            'element' => 'auxiliary',
            'placement' => ['at' => ['x' => 0, 'y' => 0], 'sheet' => 'sheet-1'],
        ];
        $rename = ['kind' => 'rename', 'id' => 'tide', 'name' => 'tide'];
        foreach (
            [
                'with another edit between' => function () use ($model, $rename): void {
                    $this->edit($model, ['kind' => 'unit', 'id' => 'tide', 'text' => 'm'])->assertOk();
                    $this->edit($model, $rename)->assertOk();
                },
                'in another window' => fn () => $this->edit($model, $rename, window: 'window-2')->assertOk(),
                'much later' => function () use ($model, $rename): void {
                    $this->travel(10)->minutes();
                    $this->edit($model, $rename)->assertOk();
                    $this->travelBack();
                },
                'of another thing' => fn () => $this->edit($model, ['kind' => 'rename', 'id' => 'wells', 'name' => 'pumps'])->assertOk(),
            ] as $when => $act
        ) {
            $this->edit($model, $add)->assertOk();
            $act();
            $this->step($model, 'undo')->assertOk();
            self::assertContains('tide', self::ids($model), $when);
            while (in_array('tide', self::ids($model), true)) {
                $this->step($model, 'undo')->assertOk();
            }
        }
    }

    public function test_deleting_what_others_use_says_what_they_miss_and_undo_brings_it_back(): void
    {
        $model = $this->study()->model;
        $problems = $this->edit($model, ['kind' => 'delete', 'ids' => ['rainfall']])
            ->assertOk()
            ->json('changed.problems');
        self::assertSame(
            ['rain-seeping-in', 'Nothing is called `rainfall`. Did you mean `usual rainfall`?'],
            [$problems[0]['element'], $problems[0]['sentence']],
        );
        $this->step($model, 'undo')
            ->assertOk()
            ->assertJsonPath('changed.problems', [])
            ->assertJsonPath('changed.elements.rainfall.name', 'rainfall');
    }

    public function test_two_windows_on_one_model_lose_nothing(): void
    {
        $model = $this->study()->model;
        $this->edit($model, ['kind' => 'formula', 'id' => 'wells', 'text' => 'water wanted'], 0, 'window-1')->assertOk();
        // Another thing, made on the old revision: both hold, and the answer brings what the other did.
        $this->edit($model, ['kind' => 'formula', 'id' => 'saving', 'text' => '10%'], 0, 'window-2')
            ->assertOk()
            ->assertJsonPath('revision', 2)
            ->assertJsonPath('changed.elements.wells.formula', 'water wanted')
            ->assertJsonPath('done.0.window', 'window-1');
        // The same thing: refused with both versions, and nothing is overwritten.
        $this->edit($model, ['kind' => 'formula', 'id' => 'wells', 'text' => '5'], 0, 'window-2')
            ->assertConflict()
            ->assertJsonPath('code', 'edit.clash')
            ->assertJsonPath('theirs.formula', 'water wanted')
            ->assertJsonPath('yours.text', '5');
        $this->edit($model, ['kind' => 'rename', 'id' => 'wells', 'name' => 'pumps'], 0, 'window-2')->assertOk();
        // The window that wrote it may go on from its own old revision.
        $this->edit($model, ['kind' => 'formula', 'id' => 'wells', 'text' => '7'], 0, 'window-1')->assertOk();
        $this->getJson("/api/models/$model->id/news?since=3")
            ->assertOk()
            ->assertJsonPath('revision', 4)
            ->assertJsonPath('changed.elements.wells.formula', '7');
        $this->getJson("/api/models/$model->id/news?since=4")
            ->assertOk()
            ->assertExactJson(['revision' => 4, 'since' => 4, 'done' => []]);
    }

    public function test_the_history_leads_from_the_start_to_the_present(): void
    {
        $study = $this->study();
        $core = $study->model->core();
        foreach (['a', 'b', 'c'] as $id) {
            $this->edit($study->model, ['kind' => 'add', 'id' => $id, 'element' => 'parameter', 'formula' => '2.0'])->assertOk();
            $this->edit($study->model, ['kind' => 'rename', 'id' => $id, 'name' => "tide $id"])->assertOk();
        }
        $this->step($study->model, 'undo')->assertOk();
        foreach ($study->model->edits()->oldest('revision')->get() as $row) {
            $core = $row->forwardPatch()->apply($core);
        }
        self::assertSame(NativeFile::export($study->model->refresh()->core()), NativeFile::export($core));
    }
}
