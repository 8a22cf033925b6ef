<?php

declare(strict_types=1);

namespace App\Database;

use Illuminate\Contracts\Database\LostConnectionDetector;

/** What all share does not answer for a moment: it was started anew, or the way to it is cut. */
final class Away
{
    public static function is(\Throwable $e): bool
    {
        return self::isQueue($e) || ($e instanceof \PDOException && app(LostConnectionDetector::class)->causedByLostConnection($e));
    }

    /** Redis, with the queue and the cache. */
    public static function isQueue(\Throwable $e): bool
    {
        return $e instanceof \RedisException;
    }
}
