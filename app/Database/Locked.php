<?php

declare(strict_types=1);

namespace App\Database;

/** Somebody else holds the database for writing, longer than one waits for it. */
final class Locked
{
    /** Milliseconds between two tries. */
    private const PAUSE = 500;

    public static function is(\Throwable $e): bool
    {
        // Of PostgreSQL: a lock that was not to be had in time, a deadlock, a transaction that another one overtook.
        return $e instanceof \PDOException &&
            (str_contains($e->getMessage(), 'database is locked') || in_array($e->getCode(), ['55P03', '40P01', '40001'], true));
    }

    /**
     * Does something as soon as the database lets it, or is back: for workers, which have time.
     *
     * @template T
     *
     * @param  callable(): T  $work
     * @param  float  $seconds  how long to go on trying
     * @return T
     */
    public static function waitOut(callable $work, float $seconds): mixed
    {
        $until = hrtime(true) / 1e9 + $seconds;

        return retry(
            PHP_INT_MAX,
            $work,
            self::PAUSE,
            static fn (\Throwable $e): bool => (self::is($e) || Away::is($e)) && hrtime(true) / 1e9 <= $until,
        );
    }

    /**
     * Does something that may as well not be done this time.
     *
     * @param  callable(): mixed  $work
     */
    public static function passOver(callable $work): void
    {
        try {
            $work();
        } catch (\PDOException $e) {
            if (! self::is($e)) {
                throw $e;
            }
        }
    }
}
