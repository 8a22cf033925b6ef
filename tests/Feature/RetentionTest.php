<?php

declare(strict_types=1);

namespace Tests\Feature;

use App\Models\Batch;
use App\Models\KeptRun;
use App\Models\Study;
use App\Retention\Hold;
use App\Retention\Sweeps;
use App\Runs\Results;
use Illuminate\Support\Facades\Artisan;
use Illuminate\Support\Facades\DB;
use Illuminate\Support\Facades\Storage;

/** What is kept for how long, and what quotas count. */
final class RetentionTest extends TestCase
{
    protected function setUp(): void
    {
        parent::setUp();
        Storage::fake('local');
    }

    private function keep(string $model, string $name): string
    {
        $this->postJson("/api/models/$model/kept", ['name' => $name])->assertCreated();

        return KeptRun::query()->latest('id')->firstOrFail()->id;
    }

    private function tidy(string $options = '--minutes=-1'): string
    {
        Artisan::call("orbit:tidy $options");

        return Artisan::output();
    }

    public function test_a_deleted_study_is_not_there_and_after_a_week_it_and_all_that_is_its_is_gone(): void
    {
        $study = $this->study();
        $model = $study->model;
        $this->keep($model->id, 'as it was');
        $this->postJson("/api/models/$model->id/batches", ['runs' => [['name' => 'a', 'setting' => (object) []]]])->assertSuccessful();
        self::assertGreaterThan(1, count(Results::disk()->allFiles()));
        $this->deleteJson("/api/studies/$study->id")->assertNoContent();
        foreach (['', '/news?since=0', '/history', '/kept'] as $path) {
            $this->getJson("/api/models/$model->id$path")->assertNotFound();
        }
        $this->postJson("/api/models/$model->id/edits", [
            'base' => 0,
            'window' => 'w',
            'edits' => [['id' => 'e', 'edit' => ['kind' => 'rename', 'id' => 'wells', 'name' => 'springs']]],
        ])->assertNotFound();
        $this->tidy();
        $this->postJson("/api/studies/$study->id/restore")->assertOk();
        $this->getJson("/api/models/$model->id")->assertOk();
        self::assertSame(1, Batch::query()->count());

        $this->deleteJson("/api/studies/$study->id")->assertNoContent();
        $this->travel(2)->days();
        DB::table('studies')->update(['deleted_at' => date('Y-m-d H:i:s', time() - 2 * 86_400)]);
        self::assertStringContainsString('Removed 1 runs of deleted studies', $this->tidy());
        DB::table('studies')->update(['deleted_at' => date('Y-m-d H:i:s', time() - 8 * 86_400)]);
        self::assertStringContainsString('Would remove 1 studies', $this->tidy('--dry --minutes=-1'));
        self::assertSame(1, Study::withTrashed()->count());
        $this->tidy();
        foreach (['studies', 'models', 'edits', 'kept_runs', 'batches', 'batch_runs', 'runs'] as $table) {
            self::assertSame(0, DB::table($table)->count(), $table);
        }
        self::assertSame([], Results::disk()->allFiles());
    }

    public function test_removed_runs_count_until_they_are_gone_and_only_so_many_wait(): void
    {
        $model = $this->study()->model;
        $ids = [];
        for ($i = 0; $i < 23; $i++) {
            $ids[] = $id = $this->keep($model->id, "run $i");
            $this->deleteJson("/api/models/$model->id/kept/$id")->assertNoContent();
        }
        self::assertSame(20, KeptRun::withTrashed()->count());
        $this->postJson("/api/models/$model->id/kept/$ids[0]/restore")->assertNotFound();
        $this->postJson("/api/models/$model->id/kept/$ids[22]/restore")->assertOk();
        self::assertGreaterThan(0, KeptRun::query()->firstOrFail()->bytes);

        DB::table('kept_runs')
            ->where('id', '<>', $ids[22])
            ->limit(1)
            ->update(['bytes' => 2_000_000_000]);
        $refused = $this->postJson("/api/models/$model->id/kept", ['name' => 'one more'])->assertUnprocessable();
        self::assertStringContainsString('1,000 MB', $refused->json('detail'));
        DB::table('kept_runs')
            ->whereNotNull('deleted_at')
            ->update(['deleted_at' => date('Y-m-d H:i:s', time() - 2 * 86_400)]);
        self::assertStringContainsString('Removed 19 kept runs', $this->tidy());
        $this->keep($model->id, 'one more');
    }

    public function test_old_sessions_jobs_and_entries_of_the_cache_are_removed_and_young_ones_stay(): void
    {
        $folder = sys_get_temp_dir().'/merry-orbit-tidy-'.bin2hex(random_bytes(4));
        mkdir("$folder/cache/a/b", recursive: true);
        mkdir("$folder/sessions");
        config(['session.files' => "$folder/sessions", 'cache.stores.file.path' => "$folder/cache"]);
        touch("$folder/sessions/old", time() - 60 * config()->integer('session.lifetime') - 60);
        touch("$folder/sessions/young");
        file_put_contents("$folder/cache/a/b/old", time() - 60 .'s:1:"x";');
        file_put_contents("$folder/cache/a/b/young", time() + 60 .'s:1:"x";');
        foreach (['old' => 9, 'young' => 1] as $id => $days) {
            DB::table('failed_jobs')->insert([
                'uuid' => $id,
                'connection' => 'database',
                'queue' => 'default',
                'payload' => '{}',
                'exception' => '',
                'failed_at' => date('Y-m-d H:i:s', time() - $days * 86_400),
            ]);
        }
        $sweeps = new Sweeps(false);
        self::assertSame([1, 1, 1], [$sweeps->sessions()[1], $sweeps->cache()[1], $sweeps->failedJobs()[1]]);
        self::assertSame(['young'], DB::table('failed_jobs')->pluck('uuid')->all());
        self::assertSame(["$folder/cache/a/b/young"], glob("$folder/cache/a/b/*"));
        self::assertSame(["$folder/sessions/young"], glob("$folder/sessions/*"));
        shell_exec('rm -rf '.escapeshellarg($folder));
    }

    public function test_nothing_is_removed_while_a_backup_is_made(): void
    {
        $hold = Hold::shared();
        self::assertNotNull($hold);
        self::assertStringContainsString('nothing was removed', $this->tidy());
        unset($hold);
        self::assertStringNotContainsString('nothing was removed', $this->tidy());
    }
}
