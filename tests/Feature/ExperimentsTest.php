<?php

declare(strict_types=1);

namespace Tests\Feature;

use App\Models\Batch;
use App\Models\KeptRun;
use App\Models\ModelDocument;
use App\Runs\Batches;
use App\Runs\Results;
use App\Runs\RunPart;
use App\Runs\RunProgress;

final class ExperimentsTest extends TestCase
{
    /**
     * @param  array<string, mixed>  $body
     * @return array{header: array<string, mixed>, columns: array<string, list<float>>}
     */
    private function columns(ModelDocument $model, array $body = []): array
    {
        $message = (string) $this->postJson("/api/models/$model->id/runs", $body)
            ->assertOk()
            ->getContent();
        /** @var array{1: int} $size */
        $size = unpack('V', $message);
        /** @var array{length: int<0, max>, columns: list<string>, coarse: bool} $header */
        $header = json_decode(substr($message, 4, $size[1]), true, flags: JSON_THROW_ON_ERROR);
        $parts =
            $header['length'] === 0
                ? []
                : array_map(
                    static fn (string $b): array => array_values(unpack('e*', $b) ?: []),
                    str_split(substr($message, 4 + $size[1]), 8 * $header['length']),
                );
        $names = ['time'];
        foreach ($header['columns'] as $id) {
            array_push($names, $id, ...$header['coarse'] ? ["$id low", "$id high"] : []);
        }

        return ['header' => $header, 'columns' => array_combine($names, $parts)];
    }

    /**
     * @param  array<string, mixed>  $setting
     * @param  list<string>  $on
     */
    private function scenario(ModelDocument $model, string $id, array $setting, array $on = []): void
    {
        $this->edit($model, ['kind' => 'scenario', 'id' => $id, 'name' => ucfirst($id), 'on' => $on, 'setting' => $setting])->assertOk();
    }

    public function test_only_what_is_asked_for_travels_at_the_resolution_of_a_screen(): void
    {
        $model = $this->study()->model;
        $whole = $this->columns($model);
        $level = $whole['columns']['fresh-water'];
        $few = $this->columns($model, ['only' => ['fresh-water'], 'points' => 40, 'at' => 100.5]);
        self::assertSame(['time', 'fresh-water', 'fresh-water low', 'fresh-water high'], array_keys($few['columns']));
        self::assertSame(
            [40, 521, true, false],
            [$few['header']['length'], $few['header']['saved'], $few['header']['coarse'], $few['header']['whole']],
        );
        self::assertSame(
            [min([INF, ...$level]), max([-INF, ...$level])],
            [min([INF, ...$few['columns']['fresh-water low']]), max([-INF, ...$few['columns']['fresh-water high']])],
        );
        $index = (int) array_search(100.0, $whole['columns']['time'], true);
        self::assertEqualsWithDelta(
            ($whole['columns']['wells'][$index] + $whole['columns']['wells'][$index + 1]) / 2,
            $few['header']['now']['wells'],
            1e-9,
        );
        self::assertArrayNotHasKey('fresh-water', $few['header']['now']);
        $span = $this->columns($model, ['only' => ['fresh-water'], 'points' => 40, 'from' => 100, 'until' => 110]);
        self::assertSame([range(100.0, 110.0), false], [$span['columns']['time'], $span['header']['coarse']]);
    }

    public function test_grips_scenarios_and_dials_lie_on_top_of_each_other(): void
    {
        $model = $this->study()->model;
        $this->scenario($model, 'crowd', [
            'parameters' => ['islanders' => 6000],
            'grips' => ['rainfall' => ['signal' => 'constant', 'values' => ['value' => 0]]],
        ]);
        $run = $this->columns($model, ['run' => ['scenario' => 'crowd']]);
        self::assertEqualsWithDelta(6000, $run['header']['steady']['islanders'], 0);
        self::assertEqualsWithDelta(0, $run['header']['steady']['rainfall'], 0);
        foreach (array_keys($run['header']['steady']) as $key) {
            self::assertStringNotContainsString('#', (string) $key, 'the numbers of grips are no things of the model');
        }
        $dialled = $this->columns($model, ['run' => ['scenario' => 'crowd', 'setting' => ['parameters' => ['islanders' => 100]]]]);
        self::assertEqualsWithDelta(100, $dialled['header']['steady']['islanders'], 0);
        foreach (
            [
                ['scenario' => 'nothing'],
                ['setting' => ['grips' => ['wells' => ['signal' => 'wobble']]]],
                ['kept' => 'x'],
                ['log' => 9],
                ['batch' => 'x'],
                ['revision' => 'old'],
                ['revision' => 99],
                ['setting' => ['time' => ['end' => -1]]],
            ] as $reference
        ) {
            self::assertNotSame(
                '',
                $this->postJson("/api/models/$model->id/runs", ['run' => $reference])
                    ->assertUnprocessable()
                    ->json('detail'),
            );
        }
    }

    public function test_a_kept_run_stays_as_it_was_after_edits(): void
    {
        $model = $this->study()->model;
        $before = $this->columns($model, ['run' => ['setting' => ['parameters' => ['islanders' => 5000]]]]);
        $kept = $this->postJson("/api/models/$model->id/kept", [
            'name' => '  More people ',
            'note' => 'why not',
            'run' => ['setting' => ['parameters' => ['islanders' => 5000]]],
        ])
            ->assertCreated()
            ->json('kept.0');
        self::assertSame(['More people', 0, 0, false], [$kept['name'], $kept['revision'], $kept['colour'], $kept['hidden']]);
        $this->edit($model, ['kind' => 'formula', 'id' => 'rainfall', 'text' => '0'])->assertOk();
        $again = $this->columns($model, ['run' => ['kept' => $kept['id']]]);
        self::assertSame($before['columns'], $again['columns']);
        self::assertNotSame($before['columns']['fresh-water'], $this->columns($model)['columns']['fresh-water']);
        // What has changed since, and in the setting.
        $changes = $this->postJson("/api/models/$model->id/changes", ['base' => ['kept' => $kept['id']], 'run' => (object) []])
            ->assertOk()
            ->json('changes');
        self::assertEqualsCanonicalizing(['rainfall', 'islanders'], array_column($changes, 'name'));
    }

    public function test_kept_runs_are_named_hidden_removed_and_brought_back(): void
    {
        $model = $this->study()->model;
        foreach (['a', 'b'] as $name) {
            $this->postJson("/api/models/$model->id/kept", ['name' => $name])->assertCreated();
        }
        [$a, $b] = $this->getJson("/api/models/$model->id/kept")
            ->assertOk()
            ->json('kept');
        self::assertSame([0, 1], [$a['colour'], $b['colour']], 'each has a look of its own');
        $this->patchJson("/api/models/$model->id/kept/{$a['id']}", ['name' => 'first', 'hidden' => true, 'colour' => 5, 'revision' => 77])
            ->assertOk()
            ->assertJsonPath('kept.0.name', 'first')
            ->assertJsonPath('kept.0.hidden', true)
            ->assertJsonPath('kept.0.revision', 0);
        $this->deleteJson("/api/models/$model->id/kept/{$b['id']}")->assertNoContent();
        self::assertCount(1, $this->getJson("/api/models/$model->id/kept")->json('kept'));
        $this->postJson("/api/models/$model->id/kept/{$b['id']}/restore")
            ->assertOk()
            ->assertJsonPath('kept.1.name', 'b');
        $this->patchJson("/api/models/$model->id/kept/{$a['id']}", ['name' => ''])->assertUnprocessable();
        $this->patchJson("/api/models/$model->id/kept/{$a['id']}", ['colour' => 99])->assertUnprocessable();
        $this->postJson("/api/models/$model->id/kept", ['name' => str_repeat('x', 200)])->assertUnprocessable();
        $this->deleteJson("/api/models/$model->id/kept/nothing")->assertNotFound();
        config(['merry-orbit.quota.kept' => 2]);
        self::assertStringContainsString(
            'keeps at most 2',
            $this->postJson("/api/models/$model->id/kept", ['name' => 'c'])
                ->assertUnprocessable()
                ->json('detail'),
        );
        self::assertSame(2, KeptRun::query()->count());
    }

    public function test_the_logbook_tells_what_was_changed_before_each_run(): void
    {
        config(['merry-orbit.quota.kept_runs' => 2]);
        $model = $this->study()->model;
        $run = fn (array $body) => $this->postJson("/api/models/$model->id/runs", [...$body, 'remember' => true])->assertOk();
        $run([]);
        $first = $this->getJson("/api/models/$model->id/runs")->json('runs.0.id');
        $this->patchJson("/api/models/$model->id/runs/$first", ['starred' => true, 'comment' => ' =how it began'])
            ->assertOk()
            ->assertJsonPath('runs.0.comment', '=how it began');
        $this->edit($model, ['kind' => 'formula', 'id' => 'saving', 'text' => '5%'])->assertOk();
        $this->edit($model, ['kind' => 'rename', 'id' => 'saving', 'name' => 'thrift'])->assertOk();
        $run(['run' => ['setting' => ['parameters' => ['islanders' => 4500]]]]);
        $this->scenario($model, 'crowd', ['parameters' => ['islanders' => 6000]]);
        $run(['run' => ['scenario' => 'crowd']]);
        $run([]);
        $runs = $this->getJson("/api/models/$model->id/runs")
            ->assertOk()
            ->json('runs');
        self::assertSame([3, 3, 0], array_column($runs, 'revision'), 'the last two, and the one with a star');
        $run(['run' => ['setting' => ['parameters' => ['islanders' => 4500]]]]);
        $runs = $this->getJson("/api/models/$model->id/runs")->json('runs');
        self::assertSame(['islanders: 4200 → 4500'], $runs[0]['setting']);
        $csv = (string) $this->get("/api/models/$model->id/runs?format=csv")
            ->assertOk()
            ->assertHeader('Content-Type', 'text/csv; charset=utf-8')
            ->getContent();
        self::assertStringContainsString("'=how it began", $csv, 'no spreadsheet takes it for a formula');
        $again = $this->columns($model, ['run' => ['log' => $runs[0]['id']]]);
        self::assertEqualsWithDelta(4500, $again['header']['steady']['islanders'], 0);
        $this->patchJson("/api/models/$model->id/runs/99", ['starred' => true])->assertNotFound();
        $this->patchJson("/api/models/$model->id/runs/$first", ['comment' => str_repeat('x', 900)])->assertUnprocessable();
    }

    public function test_edits_between_runs_are_told_in_their_order(): void
    {
        $model = $this->study()->model;
        $this->postJson("/api/models/$model->id/runs", ['remember' => true])->assertOk();
        $this->edit($model, ['kind' => 'formula', 'id' => 'saving', 'text' => '5%'])->assertOk();
        $this->edit($model, ['kind' => 'rename', 'id' => 'saving', 'name' => 'thrift'])->assertOk();
        $this->postJson("/api/models/$model->id/runs", ['remember' => true])->assertOk();
        $edits = $this->getJson("/api/models/$model->id/runs")->json('runs.0.edits');
        self::assertCount(2, $edits);
        self::assertStringContainsString('thrift', $edits[1]);
    }

    public function test_scenarios_run_together_and_are_compared(): void
    {
        $model = $this->study()->model;
        $this->scenario($model, 'crowd', ['parameters' => ['islanders' => 6000]]);
        $this->scenario(
            $model,
            'dry',
            ['grips' => ['rainfall' => ['signal' => 'constant', 'values' => ['value' => 0], 'from' => 100]]],
            ['crowd'],
        );
        $batch = $this->postJson("/api/models/$model->id/batches", [
            'runs' => [(object) [], ['scenario' => 'crowd'], ['scenario' => 'dry'], ['setting' => ['time' => ['step' => 0.3]]]],
        ])->assertCreated();
        $batch
            ->assertJsonPath('finished', true)
            ->assertJsonPath('runs.2.name', 'Dry')
            ->assertJsonPath('runs.2.state', 'done')
            ->assertJsonPath('runs.3.state', 'refused');
        self::assertStringContainsString('whole number of steps', $batch->json('runs.3.words'));
        self::assertSame(
            ['Dry', 'Crowd'],
            array_column($this->getJson("/api/models/$model->id/runs")->json('runs'), 'scenario'),
            'scenarios are runs of note',
        );
        $reference = static fn (int $position): array => ['batch' => $batch->json('id'), 'position' => $position];
        self::assertSame(
            $this->columns($model, ['run' => ['scenario' => 'dry']])['columns'],
            $this->columns($model, ['run' => $reference(2)])['columns'],
        );

        $there = $this->columns($model, [
            'run' => $reference(1),
            'against' => $reference(0),
            'measure' => 'difference',
            'only' => ['fresh-water'],
        ]);
        $values = fn (int $position): array => $this->columns($model, ['run' => $reference($position)])['columns']['fresh-water'];
        self::assertSame(
            array_map(static fn (float $a, float $b): float => $a - $b, $values(1), $values(0)),
            $there['columns']['fresh-water'],
        );
        $percent = $this->columns($model, [
            'run' => $reference(1),
            'against' => $reference(0),
            'measure' => 'difference-percent',
            'only' => ['fresh-water'],
        ])['columns']['fresh-water'];
        self::assertEqualsWithDelta((100 * ($values(1)[300] - $values(0)[300])) / abs($values(0)[300]), $percent[300], 1e-9);

        $ends = $this->postJson("/api/models/$model->id/table", [
            'runs' => [$reference(0), $reference(1)],
            'of' => ['fresh-water', 'nothing'],
            'kind' => 'against',
        ])->assertOk();
        self::assertEqualsWithDelta($values(1)[520] - $values(0)[520], $ends->json('rows.0.cells.1.difference'), 1e-9);
        self::assertNull($ends->json('rows.1.cells.1.value'));
        $table = $this->postJson("/api/models/$model->id/table", [
            'runs' => [$reference(0)],
            'of' => ['fresh-water'],
            'times' => [200, 100.5, 9999],
        ])->assertOk();
        self::assertEqualsWithDelta(
            [($values(0)[100] + $values(0)[101]) / 2, $values(0)[200], null],
            $table->json('rows.0.cells.0'),
            1e-9,
        );
        $summary = $this->postJson("/api/models/$model->id/table", [
            'runs' => [$reference(0)],
            'of' => ['fresh-water'],
            'kind' => 'summary',
        ])->assertOk();
        self::assertEqualsWithDelta(max([-INF, ...$values(0)]), $summary->json('rows.0.cells.0.most'), 1e-9);
        $this->postJson("/api/models/$model->id/table", ['runs' => [], 'of' => []])->assertUnprocessable();
    }

    /** @return list<array<string, mixed>> */
    private static function many(int $count): array
    {
        return array_map(static fn (int $i): array => ['setting' => ['parameters' => ['islanders' => 4000 + $i]]], range(1, $count));
    }

    public function test_what_a_killed_worker_left_is_made_again_and_comes_to_the_same(): void
    {
        $model = $this->study()->model;
        config(['queue.default' => self::queue()]);
        $state = $this->postJson("/api/models/$model->id/batches", ['runs' => self::many(120)])
            ->assertCreated()
            ->assertJsonPath('finished', false);
        $batch = Batch::query()->where('id', $state->json('id'))->firstOrFail();
        self::assertGreaterThan(4, self::waiting(), 'the work is cut into parts');
        $part = new RunPart($batch->id, [0, 1, 2]);
        $part->handle();
        $blob = static fn (int $i): string => (string) $batch->runs()->where('position', $i)->value('result');
        $blobs = array_map($blob, [0, 1, 2]);
        $bytes = array_map(static fn (string $name): string => (string) gzuncompress((string) Results::disk()->get($name)), $blobs);
        // The worker was killed in the second run, before its row said so, and the third's file was never made.
        $batch
            ->runs()
            ->where('position', 1)
            ->update(['state' => 'running', 'share' => 0.3]);
        $batch
            ->runs()
            ->where('position', 2)
            ->update(['state' => 'waiting']);
        Results::disk()->delete($blobs[2]);
        $part->handle();
        $withoutClock = static fn (string $bytes): string => (string) preg_replace('/"seconds":[^,]*,/', '', $bytes);
        $strip = static fn (string $b): string => $withoutClock(substr($b, 4));
        self::assertSame(
            array_map($strip, $bytes),
            array_map(static fn (int $i): string => $strip((string) gzuncompress((string) Results::disk()->get($blob($i)))), [0, 1, 2]),
        );
        self::assertSame($blobs, array_map($blob, [0, 1, 2]), 'a result is named by what it is of');
        self::assertSame(3, $batch->runs()->where('state', 'done')->count());
    }

    public function test_cancelling_stops_what_has_not_been_made_and_keeps_the_rest(): void
    {
        $model = $this->study()->model;
        config(['queue.default' => self::queue()]);
        $id = $this->postJson("/api/models/$model->id/batches", ['runs' => self::many(120)])
            ->assertCreated()
            ->json('id');
        (new RunPart($id, [0, 1]))->handle();
        $this->deleteJson("/api/models/$model->id/batches/$id")
            ->assertOk()
            ->assertJsonPath('cancelled', true)
            ->assertJsonPath('finished', true);
        (new RunPart($id, [2, 3]))->handle();
        $states = array_count_values(array_column($this->getJson("/api/models/$model->id/batches/$id")->json('runs'), 'state'));
        self::assertSame(['done' => 2, 'stopped' => 118], $states);
        $this->columns($model, ['run' => ['batch' => $id, 'position' => 0]]);
        $this->postJson("/api/models/$model->id/runs", ['run' => ['batch' => $id, 'position' => 3]])->assertUnprocessable();
        (new RunPart('gone', [0]))->handle();
        $other = $this->postJson("/api/models/$model->id/batches", ['runs' => self::many(120)])
            ->assertCreated()
            ->json('id');
        (new RunPart($other, [5, 6]))->failed();
        self::assertSame(
            ['refused', 'refused'],
            Batch::query()
                ->where('id', $other)
                ->firstOrFail()
                ->runs()
                ->whereIn('position', [5, 6])
                ->pluck('state')
                ->all(),
            'nobody waits for what will not come',
        );
    }

    public function test_numbers_and_sizes_have_limits_with_a_sentence(): void
    {
        $model = $this->study()->model;
        self::assertStringContainsString(
            '1,000',
            $this->postJson("/api/models/$model->id/batches", ['runs' => self::many(Batches::MOST + 1)])
                ->assertUnprocessable()
                ->json('detail'),
        );
        $this->postJson("/api/models/$model->id/batches", ['runs' => []])->assertUnprocessable();
        foreach (range(1, 6) as $_) {
            $this->postJson("/api/models/$model->id/batches", ['runs' => [(object) []]])->assertCreated();
        }
        self::assertSame(4, Batch::query()->count(), 'old ones make room');
        config(['merry-orbit.run.most_batch_values' => 1e4, 'merry-orbit.run.most_kept_values' => 1e3]);
        self::assertStringContainsString(
            'save less often',
            $this->postJson("/api/models/$model->id/batches", ['runs' => self::many(9)])
                ->assertUnprocessable()
                ->json('detail'),
        );
        self::assertStringContainsString(
            'Save less often',
            $this->postJson("/api/models/$model->id/kept", ['name' => 'much'])
                ->assertUnprocessable()
                ->json('detail'),
        );
        foreach (['points' => 1, 'token' => 'mine', 'only' => 'all', 'measure' => 'mood', 'from' => 'then'] as $field => $value) {
            $this->postJson("/api/models/$model->id/runs", [$field => $value])->assertUnprocessable();
        }
    }

    public function test_a_run_can_be_stopped_on_its_way_and_keeps_what_it_has(): void
    {
        $model = $this->study()->model;
        $token = '0190b5a0-0000-7000-8000-00000000000a';
        $this->edit($model, [
            'kind' => 'time',
            'start' => 0,
            'end' => 520,
            'step' => 0.001,
            'saveEvery' => 0.1,
            'unit' => 'week',
            'method' => 'rk4',
        ])->assertOk();
        $this->getJson("/api/models/$model->id/progress/$token")
            ->assertOk()
            ->assertJsonPath('share', null);
        $this->deleteJson("/api/models/$model->id/progress/$token")->assertNoContent();
        $run = $this->columns($model, ['token' => $token, 'only' => ['fresh-water']]);
        self::assertTrue($run['header']['stopped']);
        self::assertGreaterThan(1, $run['header']['saved']);
        self::assertLessThan(5201, $run['header']['saved']);
        self::assertNull(RunProgress::share($token), 'nothing is left behind');
    }

    public function test_a_trail_answers_why(): void
    {
        $model = $this->study()->model;
        $causes = $this->postJson("/api/models/$model->id/trail", ['element' => 'fresh-water', 'time' => 50])->assertOk();
        self::assertEqualsWithDelta(
            $causes->json('rate'),
            array_sum(array_column($causes->json('causes'), 'change')) + $causes->json('rest'),
            1e-9,
        );
        self::assertContains('wells', array_column($causes->json('causes'), 'cause'));
        self::assertContains(
            'fresh-water',
            array_column(
                $this->postJson("/api/models/$model->id/trail", ['element' => 'wells', 'time' => 50, 'towards' => 'effects'])
                    ->assertOk()
                    ->json('effects'),
                'effect',
            ),
        );
        $apart = $this->postJson("/api/models/$model->id/trail", [
            'element' => 'fresh-water',
            'time' => 200,
            'run' => ['setting' => ['parameters' => ['islanders' => 6000]]],
            'base' => (object) [],
        ])->assertOk();
        self::assertLessThan(0, $apart->json('difference'));
        self::assertEqualsWithDelta(
            $apart->json('difference'),
            array_sum(array_column($apart->json('causes'), 'change')) + $apart->json('rest'),
            1e-6,
        );
        $this->postJson("/api/models/$model->id/trail", ['element' => 'gone', 'time' => 1])
            ->assertUnprocessable()
            ->assertJsonPath('code', 'element.gone');
        $this->postJson("/api/models/$model->id/trail", ['element' => 'wells'])->assertUnprocessable();
        $this->edit($model, ['kind' => 'formula', 'id' => 'rainfall', 'text' => '1 / (100 - time)'])->assertOk();
        self::assertStringContainsString(
            'no value of',
            $this->postJson("/api/models/$model->id/trail", ['element' => 'fresh-water', 'time' => 300])
                ->assertUnprocessable()
                ->json('detail'),
        );
    }

    public function test_an_old_version_runs_again(): void
    {
        $model = $this->study()->model;
        $first = $this->columns($model)['columns']['fresh-water'];
        $this->edit($model, ['kind' => 'formula', 'id' => 'rainfall', 'text' => '0'])->assertOk();
        self::assertSame($first, $this->columns($model, ['run' => ['revision' => 0]])['columns']['fresh-water']);
    }

    public function test_what_was_only_moved_or_renamed_is_no_run_and_makes_no_kept_run_older(): void
    {
        $model = $this->study()->model;
        $remember = fn () => $this->postJson("/api/models/$model->id/runs", ['remember' => true])->assertOk();
        $logged = fn (): int => count($this->getJson("/api/models/$model->id/runs")->json('runs'));
        $meaning = fn (): string => $this->getJson("/api/models/$model->id")->json('model.meaning');
        $remember();
        $kept = $this->postJson("/api/models/$model->id/kept", ['name' => 'first'])
            ->assertCreated()
            ->json('kept.0.meaning');
        self::assertSame($meaning(), $kept);
        $this->edit($model, ['kind' => 'rename', 'id' => 'saving', 'name' => 'thrift'])->assertOk();
        $this->edit($model, ['kind' => 'move', 'placements' => ['saving' => ['at' => ['x' => 5, 'y' => 5]]]])->assertOk();
        $remember();
        self::assertSame([1, $kept], [$logged(), $meaning()]);
        $this->edit($model, ['kind' => 'formula', 'id' => 'saving', 'text' => '5%'])->assertOk();
        $remember();
        self::assertSame(2, $logged());
        self::assertNotSame($kept, $meaning());
        $this->step($model, 'undo')->assertOk();
        $remember();
        self::assertSame([2, $kept], [$logged(), $meaning()], 'undone, it is what it was');
        KeptRun::query()->update(['meaning' => '']);
        self::assertSame(
            $kept,
            $this->getJson("/api/models/$model->id/kept")->json('kept.0.meaning'),
            'of older kept runs it is worked out',
        );
    }

    public function test_a_trail_says_what_holds_begins_with_what_was_changed_and_gathers_over_time(): void
    {
        $model = $this->study()->model;
        $this->edit($model, [
            'kind' => 'add',
            'id' => 'limited',
            'element' => 'auxiliary',
            'name' => 'limited',
            'formula' => 'min(islanders, 100)',
        ])->assertOk();
        $holds = $this->postJson("/api/models/$model->id/trail", ['element' => 'limited', 'time' => 50])
            ->assertOk()
            ->json('holds');
        self::assertStringContainsString('That is `100`', $holds[0]['sentence']);
        $run = ['setting' => ['parameters' => ['islanders' => 6000]]];
        $moment = $this->postJson("/api/models/$model->id/trail", [
            'element' => 'wells',
            'time' => 200,
            'run' => $run,
            'base' => (object) [],
        ])->assertOk();
        self::assertSame(['islanders'], array_column($moment->json('changes'), 'element'));
        self::assertSame('6000', $moment->json('changes.0.fields.0.now'));
        self::assertNotEmpty($moment->json('through'));
        $all = $this->postJson("/api/models/$model->id/trail", [
            'element' => 'wells',
            'time' => 200,
            'run' => $run,
            'base' => (object) [],
            'over' => 'time',
        ])->assertOk();
        self::assertTrue($all->json('isAmount'));
        self::assertEqualsWithDelta(
            $all->json('difference'),
            array_sum(array_column($all->json('causes'), 'change')) + $all->json('rest'),
            1e-6 * abs($all->json('difference')),
        );
        self::assertGreaterThan(10 * abs($moment->json('difference')), abs($all->json('difference')), 'an amount of two hundred weeks');
        $this->postJson("/api/models/$model->id/trail", [
            'element' => 'wells',
            'time' => 0,
            'run' => $run,
            'base' => (object) [],
            'over' => 'time',
        ])->assertUnprocessable();
    }

    public function test_a_table_says_what_lies_between_moments_and_where_a_run_stopped(): void
    {
        $model = $this->study()->model;
        $this->edit($model, ['kind' => 'formula', 'id' => 'rainfall', 'text' => '1 / (100 - time)'])->assertOk();
        $table = $this->postJson("/api/models/$model->id/table", [
            'runs' => [(object) []],
            'of' => ['fresh-water'],
            'times' => [50, 50.25, 300],
        ])->assertOk();
        self::assertSame([1], $table->json('runs.0.between'));
        self::assertEqualsWithDelta(100.0, $table->json('runs.0.stopped'), 1.0);
        self::assertNull($table->json('rows.0.cells.0.2'));
    }

    /** A batch is as much work as all its runs, not as many times its first. */
    public function test_a_batch_is_sized_by_all_its_runs(): void
    {
        $model = $this->study()->model;
        config(['queue.default' => self::queue()]);
        $short = ['setting' => ['time' => ['end' => 2]]];
        $long = ['setting' => ['time' => ['step' => 0.001, 'saveEvery' => 1]]];
        $this->postJson("/api/models/$model->id/batches", ['runs' => [$short, $long, $long, $long]])
            ->assertCreated()
            ->assertJsonPath('finished', false);
        self::assertGreaterThan(1, self::waiting(), 'long ones go to the queue, although the first is short');
        config(['merry-orbit.run.most_batch_values' => 1e4]);
        $this->postJson("/api/models/$model->id/batches", [
            'runs' => [$short, ['setting' => ['time' => ['saveEvery' => 1]]], []],
        ])->assertUnprocessable();
        self::assertSame([[0, 1], [2], [3]], Batches::parts([1.0, 1.0, 1e9, 1e8]));
        self::assertSame(range(0, 99), array_merge(...Batches::parts(array_fill(0, 100, 3.0))));
    }

    public function test_a_calendar_has_marks(): void
    {
        $model = $this->study()->model;
        $this->getJson("/api/models/$model->id/calendar?from=0&until=10")
            ->assertOk()
            ->assertJsonPath('marks', []);
        $this->edit($model, [
            'kind' => 'time',
            'start' => 0,
            'end' => 520,
            'step' => 1,
            'unit' => 'week',
            'method' => 'rk4',
            'startDate' => '2031-04-01',
        ])->assertOk();
        $marks = $this->getJson("/api/models/$model->id/calendar?from=0&until=520&most=10")->assertOk();
        self::assertSame(['year', '2032-01-01T00:00'], [$marks->json('every'), $marks->json('marks.0.date')]);
        self::assertSame(520, $this->getJson("/api/models/$model->id")->json('model.calendar.1.0'));
        $this->getJson("/api/models/$model->id/calendar?from=5&until=1")->assertUnprocessable();
    }
}
