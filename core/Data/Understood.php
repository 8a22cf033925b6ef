<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Data;

/**
 * How a table stands in its grid: which rows and columns are what. Rows and columns count from 0, in the grid as it is read: one that
 * runs across is turned first.
 */
final readonly class Understood
{
    /**
     * @param  'down'|'across'|'long'  $layout
     * @param  int  $turnedFrom  the row of the file from which on it was turned; -1 where it was not
     * @param  int  $head  row of the names; -1 where there are none
     * @param  int  $units  row of the units; -1 where there is none
     * @param  int  $first  first row of data
     * @param  list<string>  $names  of the columns, without units
     * @param  list<string>  $columnUnits
     * @param  list<int>  $time  the columns that say the time: none, one, or year and month (and day)
     * @param  '.'|','  $decimal
     * @param  'ymd'|'dmy'|'mdy'  $order
     * @param  list<array{what: string, value: string, why: string, sure: float}>  $guesses
     * @param  list<DataRemark>  $remarks
     */
    public function __construct(
        public string $layout,
        public int $turnedFrom,
        public int $head,
        public int $units,
        public int $first,
        public array $names,
        public array $columnUnits,
        public array $time,
        public string $decimal,
        public string $order,
        public array $guesses,
        public array $remarks,
    ) {
    }

    /**
     * What is noticed at a cell, by its place in the file.
     *
     * @param  value-of<DataRemark::ABOUT>  $about
     */
    public function at(?int $row, ?int $column, string $sentence, string $about = DataRemark::NOTE): DataRemark
    {
        $down = $row === null ? null : $row + 1;
        $beside = $column === null ? null : $this->line($column);

        return $this->turnedFrom < 0
            ? new DataRemark($down, $beside, $sentence, $about)
            : new DataRemark($beside, $down, $sentence, $about);
    }

    /** The line of the file in which what runs down here stands, from 1: its column, or its row where the table was turned. */
    public function line(int $column): int
    {
        return $column + 1 + max(0, $this->turnedFrom);
    }

    /** The way back from the line of the file. */
    public function columnOf(int $line): int
    {
        return $line - 1 - max(0, $this->turnedFrom);
    }

    /** A cell as spreadsheets call it, by its place in the file: `B4`. */
    public function cell(int $row, int $column): string
    {
        [$down, $beside] = $this->turnedFrom < 0 ? [$row + 1, $column + 1] : [$this->line($column), $row + 1];
        $letters = '';
        for ($left = $beside; $left > 0; $left = intdiv($left - 1, 26)) {
            $letters = chr(65 + (($left - 1) % 26)).$letters;
        }

        return $letters.$down;
    }

    public function nameOf(int $column): string
    {
        return $this->names[$column] === '' ? 'column '.$this->line($column) : $this->names[$column];
    }
}
