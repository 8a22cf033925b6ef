<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Data\Steps;

use MerryOrbit\Core\Data\Grid;
use MerryOrbit\Core\Data\Heads;
use MerryOrbit\Core\Data\TableRefused;
use MerryOrbit\Core\Formula\Name;

/** A table of words, as one that says which cove lies in which bay: rows by the names of their columns. */
final readonly class WordRows
{
    /**
     * @param  list<string>  $names
     * @param  list<array<string, string>>  $rows  by name
     */
    private function __construct(public array $names, public array $rows)
    {
    }

    /**
     * @param  ?int  $head  the row of its names, from 1; null where it is the first that is as wide as the table
     *
     * @throws TableRefused where it has no rows
     */
    public static function of(Grid $grid, ?int $head = null): self
    {
        $filled = array_map($grid->filled(...), array_keys($grid->rows));
        $widest = $filled === [] ? 0 : max($filled);
        $at =
            $head === null
                ? (int) array_search(true, array_map(static fn (int $n): bool => $n >= min(2, $widest), $filled), true)
                : $head - 1;
        $names = [];
        foreach ($grid->rows[$at] ?? [] as $column => $cell) {
            if (! Grid::isBlank($cell)) {
                $names[$column] = Heads::apart(Grid::text($cell))[0];
            }
        }
        $rows = [];
        for ($row = $at + 1; $row < count($grid->rows); $row++) {
            if ($grid->filled($row) >= 2) {
                $rows[] = array_combine(
                    $names,
                    array_map(static fn (int $c): string => Grid::text($grid->cell($row, $c)), array_keys($names)),
                );
            }
        }

        return $rows === [] || count($names) < 2
            ? throw TableRefused::because('This table has no two columns of words that go together.')
            : new self(array_values($names), $rows);
    }

    /**
     * The name of a column as it stands there.
     *
     * @throws TableRefused
     */
    public function column(string $name, string $what): string
    {
        foreach ($this->names as $known) {
            if (Name::key($known) === Name::key($name)) {
                return $known;
            }
        }
        $there = implode(', ', array_map(static fn (string $n): string => "`$n`", $this->names));
        throw TableRefused::because("There is no column `$name` in the $what. It has $there.");
    }
}
