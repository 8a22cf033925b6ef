<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Data;

use MerryOrbit\Core\Formula\Name;

/** Finds out how a table stands in its grid: heads, units, direction, times, decimal sign, order of dates; each guess with its reason. */
final class Recognition
{
    /** Cells of a column by which its kind is found. */
    private const SAMPLE = 3_000;

    public const TIME = '/^(?:time|times|t|year|years|yr|season|date|day|days|month|months|week|weeks|quarter|hour|hours|when|period|timestamp|datetime|date ?time|moment)$/';

    /** @var list<array{what: string, value: string, why: string, sure: float}> */
    private array $guesses = [];

    /** @var list<DataRemark> */
    private array $remarks = [];

    private function __construct(private Grid $grid, private readonly Wishes $wishes)
    {
    }

    /**
     * @return array{Understood, Grid} and the grid as it is to be read: turned, where the table runs across
     *
     * @throws TableRefused where there is no table at all
     */
    public static function of(Grid $grid, Wishes $wishes): array
    {
        $self = new self($grid, $wishes);

        return [$self->understood(), $self->grid];
    }

    private function understood(): Understood
    {
        $heads = new Heads($this->grid, $this->wishes->names);
        [$head, $first] = $heads->rows();
        if ($this->wishes->names === null) {
            $isNone = $head < 0;
            $why = $isNone ? 'numbers stand in the first row that is full' : 'the last row of words above the numbers';
            $this->guess('names', $isNone ? 'none' : (string) ($head + 1), $why, $isNone ? 0.7 : 0.9);
        }
        $layout = $this->wishes->layout;
        $runsAcross = $layout === 'across' || ($layout === 'auto' && $head >= 0 && $heads->isRowOfTimes($head));
        $turnedFrom = -1;
        if ($runsAcross) {
            $turnedFrom = max(0, $head);
            $names = $heads->nameColumn($turnedFrom);
            $units = $heads->unitColumn($turnedFrom);
            $this->guess(
                'layout',
                'across',
                'times stand in row '.($turnedFrom + 1).', one beside the other',
                $layout === 'across' ? 1.0 : 0.9,
            );
            $this->grid = $this->grid->turned($turnedFrom);
            [$head, $units] = [$names, $units];
            $first = max($names, $units) + 1;
            while ($first < count($this->grid->rows) && ! Heads::isTimeLike($this->grid->cell($first, 0))) {
                $first++;
            }
            $layout = 'across';
        } else {
            $units = $heads->unitsRow($head, $first);
            if ($units >= 0 && $first === $units) {
                $first++;
            }
        }
        while ($first < count($this->grid->rows) && $this->grid->filled($first) === 0) {
            $first++;
        }
        if ($first >= count($this->grid->rows)) {
            throw TableRefused::because('There is no table in this file: below its heads stands nothing.');
        }
        [$names, $columnUnits] = (new Heads($this->grid, null))->named($head, $units);
        $decimal = $this->decimal($first);
        $time = $this->timeColumns($names, $first, $turnedFrom >= 0, new Figures($decimal));
        [$order, $isOpen] = Dates::orderOf($this->column($time[0] ?? -1, $first));
        if ($this->wishes->dates !== 'auto') {
            [$order, $isOpen] = [$this->wishes->dates, false];
        }
        if ($isOpen) {
            $words = ['dmy' => 'the day before the month', 'mdy' => 'the month before the day', 'ymd' => 'the year first'];
            $this->remarks[] = new DataRemark(null, null, 'The dates can be read two ways; '.$words[$order].' is taken here.');
            $this->guess('dates', $order, 'nothing tells day and month apart', 0.5);
        }
        if ($layout !== 'across') {
            $isLong = $layout === 'long' || ($layout === 'auto' && $this->isLong($time, $first, $decimal, $order));
            $layout = $isLong ? 'long' : 'down';
            $this->guess('layout', $layout, $isLong ? 'times come again for each of what a column names' : 'time runs down', 0.9);
        }

        return new Understood(
            $layout,
            $turnedFrom,
            $head,
            $units,
            $first,
            $names,
            $columnUnits,
            $time,
            $decimal,
            $order,
            $this->guesses,
            $this->remarks,
        );
    }

    private function guess(string $what, string $value, string $why, float $sure): void
    {
        $this->guesses[] = ['what' => $what, 'value' => $value, 'why' => $why, 'sure' => $sure];
    }

    /**
     * Some cells of a column, from all over it.
     *
     * @return list<string|float|Moment|null>
     */
    private function column(int $column, int $first): array
    {
        if ($column < 0) {
            return [];
        }
        $cells = [];
        $step = max(1, intdiv(count($this->grid->rows) - $first, self::SAMPLE));
        for ($row = $first; $row < count($this->grid->rows); $row += $step) {
            $cell = $this->grid->cell($row, $column);
            if (! Grid::isBlank($cell)) {
                $cells[] = $cell;
            }
        }

        return $cells;
    }

    /**
     * @param  list<string>  $names
     * @return list<int>
     */
    private function timeColumns(array $names, int $first, bool $isTurned, Figures $figures): array
    {
        $words = array_map(static fn (string $n): string => trim(mb_strtolower(str_replace(['_', '-'], ' ', $n)), ' .:'), $names);
        if ($isTurned) {
            return [0];
        }
        if ($this->wishes->time !== null) {
            foreach ($names as $column => $name) {
                if (Name::key($name) === Name::key(Heads::apart($this->wishes->time)[0])) {
                    return [$column];
                }
            }
            throw TableRefused::because(
                "There is no column `{$this->wishes->time}`; there is ".
                    implode(', ', array_map(static fn (string $n): string => "`$n`", array_filter($names))).
                    '.',
            );
        }
        $parts = array_map(static fn (string $w): int|false => array_search($w, $words, true), ['year', 'month', 'day']);
        if (is_int($parts[0]) && is_int($parts[1])) {
            $this->guess('time', 'year and month', 'they stand in columns of their own', 0.9);

            return array_filter($parts, is_int(...));
        }
        $best = [-1, 0.0, ''];
        foreach ($words as $column => $word) {
            $cells = $this->column($column, $first);
            if ($cells === []) {
                continue;
            }
            if (count($cells) > 200) {
                $cells = array_slice($cells, 0, 200);
            }
            $dates = count(array_filter($cells, Dates::isOne(...))) / count($cells);
            $numbers = array_map(static fn (mixed $c): ?float => $figures->plain($c) ?? ($figures->read($c)['value'] ?? null), $cells);
            $isNumeric = count(array_filter($numbers, is_float(...))) >= 0.6 * count($cells);
            [$score, $why] = match (true) {
                preg_match(self::TIME, $word) === 1 && ($isNumeric || $dates >= 0.5) => [
                    3.0 + ($dates >= 0.5 ? 0.2 : 0.0),
                    "it is called `{$names[$column]}`",
                ],
                $dates >= 0.8 && ! $isNumeric => [2.5, 'it holds dates'],
                $isNumeric && preg_match('/\b(?:year|date|time|month|week)\b/', $word) === 1 && self::goesOn($numbers) => [
                    2.0,
                    "it is called `{$names[$column]}`",
                ],
                $column === 0 && $isNumeric && self::goesOn($numbers) && self::isEven($numbers) => [1.0, 'its numbers go on evenly'],
                default => [0.0, ''],
            };
            if ($score > $best[1]) {
                $best = [$column, $score, $why];
            }
        }
        if ($best[0] < 0) {
            $this->remarks[] = new DataRemark(null, null, 'No column says the time: rows count as 1, 2, 3 …');
            $this->guess('time', 'none', 'no column holds times', 0.6);

            return [];
        }
        $this->guess('time', $names[$best[0]] === '' ? 'column '.($best[0] + 1) : $names[$best[0]], $best[2], min(1.0, $best[1] / 3.0));

        return [$best[0]];
    }

    /** @param  list<float|null>  $numbers */
    private static function goesOn(array $numbers): bool
    {
        $numbers = array_values(array_filter($numbers, is_float(...)));
        [$up, $down] = [true, true];
        for ($i = 1; $i < count($numbers); $i++) {
            $up = $up && $numbers[$i] >= $numbers[$i - 1];
            $down = $down && $numbers[$i] <= $numbers[$i - 1];
        }

        return count($numbers) > 1 && ($up || $down) && $numbers[0] !== $numbers[count($numbers) - 1];
    }

    /** @param  list<float|null>  $numbers */
    private static function isEven(array $numbers): bool
    {
        $numbers = array_values(array_filter($numbers, is_float(...)));
        $isYear = array_filter($numbers, static fn (float $n): bool => $n >= 1500.0 && $n <= 2500.0 && $n === floor($n)) === $numbers;
        for ($i = 2; $i < count($numbers) && ! $isYear; $i++) {
            if (abs($numbers[$i] - 2.0 * $numbers[$i - 1] + $numbers[$i - 2]) > 1e-6 * abs($numbers[1] - $numbers[0])) {
                return false;
            }
        }

        return true;
    }

    /** @return '.'|',' */
    private function decimal(int $first): string
    {
        if ($this->wishes->decimal !== 'auto') {
            return $this->wishes->decimal === ',' ? ',' : '.';
        }
        $told = ['.' => 0, ',' => 0, '?.' => 0, '?,' => 0];
        $open = null;
        for ($column = 0; $column < $this->grid->width; $column++) {
            foreach ($this->column($column, $first) as $cell) {
                if (
                    ! is_string($cell) ||
                    Dates::isOne($cell) ||
                    preg_match('/^[^\p{L}]*[\d][^\p{L}]*(?:\s?[\p{L}%²³\/]{0,8})$/u', $cell) !== 1
                ) {
                    continue;
                }
                $says = Figures::evidence($cell);
                if ($says === '?') {
                    $open ??= $cell;
                    $told['?'.(str_contains($cell, ',') ? ',' : '.')]++;
                } elseif ($says !== '') {
                    $told[$says]++;
                }
            }
        }
        if ($told['.'] === 0 && $told[','] === 0) {
            if ($open !== null) {
                $value = str_contains($open, ',') ? str_replace(',', '', $open) : $open;
                $this->remarks[] = new DataRemark(
                    null,
                    null,
                    '`'.Grid::text($open).'` could be read two ways; it is taken as '.Grid::text($value).'.',
                );
            }
            $this->guess(
                'decimal',
                '.',
                $open === null ? 'no number has a decimal sign' : 'nothing tells it apart from the sign of thousands',
                0.5,
            );

            return '.';
        }
        $decimal = $told[','] > $told['.'] ? ',' : '.';
        $this->guess(
            'decimal',
            $decimal,
            'most numbers can be read with it alone',
            max($told['.'], $told[',']) / ($told['.'] + $told[',']),
        );

        return $decimal;
    }

    /**
     * Times come again, and words beside them tell the rows apart.
     *
     * @param  list<int>  $time
     * @param  '.'|','  $decimal
     * @param  'ymd'|'dmy'|'mdy'  $order
     */
    private function isLong(array $time, int $first, string $decimal, string $order): bool
    {
        if ($time === [] || $this->grid->width < 3) {
            return false;
        }
        $seen = [];
        $rows = 0;
        for ($row = $first; $row < min(count($this->grid->rows), $first + 20_000); $row++) {
            $words = Grid::text($this->grid->cell($row, $time[0]));
            foreach (array_slice($time, 1) as $column) {
                $words .= "\n".Grid::text($this->grid->cell($row, $column));
            }
            if (trim($words) !== '') {
                $seen[$words] = ($seen[$words] ?? 0) + 1;
                $rows++;
            }
        }
        if ($rows < 3 || count($seen) > 0.8 * $rows) {
            return false;
        }

        return Categories::of($this->grid, $first, $time, new Figures($decimal)) !== [];
    }
}
