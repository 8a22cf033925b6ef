<?php

declare(strict_types=1);

namespace App\Data;

use MerryOrbit\Core\Data\DataRemark;
use MerryOrbit\Core\Data\DataTable;
use MerryOrbit\Core\Data\Steps\StepState;
use MerryOrbit\Core\Data\TableRefused;
use MerryOrbit\Core\Data\TableText;
use MerryOrbit\Core\Model\CleaningStep;

/** A table as the sheets of a workbook: its numbers, where each comes from, and the way from the file to here. */
final class TableSheets
{
    private const MOST_CELLS = 120_000;

    /**
     * @param  list<CleaningStep>  $steps
     * @param  list<StepState>  $states
     * @return list<array{name: string, rows: list<list<string|float|null>>}>
     *
     * @throws TableRefused
     */
    public static function of(string $name, string $content, DataTable $table, array $steps, array $states): array
    {
        if (count($table->times) * (count($table->series) + 1) > self::MOST_CELLS) {
            throw TableRefused::because('This table has more than '.number_format(self::MOST_CELLS).' cells: take it as CSV.');
        }
        $values = static fn (int $s, int $i): ?float => $table->series[$s]->values[$i];
        $cells = static fn (int $s, int $i): ?string => $table->series[$s]->values[$i] === null
            ? null
            : $table->series[$s]->cells[$i] ?? null;

        return [
            ['name' => 'Data', 'rows' => self::table($table, $values)],
            ['name' => 'Where from', 'rows' => self::table($table, $cells)],
            ['name' => 'Notes', 'rows' => self::notes($name, $content, $table, $steps, $states)],
        ];
    }

    /**
     * @param  \Closure(int, int): (float|string|null)  $cell  by series and time
     * @return list<list<string|float|null>>
     */
    private static function table(DataTable $table, \Closure $cell): array
    {
        $rows = [[$table->timeName, ...array_map(TableText::head(...), $table->series)]];
        foreach (array_keys($table->times) as $i) {
            $time = $table->timeKind === 'number' ? $table->times[$i] : $table->word($i);
            $rows[] = [$time, ...array_map(static fn (int $s): string|float|null => $cell($s, $i), array_keys($table->series))];
        }

        return $rows;
    }

    /**
     * @param  list<CleaningStep>  $steps
     * @param  list<StepState>  $states
     * @return list<list<string>>
     */
    private static function notes(string $name, string $content, DataTable $table, array $steps, array $states): array
    {
        $rows = [['file', $name], ['SHA-256', $content], ['layout', $table->layout]];
        foreach ($states as $i => $state) {
            $rows[] = ['step '.($i + 1), ($steps[$i]->do ?? '').': '.($state->refusal ?? $state->said), $steps[$i]->note ?? ''];
        }
        foreach ($table->remarks as $r) {
            $where = array_filter([$r->row === null ? '' : "row $r->row", $r->column === null ? '' : "column $r->column"]);
            $rows[] = [$r->about === DataRemark::NOTE ? 'remark' : $r->about, $r->sentence, implode(', ', $where)];
        }

        return $rows;
    }
}
