<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Data\Steps;

use MerryOrbit\Core\Data\DataSeries;
use MerryOrbit\Core\Data\DataTable;
use MerryOrbit\Core\Data\TableRefused;
use MerryOrbit\Core\Model\CleaningStep;

/** Steps that change what series are called and which there are, and no number. */
final class Columns
{
    /**
     * @param  list<int>  $chosen
     *
     * @throws TableRefused
     */
    public static function renamed(DataTable $table, array $chosen, CleaningStep $step): StepState
    {
        $names = array_unique(array_map(static fn (int $i): string => $table->series[$i]->name, $chosen));
        if ($step->to === '' || count($names) !== 1) {
            throw TableRefused::because(
                $step->to === '' ? 'Say what it is called from now on.' : 'One series at a time gets a new name.',
            );
        }
        $other = array_diff_key($table->series, array_flip($chosen));
        foreach ($other as $s) {
            if (mb_strtolower($s->name) === mb_strtolower($step->to)) {
                throw TableRefused::because("There is a series `$s->name` already.");
            }
        }

        return new StepState(
            Steps::changed($table, $chosen, static fn (DataSeries $s): DataSeries => $s->called($step->to, $s->elements)),
            '`'.reset($names)."` is called `$step->to`",
        );
    }

    /**
     * @param  list<int>  $chosen
     *
     * @throws TableRefused
     */
    public static function without(DataTable $table, array $chosen, CleaningStep $step): StepState
    {
        if ($step->series === []) {
            throw TableRefused::because('Say which series are left out.');
        }

        return new StepState(
            $table->with(array_values(array_diff_key($table->series, array_flip($chosen)))),
            Said::of($table, $chosen).' left out',
        );
    }

    /**
     * Columns that say the same of several places become one series along them.
     *
     * @param  list<int>  $chosen
     *
     * @throws TableRefused
     */
    public static function gathered(DataTable $table, array $chosen, CleaningStep $step): StepState
    {
        if ($step->to === '' || $step->along === '') {
            throw TableRefused::because('Say what the numbers are, as `catch`, and what the columns tell apart, as `harbour`.');
        }
        $series = $table->series;
        $made = [];
        $units = [];
        foreach ($chosen as $i) {
            if (isset($series[$i]->elements[$step->along])) {
                throw TableRefused::because("`{$series[$i]->label()}` is told apart by `$step->along` already.");
            }
            $units[$series[$i]->unit] = true;
            $made[] = $series[$i]->called($step->to, [$step->along => $series[$i]->name, ...$series[$i]->elements]);
            unset($series[$i]);
        }
        if (count($units) > 1) {
            throw TableRefused::because('These columns have different units; bring them to one first.');
        }

        return new StepState(
            $table->with([...array_values($series), ...$made]),
            count($made)." columns become `$step->to`, told apart by `$step->along`",
        );
    }

    /**
     * A series along something becomes a column for each.
     *
     * @param  list<int>  $chosen
     */
    public static function spread(DataTable $table, array $chosen): StepState
    {
        $count = count(array_filter($chosen, static fn (int $i): bool => $table->series[$i]->elements !== []));

        return new StepState(
            Steps::changed(
                $table,
                $chosen,
                static fn (DataSeries $s): DataSeries => $s->called(trim($s->name.' '.implode(' ', $s->elements)), []),
            ),
            Said::counted($count, 'series stands', 'series stand').' for itself'.($count === 1 ? '' : ' each'),
        );
    }
}
