<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Data\Steps;

use MerryOrbit\Core\Data\DataSeries;
use MerryOrbit\Core\Data\DataTable;
use MerryOrbit\Core\Data\TableRefused;
use MerryOrbit\Core\Formula\Name;
use MerryOrbit\Core\Model\CleaningStep;
use MerryOrbit\Core\Problem\Nearest;

/** What is done to a table on the way to the series that are kept: the same steps on the same table give the same. */
final readonly class Steps
{
    /**
     * @param  list<CleaningStep>  $steps
     * @return list<StepState> one for each step
     */
    public static function states(DataTable $table, array $steps, Others $others): array
    {
        $states = [];
        foreach ($steps as $step) {
            try {
                $states[] = $step->isOff ? new StepState($table, 'passed over') : self::one($table, $step, $others);
            } catch (TableRefused $e) {
                $states[] = new StepState($table, '', $e->getMessage());
            }
            $table = $states[count($states) - 1]->table;
        }

        return $states;
    }

    /**
     * @param  list<CleaningStep>  $steps
     *
     * @throws TableRefused where a step cannot be taken
     */
    public static function of(DataTable $table, array $steps, Others $others): DataTable
    {
        foreach (self::states($table, $steps, $others) as $i => $state) {
            if ($state->refusal !== null) {
                throw TableRefused::because('Step '.($i + 1)." ({$steps[$i]->do}): $state->refusal");
            }
            $table = $state->table;
        }

        return $table;
    }

    /** @throws TableRefused */
    private static function one(DataTable $table, CleaningStep $step, Others $others): StepState
    {
        $chosen = self::chosen($table, $step->series);

        return match ($step->do) {
            'rename' => Columns::renamed($table, $chosen, $step),
            'leave out' => Columns::without($table, $chosen, $step),
            'gather' => Columns::gathered($table, $chosen, $step),
            'spread' => Columns::spread($table, $chosen),
            'join' => Joining::joined($table, $step, $others),
            'fill' => Joining::filled($table, $chosen, $step, $others),
            'scale' => Numbers::scaled($table, $chosen, $step),
            'set aside' => Numbers::setAside($table, $chosen, $step),
            'mend' => Numbers::mended($table, $chosen, $step),
            'gaps' => Numbers::bridged($table, $chosen, $step),
            'index' => Numbers::indexed($table, $chosen, $step),
            'rate' => Numbers::rates($table, $chosen, $step),
            'amount' => Numbers::amounts($table, $chosen, $step),
            'over time' => OverTime::of($table, $chosen, $step),
            'over mapping' => OverMapping::of($table, $chosen, $step, $others),
        };
    }

    /**
     * @param  list<string>  $names  of series, or of one element of one; none: all
     * @return list<int> places in the list of series, increasing
     *
     * @throws TableRefused where one is not there
     */
    public static function chosen(DataTable $table, array $names): array
    {
        $chosen = [];
        foreach ($names as $name) {
            $key = Name::key($name);
            $found = array_keys(
                array_filter(
                    $table->series,
                    static fn (DataSeries $s): bool => in_array($key, [Name::key($s->name), Name::key($s->label())], true),
                ),
            );
            if ($found === []) {
                $names = self::names($table);
                $question = Nearest::question($name, $names);
                $there =
                    ' There '.
                    (count($names) === 1 ? 'is ' : 'are ').
                    implode(', ', array_map(static fn (string $n): string => "`$n`", array_slice($names, 0, 8))).
                    '.';
                throw TableRefused::because("There is no series `$name` at this step.".($question === '' ? $there : $question));
            }
            $chosen += array_fill_keys($found, true);
        }
        ksort($chosen);

        return $names === [] ? array_keys($table->series) : array_keys($chosen);
    }

    /** @return list<string> */
    private static function names(DataTable $table): array
    {
        return array_values(array_unique(array_map(static fn (DataSeries $s): string => $s->name, $table->series)));
    }

    /**
     * The table with some of its series changed.
     *
     * @param  list<int>  $chosen
     * @param  \Closure(DataSeries): DataSeries  $change
     */
    public static function changed(DataTable $table, array $chosen, \Closure $change): DataTable
    {
        $series = $table->series;
        foreach ($chosen as $i) {
            $series[$i] = $change($series[$i]);
        }

        return $table->with(array_values($series));
    }

    /**
     * Where a time stands in a table, as it is told there.
     *
     * @throws TableRefused
     */
    public static function at(DataTable $table, string $word): int
    {
        foreach (array_keys($table->times) as $i) {
            if ($table->word($i) === trim($word)) {
                return $i;
            }
        }
        throw TableRefused::because(
            $table->times === []
                ? 'The table has no times.'
                : "There is no row of $word at this step: it goes from {$table->word(0)} to {$table->word(count($table->times) - 1)}.",
        );
    }
}
