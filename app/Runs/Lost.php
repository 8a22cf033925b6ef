<?php

declare(strict_types=1);

namespace App\Runs;

use App\Models\Batch;
use App\Models\Ensemble;
use App\Models\Fit;
use Carbon\CarbonImmutable;
use Illuminate\Support\Facades\Cache;
use Illuminate\Support\Facades\Queue;

/**
 * Work that is not done and of which the queue knows nothing: what held the queue was lost, or whoever began the work died before it was
 * handed over. What there is to do stands in the database; when the queue is empty, it is sent again.
 */
final class Lost
{
    /** Seconds between two looks, and for which whoever hands something over may take. */
    private const LOOK = 5;

    private const AGE = 10;

    /** Days after which nobody waits for it any more. */
    private const DAYS = 2;

    private static int $looked = 0;

    /** @var list<\Closure(CarbonImmutable, CarbonImmutable): void> */
    private static array $senders = [];

    /** @param  \Closure(CarbonImmutable $after, CarbonImmutable $before): void  ...$senders  each sends again what was begun between the two and is lost */
    public static function sentBy(\Closure ...$senders): void
    {
        self::$senders = array_values($senders);
    }

    /** Of a worker that has nothing to do. */
    public static function look(): void
    {
        $now = time();
        if (abs($now - self::$looked) < self::LOOK) {
            return;
        }
        self::$looked = $now;
        // Without queue or database there are other troubles.
        rescue(static function (): void {
            $queue = Queue::connection();
            if ($queue->size('default') + $queue->size(Lanes::QUEUE) === 0 && Cache::add('lost-work', true, self::LOOK)) {
                self::send();
            }
        }, report: false);
    }

    public static function send(): void
    {
        $now = CarbonImmutable::now();
        foreach (self::$senders as $send) {
            $send($now->subDays(self::DAYS), $now->subSeconds(self::AGE));
        }
    }

    /** Of work that is not done, while the queue is empty. What killed its workers as often as it may be tried is not sent again. */
    public static function is(Ensemble|Fit|Batch $work): bool
    {
        $jobs = $work->jobs();

        return $jobs === null ||
            (! $jobs->cancelled() &&
                $jobs->pendingJobs > $jobs->failedJobs &&
                $jobs->createdAt->lt(CarbonImmutable::now()->subSeconds(self::AGE)));
    }
}
