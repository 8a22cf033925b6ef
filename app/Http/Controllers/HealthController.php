<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use App\Runs\JitBuffer;
use App\Runs\Liveness;
use Illuminate\Http\JsonResponse;
use Illuminate\Support\Facades\DB;

/** Whether all parts are well: the database can be read and written, workers work, there is JIT buffer and disk. */
final class HealthController
{
    /** Bytes below which a disk is as good as full. */
    private const LITTLE = 50e6;

    public function __invoke(): JsonResponse
    {
        $said = [];
        $queue = null;
        try {
            $queue = Liveness::state();
            if ($queue['stuck']) {
                $said[] = "The workers of the queue do nothing: a job has been waiting for {$queue['oldest_seconds']} seconds. Start Merry Orbit anew.";
            }
        } catch (\Throwable) {
            $said[] = 'The database cannot be read.';
        }
        $writable = self::canWrite();
        if ($queue !== null && ! $writable) {
            $said[] = 'The database cannot be written: another program holds it, or its disk is full.';
        }
        $free = @disk_free_space(storage_path());
        if ($free !== false && $free < self::LITTLE) {
            $said[] = 'The disk is nearly full.';
        }
        $jit = JitBuffer::state();
        if ($jit['tracing']) {
            $said[] = 'The JIT traces, which computes wrong numbers. Start Merry Orbit by bin/start.';
        }

        return new JsonResponse(
            [
                'well' => $said === [],
                'said' => $said,
                'database' => $queue !== null && $writable,
                'queue' => $queue,
                'jit' => $jit,
                'disk' => ['free_megabytes' => $free === false ? null : (int) ($free / 1e6)],
            ],
            $said === [] ? 200 : 503,
        );
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
