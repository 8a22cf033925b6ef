<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Data;

/** Finds where the names and units of a table stand: in a row above the numbers, or in columns beside them where times stand above. */
final readonly class Heads
{
    /** Rows in which the heads are looked for. */
    private const TOP = 60;

    private const UNIT_HEAD = '/^units?$/';

    /** @param  ?int  $names  the row of the names, from 1, where somebody says it */
    public function __construct(private Grid $grid, private ?int $names)
    {
    }

    /** @return array{int, int} the row of heads, or -1, and the first of data */
    public function rows(): array
    {
        $filled = [];
        foreach (array_keys(array_slice($this->grid->rows, 0, 400)) as $row) {
            $filled[$row] = $this->grid->filled($row);
        }
        if ($filled === [] || max($filled) === 0) {
            throw TableRefused::because('There is no table in this file: it is empty.');
        }
        if ($this->names !== null) {
            $head = $this->names - 1;
            if ($head >= count($this->grid->rows)) {
                throw TableRefused::because("There is no row $this->names; the table has ".count($this->grid->rows).' rows.');
            }

            return [$head, $head + 1];
        }
        $enough = max(1, (int) ceil(0.5 * $this->usual($filled)));
        $data = null;
        $full = [];
        foreach (array_slice($filled, 0, self::TOP, true) as $row => $count) {
            if ($count < $enough) {
                continue;
            }
            if ($full === [] && $this->isRowOfTimes($row)) {
                return [$row, $row + 1];
            }
            if ($this->figures($row) > 0) {
                $data = $row;
                break;
            }
            $full[] = $row;
        }
        if ($data === null) {
            // Words alone: perhaps the numbers come late, or there are none.
            return $full === [] ? [-1, 0] : [$full[0], $full[0] + 1];
        }
        if ($full === []) {
            return [-1, $data];
        }
        $head = array_pop($full);
        if ($full !== [] && $this->holdsUnits($head)) {
            $head = array_pop($full);
        }

        return [$head, $data];
    }

    /**
     * How many cells of a row are filled as a rule.
     *
     * @param  array<int, int>  $filled
     */
    private function usual(array $filled): int
    {
        $counts = array_values(array_filter($filled));
        sort($counts);

        return $counts[intdiv(count($counts) - 1, 2)] ?? 1;
    }

    /** How many cells of a row are numbers or moments. */
    private function figures(int $row): int
    {
        $count = 0;
        foreach ($this->grid->rows[$row] ?? [] as $cell) {
            $isOne =
                is_float($cell) ||
                $cell instanceof Moment ||
                (is_string($cell) && preg_match('/\d/', $cell) === 1 && $this->isFigure($cell));
            $count += $isOne ? 1 : 0;
        }

        return $count;
    }

    private function isFigure(string $cell): bool
    {
        if (preg_match('/^\s*[\[(]/', $cell) === 1 && preg_match('/^\s*\([\d.,]+\)\s*$/', $cell) !== 1) {
            return false;
        }

        return (new Figures('.'))->read($cell) !== null || (new Figures(','))->read($cell) !== null || Dates::isOne($cell);
    }

    public static function isTimeLike(string|float|Moment|null $cell): bool
    {
        if (is_float($cell) || $cell instanceof Moment) {
            return true;
        }

        return is_string($cell) && preg_match('/\d/', $cell) === 1 && (is_numeric(trim($cell)) || Dates::isOne($cell));
    }

    /** Whether a row holds times that go on, one beside the other, with at most some words around them. */
    public function isRowOfTimes(int $row): bool
    {
        $times = [];
        $words = 0;
        $isWhole = true;
        $last = null;
        foreach ($this->grid->rows[$row] ?? [] as $column => $cell) {
            if (self::isTimeLike($cell)) {
                $isWhole = $isWhole && ($last === null || $column === $last + 1);
                $last = $column;
                $times[] =
                    (new Dates())->read($cell)->seconds ?? (is_float($cell) ? $cell : (float) (is_string($cell) ? trim($cell) : 0));
            } elseif (! Grid::isBlank($cell)) {
                $words++;
            }
        }
        if (count($times) < 2 || ! $isWhole || $words > count($times) + 3 || self::isTimeLike($this->grid->cell($row, 0))) {
            return false;
        }
        for ($i = 1; $i < count($times); $i++) {
            if ($times[$i] <= $times[$i - 1]) {
                return false;
            }
        }
        // Below it, names stand at the left.
        $names = $rows = 0;
        for ($below = $row + 1; $below < min(count($this->grid->rows), $row + 40); $below++) {
            if ($this->grid->filled($below) > 1) {
                $rows++;
                $names += Grid::isBlank($this->grid->cell($below, 0)) || self::isTimeLike($this->grid->cell($below, 0)) ? 0 : 1;
            }
        }

        return $rows > 0 && $names >= 0.7 * $rows;
    }

    /** Of a table across, the column of names. */
    public function nameColumn(int $head): int
    {
        for ($column = 0; $column < $this->grid->width; $column++) {
            $isUnit = preg_match(self::UNIT_HEAD, mb_strtolower(Grid::text($this->grid->cell($head, $column)))) === 1;
            if (
                ! $isUnit &&
                ! self::isTimeLike($this->grid->cell($head, $column)) &&
                ! Grid::isBlank($this->grid->cell($head + 1, $column))
            ) {
                return $column;
            }
        }

        return 0;
    }

    public function unitColumn(int $head): int
    {
        for ($column = 0; $column < $this->grid->width; $column++) {
            if (preg_match(self::UNIT_HEAD, mb_strtolower(Grid::text($this->grid->cell($head, $column)))) === 1) {
                return $column;
            }
        }

        return -1;
    }

    /** A row of units between heads and data, or -1. */
    public function unitsRow(int $head, int $first): int
    {
        if ($head < 0) {
            return -1;
        }
        $row = $head + 1;
        while ($row < count($this->grid->rows) && $this->grid->filled($row) === 0) {
            $row++;
        }

        return $row <= $first && $this->holdsUnits($row) ? $row : -1;
    }

    private function holdsUnits(int $row): bool
    {
        $units = $others = 0;
        foreach ($this->grid->rows[$row] ?? [] as $cell) {
            if (Grid::isBlank($cell)) {
                continue;
            }
            $text = Grid::text($cell);
            $isUnit =
                is_string($cell) &&
                (preg_match('/^[\[(].{1,30}[\])]$/u', $text) === 1 ||
                    preg_match(
                        '/^(?:%|[\p{L}°µ]{1,4}[²³]?(?:\s?[\/·*^]\s?[\p{L}\d²³]{1,8})*|[\p{L} ]{1,15}\/[\p{L} ]{1,10}|year|month|week|day|number|people|-)$/u',
                        $text,
                    ) === 1);
            $isUnit ? $units++ : $others++;
        }

        return $units > 0 && $others === 0 && $this->figures($row) === 0 && $this->isUnitLike($row);
    }

    /** Short heads could be units: unless one is in brackets, what stands above has to be a full row of words. */
    private function isUnitLike(int $row): bool
    {
        foreach ($this->grid->rows[$row] ?? [] as $cell) {
            if (is_string($cell) && preg_match('/^\s*[\[(].*[\])]\s*$|^%$|\/|°/u', $cell) === 1) {
                return true;
            }
        }
        $above = $row - 1;
        while ($above >= 0 && $this->grid->filled($above) === 0) {
            $above--;
        }

        return $above >= 0 &&
            $this->grid->filled($above) >= $this->grid->filled($row) &&
            $this->grid->filled($above) > 1 &&
            $this->figures($above) === 0;
    }

    /** @return array{list<string>, list<string>} names and units of the columns */
    public function named(int $head, int $units): array
    {
        $names = $found = [];
        for ($column = 0; $column < $this->grid->width; $column++) {
            $text = $head < 0 ? '' : Grid::text($this->grid->cell($head, $column));
            [$name, $unit] = self::apart($text);
            if ($units >= 0) {
                $below = Grid::text($this->grid->cell($units, $column));
                $below = preg_match('/^[\[(](.*)[\])]$/u', $below, $m) === 1 ? trim($m[1]) : $below;
                $unit = $below === '' || $below === '-' ? $unit : $below;
            }
            $names[] = $name;
            $found[] = $unit;
        }

        return [$names, $found];
    }

    /**
     * A head and the unit in brackets behind it.
     *
     * @return array{string, string}
     */
    public static function apart(string $head): array
    {
        if (preg_match('/^(.*\S)\s*(?:\[([^\[\]]*)\]|\(([^()]*)\))$/u', $head, $m) === 1) {
            return [$m[1], trim(($m[2] ?? '') !== '' ? $m[2] : $m[3] ?? '')];
        }

        return [$head, ''];
    }
}
