<?php

declare(strict_types=1);

namespace App\Runs;

use App\Database\Locked;
use App\Models\Batch;
use App\Models\BatchRun;
use Illuminate\Bus\Batchable;
use Illuminate\Contracts\Queue\ShouldQueue;
use Illuminate\Foundation\Queue\Queueable;
use Illuminate\Support\Collection;
use MerryOrbit\Core\Experiment\Trial;
use MerryOrbit\Core\Library\RunWatcher;
use MerryOrbit\Core\Model\Model;
use MerryOrbit\Core\Model\Setting;
use MerryOrbit\Core\Problem\NotUnderstood;
use MerryOrbit\Core\Simulate\RunOptions;
use MerryOrbit\Core\Simulate\RunRefused;
use MerryOrbit\Core\Simulate\Simulator;
use MerryOrbit\Core\Simulate\Trajectory;

/**
 * Some runs of a batch. What it gives depends on the revision and the settings only: after a worker was killed, another makes
 * what is missing and comes to the same.
 */
final class RunPart implements ShouldQueue
{
    use Batchable;
    use Queueable;

    public int $tries = 5;

    public int $timeout = 160;

    /** Seconds to wait for the database where something must be written. */
    private const PATIENCE = 75.0;

    /** @param  list<int>  $positions */
    public function __construct(public readonly string $batch, public readonly array $positions)
    {
    }

    public function handle(): void
    {
        $simulator = Engine::inWorker();
        $batch = Batch::query()->find($this->batch);
        if ($batch === null) {
            return;
        }
        /** @var Collection<int, BatchRun> $runs */
        $runs = $batch
            ->runs()
            ->whereIn('position', $this->positions)
            ->whereIn('state', ['waiting', 'running'])
            ->orderBy('position')
            ->get();
        $models = [];
        foreach ($runs as $run) {
            if ($batch->isCancelled()) {
                $this->say($run, ['state' => 'stopped']);

                continue;
            }
            try {
                $known = $run->result !== null && Results::disk()->exists($run->result) ? Results::run($run->result) : null;
                $model = $models[$run->document] ??= Results::model((string) $run->document);
                $this->finish($run, $known ?? $this->made($simulator, $model, $batch, $run));
            } catch (RunRefused|NotUnderstood $e) {
                $this->say($run, ['state' => 'refused', 'words' => $e->getMessage()]);
            }
        }
    }

    /** @param  array<string, mixed>  $what */
    private function say(BatchRun $run, array $what): void
    {
        Locked::waitOut(static fn (): bool => $run->update($what), self::PATIENCE);
    }

    /** Nobody waits for what will not come. */
    public function failed(): void
    {
        BatchRun::query()
            ->where('batch_id', $this->batch)
            ->whereIn('position', $this->positions)
            ->whereIn('state', ['waiting', 'running'])
            ->update(['state' => 'refused', 'words' => 'This run failed five times. Run it again, alone if need be.']);
    }

    private function watch(Batch $batch, BatchRun $run): RunWatcher
    {
        return new RunWatcher(static function (float $share) use ($batch, $run): bool {
            // Somebody may hold the database for a while: how far the run has come is told the next time.
            Locked::passOver(static fn (): bool => $run->update(['state' => 'running', 'share' => $share]));
            $stops = $batch->token !== null && RunProgress::tell($batch->token, $share);

            return $batch->isCancelled() || $stops;
        }, 0.4);
    }

    /** @throws RunRefused */
    private function made(Simulator $simulator, Model $model, Batch $batch, BatchRun $run): Trajectory
    {
        $trial = Trial::of($model, Setting::read($run->setting));

        return $simulator->run(
            $trial->analysis,
            new RunOptions($trial->settings->parameters, seed: $trial->settings->seed, watch: $this->watch($batch, $run)),
        );
    }

    /** The blob is there, whole, before the row says so. One that was stopped is none of its setting. */
    private function finish(BatchRun $run, Trajectory $trajectory): void
    {
        $name = $run->result;
        if ($name === null || $trajectory->stopped) {
            $name = Results::freeze($trajectory);
        } elseif (! Results::disk()->exists($name)) {
            Results::keep($name, $trajectory);
        }
        $this->say($run, [
            'state' => $trajectory->stopped ? 'stopped' : 'done',
            'share' => 1.0,
            'seconds' => round($trajectory->seconds, 4),
            'words' => $trajectory->fault?->sentence() ?? '',
            'result' => $name,
        ]);
    }
}
