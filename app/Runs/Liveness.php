<?php

declare(strict_types=1);

namespace App\Runs;

use Illuminate\Contracts\Queue\Queue;
use Illuminate\Support\Facades\DB;
use Illuminate\Support\Facades\Queue as Queues;

/** Whether the workers of the queue do what they are there for. */
final class Liveness
{
    /** A job that waits longer, while none is being done, waits in vain. */
    private const SECONDS = 30;

    /** @return array{waiting: int, failed: int, oldest_seconds: int, workers: int, sign_seconds: ?int, stuck: bool} workers: that live; sign_seconds: since the last of them gave a sign of life */
    public static function state(): array
    {
        $now = time();
        $queue = Queues::connection();
        $oldest = $waiting = $busy = [];
        foreach (['default', Lanes::QUEUE] as $name) {
            $oldest[] = $queue->creationTimeOfOldestPendingJob($name) ?? $now;
            $waiting[] = $queue->pendingSize($name);
            $busy[] = self::busy($queue, $name, $now);
        }
        $waits = max(0, $now - min($oldest));
        $signs = Workers::signs();

        return [
            'waiting' => array_sum($waiting),
            'failed' => DB::table('failed_jobs')->count(),
            'oldest_seconds' => $waits,
            'workers' => count($signs),
            'sign_seconds' => $signs === [] ? null : max(0, $now - max($signs)),
            'stuck' => $waits > self::SECONDS && array_sum($busy) === 0 && ($signs === [] || $now - max($signs) > self::SECONDS),
        ];
    }

    /** Jobs that somebody is at; one that is out for longer than any may take is nobody's. */
    private static function busy(Queue $queue, string $name, int $now): int
    {
        return $queue->getConnectionName() === 'database'
            ? DB::table('jobs')
                ->where('queue', $name)
                ->where('reserved_at', '>', $now - config()->integer('queue.connections.database.retry_after'))
                ->count()
            : $queue->reservedSize($name);
    }
}
