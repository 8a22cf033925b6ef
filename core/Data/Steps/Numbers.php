<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Data\Steps;

use MerryOrbit\Core\Data\DataSeries;
use MerryOrbit\Core\Data\DataTable;
use MerryOrbit\Core\Data\Grid;
use MerryOrbit\Core\Data\Periods;
use MerryOrbit\Core\Data\TableRefused;
use MerryOrbit\Core\Model\CleaningStep;

/** Steps that change the numbers of series, each by itself, at the times that they have. */
final class Numbers
{
    private const TIME = '/^(?:years?|quarters?|months?|weeks?|days?|hours?)$/';

    /** @param  list<int>  $chosen */
    public static function scaled(DataTable $table, array $chosen, CleaningStep $step): StepState
    {
        $change = static fn (?float $v): ?float => $v === null ? null : $v * $step->factor + $step->plus;
        $unit = $step->to === '' ? null : $step->to;
        $did = array_filter([
            $step->factor === 1.0 ? '' : '× '.Grid::text($step->factor),
            $step->plus === 0.0 ? '' : ($step->plus < 0.0 ? '− ' : '+ ').Grid::text(abs($step->plus)),
            $unit === null ? '' : "in $unit",
        ]);

        return new StepState(
            Steps::changed($table, $chosen, static fn (DataSeries $s): DataSeries => $s->with(array_map($change, $s->values), $unit)),
            Said::of($table, $chosen).' '.($did === [] ? 'as before' : implode(', ', $did)),
        );
    }

    /**
     * A value that somebody does not trust becomes a gap.
     *
     * @param  list<int>  $chosen
     *
     * @throws TableRefused
     */
    public static function setAside(DataTable $table, array $chosen, CleaningStep $step): StepState
    {
        if (count($chosen) !== 1 || $step->at === '') {
            throw TableRefused::because('Say of which one series, and at which time.');
        }
        $series = $table->series[$chosen[0]];
        $at = Steps::at($table, $step->at);
        // A time that comes twice loses both.
        $values = array_map(
            static fn (?float $v, float $t): ?float => $t === $table->times[$at] ? null : $v,
            $series->values,
            $table->times,
        );
        $was = $series->values[$at];

        return new StepState(
            Steps::changed($table, $chosen, static fn (DataSeries $s): DataSeries => $s->with($values)),
            $was === null
                ? "there is no value of `{$series->label()}` at $step->at"
                : Grid::text($was)." of `{$series->label()}` at $step->at set aside",
        );
    }

    /**
     * A value that was written wrong is what was meant.
     *
     * @param  list<int>  $chosen
     *
     * @throws TableRefused
     */
    public static function mended(DataTable $table, array $chosen, CleaningStep $step): StepState
    {
        if (count($chosen) !== 1 || $step->at === '' || $step->value === null) {
            throw TableRefused::because('Say of which one series, at which time, and what the number is.');
        }
        $series = $table->series[$chosen[0]];
        $at = Steps::at($table, $step->at);
        $was = $series->values[$at] === null ? 'a gap' : Grid::text($series->values[$at]);
        $values = [...array_slice($series->values, 0, $at), $step->value, ...array_slice($series->values, $at + 1)];

        return new StepState(
            Steps::changed($table, $chosen, static fn (DataSeries $s): DataSeries => $s->with($values)),
            Grid::text($step->value)." of `{$series->label()}` at $step->at, in place of $was",
        );
    }

    /**
     * Gaps become the straight line between what was measured before and after, or what was measured before.
     *
     * @param  list<int>  $chosen
     *
     * @throws TableRefused
     */
    public static function bridged(DataTable $table, array $chosen, CleaningStep $step): StepState
    {
        if (! in_array($step->take, ['straight', 'last'], true)) {
            throw TableRefused::because('Say how gaps are filled: straight between the neighbours, or with the last value.');
        }
        $count = 0;
        $made = Steps::changed($table, $chosen, static function (DataSeries $s) use ($table, $step, &$count): DataSeries {
            $values = $s->values;
            $before = null;
            foreach ($values as $i => $value) {
                if ($value !== null) {
                    for ($k = $before === null ? $i : $before + 1; $k < $i; $k++) {
                        $width = $table->times[$i] - $table->times[(int) $before];
                        $part = $width > 0.0 ? ($table->times[$k] - $table->times[(int) $before]) / $width : 0.0;
                        $from = (float) $s->values[(int) $before];
                        $values[$k] = $step->take === 'last' ? $from : $from + $part * ($value - $from);
                        $count++;
                    }
                    $before = $i;
                }
            }
            // After the last value only what is held goes on.
            for ($k = count($values) - 1; $step->take === 'last' && $before !== null && $k > $before; $k--) {
                $values[$k] = $s->values[$before];
                $count++;
            }

            return $s->with(array_values($values));
        });
        $how = $step->take === 'last' ? 'with the last value' : 'straight between the neighbours';

        return new StepState($made, Said::counted($count, 'gap', 'gaps')." filled $how");
    }

    /**
     * Numbers of a base time count as 100.
     *
     * @param  list<int>  $chosen
     *
     * @throws TableRefused
     */
    public static function indexed(DataTable $table, array $chosen, CleaningStep $step): StepState
    {
        $at = Steps::at($table, $step->at);
        $top = $step->factor === 1.0 ? 100.0 : $step->factor;
        $made = Steps::changed($table, $chosen, static function (DataSeries $s) use ($at, $step, $top): DataSeries {
            $base = $s->values[$at] ?? 0.0;
            if ($base === 0.0) {
                throw TableRefused::because("`{$s->label()}` has no value at $step->at, or 0: nothing can be held against it.");
            }

            return $s->with(array_map(static fn (?float $v): ?float => $v === null ? null : ($v / $base) * $top, $s->values), '');
        });

        return new StepState($made, Said::of($table, $chosen).': '.Grid::text($top)." at $step->at");
    }

    /**
     * Amounts of periods become rates: what was caught in January ÷ the length of January.
     *
     * @param  list<int>  $chosen
     *
     * @throws TableRefused
     */
    public static function rates(DataTable $table, array $chosen, CleaningStep $step): StepState
    {
        $unit = self::unitOf($step, $table);
        $periods = Periods::of($table);
        $lengths = self::lengths($table, $periods, $unit);
        $made = Steps::changed(
            $table,
            $chosen,
            static fn (DataSeries $s): DataSeries => $s->with(
                array_map(static fn (?float $v, float $l): ?float => $v === null ? null : $v / $l, $s->values, $lengths),
                ($s->unit === '' ? '1' : $s->unit).'/'.$unit,
                'mean',
            ),
        );

        return new StepState(
            $made,
            Said::of($table, $chosen).': amounts of each '.self::each($table, $periods)." become rates per $unit",
        );
    }

    /**
     * Rates become amounts of the periods.
     *
     * @param  list<int>  $chosen
     *
     * @throws TableRefused
     */
    public static function amounts(DataTable $table, array $chosen, CleaningStep $step): StepState
    {
        $unit = self::unitOf($step, $table);
        $periods = Periods::of($table);
        $lengths = self::lengths($table, $periods, $unit);
        $made = Steps::changed(
            $table,
            $chosen,
            static fn (DataSeries $s): DataSeries => $s->with(
                array_map(static fn (?float $v, float $l): ?float => $v === null ? null : $v * $l, $s->values, $lengths),
                (string) preg_replace('~\s*(?:/|per)\s*'.preg_quote($unit, '~').'s?$~u', '', $s->unit),
                'sum',
            ),
        );

        return new StepState(
            $made,
            Said::of($table, $chosen).": rates per $unit become amounts of each ".self::each($table, $periods),
        );
    }

    private static function unitOf(CleaningStep $step, DataTable $table): string
    {
        $unit = mb_strtolower($step->to);
        if ($unit === '') {
            throw TableRefused::because('Say per which unit of time: year, month, week, day.');
        }

        return (string) preg_replace('/s$/', '', $unit);
    }

    /** The period that each time begins, as people say it: a month, two years. */
    private static function each(DataTable $table, Periods $periods): string
    {
        $own = self::own($table);

        return match (true) {
            ! is_numeric($periods->each) || $own === '' => $periods->words(),
            (float) $periods->each === 1.0 => $own,
            default => $periods->words()." {$own}s",
        };
    }

    /** The unit that the times of a table are numbered in, where its name says so. */
    private static function own(DataTable $table): string
    {
        $name = mb_strtolower($table->timeName);

        return preg_match(self::TIME, $name) === 1 ? (string) preg_replace('/s$/', '', $name) : '';
    }

    /** @return list<float> */
    private static function lengths(DataTable $table, Periods $periods, string $unit): array
    {
        $own = self::own($table) ?: $unit;

        return array_map(static fn (float $t): float => $periods->length($t, $unit, $own) ?: 1.0, $table->times);
    }
}
