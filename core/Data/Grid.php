<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Data;

/**
 * The cells of a table as they stand in a file. A cell is what was typed (a string), a number or a moment where the file says that it
 * is one, or null for nothing. Rows may be of different lengths; comments and blank lines are rows too, so that numbers of rows are
 * those that a person sees.
 */
final readonly class Grid
{
    /** Cells of one table. */
    public const MOST_CELLS = 5_000_000;

    public const MOST_COLUMNS = 20_000;

    public int $width;

    /** @param  list<list<string|float|Moment|null>>  $rows */
    public function __construct(public string $name, public array $rows)
    {
        $this->width = $rows === [] ? 0 : max(array_map(count(...), $rows));
    }

    public function cell(int $row, int $column): string|float|Moment|null
    {
        return $this->rows[$row][$column] ?? null;
    }

    /** How many cells of a row hold something. */
    public function filled(int $row): int
    {
        $count = 0;
        foreach ($this->rows[$row] ?? [] as $cell) {
            $count += $cell === null || $cell === '' || (is_string($cell) && ! ctype_graph($cell) && self::isBlank($cell)) ? 0 : 1;
        }

        return $count;
    }

    public static function isBlank(string|float|Moment|null $cell): bool
    {
        return $cell === null || $cell === '' || (is_string($cell) && trim($cell, " \t\n\r\0\x0B\u{A0}") === '');
    }

    /** Its rows from one on as columns. */
    public function turned(int $from): self
    {
        $rows = [];
        for ($column = 0; $column < $this->width; $column++) {
            $row = [];
            for ($at = $from; $at < count($this->rows); $at++) {
                $row[] = $this->cell($at, $column);
            }
            $rows[] = $row;
        }

        return new self($this->name, $rows);
    }

    /** A cell as a person would write it. */
    public static function text(string|float|Moment|null $cell): string
    {
        return match (true) {
            is_string($cell) && ctype_graph($cell) => $cell,
            is_string($cell) => trim((string) preg_replace('/[\s\x{A0}\x{202F}\x{2009}]+/u', ' ', $cell)),
            is_float($cell) => (string) json_encode($cell === floor($cell) && abs($cell) < 1e15 ? (int) $cell : $cell),
            $cell instanceof Moment => $cell->text(),
            default => '',
        };
    }
}
