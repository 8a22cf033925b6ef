<?php

declare(strict_types=1);

namespace Tests\Feature;

use App\Files\LastingSessions;
use App\Models\Batch;
use App\Models\ModelDocument;
use App\Models\User;
use App\Runs\Batches;
use App\Runs\Elsewhere;
use App\Runs\Results;
use App\Runs\RunPart;
use App\Runs\RunSource;
use App\Studies\StudyMaker;
use Illuminate\Support\Facades\Artisan;
use Illuminate\Support\Facades\Cache;
use Illuminate\Support\Facades\DB;
use Illuminate\Support\Str;
use MerryOrbit\Core\Model\Model;
use MerryOrbit\Core\Model\Scenario;
use PHPUnit\Framework\Attributes\DataProvider;
use Tests\Core\Pace;
use Tests\Core\RandomEdit;

/** Nothing is lost, and nothing stands still. */
final class SafetyTest extends TestCase
{
    public function test_what_waited_in_a_page_is_never_sent_by_somebody_else(): void
    {
        $model = $this->study()->model;
        $body = [
            'base' => 0,
            'window' => 'one',
            'edits' => [['id' => (string) Str::uuid(), 'edit' => ['kind' => 'unit', 'id' => 'wells', 'text' => 'ft']]],
        ];
        $this->postJson("/api/models/$model->id/edits", [...$body, 'user' => $this->stranger()->id])
            ->assertForbidden()
            ->assertJsonPath('code', 'other-person');
        $this->postJson("/api/models/$model->id/undo", [
            'base' => 0,
            'window' => 'one',
            'id' => (string) Str::uuid(),
            'user' => 0,
        ])->assertForbidden();
        self::assertSame(0, $model->refresh()->revision);
        $user = $this->getJson("/api/models/$model->id")->json('user');
        $this->postJson("/api/models/$model->id/edits", [...$body, 'user' => $user])->assertOk();
    }

    public function test_a_run_that_takes_long_goes_to_a_worker_and_comes_to_the_same(): void
    {
        $model = $this->study()->model;
        $wish = [
            'run' => ['setting' => ['parameters' => ['islanders' => 5500], 'time' => ['step' => 0.001, 'saveEvery' => 1]]],
            'token' => (string) Str::uuid(),
        ];
        $here = (string) $this->postJson("/api/models/$model->id/runs", $wish)
            ->assertOk()
            ->getContent();
        config(['merry-orbit.run.workers' => true, 'merry-orbit.run.free_seconds' => 0.0, 'queue.default' => self::queue()]);
        $handed = $this->postJson("/api/models/$model->id/runs", [...$wish, 'remember' => true])
            ->assertStatus(202)
            ->assertJsonPath('which', 'run');
        $batch = $handed->json('batch');
        $this->getJson("/api/models/$model->id/batches/$batch")
            ->assertOk()
            ->assertJsonPath('finished', false);
        (new RunPart($batch, [0]))->handle();
        $this->getJson("/api/models/$model->id/batches/$batch")
            ->assertJsonPath('finished', true)
            ->assertJsonPath('runs.0.state', 'done');
        $there = (string) $this->postJson("/api/models/$model->id/runs", ['run' => ['batch' => $batch, 'position' => 0]])
            ->assertOk()
            ->getContent();
        $columns = static fn (string $message): string => substr($message, 4 + (unpack('V', $message)[1] ?? 0));
        self::assertSame($columns($here), $columns($there));
        self::assertSame(1, $model->runs()->count(), 'it is in the logbook once');
        // The results of scenarios are not cleared away by such runs.
        $scenarios = Batches::make($model, User::demoAnalyst(), [[], []]);
        for ($i = 0; $i < 6; $i++) {
            $last = $this->postJson("/api/models/$model->id/runs", $wish)
                ->assertStatus(202)
                ->json('batch');
        }
        self::assertNotNull(Batch::query()->find($scenarios->id));
        self::assertNull(Batch::query()->find($batch));
        self::assertNotNull(Batch::query()->find($last));
    }

    public function test_a_run_that_was_handed_over_is_followed_and_stopped_like_any_other(): void
    {
        $model = $this->study()->model;
        $token = (string) Str::uuid();
        config(['queue.default' => self::queue()]);
        $batch = Batches::one(
            $model,
            User::demoAnalyst(),
            RunSource::of($model, ['setting' => ['time' => ['end' => 2000, 'step' => 0.001, 'saveEvery' => 10]]]),
            $token,
        );
        $this->deleteJson("/api/models/$model->id/progress/$token")->assertNoContent();
        (new RunPart($batch->id, [0]))->handle();
        $this->getJson("/api/models/$model->id/batches/$batch->id")->assertJsonPath('runs.0.state', 'stopped');
        self::assertGreaterThan(0.0, $this->getJson("/api/models/$model->id/progress/$token")->json('share'));
    }

    public function test_long_work_needs_a_turn_and_ends_with_a_sentence(): void
    {
        $model = $this->study()->model;
        $long = ['run' => ['setting' => ['time' => ['end' => 20000, 'step' => 0.01, 'saveEvery' => 100]]], 'at' => 3];
        config(['merry-orbit.run.free_seconds' => 0.0, 'merry-orbit.run.turns' => 0]);
        $this->postJson("/api/models/$model->id/effects", $long)
            ->assertStatus(503)
            ->assertHeader('Retry-After', '1');
        config(['merry-orbit.run.turns' => 1, 'merry-orbit.run.most_seconds' => 0.05]);
        $answer = $this->postJson("/api/models/$model->id/effects", $long)
            ->assertUnprocessable()
            ->assertJsonPath('code', 'run.long');
        self::assertStringContainsString('Make a scenario', $answer->json('detail'));
        // What is short needs no turn.
        config(['merry-orbit.run.turns' => 0, 'merry-orbit.run.free_seconds' => 5.0]);
        $this->postJson("/api/models/$model->id/effects", ['at' => 3])->assertOk();
    }

    public function test_a_worker_waits_for_a_database_that_somebody_holds(): void
    {
        $tries = 0;
        $locked = static function () use (&$tries): void {
            if (++$tries < 3) {
                throw new \PDOException('SQLSTATE[HY000]: General error: 5 database is locked');
            }
        };
        \App\Database\Locked::waitOut($locked, 5.0);
        self::assertSame(3, $tries);
        $tries = 0;
        \App\Database\Locked::passOver($locked);
        self::assertSame(1, $tries);
        $this->expectExceptionMessage('no such table');
        \App\Database\Locked::waitOut(static fn () => throw new \PDOException('no such table'), 5.0);
    }

    public function test_health_says_when_workers_do_nothing(): void
    {
        config(['queue.default' => 'database']);
        $this->getJson('/api/health')->assertOk()->assertJsonPath('well', true);
        DB::table('jobs')->insert([
            'queue' => 'default',
            'payload' => '{}',
            'attempts' => 0,
            'available_at' => time() - 90,
            'created_at' => time() - 90,
        ]);
        $answer = $this->getJson('/api/health')->assertStatus(503)->assertJsonPath('queue.stuck', true);
        self::assertStringContainsString('a job has been waiting for 9', implode(' ', $answer->json('said')));
        DB::table('jobs')->insert([
            'queue' => 'default',
            'payload' => '{}',
            'attempts' => 1,
            'reserved_at' => time() - 60,
            'available_at' => time() - 90,
            'created_at' => time() - 90,
        ]);
        $this->getJson('/api/health')->assertOk();
    }

    public function test_a_worker_says_what_it_can_do_or_why_it_can_do_nothing(): void
    {
        self::assertSame(0, Artisan::call('orbit:able'));
        self::assertMatchesRegularExpression(
            '/: PHP 8\.\d+\.\d+, at most \S+ for a piece of work, .*edition \d+ of the engine\./',
            Artisan::output(),
        );
        config(['merry-orbit.results_disk' => 'nowhere']);
        self::assertSame(1, Artisan::call('orbit:able'));
        self::assertStringContainsString('The disk of results (nowhere) cannot be reached:', Artisan::output());
    }

    public function test_workers_of_other_machines_count_where_machines_share_the_database(): void
    {
        $row = static fn (string $id, int $ago, bool $busy, int $edition): array => [
            'id' => $id,
            'seen_at' => time() - $ago,
            'busy' => $busy,
            'edition' => $edition,
        ];
        DB::table('workers')->insert([
            $row('elsewhere:1:1', 3, false, Results::EDITION),
            $row('elsewhere:2:1', 100, true, Results::EDITION),
            $row('elsewhere:3:1', 100, false, Results::EDITION),
            $row('elsewhere:4:1', 500, true, Results::EDITION),
            $row(gethostname().':5:1', 1, false, Results::EDITION),
        ]);
        if (DB::connection()->getDriverName() === 'sqlite') {
            self::assertSame([], Elsewhere::signs(), 'a file is no database that machines share');

            return;
        }
        // One that waits gave a sign a moment ago, one that works may be silent for as long as its job may take.
        self::assertCount(2, Elsewhere::signs());
        self::assertSame(0, Artisan::call('orbit:able'));
        DB::table('workers')->insert($row('elsewhere:6:1', 1, false, Results::EDITION + 1));
        self::assertSame(1, Artisan::call('orbit:able'));
        self::assertStringContainsString('another edition of the engine', Artisan::output());
        Elsewhere::tell(true);
        self::assertSame(
            1,
            DB::table('workers')
                ->where('id', 'like', gethostname().':%:'.crc32(base_path()))
                ->count(),
        );
        self::assertSame(0, DB::table('workers')->where('id', 'elsewhere:4:1')->count(), 'who is gone for long is forgotten');
    }

    public function test_a_small_plot_that_fails_is_not_tried_at_every_visit(): void
    {
        $study = $this->study();
        DB::table('models')
            ->where('id', $study->model->id)
            ->update(['document' => '{"broken":true}']);
        foreach ([1, 2] as $visit) {
            $this->getJson("/api/studies/$study->id/thumbnail")
                ->assertOk()
                ->assertJsonPath('words', 'cannot be shown small')
                ->assertJsonPath('lines', []);
        }
        $this->getJson('/api/studies')->assertOk()->assertJsonPath('data.0.name', $study->name);
    }

    public function test_a_study_that_cannot_be_shown_is_listed_and_exported_and_its_last_edit_undone(): void
    {
        $study = $this->study();
        $model = $study->model;
        $this->edit($model, ['kind' => 'curve', 'id' => 'wells', 'points' => [[0, 1]]])->assertUnprocessable();
        $this->edit($model, ['kind' => 'add', 'id' => 'steep', 'element' => 'curve', 'name' => 'steep'])->assertOk();
        $this->edit($model, [
            'kind' => 'curve',
            'id' => 'steep',
            'points' => [[0, 1], [1, 2]],
            'between' => 'straight',
            'beyond' => 'held',
            'inputUnit' => '',
        ])->assertOk();
        // As an earlier version of the program stored it.
        $bad = str_replace('[[0.0,1.0],[1.0,2.0]]', '[[-1e308,-1e308],[1e308,1e308]]', $model->refresh()->document, $count);
        self::assertSame(1, $count);
        DB::table('models')
            ->where('id', $model->id)
            ->update(['document' => $bad]);
        Cache::flush();
        $answer = $this->getJson("/api/models/$model->id");
        if ($answer->status() !== 200) {
            $answer->assertUnprocessable()->assertJsonPath('code', 'model.unopened')->assertJsonPath('revision', 2);
        }
        $this->getJson('/api/studies')->assertOk()->assertJsonPath('data.0.name', $study->name);
        foreach (['native', 'xmile'] as $format) {
            $this->get("/api/studies/$study->id/file?format=$format")->assertOk();
        }
        $this->step($model, 'undo')->assertOk();
        $this->getJson("/api/models/$model->id")->assertOk();
    }

    public function test_a_full_disk_empties_no_session(): void
    {
        $folder = sys_get_temp_dir().'/merry-orbit-sessions-'.bin2hex(random_bytes(4));
        mkdir($folder);
        $full = new class extends \Illuminate\Filesystem\Filesystem
        {
            public function replace($path, $content, $mode = null): void
            {
                throw new \ErrorException('file_put_contents(): Only 0 of 9 bytes written, possibly out of free disk space');
            }
        };
        $files = new \Illuminate\Filesystem\Filesystem();
        $sound = new LastingSessions($files, $folder, 600, static fn (): bool => true);
        self::assertTrue($sound->write('abc', 'signed in'));
        self::assertSame('0600', substr(sprintf('%o', fileperms("$folder/abc")), -4));
        self::assertLessThan(time() - 500 * 60, filemtime("$folder/abc"), 'one that is never come back to is soon too old');
        self::assertSame('signed in', $sound->read('abc'));
        self::assertTrue($sound->write('abc', 'signed in'));
        clearstatcache();
        self::assertGreaterThan(time() - 60, filemtime("$folder/abc"));
        (new LastingSessions($files, $folder, 600, static fn (): bool => false))->write('other', 'a visit');
        self::assertFileDoesNotExist("$folder/other");
        $sessions = new LastingSessions($full, $folder, 600, static fn (): bool => true);
        self::assertTrue($sessions->write('abc', 'signed in'), 'what is there already needs no room');
        self::assertFalse($sessions->write('abc', 'something else'));
        self::assertSame('signed in', $sessions->read('abc'));
        array_map(unlink(...), glob("$folder/*") ?: []);
        rmdir($folder);
    }

    public function test_scenarios_in_a_long_chain_are_opened_at_once(): void
    {
        $scenarios = [];
        for ($i = 0; $i < Scenario::MOST; $i++) {
            $scenarios["c$i"] = new Scenario("c$i", "case $i", on: $i === 0 ? [] : ['c'.($i - 1)], place: (float) $i);
        }
        $study = StudyMaker::make(User::demoAnalyst(), (new Model('Chain'))->with(['scenarios' => $scenarios]))->load('model');
        $took = Pace::seconds(fn () => $this->getJson("/api/models/{$study->model->id}")->assertOk());
        self::assertLessThan(2.0, $took);
        $file = json_decode(
            (string) $this->get("/api/studies/$study->id/file")
                ->assertOk()
                ->getContent(),
            true,
        );
        $file['scenarios'] = array_map(
            static fn (int $i): array => ['name' => "case $i", 'on' => $i === 0 ? [] : ['case '.($i - 1)]],
            range(0, 20_000),
        );
        $answer = $this->call('POST', '/api/studies/import', content: (string) json_encode($file))->assertUnprocessable();
        self::assertStringContainsString('500', $answer->json('detail'));
    }

    /** @return iterable<array{int}> */
    public static function seeds(): iterable
    {
        foreach (range(1, 8) as $seed) {
            yield [$seed];
        }
    }

    #[DataProvider('seeds')]
    public function test_whatever_the_editor_takes_can_be_opened_run_exported_and_undone(int $seed): void
    {
        mt_srand($seed);
        $study = $this->study();
        $model = $study->model;
        $first = $model->document;
        config([
            'merry-orbit.run.most_evaluations' => 2e6,
            'merry-orbit.run.most_values' => 1e6,
            'merry-orbit.run.most_adaptive_seconds' => 0.2,
        ]);
        $taken = 0;
        for ($i = 0; $i < 45; $i++) {
            $core = $model->refresh()->core();
            $edit = mt_rand(0, 1) === 0 ? RandomEdit::extreme($core) : RandomEdit::record($core, $i);
            $answer = $this->edit($model, $edit);
            $told = "seed $seed, edit $i: ".json_encode($edit).' '.mb_substr((string) $answer->getContent(), 0, 300);
            self::assertContains($answer->status(), [200, 422], $told);
            if ($answer->status() !== 200) {
                self::assertNotSame('', $answer->json('detail'), $told);

                continue;
            }
            $taken++;
            self::assertSame(200, $this->getJson("/api/models/$model->id")->status(), $told);
            self::assertContains($this->postJson("/api/models/$model->id/runs", [])->status(), [200, 422], $told);
            foreach (['native', 'xmile'] as $format) {
                $file = $this->get("/api/studies/$study->id/file?format=$format");
                self::assertSame(200, $file->status(), $told);
            }
        }
        self::assertGreaterThan(12, $taken);
        $file = (string) $this->get("/api/studies/$study->id/file")->getContent();
        $this->call('POST', '/api/studies/import', content: $file)->assertCreated();
        do {
            $undone = $this->step($model, 'undo');
        } while ($undone->status() === 200);
        $undone->assertUnprocessable()->assertJsonPath('code', 'undo.none');
        self::assertSame($first, ModelDocument::query()->findOrFail($model->id)->document);
    }
}
