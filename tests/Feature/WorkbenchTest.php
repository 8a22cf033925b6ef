<?php

declare(strict_types=1);

namespace Tests\Feature;

use App\Models\ModelDocument;
use Illuminate\Support\Str;
use Illuminate\Testing\TestResponse;
use Tests\Core\Pace;

final class WorkbenchTest extends TestCase
{
    /**
     * @param  array<string, mixed>  $more
     * @return TestResponse<\Illuminate\Http\Response>
     */
    private function restore(ModelDocument $model, array $more): TestResponse
    {
        return $this->postJson("/api/models/$model->id/restore", [
            'base' => $model->refresh()->revision,
            'window' => 'window-1',
            'id' => (string) Str::uuid(),
            ...$more,
        ]);
    }

    /**
     * @param  TestResponse<\Illuminate\Http\Response>  $comparison
     * @return array<string, array{what: string, fields: list<array{now: string}>}>
     */
    private static function byElement(TestResponse $comparison): array
    {
        return array_column($comparison->json('changes'), null, 'element');
    }

    public function test_the_history_tells_in_words_what_was_done(): void
    {
        $model = $this->study()->model;
        $this->edit($model, ['kind' => 'formula', 'id' => 'usual-rainfall', 'text' => '800'])->assertOk();
        $this->edit($model, ['kind' => 'rename', 'id' => 'wells', 'name' => 'pumps'])->assertOk();
        $this->step($model, 'undo')->assertOk();
        $history = $this->getJson("/api/models/$model->id/history")->assertOk();
        $history
            ->assertJsonPath('entries.0.kind', 'undo')
            ->assertJsonPath('entries.1.words', 'Renamed `wells` to `pumps`')
            ->assertJsonPath('entries.1.undone', true)
            ->assertJsonPath('more', false);
        self::assertStringContainsString('→ 800', $history->json('entries.2.words'));
        $this->getJson("/api/models/$model->id/history?before=2")
            ->assertOk()
            ->assertJsonCount(1, 'entries');
    }

    public function test_an_old_version_is_looked_at_compared_and_brought_back(): void
    {
        $model = $this->study()->model;
        $first = $model->document;
        $this->edit($model, ['kind' => 'delete', 'ids' => ['wells']])->assertOk();
        $this->edit($model, ['kind' => 'formula', 'id' => 'usual-rainfall', 'text' => '800'])->assertOk();
        $this->putJson("/api/models/$model->id/milestones/0", ['name' => ' before the drought '])
            ->assertOk()
            ->assertJsonPath('milestones.0.name', 'before the drought');

        $this->getJson("/api/models/$model->id/versions/0")
            ->assertOk()
            ->assertJsonPath('model.elements.wells.name', 'wells');
        $changes = self::byElement($this->getJson("/api/models/$model->id/comparison?from=0&to=2")->assertOk());
        self::assertSame('removed', $changes['wells']['what']);
        self::assertSame('800', $changes['usual-rainfall']['fields'][0]['now']);

        $this->restore($model, ['revision' => 0, 'ids' => ['wells']])
            ->assertOk()
            ->assertJsonPath('undo', 'Brought back `wells` from “before the drought”');
        $now = self::byElement($this->getJson("/api/models/$model->id/comparison?from=0"));
        self::assertArrayNotHasKey('wells', $now);
        self::assertArrayHasKey('usual-rainfall', $now);

        $this->restore($model, ['revision' => 0])
            ->assertOk()
            ->assertJsonPath('undo', 'Went back to “before the drought”');
        self::assertSame($first, $model->refresh()->document);
        $this->step($model, 'undo')->assertOk();
        self::assertNotSame($first, $model->refresh()->document);
        $this->deleteJson("/api/models/$model->id/milestones/0")
            ->assertOk()
            ->assertJsonPath('milestones', []);
    }

    public function test_what_is_not_there_cannot_be_brought_back(): void
    {
        $model = $this->study()->model;
        $this->restore($model, ['revision' => 7])
            ->assertUnprocessable()
            ->assertJsonPath('code', 'revision.unknown');
        $this->restore($model, ['revision' => 0, 'ids' => ['nobody']])
            ->assertUnprocessable()
            ->assertJsonPath('code', 'restore.unknown');
        $this->restore($model, ['revision' => 'old'])
            ->assertUnprocessable()
            ->assertJsonPath('code', 'request');
        $this->getJson("/api/models/$model->id/versions/9")->assertUnprocessable();
        $this->getJson("/api/models/$model->id/comparison?from=9")->assertUnprocessable();
        $this->putJson("/api/models/$model->id/milestones/9", ['name' => 'x'])->assertUnprocessable();
        $this->putJson("/api/models/$model->id/milestones/0", ['name' => ''])
            ->assertUnprocessable()
            ->assertSee('at most 120');
        self::assertSame(0, $model->refresh()->revision);
    }

    public function test_things_are_copied_from_one_study_to_another(): void
    {
        $from = $this->study()->model;
        $to = $this->study()->model;
        $text = $this->postJson("/api/models/$from->id/copy", ['ids' => ['wells', 'fresh-water']])
            ->assertOk()
            ->json('text');
        $this->edit($to, ['kind' => 'paste', 'id' => 'p1', 'text' => $text, 'at' => ['x' => 10, 'y' => 20], 'sheet' => 'sheet-1'])
            ->assertOk()
            ->assertJsonPath('undo', 'Pasted 2 things');
        $view = $this->getJson("/api/models/$to->id")->json('model');
        self::assertSame(['fresh water 2', 'wells 2'], [$view['elements']['p1-1']['name'], $view['elements']['p1-2']['name']]);
        self::assertSame('p1-1', $view['elements']['p1-2']['from']);
        $this->edit($to, [
            'kind' => 'paste',
            'id' => 'p2',
            'text' => 'a shopping list',
            'at' => ['x' => 10, 'y' => 20],
            'sheet' => 'sheet-1',
        ])
            ->assertUnprocessable()
            ->assertSee('was not copied from a model');
        $this->postJson("/api/models/$from->id/copy", ['ids' => ['nobody']])->assertUnprocessable();
        $this->postJson("/api/models/$from->id/copy", [])->assertUnprocessable();
    }

    public function test_an_edit_is_tried_without_being_written(): void
    {
        $model = $this->study()->model;
        $before = $model->document;
        $formulas = $this->postJson("/api/models/$model->id/preview", [
            'edit' => ['kind' => 'rename', 'id' => 'fresh-water', 'name' => 'the lens'],
        ])
            ->assertOk()
            ->json('formulas');
        self::assertNotSame([], $formulas);
        foreach ($formulas as $one) {
            self::assertSame(str_replace('fresh water', 'the lens', $one['was']), $one['now']);
        }
        $this->postJson("/api/models/$model->id/preview", ['edit' => ['kind' => 'rename', 'id' => 'fresh-water', 'name' => 'WELLS']])
            ->assertUnprocessable()
            ->assertSee('Names are unique');
        $this->postJson("/api/models/$model->id/preview", ['edit' => ['kind' => 'fly']])
            ->assertUnprocessable()
            ->assertSee('no edit called');
        $this->postJson("/api/models/$model->id/preview", [])->assertUnprocessable();
        self::assertSame([$before, 0, 0], [$model->refresh()->document, $model->revision, $model->edits()->count()]);
    }

    public function test_links_have_signs_and_strengths(): void
    {
        $model = $this->study()->model;
        $answer = $this->postJson("/api/models/$model->id/effects", ['at' => 10])->assertOk();
        $signs = $answer->json('signs');
        self::assertNotContains(null, $signs);
        self::assertContains('+', $signs);
        $shares = [];
        foreach ($answer->json('at') as $key => ['share' => $share]) {
            $to = explode('>', $key)[1];
            $shares[$to] = ($shares[$to] ?? 0) + $share;
        }
        foreach ($shares as $share) {
            self::assertTrue(abs($share - 1) < 1e-9 || $share === 0.0 || $share === 0);
        }
        $this->getJson("/api/models/$model->id/elements/fresh-water/equation")
            ->assertOk()
            ->assertJsonPath('latex', fn (string $l): bool => str_contains($l, '\\frac{d'));
        $this->getJson("/api/models/$model->id/elements/nobody/equation")->assertUnprocessable();
    }

    public function test_the_feedback_loops_of_a_model_are_told_with_their_story(): void
    {
        $model = $this->study()->model;
        $answer = $this->postJson("/api/models/$model->id/loops", [])
            ->assertOk()
            ->assertJsonPath('complete', true)
            ->assertJsonCount(2, 'loops');
        self::assertSame(
            [
                'name' => 'B1',
                'polarity' => '-',
                'delayed' => false,
                'path' => ['fresh-water', 'shore-drain'],
                'story' => [
                    'Begin with more `fresh water`.',
                    'That makes for more `shore drain` than there otherwise would be.',
                    'That makes for less `fresh water` than there otherwise would be.',
                    'This works against what began it: the loop is balancing.',
                ],
            ],
            $answer->json('loops.0'),
        );
        $this->postJson("/api/models/$model->id/loops", ['independent' => true])
            ->assertOk()
            ->assertJsonCount(2, 'loops');
        // What cannot be computed still has loops, and those that are cut open are none.
        $this->edit($model, ['kind' => 'formula', 'id' => 'usual-rainfall', 'text' => ''])->assertOk();
        $this->edit($model, ['kind' => 'formula', 'id' => 'wells', 'text' => '40'])->assertOk();
        $this->postJson("/api/models/$model->id/loops", [])
            ->assertOk()
            ->assertJsonCount(1, 'loops');
    }

    public function test_every_edit_is_refused_with_a_sentence_where_it_makes_no_sense(): void
    {
        $model = $this->study()->model;
        $before = $model->document;
        $point = ['x' => 0, 'y' => 0];
        foreach (
            [
                ['kind' => 'add', 'id' => 'wells', 'element' => 'stock'],
                ['kind' => 'add', 'id' => 'X', 'element' => 'stock'],
                ['kind' => 'add', 'id' => 'x', 'element' => 'pond'],
                ['kind' => 'rename', 'id' => 'gone', 'name' => 'x'],
                ['kind' => 'rename', 'id' => 'wells', 'name' => ''],
                ['kind' => 'formula', 'id' => 'gone', 'text' => '1'],
                ['kind' => 'formula', 'id' => 'wells'],
                ['kind' => 'unit', 'id' => 'wells', 'text' => str_repeat('m', 300)],
                ['kind' => 'note', 'id' => 'wells', 'text' => str_repeat('m', 30000)],
                ['kind' => 'range', 'id' => 'wells', 'low' => 1, 'high' => 2],
                ['kind' => 'range', 'id' => 'usual-rainfall', 'low' => 3, 'high' => 2],
                ['kind' => 'attach', 'id' => 'fresh-water'],
                ['kind' => 'attach', 'id' => 'wells', 'from' => 'wells', 'to' => null],
                ['kind' => 'move', 'placements' => ['gone' => ['at' => $point]]],
                ['kind' => 'move', 'placements' => ['wells' => ['at' => ['x' => 1e9, 'y' => 0]]]],
                ['kind' => 'connect', 'from' => 'wells', 'to' => 'wells'],
                ['kind' => 'disconnect', 'from' => 'wells', 'to' => 'fresh-water'],
                ['kind' => 'delete', 'ids' => ['gone']],
                ['kind' => 'delete', 'ids' => 'wells'],
                ['kind' => 'stock', 'id' => 'wells', 'neverNegative' => true],
                ['kind' => 'flow', 'id' => 'fresh-water', 'oneWay' => true],
                ['kind' => 'curve', 'id' => 'wells', 'points' => [[0, 1]]],
                ['kind' => 'curve', 'id' => 'wells', 'points' => 'many'],
                ['kind' => 'end', 'text' => str_repeat('1+', 20000)],
                ['kind' => 'same-units', 'lines' => ['person']],
                ['kind' => 'become', 'id' => 'wells', 'element' => 'stock'],
                ['kind' => 'time', 'start' => 1, 'end' => 0, 'step' => 1],
                ['kind' => 'track', 'id' => 'gone', 'shown' => true],
                ['kind' => 'title', 'name' => ' '],
                ['kind' => 'echo', 'id' => 'wells', 'element' => 'wells', 'at' => $point, 'sheet' => 'sheet-1'],
                ['kind' => 'echo', 'id' => 'x', 'element' => 'wells', 'at' => $point, 'sheet' => 'gone'],
                ['kind' => 'bend', 'from' => 'gone', 'to' => 'wells', 'by' => $point],
                ['kind' => 'group', 'ids' => ['wells'], 'name' => 'A', 'tint' => 'red'],
                ['kind' => 'plot', 'ids' => ['gone'], 'shown' => true],
                ['kind' => 'sheet-add', 'id' => 'sheet-1', 'name' => 'A'],
                ['kind' => 'sheet-rename', 'id' => 'sheet-1', 'name' => ''],
                ['kind' => 'sheet-order', 'ids' => []],
                ['kind' => 'sheet-remove', 'id' => 'sheet-1'],
                ['kind' => 'to-sheet', 'ids' => ['wells'], 'sheet' => 'sheet-1'],
                ['kind' => 'paste', 'id' => 'p', 'text' => '{}', 'at' => $point, 'sheet' => 'sheet-1'],
                [
                    'kind' => 'together',
                    'edits' => [
                        ['kind' => 'rename', 'id' => 'wells', 'name' => 'x'],
                        ['kind' => 'rename', 'id' => 'gone', 'name' => 'y'],
                    ],
                ],
                ['kind' => 'fly'],
                [],
            ] as $edit
        ) {
            $answer = $this->edit($model, $edit === [] ? ['no' => 'kind'] : $edit);
            self::assertSame(422, $answer->status(), (string) json_encode($edit));
            self::assertMatchesRegularExpression('/^[A-Z`].{15,}[.:?]$/us', $answer->json('detail'), (string) json_encode($edit));
        }
        self::assertSame($before, $model->refresh()->document);
        self::assertSame(0, $model->revision);
    }

    public function test_an_edit_of_a_large_model_is_answered_quickly(): void
    {
        $model = \App\Studies\StudyMaker::make(\App\Models\User::demoAnalyst(), \MerryOrbit\Core\Structure\Reefs::model(500))->load(
            'model',
        )->model;
        $this->edit($model, ['kind' => 'formula', 'id' => 'bite-7', 'text' => '0.02'])->assertOk();
        $small = $this->study()->model;
        $this->edit($small, ['kind' => 'formula', 'id' => 'usual-rainfall', 'text' => '700'])->assertOk();
        $took = fn (ModelDocument $m, array $edit): float => Pace::seconds(fn () => $this->edit($m, $edit)->assertOk());
        $ratio =
            $took($model, ['kind' => 'formula', 'id' => 'bite-7', 'text' => '0.021']) /
            max(0.001, $took($small, ['kind' => 'formula', 'id' => 'usual-rainfall', 'text' => '710']));
        // 500 variables are some 40 times as many as the small model has.
        self::assertLessThan(80.0, $ratio);
    }
}
