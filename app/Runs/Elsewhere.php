<?php

declare(strict_types=1);

namespace App\Runs;

use Illuminate\Support\Facades\DB;

/**
 * Workers of other machines: each writes into the database that all share that it lives. A file of SQLite is no database that machines
 * share, so nothing is written there.
 */
final class Elsewhere
{
    /** Seconds between two signs of life, and after which one that waits for work is taken for dead. */
    private const BEAT = 2;

    private const SILENT = 15;

    private static int $told = 0;

    private static bool $wasBusy = false;

    public static function tell(bool $busy): void
    {
        $now = time();
        if (! self::isShared() || ($busy === self::$wasBusy && abs($now - self::$told) < self::BEAT)) {
            return;
        }
        [self::$told, self::$wasBusy] = [$now, $busy];
        // A worker whose database is away for a moment has other troubles.
        rescue(static function () use ($now, $busy): void {
            DB::table('workers')->upsert([['id' => self::me(), 'seen_at' => $now, 'busy' => $busy, 'edition' => Results::EDITION]], 'id');
            DB::table('workers')
                ->where('seen_at', '<', $now - self::longest())
                ->delete();
        }, report: false);
    }

    /** @return list<int> */
    public static function signs(): array
    {
        if (! self::isShared()) {
            return [];
        }
        $here = gethostname().':';
        $now = time();
        $signs = [];
        foreach (DB::table('workers')->get(['id', 'seen_at', 'busy']) as $row) {
            $row = (array) $row;
            $seen = is_numeric($row['seen_at']) ? (int) $row['seen_at'] : 0;
            // Those of this machine are known better by the files that they hold.
            if (
                ! str_starts_with((string) (is_string($row['id']) ? $row['id'] : ''), $here) &&
                $seen >= $now - ((bool) $row['busy'] ? self::longest() : self::SILENT)
            ) {
                $signs[] = (bool) $row['busy'] ? $now : $seen;
            }
        }

        return $signs;
    }

    /** Of other editions of the engine: what they make would be other numbers. */
    public static function isMixed(): bool
    {
        return self::isShared() &&
            DB::table('workers')
                ->where('seen_at', '>', time() - self::SILENT)
                ->where('edition', '<>', Results::EDITION)
                ->exists();
    }

    private static function longest(): int
    {
        return config()->integer('queue.connections.database.retry_after');
    }

    private static function isShared(): bool
    {
        return DB::connection()->getDriverName() !== 'sqlite';
    }

    private static function me(): string
    {
        // Two parts of one machine may be called alike, in containers: the folder tells them apart.
        return mb_substr(gethostname().':'.getmypid().':'.crc32(base_path()), 0, 120);
    }
}
