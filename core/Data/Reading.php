<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Data;

/** From a grid that was understood to series over times; what could not be read is a gap, and said. */
final class Reading
{
    /** Across, a row of totals says so alone: a mean depth is a series of its own. */
    private const TOTAL = '/^(?:grand )?(?:totals?|sums?)[:.]?$/i';

    private Remarks $remarks;

    /** @var list<array{int, int, float}> rows, columns and values of cells that were written wrong, as they are read */
    private array $meant = [];

    private Figures $figures;

    private Dates $dates;

    private function __construct(private readonly Understood $u, private readonly Grid $grid, private readonly bool $isTraced)
    {
        $this->remarks = new Remarks($u);
        $this->figures = new Figures($u->decimal);
        $this->dates = new Dates($u->order);
    }

    /**
     * @param  bool  $isTraced  whether each value tells the cell that it stands in
     *
     * @throws TableRefused where there is no table at all
     */
    public static function of(Grid $grid, Wishes $wishes = new Wishes(), bool $isTraced = false): DataTable
    {
        [$understood, $turned] = Recognition::of($grid, $wishes);

        return (new self($understood, $turned, $isTraced))->table();
    }

    private function table(): DataTable
    {
        $u = $this->u;
        $rows = $this->rows();
        [$kind, $times] = (new Times($u, $this->grid, $this->figures, $this->dates, $this->remarks))->of($rows);
        $rows = array_keys($times);
        if ($rows === []) {
            throw TableRefused::because('There is no table in this file: no row has a time and a value.');
        }
        // In the order of their times; rows of one time keep theirs.
        $sorted = $times;
        $isRising = true;
        $isFalling = true;
        for ($i = 1; $i < count($rows); $i++) {
            $isRising = $isRising && $times[$rows[$i]] >= $times[$rows[$i - 1]];
            $isFalling = $isFalling && $times[$rows[$i]] <= $times[$rows[$i - 1]];
        }
        if (! $isRising) {
            asort($sorted);
            $this->remarks->say(
                null,
                null,
                $isFalling ? 'Times fall from row to row; they were sorted.' : 'Times go back and forth; they were sorted.',
            );
        }
        $categories = $u->layout === 'long' ? Categories::of($this->grid, $u->first, $u->time, $this->figures) : [];
        $columns = $this->columns(array_keys($sorted), $categories);
        if ($u->layout === 'long' && $categories !== []) {
            [$moments, $series] = (new LongLayout($u, $this->grid, $this->remarks, $this->isTraced))->series(
                $sorted,
                $columns,
                $categories,
            );
        } else {
            $moments = array_values($sorted);
            $this->sayRepeated($sorted, $kind);
            $series = [];
            foreach ($columns as $column => [$unit, $values]) {
                $cells = $this->isTraced ? array_map(static fn (int $row): string => $u->cell($row, $column), array_keys($values)) : [];
                $series[] = new DataSeries($u->nameOf($column), $unit, [], array_values($values), $u->line($column), '', $cells);
                unset($columns[$column]);
            }
        }
        $this->sayTwins($series);
        $words = DataTable::words($kind, $moments);
        $name = $this->timeName();

        $table = new DataTable($u->layout, $name, $kind, $moments, $words, $series, $categories, $this->remarks->all(), $u);

        return $u->layout === 'long' ? $table : $this->withSlips($table, array_keys($sorted));
    }

    /** @param  list<int>  $rows  of its times */
    private function withSlips(DataTable $t, array $rows): DataTable
    {
        $slips = [];
        foreach ($this->meant as [$row, $column, $value]) {
            $at = array_search($row, $rows, true);
            $place = $this->u->at($row, $column, '');
            foreach ($at === false ? [] : $t->series as $s) {
                if ($s->line === $this->u->line($column)) {
                    $slips[] = [
                        'row' => (int) $place->row,
                        'column' => (int) $place->column,
                        'series' => $s->name,
                        'at' => $t->word((int) $at),
                        'value' => $value,
                    ];
                }
            }
        }

        return $slips === []
            ? $t
            : new DataTable(
                $t->layout,
                $t->timeName,
                $t->timeKind,
                $t->times,
                $t->timeWords,
                $t->series,
                $t->apart,
                $t->remarks,
                $t->understood,
                $t->spacing,
                $slips,
            );
    }

    private function timeName(): string
    {
        $u = $this->u;
        if ($u->time === []) {
            return 'row';
        }
        if (count($u->time) > 1) {
            return 'date';
        }
        $name = $u->layout === 'across' ? Grid::text($this->grid->cell(max(0, $u->head), $u->time[0])) : $u->names[$u->time[0]];
        $isTime = preg_match(Recognition::TIME, trim(mb_strtolower($name), ' .:')) === 1;

        return $u->layout === 'across' ? ($isTime ? Heads::apart($name)[0] : 'time') : ($name === '' ? 'time' : $name);
    }

    /** @return list<int> rows of data: without blank ones, notes at the end, and totals */
    private function rows(): array
    {
        $u = $this->u;
        $rows = [];
        $used = 0;
        for ($row = $u->first; $row < count($this->grid->rows); $row++) {
            $filled = $this->grid->filled($row);
            if ($filled > 0) {
                $rows[] = $row;
                $used = max($used, $filled);
            }
        }
        while ($rows !== [] && $used > 2) {
            $last = $rows[count($rows) - 1];
            $cell = $this->grid->cell($last, 0);
            if (
                $u->turnedFrom >= 0 ||
                $this->grid->filled($last) > 1 ||
                ! is_string($cell) ||
                preg_match('/\p{L}/u', $cell) !== 1 ||
                $this->dates->read($cell) !== null ||
                Times::isTotalled($cell)
            ) {
                break;
            }
            $this->remarks->say(
                $last,
                0,
                '`'.mb_substr(Grid::text($cell), 0, 60).'` is a note and is left out.',
                DataRemark::LEFT_OUT,
            );
            array_pop($rows);
        }

        return $rows;
    }

    /**
     * The columns that hold numbers.
     *
     * @param  list<int>  $rows  in the order of their times
     * @param  list<int>  $others  columns that are no series
     * @return array<int, array{string, array<int, float|null>}> unit and values by row, by column
     */
    private function columns(array $rows, array $others): array
    {
        $u = $this->u;
        $found = [];
        for ($column = 0; $column < $this->grid->width; $column++) {
            if (in_array($column, $u->time, true) || in_array($column, $others, true)) {
                continue;
            }
            if ($u->turnedFrom >= 0 && preg_match(self::TOTAL, $u->names[$column]) === 1) {
                $this->remarks->sayOfLine($column, "`{$u->names[$column]}` is a row of totals and is left out.", DataRemark::LEFT_OUT);

                continue;
            }
            $values = $this->values($column, $rows);
            if ($values !== null) {
                $found[$column] = $values;
            }
        }

        return $found;
    }

    /**
     * @param  list<int>  $rows
     * @return array{string, array<int, float|null>}|null null where the column holds no numbers
     */
    private function values(int $column, array $rows): ?array
    {
        $grid = $this->grid;
        $values = $odd = $behind = $taken = [];
        $count = 0;
        $isPoint = $this->u->decimal === '.';
        foreach ($rows as $row) {
            $cell = $grid->rows[$row][$column] ?? null;
            // A million cells are plain numbers: they are not handed on first.
            $value =
                $isPoint && is_string($cell) && is_numeric($cell) && strlen($cell) < 40 ? (float) $cell : $this->figures->plain($cell);
            $value = $value === INF || $value === -INF ? null : $value;
            if ($value === null && ! Figures::isGap($cell)) {
                $read = $this->figures->read($cell);
                $value = $read['value'] ?? null;
                if ($read === null) {
                    $odd[$row] = $cell;
                } else {
                    $behind[$read['unit']][] = $row;
                    $taken[$read['taken']] ??= $row;
                }
            }
            $count += $value === null ? 0 : 1;
            $values[$row] = $value;
        }
        // What stands behind few of the numbers only is no unit: `12O` is a slip.
        $units = [];
        foreach ($behind as $unit => $at) {
            if ($unit !== '' && $unit !== '%' && count($at) < 0.5 * $count) {
                foreach ($at as $row) {
                    $odd[$row] = $grid->cell($row, $column);
                    $values[$row] = null;
                    $count--;
                }
            } else {
                $units[$unit] = count($at);
            }
        }
        ksort($odd);
        $name = $this->u->nameOf($column);
        if ($count === 0 && $odd === [] && $this->u->names[$column] === '') {
            return null;
        }
        $errors = count(array_filter($odd, Figures::isError(...)));
        if (count($odd) - $errors > $count) {
            $other = new Figures($this->u->decimal === '.' ? ',' : '.');
            $isOther =
                count(array_filter($odd, static fn (string|float|Moment|null $c): bool => $other->read($c) !== null)) > 0.5 * count($odd);
            $holds = $isOther ? 'numbers with another decimal sign' : 'words, no numbers,';
            $this->remarks->sayOfLine($column, "`$name` holds $holds and is left out.");

            return null;
        }
        foreach ($odd as $row => $cell) {
            $this->remarks->say($row, $column, $this->bad($cell, $row, $column), DataRemark::GAP);
        }
        foreach ($taken as $sign => $row) {
            if ($sign !== '') {
                $this->remarks->say($row, $column, "`$sign` is taken off the numbers of `$name`.");
            }
        }

        return [$this->unit($column, $units), $values];
    }

    /** @param  array<string, int>  $units  how often each stands behind a number */
    private function unit(int $column, array $units): string
    {
        unset($units['']);
        $unit = $this->u->columnUnits[$column];
        arsort($units);
        $behind = (string) (array_key_first($units) ?? '');
        if ($behind === '') {
            return $unit;
        }
        if (count($units) > 1) {
            $this->remarks->sayOfLine(
                $column,
                'Behind the numbers stand several units: '.
                    implode(', ', array_map(static fn (string $w): string => "`$w`", array_map(strval(...), array_keys($units)))).
                    '.',
            );
        }

        return $unit === '' ? $behind : $unit;
    }

    private function bad(string|float|Moment|null $cell, int $row, int $column): string
    {
        $text = mb_substr(Grid::text($cell), 0, 60);
        if (Figures::isError($cell)) {
            return "`$text` is an error of the spreadsheet; it counts as a gap.";
        }
        $guess = strtr($text, ['O' => '0', 'o' => '0', 'l' => '1', 'I' => '1', 'S' => '5', 'B' => '8']);
        $could = $guess !== $text && preg_match('/\d/', $text) === 1 ? $this->figures->read($guess) : null;
        if ($could !== null && $could['unit'] === '') {
            $this->meant[] = [$row, $column, $could['value']];

            return "`$text` has a letter in place of a digit: is it ".Grid::text($could['value']).'? It counts as a gap.';
        }
        $other = (new Figures($this->u->decimal === '.' ? ',' : '.'))->read($cell);

        return $other !== null
            ? "`$text` has another decimal sign than the rest; it counts as a gap."
            : "`$text` is no number; it counts as a gap.";
    }

    /** @param  array<int, float>  $sorted */
    private function sayRepeated(array $sorted, string $kind): void
    {
        $before = null;
        foreach ($sorted as $row => $time) {
            if ($before === $time) {
                $word = $kind === 'date' ? (new Moment($time, fmod($time, 86_400.0) !== 0.0))->text() : Grid::text($time);
                $this->remarks->say($row, $this->u->time[0] ?? null, "The time $word comes again; both are kept.");
            }
            $before = $time;
        }
    }

    /** @param  list<DataSeries>  $series */
    private function sayTwins(array $series): void
    {
        $known = [];
        foreach ($series as $one) {
            $key = mb_strtolower($one->label());
            if (isset($known[$key])) {
                $this->remarks->sayOfLine($one->line, "`{$one->label()}` is there twice; both are kept.", isOfFile: true);
            }
            $known[$key] = true;
        }
    }
}
