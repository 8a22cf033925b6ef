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
        $parts = [];
        foreach ($cells as $cell) {
            $last = $parts === [] ? null : $parts[count($parts) - 1];
            if ($last !== null && self::follows($last[1], $cell)) {
                $parts[count($parts) - 1][1] = $cell;
            } else {
                $parts[] = [$cell, $cell];
            }
        }
        $words = array_map(static fn (array $p): string => $p[0] === $p[1] ? $p[0] : "$p[0]:$p[1]", array_slice($parts, 0, self::MOST));
        $left = count($parts) - count($words);

        return implode(', ', $words).($left > 0 ? " and $left more" : '');
    }

    /** Whether a cell stands right under another. */
    private static function follows(string $one, string $next): bool
    {
        return preg_match('/^(.*[A-Z])(\d+)$/', $one, $a) === 1 &&
            preg_match('/^(.*[A-Z])(\d+)$/', $next, $b) === 1 &&
            $a[1] === $b[1] &&
            (int) $b[2] === (int) $a[2] + 1;
    }
}
