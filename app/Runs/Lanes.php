<?php

declare(strict_types=1);

namespace App\Runs;

use App\Models\Ensemble;
use App\Models\Fit;
use Illuminate\Bus\Batch;
use Illuminate\Contracts\Queue\ShouldQueue;
use Illuminate\Database\Eloquent\Builder;
use Illuminate\Database\Eloquent\Model;
use Illuminate\Support\Facades\Bus;
use Illuminate\Support\Facades\Cache;
use Illuminate\Support\Facades\Queue;

/** Jobs that work at one thing side by side, each a short turn and then another job at the end of the queue. */
final class Lanes
{
    /** Behind all that people wait for. */
    public const QUEUE = 'long';

    /** Jobs that work at one thing at first, and at most. */
    private const COUNT = 2;

    private const MOST = 64;

    /** Numbers of the first ones; those that join have higher ones. */
    private const FIRST = 100_000;

    /** @param  \Closure(int): ShouldQueue  $job  of a lane */
    public static function send(Ensemble|Fit $work, \Closure $job): void
    {
        // The same lanes again would take what a lane that still works has begun.
        $first = $work->bus_id === null ? 0 : crc32($work->bus_id) % self::FIRST;
        $class = $work::class;
        $batch = Bus::batch(array_map($job, range($first, $first + self::COUNT - 1)))
            ->allowFailures()
            ->onQueue(self::QUEUE)
            ->name(class_basename($class)." $work->id");
        $id = $work->id;
        $batch->before(
            static fn (Batch $made): bool => $class::query()
                ->whereKey($id)
                ->update(['bus_id' => $made->id]) > 0,
        );
        $work->bus_id = $batch->dispatch()->id;
    }

    /**
     * The same lane again, at the end of the queue. Where nobody waits there may be workers with nothing to do, on this machine or another:
     * then one more lane joins, so what is left keeps all busy, and yet each of them lets whoever waits pass.
     *
     * @param  \Closure(int): ShouldQueue  $job  of a lane
     */
    public static function goOn(?Batch $batch, int $lane, \Closure $job): void
    {
        $jobs = [$job($lane)];
        if (
            $batch !== null &&
            $batch->pendingJobs - $batch->failedJobs < self::MOST &&
            config()->boolean('merry-orbit.run.workers') &&
            Queue::connection()->pendingSize(self::QUEUE) === 0
        ) {
            $jobs[] = $job(random_int(2 * self::FIRST, PHP_INT_MAX));
        }
        $batch?->add($jobs);
    }

    /**
     * Something that was begun and not ended in time tells of a worker that is gone, and its job comes again only after minutes: new lanes
     * take what is left. They are sent once in that time, so nobody's runs crowd out others' while all wait.
     *
     * @param  Builder<covariant Model>  $left  what is left to do, with claims
     * @param  \Closure(int): ShouldQueue  $job
     */
    public static function revive(Ensemble|Fit $work, Builder $left, \Closure $job): void
    {
        if (Claim::isOrphan($left) && Cache::add("$work->id/revived", true, Claim::STALE)) {
            self::send($work, $job);
        }
    }
}
