<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use Illuminate\Http\JsonResponse;
use Illuminate\Support\Facades\DB;

/** Whether all parts are well: database, queue, JIT buffer, disk. */
final class HealthController
{
    public function __invoke(): JsonResponse
    {
        try {
            $waiting = DB::table('jobs')->count();
            $failed = DB::table('failed_jobs')->count();
            $database = true;
        } catch (\Throwable) {
            $database = false;
            $waiting = $failed = null;
        }
        $free = disk_free_space(storage_path());
        $jit = self::jit();
        $well = $database && ($free === false || $free > 50e6) && $jit['tracing'] === false;

        return new JsonResponse([
            'well' => $well,
            'database' => $database,
            'queue' => ['waiting' => $waiting, 'failed' => $failed],
            'jit' => $jit,
            'disk' => ['free_megabytes' => $free === false ? null : (int) ($free / 1e6)],
        ], $well ? 200 : 503);
    }

    /** @return array{on: bool, tracing: bool, free_share: ?float} */
    public static function jit(): array
    {
        $status = function_exists('opcache_get_status') ? @opcache_get_status(false) : false;
        $jit = is_array($status) && is_array($status['jit'] ?? null) ? $status['jit'] : [];
        $size = is_int($jit['buffer_size'] ?? null) ? $jit['buffer_size'] : 0;
        $free = is_int($jit['buffer_free'] ?? null) ? $jit['buffer_free'] : 0;

        // Kinds 0 to 4 compile whole functions; 5 traces, and computes wrong numbers on models.
        return ['on' => ($jit['enabled'] ?? false) === true, 'tracing' => ($jit['kind'] ?? 0) === 5, 'free_share' => $size > 0 ? round($free / $size, 3) : null];
    }
}
