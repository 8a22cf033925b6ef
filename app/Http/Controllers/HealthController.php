<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use App\Studies\JitBuffer;
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
        $jit = JitBuffer::state();
        $well = $database && ($free === false || $free > 50e6) && $jit['tracing'] === false;

        return new JsonResponse([
            'well' => $well,
            'database' => $database,
            'queue' => ['waiting' => $waiting, 'failed' => $failed],
            'jit' => $jit,
            'disk' => ['free_megabytes' => $free === false ? null : (int) ($free / 1e6)],
        ], $well ? 200 : 503);
    }
}
