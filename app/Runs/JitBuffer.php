<?php

declare(strict_types=1);

namespace App\Runs;

/** The memory that compiled models live in, as opcodes and as machine code. It is never freed, and once full new models run slowly without a word. */
final class JitBuffer
{
    /** @return array{on: bool, tracing: bool, free_share: ?float, opcodes_free_share: ?float} */
    public static function state(): array
    {
        $status = function_exists('opcache_get_status') ? @opcache_get_status(false) : false;
        $jit = is_array($status) && is_array($status['jit'] ?? null) ? $status['jit'] : [];
        $size = is_int($jit['buffer_size'] ?? null) ? $jit['buffer_size'] : 0;
        $free = is_int($jit['buffer_free'] ?? null) ? $jit['buffer_free'] : 0;

        // Kinds 0 to 4 compile whole functions; 5 traces, and computes wrong numbers on models.
        return [
            'on' => ($jit['enabled'] ?? false) === true,
            'tracing' => ($jit['kind'] ?? 0) === 5,
            'free_share' => $size > 0 ? round($free / $size, 3) : null,
            'opcodes_free_share' => self::opcodes($status),
        ];
    }

    private static function opcodes(mixed $status): ?float
    {
        $memory = is_array($status) && is_array($status['memory_usage'] ?? null) ? $status['memory_usage'] : [];
        [$used, $free, $wasted] = array_map(
            static fn (string $key): float => is_numeric($memory[$key] ?? null) ? (float) $memory[$key] : 0.0,
            ['used_memory', 'free_memory', 'wasted_memory'],
        );

        return $used + $free > 0.0 ? round($free / ($used + $free + $wasted), 3) : null;
    }

    /** Leaves the mark at which bin/serve starts the server anew, when there is little left. */
    public static function askForMoreWhenLow(): void
    {
        $state = self::state();
        $free = min($state['free_share'] ?? 1.0, $state['opcodes_free_share'] ?? 1.0);
        if ($free < config()->float('merry-orbit.recycle_below')) {
            touch(config()->string('merry-orbit.recycle_mark'));
        }
    }
}
