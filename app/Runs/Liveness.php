<?php

declare(strict_types=1);

namespace App\Runs;

use App\Files\Spare;
use Illuminate\Queue\Events\JobProcessed;
use Illuminate\Queue\Events\JobProcessing;
use Illuminate\Support\Facades\Cache;
use Illuminate\Support\Facades\DB;
use Illuminate\Support\Facades\Event;

/** Whether the workers of the queue do what they are there for. */
final class Liveness
{
    /** A job that waits longer, while none is being done, waits in vain. */
    private const SECONDS = 30;

    public static function listen(): void
    {
        Event::listen([JobProcessing::class, JobProcessed::class], static function (): void {
            Spare::keep('queue: last job', time(), 3600);
        });
    }

    /** @return array{waiting: int, failed: int, oldest_seconds: int, stuck: bool} */
    public static function state(): array
    {
        $now = time();
        $waiting = DB::table('jobs')->whereNull('reserved_at')->where('available_at', '<=', $now);
        $oldest = (clone $waiting)->min('available_at');
        $waits = is_numeric($oldest) ? $now - (int) $oldest : 0;
        $worked = Cache::get('queue: last job');
        $busy = DB::table('jobs')
            ->where('reserved_at', '>', $now - config()->integer('queue.connections.database.retry_after'))
            ->exists();

        return [
            'waiting' => $waiting->count(),
            'failed' => DB::table('failed_jobs')->count(),
            'oldest_seconds' => $waits,
            'stuck' => $waits > self::SECONDS && ! $busy && $now - (is_int($worked) ? $worked : 0) > self::SECONDS,
        ];
    }
}
