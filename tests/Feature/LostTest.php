<?php

declare(strict_types=1);

namespace Tests\Feature;

use App\Database\Away;
use App\Database\Locked;
use App\Models\Batch;
use App\Models\Ensemble;
use App\Models\EnsemblePart;
use App\Models\Fit;
use App\Models\ModelDocument;
use App\Problems\ProblemDocument;
use App\Runs\Engine;
use App\Runs\Lost;
use App\Runs\Results;
use App\Uncertain\PartMaker;
use Illuminate\Support\Facades\Artisan;
use Illuminate\Support\Facades\DB;
use Illuminate\Support\Facades\Queue;

/** The queue forgets what it was told; what there is to do stands in the database. */
final class LostTest extends TestCase
{
    use MakesManyRuns;

    private const RUNS = 600;

    private function patient(): void
    {
        config(['merry-orbit.run.workers' => true, 'queue.default' => self::queue()]);
    }

    /** Whatever held the queue is gone, and nobody notices for a while. */
    private function forget(int $seconds = 11): void
    {
        foreach (['default', 'long'] as $queue) {
            Artisan::call('queue:clear', ['--queue' => $queue, '--force' => true]);
        }
        self::assertSame(0, self::waiting());
        $this->travel($seconds)->seconds();
    }

    /** @return list<array<string, mixed>> */
    private static function settings(): array
    {
        return array_map(
            static fn (int $i): array => [
                'setting' => ['parameters' => ['rate' => 1 + $i / 1000], 'time' => ['step' => 0.00005, 'saveEvery' => 0.5]],
            ],
            range(1, 30),
        );
    }

    private function batch(ModelDocument $model): Batch
    {
        $id = $this->postJson("/api/models/$model->id/batches", ['runs' => self::settings()])
            ->assertCreated()
            ->assertJsonPath('finished', false)
            ->json('id');

        return Batch::query()->where('id', $id)->firstOrFail();
    }

    public function test_an_ensemble_whose_jobs_are_lost_is_made_all_the_same_to_the_byte(): void
    {
        $model = $this->slow();
        $this->run0($model, ['runs' => self::RUNS]);
        $whole = $this->files();
        EnsemblePart::query()->delete();
        Ensemble::query()->delete();
        Results::disk()->deleteDirectory('ensembles');
        $this->patient();
        $state = $this->run0($model, ['runs' => self::RUNS]);
        PartMaker::of(Ensemble::query()->firstOrFail(), Engine::inWorker())->next('a worker');
        self::assertFalse($this->told($model, $state['id'], '')['finished']);
        $this->forget();
        Lost::send();
        self::assertSame(2, self::waiting());
        $this->work();
        self::assertTrue($this->told($model, $state['id'], '')['finished']);
        self::assertSame($whole, $this->files());
        // All is made: nothing is sent any more.
        $this->travel(11)->seconds();
        Lost::send();
        self::assertSame(0, self::waiting());
    }

    public function test_scenarios_that_are_lost_are_made_one_by_one(): void
    {
        $this->patient();
        $model = $this->slow();
        $batch = $this->batch($model);
        Artisan::call('queue:work', ['--once' => true]);
        $done = $batch->runs()->where('state', 'done')->count();
        self::assertGreaterThan(0, $done);
        $this->forget();
        Lost::send();
        self::assertSame(30 - $done, self::waiting());
        $this->work();
        $this->getJson("/api/models/$model->id/batches/$batch->id")->assertJsonPath('finished', true);
        self::assertSame(30, $batch->runs()->where('state', 'done')->count());
    }

    public function test_a_fit_that_is_lost_goes_on(): void
    {
        $this->patient();
        $model = $this->tank();
        $points = array_map(static fn (int $t): array => [$t, 10 - 1.5 * $t], range(0, 4));
        $this->say($model, 'evidence', 'e1', ['of' => 'tank', 'points' => $points]);
        $this->say($model, 'calibrations', 'c1', ['name' => 'Drain', 'free' => [['of' => 'rate', 'low' => 0.1, 'high' => 9]]]);
        $id = $this->postJson("/api/models/$model->id/fits", ['plan' => 'c1'])
            ->assertCreated()
            ->json('id');
        $this->forget();
        Lost::send();
        self::assertSame(2, self::waiting());
        $this->work();
        $fit = Fit::query()->where('id', $id)->firstOrFail();
        self::assertSame('done', $fit->stage);
        $result = (array) json_decode((string) $fit->result, true);
        self::assertStringContainsString('1.5', json_encode($result['best'] ?? $result, JSON_THROW_ON_ERROR));
    }

    public function test_nothing_is_sent_that_was_stopped_that_is_young_or_that_kills_its_workers(): void
    {
        $this->patient();
        $model = $this->slow();
        $batch = $this->batch($model);
        $this->forget(3);
        Lost::send();
        self::assertSame(0, self::waiting(), 'whoever hands it over may not be done');
        $jobs = $batch->jobs();
        self::assertNotNull($jobs);
        DB::table('job_batches')
            ->where('id', $batch->bus_id)
            ->update(['failed_jobs' => $jobs->pendingJobs]);
        $this->travel(11)->seconds();
        Lost::send();
        self::assertSame(0, self::waiting(), 'it was tried as often as may be');
        DB::table('job_batches')
            ->where('id', $batch->bus_id)
            ->update(['failed_jobs' => 0]);
        $batch->cancel();
        Lost::send();
        self::assertSame(0, self::waiting(), 'it was stopped');
        // One whose request died before it handed anything over.
        $batch->update(['bus_id' => null]);
        Lost::send();
        self::assertSame(30, self::waiting());
    }

    public function test_a_worker_looks_only_when_the_queue_is_empty(): void
    {
        $this->patient();
        $model = $this->slow();
        $batch = $this->batch($model);
        $this->forget();
        Queue::connection()->pushRaw('{"job":"another"}', 'long');
        Lost::look();
        self::assertSame(1, self::waiting());
        $this->forget();
        self::assertSame(0, self::waiting());
        $this->travelBack();
        DB::table('batches')->update(['created_at' => now()->subMinute()]);
        DB::table('job_batches')->update(['created_at' => time() - 60]);
        (new \ReflectionProperty(Lost::class, 'looked'))->setValue(null, 0);
        Lost::look();
        self::assertSame(30, self::waiting());
        self::assertFalse($batch->isCancelled());
    }

    public function test_a_part_that_is_away_for_a_moment_is_waited_for_and_told(): void
    {
        $gone = new \PDOException('SQLSTATE[HY000]: General error: 7 server closed the connection unexpectedly');
        self::assertTrue(Away::is($gone));
        self::assertFalse(Away::is(new \PDOException('SQLSTATE[23505]: unique violation')));
        $tries = 0;
        $done = Locked::waitOut(static function () use (&$tries, $gone): string {
            return ++$tries < 2 ? throw $gone : 'written';
        }, 5.0);
        self::assertSame(['written', 2], [$done, $tries]);
        foreach ([$gone, new \RedisException('Connection refused')] as $trouble) {
            $told = ProblemDocument::of($trouble);
            self::assertSame([503, '2'], [$told->getStatusCode(), $told->headers->get('Retry-After')]);
            self::assertStringContainsString('does not answer for a moment', (string) $told->getContent());
        }
    }
}
