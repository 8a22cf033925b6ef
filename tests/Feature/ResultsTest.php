<?php

declare(strict_types=1);

namespace Tests\Feature;

use App\Models\Batch;
use App\Models\KeptRun;
use App\Models\User;
use App\Runs\Batches;
use App\Runs\Results;
use App\Runs\RunPart;
use Illuminate\Support\Facades\Artisan;
use Illuminate\Support\Facades\DB;
use MerryOrbit\Core\Simulate\TrajectoryFile;

/** Results are blobs that are named by what they are of. */
final class ResultsTest extends TestCase
{
    /** @param  list<array<string, mixed>>  $settings */
    private function batch(string $model, array $settings): Batch
    {
        $id = $this->postJson("/api/models/$model/batches", [
            'runs' => array_map(static fn (array $s): array => ['setting' => (object) $s], $settings),
        ])
            ->assertCreated()
            ->json('id');

        return Batch::query()->where('id', $id)->firstOrFail();
    }

    /** @return list<string> */
    private static function blobs(Batch $batch): array
    {
        return array_values(array_map(strval(...), $batch->runs()->orderBy('position')->pluck('result')->all()));
    }

    public function test_the_same_run_of_the_same_model_is_the_same_blob_and_is_not_made_again(): void
    {
        $model = $this->study()->model;
        $first = $this->batch($model->id, [['parameters' => ['islanders' => 5000]], ['parameters' => ['islanders' => 6000]]]);
        $blobs = self::blobs($first);
        self::assertCount(2, array_unique($blobs));
        // What is there is taken: a mark in its place shows that.
        $mark = Results::run($blobs[1]);
        Results::disk()->delete($blobs[0]);
        Results::keep($blobs[0], $mark);
        $again = $this->batch($model->id, [['parameters' => ['islanders' => 5000]]]);
        self::assertSame([$blobs[0]], self::blobs($again));
        self::assertSame(TrajectoryFile::write($mark), TrajectoryFile::write(Results::run($blobs[0])));
        // Where a thing stands does not matter to numbers, but to the document: another name, the same numbers. A formula does.
        $this->edit($model, ['kind' => 'formula', 'id' => 'saving', 'text' => '10%'])->assertOk();
        $other = self::blobs($this->batch($model->id, [['parameters' => ['islanders' => 6000]]]));
        self::assertNotSame($blobs[1], $other[0]);
        self::assertNotSame(Results::run($blobs[1])->column('fresh-water'), Results::run($other[0])->column('fresh-water'));
    }

    public function test_a_worker_needs_the_database_the_queue_and_the_disk_alone(): void
    {
        $model = $this->study()->model;
        config(['queue.default' => self::queue()]);
        $batch = Batches::one(
            $model,
            User::demoAnalyst(),
            \App\Runs\RunSource::of($model, ['setting' => ['parameters' => ['islanders' => 5000]]]),
            'a-token',
        );
        // The model goes on meanwhile; the run is of what it was.
        $this->edit($model, ['kind' => 'delete', 'ids' => ['islanders']])->assertOk();
        self::assertSame(1, DB::table('job_batches')->where('id', $batch->refresh()->bus_id)->value('pending_jobs'));
        Artisan::call('queue:work', ['--once' => true, '--quiet' => true]);
        self::assertSame(0, DB::table('job_batches')->where('id', $batch->bus_id)->value('pending_jobs'));
        self::assertNotNull(DB::table('job_batches')->where('id', $batch->bus_id)->value('finished_at'));
        $run = Results::run(self::blobs($batch)[0]);
        self::assertEqualsWithDelta(5000.0, $run->steady()['islanders'], 0.0);
        self::assertSame(521, $run->length());
    }

    public function test_what_was_stopped_is_not_taken_for_the_whole(): void
    {
        $model = $this->study()->model;
        config(['queue.default' => self::queue()]);
        $setting = ['time' => ['end' => 2000, 'step' => 0.001, 'saveEvery' => 10]];
        $batch = Batches::one($model, User::demoAnalyst(), \App\Runs\RunSource::of($model, ['setting' => $setting]), 'a-token');
        $name = self::blobs($batch)[0];
        \App\Runs\RunProgress::stop('a-token');
        (new RunPart($batch->id, [0]))->handle();
        self::assertSame('stopped', $batch->runs()->value('state'));
        self::assertFalse(Results::disk()->exists($name));
        self::assertTrue(Results::run(self::blobs($batch)[0])->stopped);
    }

    public function test_a_run_that_is_gone_is_told_and_kept_runs_of_before_are_read(): void
    {
        $model = $this->study()->model;
        $batch = $this->batch($model->id, [[]]);
        Results::disk()->delete(self::blobs($batch)[0]);
        $answer = $this->postJson("/api/models/$model->id/runs", [
            'run' => ['batch' => $batch->id, 'position' => 0],
        ])->assertUnprocessable();
        self::assertStringContainsString('Run the scenarios again', $answer->json('detail'));

        $this->postJson("/api/models/$model->id/kept", ['name' => 'as it was'])->assertCreated();
        $kept = KeptRun::query()->firstOrFail();
        $numbers = Results::ofKept($kept)->column('fresh-water');
        DB::table('kept_run_results')->insert([
            'kept_run_id' => $kept->id,
            'result' => base64_encode((string) gzcompress(TrajectoryFile::write(Results::ofKept($kept)))),
        ]);
        $kept->update(['result' => null]);
        self::assertSame($numbers, Results::ofKept($kept->refresh())->column('fresh-water'));
    }

    public function test_what_nothing_refers_to_is_found_and_removed(): void
    {
        $model = $this->study()->model;
        $batch = $this->batch($model->id, [['parameters' => ['islanders' => 5000]], ['parameters' => ['islanders' => 6000]]]);
        $this->postJson("/api/models/$model->id/kept", [
            'name' => 'kept',
            'run' => ['batch' => $batch->id, 'position' => 1],
        ])->assertCreated();
        $there = fn (): int => count(Results::disk()->allFiles());
        self::assertSame(4, $there(), 'a document, two runs, one kept');
        $tidy = static function (string $options): string {
            Artisan::call("orbit:tidy $options");

            return Artisan::output();
        };
        self::assertStringNotContainsString('results', $tidy('--minutes=0'));
        $batch->delete();
        self::assertStringNotContainsString('results', $tidy(''), 'what is young stays');
        $this->travel(5)->seconds();
        self::assertStringContainsString('Would remove 3 results', $tidy('--dry --minutes=-1'));
        self::assertSame(4, $there());
        self::assertStringContainsString('Removed 3 results', $tidy('--minutes=-1'));
        self::assertSame(1, $there());
        $kept = KeptRun::query()->firstOrFail();
        self::assertSame(521, Results::ofKept($kept)->length());
        // A study that is thrown away for good takes its results along.
        $kept->forceDelete();
        $tidy('--minutes=-1');
        self::assertSame(0, $there());
    }
}
