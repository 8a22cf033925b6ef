<?php

declare(strict_types=1);

namespace App\Data;

use MerryOrbit\Core\Analysis\Analysis;
use MerryOrbit\Core\Data\Conversion;
use MerryOrbit\Core\Data\DataSeries;
use MerryOrbit\Core\Data\DataTable;
use MerryOrbit\Core\Data\Grid;
use MerryOrbit\Core\Data\Matching;
use MerryOrbit\Core\Data\Moment;
use MerryOrbit\Core\Data\StudyTimes;
use MerryOrbit\Core\Data\TableRefused;
use MerryOrbit\Core\Model\Measured;
use MerryOrbit\Core\Plan\Key;

/** A table as it came, what was understood of it, and what of the model its series could be. */
final readonly class TablePreview
{
    /** Rows and columns of the table that are shown as they stand. */
    private const ROWS = 400;

    private const COLUMNS = 60;

    private const MOST_SERIES = 200;

    private const MOST_REMARKS = 300;

    /** In place of the key of a variable: it becomes a series of the model. */
    public const SERIES = '*series';

    public function __construct(private Grid $grid, private DataTable $table, private Analysis $analysis)
    {
    }

    /** @return array<string, mixed> */
    public function toRecord(): array
    {
        $u = $this->table->understood;
        $isAcross = $u->turnedFrom >= 0;
        $rows = [];
        foreach (array_slice($this->grid->rows, 0, self::ROWS) as $row) {
            $rows[] = array_map(Grid::text(...), array_slice($row, 0, self::COLUMNS));
        }
        [$times, $refusal] = $this->times();

        return [
            'rows' => $rows,
            'size' => [count($this->grid->rows), $this->grid->width],
            'layout' => $this->table->layout,
            'head' => $isAcross ? $u->turnedFrom + 1 : $u->head + 1,
            'units' => $isAcross ? 0 : $u->units + 1,
            'first' => $isAcross ? $u->turnedFrom + 2 : $u->first + 1,
            'decimal' => $u->decimal,
            'dates' => $u->order,
            'time' => [
                'name' => $this->table->timeName,
                'kind' => $this->table->timeKind,
                'columns' => $isAcross ? [] : array_map(static fn (int $c): int => $c + 1, $u->time),
                'count' => count($this->table->times),
                'span' => $this->span(),
                'study' => $times === [] ? null : [$times[0], $times[count($times) - 1]],
                'refusal' => $refusal ?? $this->outside($times),
                'start' => $this->startDate($times),
            ],
            'series' => array_map($this->series(...), array_slice($this->table->series, 0, self::MOST_SERIES)),
            'more' => max(0, count($this->table->series) - self::MOST_SERIES),
            'remarks' => array_slice($this->table->remarks, 0, self::MOST_REMARKS),
            'guesses' => $u->guesses,
        ];
    }

    /** @return array{list<float>, ?string} times of the study, or why there are none */
    private function times(): array
    {
        try {
            return [StudyTimes::of($this->table, $this->analysis->model->time), null];
        } catch (TableRefused $e) {
            return [[], $e->getMessage()];
        }
    }

    /** @param  list<float>  $times */
    private function outside(array $times): ?string
    {
        $time = $this->analysis->model->time;
        $inside = array_filter($times, static fn (float $t): bool => $t >= $time->start - 1e-9 && $t <= $time->end + 1e-9);

        return $inside !== [] || $times === []
            ? null
            : 'No time of the table lies within the run, which goes from '.
                    Grid::text($time->start).
                    ' to '.
                    Grid::text($time->end).
                    ($time->unit === '' ? '.' : " $time->unit.");
    }

    /**
     * Where the table goes by the calendar and the study does not say when it starts: its first date.
     *
     * @param  list<float>  $times
     */
    private function startDate(array $times): ?string
    {
        $first = $this->table->times[0] ?? 0.0;
        if ($this->analysis->model->time->startDate !== null) {
            return null;
        }
        if ($this->table->timeKind === 'date') {
            return $times === [] ? (new Moment($first))->text() : null;
        }
        $areYears = $first >= 1000.0 && $first <= 3000.0 && $first === floor($first);

        return $areYears && $this->outside($times) !== null ? sprintf('%04d-01-01', $first) : null;
    }

    /** @return array{string, string} */
    private function span(): array
    {
        $t = $this->table;
        $word = static fn (int $i): string => $t->timeKind === 'date' ? $t->timeWords[$i] : Grid::text($t->times[$i]);

        return $t->times === [] ? ['', ''] : [$word(0), $word(count($t->times) - 1)];
    }

    /** @return array<string, mixed> */
    private function series(DataSeries $series): array
    {
        $key = (new Matching($this->analysis))->find($series);
        $of = $key === null ? null : Key::ownerOf($key);

        return [
            'label' => $series->label(),
            'name' => $series->name,
            'unit' => $series->unit,
            'elements' => (object) $series->elements,
            'line' => $series->line,
            'count' => count(array_filter($series->values, static fn (?float $v): bool => $v !== null)),
            'match' => $of === null
                    ? null
                    : [
                        'of' => $of,
                        'key' => $key,
                        'exact' => mb_strtolower($series->name) === mb_strtolower((string) $this->analysis->model->nameOf($of)),
                    ],
        ];
    }

    /**
     * Series as evidence of variables, ready to be put into the document.
     *
     * @param  list<array{series: int, key: string}>  $ties  numbers of series, and keys of variables
     * @return list<array<string, mixed>> fields of evidence, and `fits`: what is said of the units
     *
     * @throws TableRefused
     */
    public function evidence(array $ties): array
    {
        $times = StudyTimes::of($this->table, $this->analysis->model->time);
        $conversion = new Conversion($this->analysis->model->sameUnits);
        $made = [];
        foreach ($ties as ['series' => $number, 'key' => $key]) {
            $series = $this->table->series[$number] ?? throw TableRefused::because('There is no such series in this table any more.');
            if ($key === self::SERIES) {
                $made[] = [
                    ...self::points($series, $times, 1.0),
                    'of' => '',
                    'at' => [],
                    'factor' => 1.0,
                    'said' => 'to drive a variable with, or to be named in formulas',
                ];

                continue;
            }
            $owner = Key::ownerOf($key);
            $element = $this->analysis->model->element($owner) ?? throw TableRefused::because('That variable is not there any more.');
            $factor = $conversion->factor($series->unit, $element->unit);
            $at = $owner === $key ? [] : explode(',', substr($key, strlen($owner) + 1, -1));
            $made[] = [
                ...self::points($series, $times, $factor ?? 1.0),
                'of' => $owner,
                'at' => $at,
                'factor' => $factor ?? 1.0,
                'said' => $this->said($series, $element->name, $element->unit, $factor),
            ];
        }

        return $made;
    }

    /**
     * @param  list<float>  $times
     * @return array{column: string, unit: string, points: list<array{float, float}>}
     *
     * @throws TableRefused where there are too many, or none
     */
    private static function points(DataSeries $series, array $times, float $factor): array
    {
        $points = [];
        foreach ($series->values as $i => $value) {
            if ($value !== null) {
                $points[] = [$times[$i], $value * $factor];
            }
        }
        if (count($points) > Measured::MOST_POINTS) {
            throw TableRefused::because(
                "`{$series->label()}` has ".
                    number_format(count($points)).
                    ' values; '.
                    number_format(Measured::MOST_POINTS).
                    ' can be kept of one series. Take means over longer times first.',
            );
        }

        return $points === []
            ? throw TableRefused::because("`{$series->label()}` holds no value.")
            : ['column' => $series->label(), 'unit' => $series->unit, 'points' => $points];
    }

    private function said(DataSeries $series, string $name, string $unit, ?float $factor): string
    {
        return match (true) {
            $factor === null => "`$series->unit` does not lead to `$unit` of `$name`: the numbers are taken as they are.",
            $factor === 1.0 => $series->unit === '' || $unit === '' ? 'the numbers are taken as they are' : 'same unit',
            $factor < 1.0 => '÷ '.Grid::text(round(1.0 / $factor, 9)).", in $unit",
            default => '× '.Grid::text(round($factor, 9)).", in $unit",
        };
    }
}
