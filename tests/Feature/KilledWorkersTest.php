<?php

declare(strict_types=1);

namespace Tests\Feature;

use App\Models\Ensemble;
use App\Models\EnsemblePart;
use App\Runs\Claim;
use App\Runs\Liveness;
use App\Runs\Results;
use Illuminate\Support\Facades\Cache;
use Illuminate\Support\Facades\DB;

/** Real processes that make many runs, and are killed while they do. */
final class KilledWorkersTest extends TestCase
{
    use MakesManyRuns;
    use SharedDatabase;

    private const RUNS = 2_000;

    /** Half a minute passes. */
    private function later(): void
    {
        $this->begun()->decrement('claimed_at', Claim::STALE + 1);
        Cache::flush();
    }

    public function test_three_workers_are_killed_and_what_comes_out_is_the_same_to_the_byte(): void
    {
        $model = $this->slow();
        $this->run0($model, ['runs' => self::RUNS]);
        $whole = $this->files();
        EnsemblePart::query()->delete();
        Ensemble::query()->delete();
        Results::disk()->deleteDirectory('ensembles');

        config(['merry-orbit.run.workers' => true, 'queue.default' => 'database']);
        $state = $this->run0($model, ['runs' => self::RUNS]);
        self::assertFalse($state['finished']);
        $killed = 0;
        for ($try = 0; $killed < 3 && $try < 40; $try++) {
            $before = $this->made();
            [$worker] = $this->process('worker.php', [Results::disk()->path('')]);
            // It has made something, and is at the next.
            for ($i = 0; $i < 1200 && $this->made() === $before && proc_get_status($worker)['running']; $i++) {
                usleep(25_000);
            }
            usleep(20_000 + 15_000 * $killed);
            proc_terminate($worker, SIGKILL);
            proc_close($worker);
            if (! $this->begun()->exists()) {
                // Between two parts nothing is lost; its job comes again after some minutes.
                DB::table('jobs')->update(['reserved_at' => null]);

                continue;
            }
            $killed++;
            $this->later();
            // Whoever looks finds parts that nobody makes, and others are sent: once.
            $jobs = DB::table('jobs')->count();
            $this->told($model, $state['id'], '');
            $sent = DB::table('jobs')->count();
            $this->told($model, $state['id'], '');
            self::assertSame([$jobs + 2, $jobs + 2], [$sent, DB::table('jobs')->count()]);
        }
        self::assertSame(3, $killed);
        // A worker of a test ends where the database is busy for a moment: then another goes on.
        for ($try = 0; $try < 20 && ! $this->told($model, $state['id'], '')['finished']; $try++) {
            [$last, $printed] = $this->process('worker.php', [Results::disk()->path('')]);
            stream_get_contents($printed[1]);
            self::assertSame(0, proc_close($last));
            DB::table('jobs')->update(['reserved_at' => null, 'available_at' => 0]);
        }
        self::assertTrue($this->told($model, $state['id'], '')['finished']);
        self::assertSame($whole, $this->files());
    }

    public function test_what_a_killed_worker_was_at_is_taken_up_by_the_next_at_once(): void
    {
        $model = $this->slow();
        config(['merry-orbit.run.workers' => true, 'queue.default' => 'database']);
        $this->run0($model, ['runs' => self::RUNS]);
        // One lane: what goes on is its.
        DB::table('jobs')
            ->where('id', '<>', DB::table('jobs')->min('id'))
            ->delete();
        [$worker] = $this->process('worker.php', [Results::disk()->path('')]);
        for ($i = 0; $i < 400 && ! $this->begun()->exists(); $i++) {
            usleep(25_000);
        }
        self::assertSame(1, Liveness::state()['workers']);
        proc_terminate($worker, SIGKILL);
        proc_close($worker);
        self::assertSame(1, DB::table('jobs')->whereNotNull('reserved_at')->count(), 'it was killed while it worked');
        self::assertSame(0, Liveness::state()['workers']);
        $before = $this->made();
        [$next] = $this->process('worker.php', [Results::disk()->path('')]);
        for ($i = 0; $i < 1200 && $this->made() === $before && proc_get_status($next)['running']; $i++) {
            usleep(25_000);
        }
        self::assertGreaterThan($before, $this->made());
        proc_terminate($next, SIGKILL);
        proc_close($next);
    }

    public function test_work_does_not_wait_for_a_clock_that_was_set_back(): void
    {
        $model = $this->slow();
        config(['merry-orbit.run.workers' => true, 'queue.default' => 'database']);
        $this->run0($model, ['runs' => 20]);
        // As if an hour had been taken off since.
        DB::table('jobs')->increment('available_at', 3600);
        EnsemblePart::query()
            ->limit(1)
            ->update(['claimed_by' => 'somebody who was killed', 'claimed_at' => time() + 3600]);
        [$worker, $printed] = $this->process('worker.php', [Results::disk()->path('')]);
        stream_get_contents($printed[1]);
        self::assertSame(0, proc_close($worker));
        self::assertSame(EnsemblePart::query()->count(), $this->made());
    }
}
