<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Data\Steps;

/** Where numbers come from, told shortly: `B4:B15` for a run of cells, a few one by one, and the rest counted. */
final class Cells
{
    private const MOST = 6;

    /** @param  list<string>  $cells */
    public static function together(array $cells): string
    {
        $cells = array_values(array_unique(array_filter($cells, static fn (string $c): bool => $c !== '')));
        $runs = [];
        foreach ($cells as $cell) {
            $last = $runs === [] ? null : $runs[count($runs) - 1];
            // A run goes down a column or along a row, and keeps its way.
            $way = $last === null ? '' : self::way($last[1], $cell);
            if ($last !== null && $way !== '' && ($last[2] === '' || $last[2] === $way)) {
                $runs[count($runs) - 1] = [$last[0], $cell, $way];
            } else {
                $runs[] = [$cell, $cell, ''];
            }
        }
        $words = array_map(
            static fn (array $r): string => $r[0] === $r[1] ? $r[0] : self::span($r[0], $r[1]),
            array_slice($runs, 0, self::MOST),
        );
        $left = count($runs) - count($words);

        return implode(', ', $words).($left > 0 ? " and $left more" : '');
    }

    /** From one to another of the same file, which is named once. */
    private static function span(string $from, string $to): string
    {
        return $from.':'.substr((string) strrchr(" $to", ' '), 1);
    }

    /** Whether a cell stands right under another, or right beside it. */
    private static function way(string $one, string $next): string
    {
        [$a, $b] = [self::place($one), self::place($next)];

        return match (true) {
            $a === null || $b === null || $a[0] !== $b[0] => '',
            $b[1] === $a[1] && $b[2] === $a[2] + 1 => 'down',
            $b[2] === $a[2] && $b[1] === $a[1] + 1 => 'along',
            default => '',
        };
    }

    /** @return array{string, int, int}|null the file, the column and the row, from 1; null for what is a run already */
    private static function place(string $cell): ?array
    {
        if (preg_match('/^(|.* )([A-Z]{1,4})(\d+)$/', $cell, $m) !== 1) {
            return null;
        }
        $column = 0;
        foreach (str_split($m[2]) as $letter) {
            $column = 26 * $column + ord($letter) - 64;
        }

        return [$m[1], $column, (int) $m[3]];
    }
}
