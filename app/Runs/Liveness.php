<?php

declare(strict_types=1);

namespace App\Runs;

use Illuminate\Support\Facades\DB;

/** Whether the workers of the queue do what they are there for. */
final class Liveness
{
    /** A job that waits longer, while none is being done, waits in vain. */
    private const SECONDS = 30;

    /** @return array{waiting: int, failed: int, oldest_seconds: int, workers: int, sign_seconds: ?int, stuck: bool} workers: that live; sign_seconds: since the last of them gave a sign of life */
    public static function state(): array
    {
        $now = time();
        $waiting = DB::table('jobs')->whereNull('reserved_at')->where('available_at', '<=', $now);
        $oldest = (clone $waiting)->min('available_at');
        $waits = is_numeric($oldest) ? $now - (int) $oldest : 0;
        $signs = Workers::signs();
        $busy = DB::table('jobs')
            ->where('reserved_at', '>', $now - config()->integer('queue.connections.database.retry_after'))
            ->exists();

        return [
            'waiting' => $waiting->count(),
            'failed' => DB::table('failed_jobs')->count(),
            'oldest_seconds' => $waits,
            'workers' => count($signs),
            'sign_seconds' => $signs === [] ? null : max(0, $now - max($signs)),
            'stuck' => $waits > self::SECONDS && ! $busy && ($signs === [] || $now - max($signs) > self::SECONDS),
        ];
    }
}
