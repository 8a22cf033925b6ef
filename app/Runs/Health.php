<?php

declare(strict_types=1);

namespace App\Runs;

use App\Database\Away;
use Illuminate\Support\Facades\DB;

/**
 * Whether all parts are well: the database can be read and written, workers work, there is JIT buffer, and each disk has room. It needs
 * none of them itself: no session, no cache, no database.
 *
 * @phpstan-type Queue array{waiting: int, failed: int, oldest_seconds: int, workers: int, sign_seconds: ?int, stuck: bool}
 * @phpstan-type Jit array{on: bool, tracing: bool, free_share: ?float, opcodes_free_share: ?float}
 * @phpstan-type Disk array{of: list<string>, free_megabytes: ?int}
 */
final class Health
{
    /** Bytes below which a disk is as good as full. */
    private const LITTLE = 50e6;

    /** @return array{well: bool, said: list<string>, database: bool, queue: ?Queue, jit: Jit, disks: list<Disk>} */
    public static function state(): array
    {
        $said = [];
        $queue = null;
        $isRead = true;
        try {
            $queue = Liveness::state();
            if ($queue['stuck']) {
                $said[] =
                    "The workers of the queue do nothing: a job has been waiting for {$queue['oldest_seconds']} seconds, and ".
                    ($queue['workers'] === 0 ? 'no worker lives' : "the last sign of life is {$queue['sign_seconds']} seconds old").
                    '. Start Merry Orbit anew.';
            }
        } catch (\Throwable $e) {
            $said[] = Away::isQueue($e) ? 'The queue cannot be reached.' : 'The database cannot be read.';
            $isRead = Away::isQueue($e);
        }
        $writable = self::canWrite();
        if ($isRead && ! $writable) {
            $said[] = 'The database cannot be written: another program holds it, or its disk is full.';
        }
        $disks = self::disks();
        foreach ($disks as $disk) {
            if ($disk['free_megabytes'] === null || $disk['free_megabytes'] < self::LITTLE / 1e6) {
                $said[] =
                    'The disk of '.
                    implode(', ', $disk['of']).
                    ($disk['free_megabytes'] === null ? ' cannot be looked at.' : " is nearly full: $disk[free_megabytes] MB are free.");
            }
        }
        $jit = JitBuffer::state();
        if ($jit['tracing']) {
            $said[] = 'The JIT traces, which computes wrong numbers. Start Merry Orbit by bin/start.';
        }

        return [
            'well' => $said === [],
            'said' => $said,
            'database' => $isRead && $writable,
            'queue' => $queue,
            'jit' => $jit,
            'disks' => $disks,
        ];
    }

    /** @return list<Disk> what lies on one disk together */
    private static function disks(): array
    {
        $database = DB::connection()->getConfig('database');
        $results = config('filesystems.disks.'.Results::name().'.root');
        $folders = [
            'the database' => is_string($database) && $database !== ':memory:' && DB::connection()->getDriverName() === 'sqlite'
                    ? dirname($database)
                    : null,
            'results and data' => $results,
            'sessions' => config('session.files'),
            'the cache' => config('cache.stores.file.path'),
            'compiled models' => config('merry-orbit.programs'),
            'logs' => storage_path('logs'),
            'files on their way' => sys_get_temp_dir(),
        ];
        $disks = [];
        foreach ($folders as $of => $folder) {
            if (! is_string($folder)) {
                continue;
            }
            $stat = @stat($folder);
            $device = $stat === false ? $folder : $stat['dev'];
            $free = @disk_free_space($folder);
            $disks[$device]['of'][] = $of;
            $disks[$device]['free_megabytes'] = $free === false ? null : (int) ($free / 1e6);
        }

        return array_values($disks);
    }

    private static function canWrite(): bool
    {
        try {
            DB::transaction(
                static fn (): int => DB::table('failed_jobs')
                    ->where('id', -1)
                    ->delete(),
            );

            return true;
        } catch (\Throwable) {
            return false;
        }
    }
}
