<?php

declare(strict_types=1);

namespace App\Studies;

/** The memory that compiled models live in. It is never freed, and once full new models run uncompiled without a word. */
final class JitBuffer
{
    /** @return array{on: bool, tracing: bool, free_share: ?float} */
    public static function state(): array
    {
        $status = function_exists('opcache_get_status') ? @opcache_get_status(false) : false;
        $jit = is_array($status) && is_array($status['jit'] ?? null) ? $status['jit'] : [];
        $size = is_int($jit['buffer_size'] ?? null) ? $jit['buffer_size'] : 0;
        $free = is_int($jit['buffer_free'] ?? null) ? $jit['buffer_free'] : 0;

        // Kinds 0 to 4 compile whole functions; 5 traces, and computes wrong numbers on models.
        return ['on' => ($jit['enabled'] ?? false) === true, 'tracing' => ($jit['kind'] ?? 0) === 5, 'free_share' => $size > 0 ? round($free / $size, 3) : null];
    }

    /** Leaves the mark at which bin/serve starts the server anew, when there is little left. */
    public static function askForMoreWhenLow(): void
    {
        $free = self::state()['free_share'];
        if ($free !== null && $free < config()->float('merry-orbit.recycle_below')) {
            touch(config()->string('merry-orbit.recycle_mark'));
        }
    }
}
