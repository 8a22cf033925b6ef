<?php

declare(strict_types=1);

namespace App\Data;

use MerryOrbit\Core\Analysis\Analysis;
use MerryOrbit\Core\Data\DataSeries;
use MerryOrbit\Core\Data\DataTable;
use MerryOrbit\Core\Data\Matching;
use MerryOrbit\Core\Data\Steps\StepState;
use MerryOrbit\Core\Data\StudyTimes;
use MerryOrbit\Core\Data\TableRefused;
use MerryOrbit\Core\Data\Tie;
use MerryOrbit\Core\Model\Measured;
use MerryOrbit\Core\Plan\Key;

/** A table as it came, what was understood of it, and what of the model its series could be. */
final readonly class TablePreview
{
    private const COLUMNS = ReadTable::COLUMNS;

    private const MOST_SERIES = 200;

    private const MOST_REMARKS = 300;

    /** In place of the key of a variable: it becomes a series of the model. */
    public const SERIES = '*series';

    private DataTable $table;

    /** The table after the steps. */
    private DataTable $after;

    /** @param  list<StepState>  $states  of the steps that are taken */
    public function __construct(private ReadTable $read, private Analysis $analysis, public array $states = [])
    {
        $this->table = $read->table;
        $this->after = $states === [] ? $read->table : $states[count($states) - 1]->table;
    }

    /** @return array<string, mixed> */
    public function toRecord(): array
    {
        $u = $this->table->understood;
        $isAcross = $u->turnedFrom >= 0;
        [$times, $refusal] = $this->times();

        return [
            'sheets' => $this->read->sheets,
            'sheet' => $this->read->sheet,
            'rows' => $this->read->rows,
            'size' => $this->read->size,
            'layout' => $this->table->layout,
            'head' => $isAcross ? $u->turnedFrom + 1 : $u->head + 1,
            'units' => $isAcross ? 0 : $u->units + 1,
            'first' => $isAcross ? $u->turnedFrom + 2 : $u->first + 1,
            'decimal' => $u->decimal,
            'dates' => $u->order,
            'time' => [
                'name' => $this->table->timeName,
                'kind' => $this->table->timeKind,
                'count' => count($this->after->times),
                'span' => $this->span(),
                'study' => $times === [] ? null : [$times[0], $times[count($times) - 1]],
                'refusal' => $refusal ?? StudyTimes::outside($times, $this->analysis->model->time),
                'start' => StudyTimes::startDate($this->after, $this->analysis->model->time),
            ],
            'columns' => $this->columns(),
            'series' => array_map($this->series(...), array_slice($this->after->series, 0, self::MOST_SERIES)),
            'more' => max(0, count($this->after->series) - self::MOST_SERIES),
            'came' => self::told($this->table),
            'steps' => array_map(
                static fn (StepState $s): array => ['said' => $s->said, 'refusal' => $s->refusal, ...self::told($s->table)],
                $this->states,
            ),
            'remarks' => array_slice($this->table->remarks, 0, self::MOST_REMARKS),
            'slips' => array_slice($this->table->slips, 0, self::MOST_REMARKS),
            'guesses' => $u->guesses,
        ];
    }

    /** @return array{times: int, series: list<string>, along: list<string>} what there is for a step to be about */
    private static function told(DataTable $table): array
    {
        $along = array_merge(...array_map(static fn (DataSeries $s): array => array_keys($s->elements), $table->series), ...[[]]);
        $names = array_map(static fn (DataSeries $s): string => $s->name, $table->series);
        $labels = array_map(static fn (DataSeries $s): string => $s->label(), $table->series);

        return [
            'times' => count($table->times),
            'series' => array_slice(array_values(array_unique([...$names, ...$labels])), 0, self::MOST_SERIES),
            'along' => array_values(array_unique($along)),
        ];
    }

    /** @param  int  $step  its number from 0; -1 for the table as it was read */
    public function table(int $step): DataTable
    {
        return $this->states[$step]->table ?? $this->table;
    }

    /**
     * Some rows of the table after a step.
     *
     * @param  int  $step  its number from 0; -1 for the table as it was read
     * @return array{names: list<string>, units: list<string>, count: int, rows: list<list<string|float|null>>} a time, and the values
     */
    public function rows(int $step, int $from, int $count): array
    {
        $table = $this->table($step);
        $series = array_slice($table->series, 0, self::COLUMNS);
        $rows = [];
        for ($i = max(0, $from); $i < min(count($table->times), $from + $count); $i++) {
            $rows[] = [$table->word($i), ...array_map(static fn (DataSeries $s): ?float => $s->values[$i], $series)];
        }

        return [
            'names' => array_map(static fn (DataSeries $s): string => $s->label(), $series),
            'units' => array_map(static fn (DataSeries $s): string => $s->unit, $series),
            'count' => count($table->times),
            'rows' => $rows,
        ];
    }

    /** @return array{list<float>, ?string} times of the study, or why there are none */
    private function times(): array
    {
        try {
            return [StudyTimes::of($this->after, $this->analysis->model->time), null];
        } catch (TableRefused $e) {
            return [[], $e->getMessage()];
        }
    }

    /** @return list<array{name: string, unit: string, role: string}> what each column is for; of a table across its rows say that */
    private function columns(): array
    {
        $u = $this->table->understood;
        $lines = array_column(array_map(static fn (DataSeries $s): array => [$s->line, $s->unit], $this->table->series), 1, 0);
        $roles = [];
        foreach ($u->turnedFrom >= 0 ? [] : array_slice($u->names, 0, self::COLUMNS) as $column => $name) {
            $roles[] = [
                'name' => $name,
                'unit' => $lines[$column + 1] ?? '',
                'role' => match (true) {
                    in_array($column, $u->time, true) => 'time',
                    in_array($column, $this->table->apart, true) => 'apart',
                    isset($lines[$column + 1]) => 'numbers',
                    default => 'out',
                },
            ];
        }

        return $roles;
    }

    /** @return array{string, string} */
    private function span(): array
    {
        $t = $this->after;

        return $t->times === [] ? ['', ''] : [$t->word(0), $t->word(count($t->times) - 1)];
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
            'count' => $series->count(),
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
     * @param  list<array{series: int, key: string, error?: ?int}>  $ties  numbers of series, keys of variables, and of the series that says how
     *   exact it is, if one does
     * @param  string  $source  id of the source that it is a newer version of, if it is
     * @return list<array<string, mixed>>
     *
     * @throws TableRefused
     */
    public function evidence(array $ties, string $source): array
    {
        $times = StudyTimes::of($this->after, $this->analysis->model->time);
        $ends = StudyTimes::ends($this->after, $this->analysis->model->time);
        $made = [];
        foreach ($ties as $given) {
            ['series' => $number, 'key' => $key] = $given;
            $error = isset($given['error']) ? $this->after->series[$given['error']] ?? null : null;
            $series = $this->after->series[$number] ?? throw TableRefused::because('There is no such series in this table any more.');
            $tie = $key === self::SERIES ? Tie::alone($series, $times) : Tie::to($this->analysis, $key, $series, $times, $ends, $error);
            $refusal = $tie->refusal();
            if ($refusal !== null) {
                throw TableRefused::because($refusal);
            }
            $before = $this->before($tie, $source);
            $made[] = [
                'of' => $tie->of ?? '',
                'at' => $tie->at,
                'column' => $series->label(),
                'unit' => $series->unit,
                'factor' => $tie->factor ?? 1.0,
                'points' => $tie->points,
                'over' => $tie->ends === [] ? '' : $series->over,
                'ends' => $tie->ends,
                'cells' => $tie->cells,
                'errors' => $tie->errors,
                'said' => $tie->said,
                'proposal' => $tie->proposal?->toRecord(),
                'since' => $before === null ? null : $tie->since($before),
            ];
        }

        return $made;
    }

    /** What was kept of the same column for the same variable. */
    private function before(Tie $tie, string $source): ?Measured
    {
        foreach ($source === '' ? [] : $this->analysis->model->part('evidence') as $known) {
            if (
                $known instanceof Measured &&
                [$known->source, $known->column, $known->of, $known->at] === [$source, $tie->series->label(), $tie->of, $tie->at]
            ) {
                return $known;
            }
        }

        return null;
    }
}
