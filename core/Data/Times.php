<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Data;

/** Reads the times of the rows of a table; rows without one, and those that add up others, are left out and said. */
final readonly class Times
{
    private const TOTALS = '/^(?:grand |sub)?(?:total|totals|sum|sums|average|averages|mean|all)\b[:.]?/i';

    public function __construct(
        private Understood $u,
        private Grid $grid,
        private Figures $figures,
        private Dates $dates,
        private Remarks $remarks,
    ) {
    }

    /** Whether what stands in place of a time says that the row adds up others. */
    public static function isTotalled(string $cell): bool
    {
        return preg_match(self::TOTALS, trim($cell)) === 1;
    }

    /**
     * @param  list<int>  $rows
     * @return array{'number'|'date', array<int, float>} times by row
     */
    public function of(array $rows): array
    {
        $u = $this->u;
        if ($u->time === []) {
            $rows = array_values(array_filter($rows, fn (int $row): bool => ! $this->isTotal($row, 0)));

            return [
                'number',
                array_combine($rows, array_map(floatval(...), array_keys($rows === [] ? [] : array_fill(1, count($rows), 0)))),
            ];
        }
        if (count($u->time) > 1) {
            return ['date', $this->parted($rows)];
        }
        $column = $u->time[0];
        $numbers = $moments = [];
        $stamps = true;
        $areSeasons = $rows !== [];
        foreach ($rows as $row) {
            $areSeasons = $areSeasons && self::season($this->grid->cell($row, $column)) !== null;
        }
        foreach ($rows as $row) {
            $cell = $this->grid->cell($row, $column);
            $number = $this->figures->plain($cell);
            $number ??= $areSeasons ? self::season($cell) : null;
            $moment = $number === null ? $this->dates->read($cell) : null;
            if ($moment !== null) {
                $moments[$row] = $moment->seconds;
            } elseif (($number ??= $this->number($cell)) !== null) {
                $numbers[$row] = $number;
                $stamps =
                    $stamps &&
                    $number >= 18_000_101.0 &&
                    $number <= 22_001_231.0 &&
                    $number === floor($number) &&
                    $this->stamped($number) !== null;
            } elseif (! $this->isTotal($row, $column)) {
                $this->sayUntimed($row, $column);
            }
        }
        if ($moments === [] && ($numbers === [] || ! $stamps)) {
            return ['number', $numbers];
        }
        foreach ($numbers as $row => $number) {
            $moment = $stamps ? $this->stamped($number) : self::ofYear($number);
            if ($moment !== null) {
                $moments[$row] = $moment->seconds;
            } else {
                $this->sayUntimed($row, $column);
            }
        }
        ksort($moments);

        return ['date', $moments];
    }

    /** The first of two years: `1999/00`. Where all are so, `2001/02` is no February. */
    private static function season(string|float|Moment|null $cell): ?float
    {
        $isOne = is_string($cell) && preg_match('/^\s*(\d{4})\s?[\/–-]\s?(\d{2}|\d{4})\s*$/u', $cell, $m) === 1;

        return $isOne && ((int) $m[1] + 1) % 100 === (int) $m[2] % 100 ? (float) $m[1] : null;
    }

    /** A time as a number: `1999`, `year 3`. */
    private function number(string|float|Moment|null $cell): ?float
    {
        $plain = $this->figures->plain($cell) ?? (is_string($cell) && is_numeric(trim($cell)) ? (float) trim($cell) : null);
        if ($plain !== null || ! is_string($cell)) {
            return $plain;
        }
        $text = Grid::text($cell);
        if (preg_match('/^(?:year|month|week|day|y|t)\s*(\d+(?:\.\d+)?)$/i', $text, $m) === 1) {
            return (float) $m[1];
        }
        $read = $this->dates->read($cell) === null ? $this->figures->read($cell) : null;

        return $read !== null && $read['unit'] === '' && ($read['taken'] === '' || $read['taken'][0] === '*') ? $read['value'] : null;
    }

    private function stamped(float $number): ?Moment
    {
        return Moment::of((int) ($number / 10_000), (int) ($number / 100) % 100, (int) $number % 100);
    }

    private static function ofYear(float $year): ?Moment
    {
        return $year === floor($year) && $year > 0.0 && $year < 10_000.0 ? Moment::of((int) $year) : null;
    }

    /**
     * Year and month, and perhaps the day, in columns of their own.
     *
     * @param  list<int>  $rows
     * @return array<int, float>
     */
    private function parted(array $rows): array
    {
        $times = [];
        $year = null;
        foreach ($rows as $row) {
            $cells = array_map(fn (int $c): string => Grid::text($this->grid->cell($row, $c)), $this->u->time);
            // A year is often written once for all of its months.
            $year = is_numeric($cells[0]) ? (int) $cells[0] : ($cells[0] === '' ? $year : null);
            $month = is_numeric($cells[1])
                ? (int) $cells[1]
                : (int) ($this->dates
                    ->read("1 {$cells[1]} 2001")
                    ?->date()
                    ->format('n') ?? 0);
            $moment = $year === null ? null : Moment::of($year, $month, isset($cells[2]) ? (int) $cells[2] : 1);
            if ($moment !== null) {
                $times[$row] = $moment->seconds;
            } elseif (! $this->isTotal($row, $this->u->time[0]) && ! $this->isTotal($row, $this->u->time[1])) {
                $this->sayUntimed($row, $this->u->time[0]);
            }
        }

        return $times;
    }

    private function sayUntimed(int $row, int $column): void
    {
        $text = Grid::text($this->grid->cell($row, $column));
        $line = $this->u->turnedFrom < 0 ? 'row' : 'column';
        $this->remarks->say(
            $row,
            $column,
            $text === ''
                ? "This $line has no time and is left out."
                : '`'.mb_substr($text, 0, 60)."` is no time; the $line is left out.",
            DataRemark::LEFT_OUT,
        );
    }

    /** Whether a row adds up the others; it is said. */
    private function isTotal(int $row, int $column): bool
    {
        $cell = Grid::text($this->grid->cell($row, $column));
        if (! self::isTotalled($cell)) {
            return false;
        }
        $line = $this->u->turnedFrom < 0 ? 'row' : 'column';
        $this->remarks->say($row, $column, "`$cell` is a $line of totals and is left out.", DataRemark::LEFT_OUT);

        return true;
    }
}
