<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Data;

/** From a grid that was understood to series over times; what could not be read is a gap, and said. */
final class Reading
{
    /** Of one kind of remark in one column, so many are told one by one. */
    private const MOST_REMARKS = 200;

    private const TOTALS = '/^(?:grand |sub)?(?:total|totals|sum|sums|average|averages|mean|all)\b[:.]?/i';

    /** Across, a row of totals says so alone: a mean depth is a series of its own. */
    private const TOTAL = '/^(?:grand )?(?:totals?|sums?)[:.]?$/i';

    /** @var list<DataRemark> */
    private array $remarks;

    private Figures $figures;

    private Dates $dates;

    private function __construct(private readonly Understood $u, private readonly Grid $grid)
    {
        $this->remarks = $u->remarks;
        $this->figures = new Figures($u->decimal);
        $this->dates = new Dates($u->order);
    }

    /**
     * @throws TableRefused where there is no table at all
     */
    public static function of(Grid $grid, Wishes $wishes = new Wishes()): DataTable
    {
        return (new self(...Recognition::of($grid, $wishes)))->table();
    }

    private function table(): DataTable
    {
        $u = $this->u;
        $rows = $this->rows();
        [$kind, $times] = $this->times($rows);
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
            $this->say(
                null,
                null,
                $isFalling ? 'Times fall from row to row; they were sorted.' : 'Times go back and forth; they were sorted.',
            );
        }
        $categories = $u->layout === 'long' ? Categories::of($this->grid, $u->first, $u->time, $this->figures) : [];
        $columns = $this->columns(array_keys($sorted), $categories);
        if ($u->layout === 'long' && $categories !== []) {
            [$moments, $series] = $this->long($sorted, $columns, $categories);
        } else {
            $moments = array_values($sorted);
            $this->sayRepeated($sorted, $kind);
            $series = [];
            $cells = array_map(static fn (int $row): int => $row + 1, array_keys($sorted));
            foreach ($columns as $column => [$unit, $values]) {
                $series[] = new DataSeries($this->nameOf($column), $unit, [], array_values($values), $cells, $u->line($column));
                unset($columns[$column]);
            }
        }
        $this->sayTwins($series);
        $words = $kind === 'date' ? $this->words($moments) : [];
        $name = $this->timeName();

        return new DataTable($u->layout, $name, $kind, $moments, $words, $series, $this->remarks, $u);
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

        return $u->layout === 'across' ? ($isTime ? Recognition::apart($name)[0] : 'time') : ($name === '' ? 'time' : $name);
    }

    private function nameOf(int $column): string
    {
        return $this->u->names[$column] === '' ? 'column '.$this->u->line($column) : $this->u->names[$column];
    }

    private function say(?int $row, ?int $column, string $sentence): void
    {
        $this->remarks[] = $row === null ? new DataRemark(null, $column, $sentence) : $this->u->at($row, $column, $sentence);
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
                preg_match(self::TOTALS, trim($cell)) === 1
            ) {
                break;
            }
            $this->say($last, 0, '`'.mb_substr(Grid::text($cell), 0, 60).'` is a note and is left out.');
            array_pop($rows);
        }

        return $rows;
    }

    /**
     * @param  list<int>  $rows
     * @return array{'number'|'date', array<int, float>} times by row
     */
    private function times(array $rows): array
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
        $this->say(
            $row,
            $column,
            $text === ''
                ? "This $line has no time and is left out."
                : '`'.mb_substr($text, 0, 60)."` is no time; the $line is left out.",
        );
    }

    /** Whether a row adds up the others; it is said. */
    private function isTotal(int $row, int $column): bool
    {
        $cell = Grid::text($this->grid->cell($row, $column));
        if (preg_match(self::TOTALS, $cell) !== 1) {
            return false;
        }
        $line = $this->u->turnedFrom < 0 ? 'row' : 'column';
        $this->say($row, $column, "`$cell` is a $line of totals and is left out.");

        return true;
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
                $this->remarks[] = new DataRemark($u->line($column), 1, "`{$u->names[$column]}` is a row of totals and is left out.");

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
        $name = $this->nameOf($column);
        if ($count === 0 && $odd === [] && $this->u->names[$column] === '') {
            return null;
        }
        $errors = count(array_filter($odd, Figures::isError(...)));
        if (count($odd) - $errors > $count) {
            $other = new Figures($this->u->decimal === '.' ? ',' : '.');
            $isOther =
                count(array_filter($odd, static fn (string|float|Moment|null $c): bool => $other->read($c) !== null)) > 0.5 * count($odd);
            $holds = $isOther ? 'numbers with another decimal sign' : 'words, no numbers,';
            $this->say(max($this->u->head, 0), $column, "`$name` holds $holds and is left out.");

            return null;
        }
        $said = 0;
        foreach ($odd as $row => $cell) {
            if ($said++ < self::MOST_REMARKS) {
                $this->say($row, $column, $this->bad($cell));
            }
        }
        if ($said > self::MOST_REMARKS) {
            $this->say(max($this->u->head, 0), $column, 'And '.($said - self::MOST_REMARKS)." more cells of `$name` cannot be read.");
        }
        foreach ($taken as $sign => $row) {
            if ($sign !== '') {
                $this->say($row, $column, "`$sign` is taken off the numbers of `$name`.");
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
            $this->say(
                max($this->u->head, 0),
                $column,
                'Behind the numbers stand several units: '.
                    implode(', ', array_map(static fn (string $w): string => "`$w`", array_map(strval(...), array_keys($units)))).
                    '.',
            );
        }

        return $unit === '' ? $behind : $unit;
    }

    private function bad(string|float|Moment|null $cell): string
    {
        $text = mb_substr(Grid::text($cell), 0, 60);
        if (Figures::isError($cell)) {
            return "`$text` is an error of the spreadsheet; it counts as a gap.";
        }
        $guess = strtr($text, ['O' => '0', 'o' => '0', 'l' => '1', 'I' => '1', 'S' => '5', 'B' => '8']);
        $could = $guess !== $text && preg_match('/\d/', $text) === 1 ? $this->figures->read($guess) : null;
        if ($could !== null && $could['unit'] === '') {
            return "`$text` has a letter in place of a digit: is it ".Grid::text($could['value']).'? It counts as a gap.';
        }
        $other = (new Figures($this->u->decimal === '.' ? ',' : '.'))->read($cell);

        return $other !== null
            ? "`$text` has another decimal sign than the rest; it counts as a gap."
            : "`$text` is no number; it counts as a gap.";
    }

    /**
     * @param  array<int, float>  $sorted  times by row, increasing
     * @param  array<int, array{string, array<int, float|null>}>  $columns
     * @param  list<int>  $categories
     * @return array{list<float>, list<DataSeries>} each time once, and for each of what is told of a series
     */
    private function long(array $sorted, array $columns, array $categories): array
    {
        $u = $this->u;
        $times = array_values(array_unique(array_values($sorted)));
        $place = array_flip(array_map(strval(...), $times));
        $kinds = $this->measures($columns, $categories);
        $made = $cells = $elements = [];
        $twice = 0;
        foreach ($sorted as $row => $time) {
            $at = [];
            foreach ($categories as $category) {
                $at[$u->names[$category]] = Grid::text($this->grid->cell($row, $category));
            }
            foreach ($columns as $column => [, $values]) {
                $name = $kinds === null ? $this->nameOf($column) : $at[$kinds];
                $own = $kinds === null ? $at : array_diff_key($at, [$kinds => '']);
                $key = json_encode([$column, $name, $own], JSON_UNESCAPED_UNICODE | JSON_THROW_ON_ERROR);
                if (! isset($made[$key])) {
                    $made[$key] = array_fill(0, count($times), null);
                    $cells[$key] = array_fill(0, count($times), 0);
                    $elements[$key] = [$column, $name, $own];
                }
                $i = $place[(string) $time];
                if ($cells[$key][$i] !== 0 && $values[$row] !== null) {
                    $twice++;
                    if ($twice <= self::MOST_REMARKS) {
                        $this->say(
                            $row,
                            $column,
                            'This time stands in row '.$cells[$key][$i].' too, for the same; the first of them counts.',
                        );
                    }

                    continue;
                }
                $made[$key][$i] = $values[$row];
                $cells[$key][$i] = $row + 1;
            }
        }
        $series = [];
        foreach ($made as $key => $values) {
            [$column, $name, $own] = $elements[$key];
            $series[] = new DataSeries($name, $columns[$column][0], $own, $values, array_values($cells[$key]), $u->line($column));
        }

        return [$times, $series];
    }

    /**
     * Where a single column of values stands beside one that says of what: then that names the series.
     *
     * @param  array<int, array{string, array<int, float|null>}>  $columns
     * @param  list<int>  $categories
     */
    private function measures(array $columns, array $categories): ?string
    {
        $only = count($columns) === 1 ? mb_strtolower($this->u->names[array_key_first($columns)]) : '';
        if (! in_array($only, ['value', 'values', 'amount', 'number', 'measurement', 'reading', 'v'], true)) {
            return null;
        }
        foreach ($categories as $category) {
            $name = $this->u->names[$category];
            if (preg_match('/^(?:variable|name|series|measure|indicator|item|quantity|what|parameter)$/', mb_strtolower($name)) === 1) {
                return $name;
            }
        }

        return null;
    }

    /** @param  array<int, float>  $sorted */
    private function sayRepeated(array $sorted, string $kind): void
    {
        $before = null;
        $said = 0;
        foreach ($sorted as $row => $time) {
            if ($before === $time && $said++ < self::MOST_REMARKS) {
                $word = $kind === 'date' ? (new Moment($time, fmod($time, 86_400.0) !== 0.0))->text() : Grid::text($time);
                $this->say($row, $this->u->time[0] ?? null, "The time $word comes again; both are kept.");
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
                $head = max(0, $this->u->head);
                $place = $this->u->turnedFrom < 0 ? [$head + 1, $one->line] : [$one->line, 1];
                $this->remarks[] = new DataRemark($place[0], $place[1], "`{$one->label()}` is there twice; both are kept.");
            }
            $known[$key] = true;
        }
    }

    /**
     * @param  list<float>  $moments
     * @return list<string>
     */
    private function words(array $moments): array
    {
        $hasClock = array_filter($moments, static fn (float $m): bool => fmod($m, 86_400.0) !== 0.0) !== [];

        return array_map(static fn (float $m): string => (new Moment($m, $hasClock))->text(), $moments);
    }
}
