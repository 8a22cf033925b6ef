<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Data;

/** In the long layout, the columns of words that tell apart the rows of one time. */
final class Categories
{
    /**
     * @param  list<int>  $time
     * @return list<int> columns; none where words tell nothing apart
     */
    public static function of(Grid $grid, int $first, array $time, Figures $figures): array
    {
        $candidates = [];
        $last = count($grid->rows);
        $times = self::distinct($grid, $first, $time, []);
        for ($column = 0; $column < $grid->width; $column++) {
            if (in_array($column, $time, true)) {
                continue;
            }
            $words = $numbers = $rows = 0;
            $known = [];
            for ($row = $first; $row < $last; $row++) {
                $cell = $grid->cell($row, $column);
                if ($grid->filled($row) < 2) {
                    continue;
                }
                $rows++;
                if (is_string($cell) && ! Figures::isGap($cell) && $figures->read($cell) === null) {
                    $words++;
                    $known[$cell] = true;
                } elseif (! Figures::isGap($cell)) {
                    $numbers++;
                }
            }
            if (
                $words >= 0.9 * $rows &&
                $numbers <= 0.05 * $rows &&
                (count($known) <= 0.6 * $rows || count($known) * $times <= 1.2 * $rows)
            ) {
                $candidates[] = $column;
            }
        }
        if ($candidates === []) {
            return self::numbered($grid, $first, $time, $figures, $times);
        }
        // As few of them as tell the rows of a time apart as well as all do.
        $kept = $candidates;
        $best = self::distinct($grid, $first, $time, $candidates);
        foreach (array_reverse($candidates) as $column) {
            $without = array_values(array_diff($kept, [$column]));
            if ($without !== [] && self::distinct($grid, $first, $time, $without) === $best && self::isNote($grid, $first, $column)) {
                $kept = $without;
            }
        }

        return $best > $times ? $kept : [];
    }

    /**
     * Plots and boats are often numbers: a column of whole numbers of which each time has each but once.
     *
     * @param  list<int>  $time
     * @return list<int>
     */
    private static function numbered(Grid $grid, int $first, array $time, Figures $figures, int $times): array
    {
        for ($column = 0; $column < $grid->width; $column++) {
            $known = [];
            $rows = 0;
            $areWhole = ! in_array($column, $time, true);
            for ($row = $first; $areWhole && $row < count($grid->rows); $row++) {
                if ($grid->filled($row) > 1) {
                    $value = $figures->plain($grid->cell($row, $column));
                    $areWhole = $value !== null && $value === floor($value) && $value >= 0.0;
                    $known[(string) $value] = true;
                    $rows++;
                }
            }
            $isPanel = $areWhole && count($known) > 1 && count($known) < $rows && count($known) * $times <= 1.2 * $rows;
            if ($isPanel && self::distinct($grid, $first, $time, [$column]) >= $rows) {
                return [$column];
            }
        }

        return [];
    }

    /** Whether words change within what they would name: then they are remarks. */
    private static function isNote(Grid $grid, int $first, int $column): bool
    {
        $known = [];
        for ($row = $first; $row < count($grid->rows); $row++) {
            $known[Grid::text($grid->cell($row, $column))] = true;
        }

        return count($known) > max(3, 0.3 * (count($grid->rows) - $first)) || isset($known['']);
    }

    /**
     * @param  list<int>  $time
     * @param  list<int>  $columns
     */
    private static function distinct(Grid $grid, int $first, array $time, array $columns): int
    {
        $known = [];
        for ($row = $first; $row < count($grid->rows); $row++) {
            $words = array_map(static fn (int $c): string => Grid::text($grid->cell($row, $c)), [...$time, ...$columns]);
            if (trim(implode('', $words)) !== '') {
                $known[implode("\n", $words)] = true;
            }
        }

        return count($known);
    }
}
