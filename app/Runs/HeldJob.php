<?php

declare(strict_types=1);

namespace App\Runs;

use Illuminate\Contracts\Queue\Job;
use Illuminate\Queue\Jobs\RedisJob;
use Illuminate\Support\Facades\DB;
use Illuminate\Support\Facades\Redis;

/** The job that a worker is at, as a text by which another lets it be taken up again when the worker is dead. */
final class HeldJob
{
    public static function of(Job $job): string
    {
        $own = match (true) {
            $job instanceof RedisJob => ['redis', $job->getQueue(), $job->getReservedJob()],
            $job->getConnectionName() === 'database' => ['database', $job->getQueue(), (string) $job->getJobId()],
            default => null,
        };

        return $own === null ? '' : json_encode($own, JSON_THROW_ON_ERROR);
    }

    /** As often as it may be tried: one that kills its workers comes to an end. */
    public static function release(string $text): void
    {
        $own = json_decode($text, true);
        if (! is_array($own) || count($own) !== 3) {
            return;
        }
        [$connection, $queue, $job] = array_map(static fn (mixed $v): string => is_string($v) ? $v : '', array_values($own));
        if ($connection === 'redis') {
            $name = config('queue.connections.redis.connection');
            // Its time is over now: the queue itself gives it to the next who asks. What is not out any more stays away.
            Redis::connection(is_string($name) ? $name : null)->command('zadd', ["queues:$queue:reserved", ['XX'], time(), $job]);
        } elseif ($connection === 'database' && ctype_digit($job)) {
            DB::table('jobs')
                ->where('id', (int) $job)
                ->whereNotNull('reserved_at')
                ->update(['reserved_at' => null, 'available_at' => time()]);
        }
    }
}
