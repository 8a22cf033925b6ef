<?php

declare(strict_types=1);

namespace App\Runs;

/**
 * What a monitor reads, in the text format of Prometheus: a line for each figure, after what it means and of what kind it is.
 *
 * Source: "Exposition formats", version 0.0.4, prometheus.io/docs.
 *
 * @phpstan-import-type Queue from Health
 * @phpstan-import-type Jit from Health
 * @phpstan-import-type Disk from Health
 */
final class Metrics
{
    public const TYPE = 'text/plain; version=0.0.4; charset=utf-8';

    /** @param  array{well: bool, database: bool, queue: ?Queue, jit: Jit, disks: list<Disk>, ...}  $state  as Health tells it */
    public static function text(array $state): string
    {
        $queue = $state['queue'];
        $figures = [
            ['well', 'Whether all is well: 1, or 0.', [[[], (float) $state['well']]]],
            ['database_up', 'Whether the database can be read and written.', [[[], (float) $state['database']]]],
            ['queue_jobs_waiting', 'Jobs that wait for a worker.', [[[], $queue['waiting'] ?? null]]],
            ['queue_jobs_failed', 'Jobs that failed and are kept.', [[[], $queue['failed'] ?? null]]],
            ['queue_oldest_seconds', 'How long the oldest job has been waiting.', [[[], $queue['oldest_seconds'] ?? null]]],
            ['workers', 'Workers that live.', [[[], $queue['workers'] ?? null]]],
            ['workers_sign_seconds', 'Since the last sign of life of a worker.', [[[], $queue['sign_seconds'] ?? null]]],
            ['jit_free_ratio', 'Free part of the memory of machine code.', [[[], $state['jit']['free_share']]]],
            ['opcodes_free_ratio', 'Free part of the memory of compiled PHP.', [[[], $state['jit']['opcodes_free_share']]]],
            [
                'disk_free_bytes',
                'Free room of the disk on which something lies.',
                array_map(
                    static fn (array $disk): array => [
                        ['of' => implode(', ', $disk['of'])],
                        $disk['free_megabytes'] === null ? null : 1e6 * $disk['free_megabytes'],
                    ],
                    $state['disks'],
                ),
            ],
        ];
        $lines = [];
        foreach ($figures as [$name, $help, $values]) {
            $known = array_filter($values, static fn (array $v): bool => $v[1] !== null);
            // What is not known is left out: a monitor would take 0 for a number.
            if ($known !== []) {
                array_push($lines, "# HELP merry_orbit_$name $help", "# TYPE merry_orbit_$name gauge");
            }
            foreach ($known as [$labels, $value]) {
                $lines[] = "merry_orbit_$name".self::labels($labels).' '.json_encode($value, JSON_THROW_ON_ERROR);
            }
        }

        return implode("\n", $lines)."\n";
    }

    /** @param  array<string, string>  $labels */
    private static function labels(array $labels): string
    {
        $all = [];
        foreach ($labels as $name => $value) {
            $all[] = $name.'="'.strtr($value, ['\\' => '\\\\', '"' => '\\"', "\n" => '\n']).'"';
        }

        return $all === [] ? '' : '{'.implode(',', $all).'}';
    }
}
