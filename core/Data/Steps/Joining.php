<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Data\Steps;

use MerryOrbit\Core\Data\DataSeries;
use MerryOrbit\Core\Data\DataTable;
use MerryOrbit\Core\Data\Grid;
use MerryOrbit\Core\Data\Moment;
use MerryOrbit\Core\Data\Periods;
use MerryOrbit\Core\Data\TableRefused;
use MerryOrbit\Core\Model\CleaningStep;

/** Steps that take in series of another source, or another series of the same. */
final class Joining
{
    /** @throws TableRefused */
    public static function joined(DataTable $table, CleaningStep $step, Others $others): StepState
    {
        $other = self::other($table, $step, $others);
        [$times, $mine, $theirs] = self::both($table->times, $other->times);
        $labels = array_map(static fn (DataSeries $s): string => mb_strtolower($s->label()), $table->series);
        $fresh = array_map(
            static fn (DataSeries $s): DataSeries => in_array(mb_strtolower($s->label()), $labels, true)
                ? $s->called("$s->name, ".$others->name($step->source), $s->elements)
                : $s,
            $other->series,
        );

        return new StepState(
            $table->with([...self::at($table->series, $mine), ...self::at($fresh, $theirs)], $times),
            Said::counted(count($fresh), 'series', 'series').' of '.$others->name($step->source),
        );
    }

    /**
     * Gaps of series are filled from another, brought to their size by where both were measured.
     *
     * @param  list<int>  $chosen
     *
     * @throws TableRefused
     */
    public static function filled(DataTable $table, array $chosen, CleaningStep $step, Others $others): StepState
    {
        if (! in_array($step->take, ['overlap', 'plain'], true)) {
            throw TableRefused::because(
                'Say whether the other series is brought to the size of this one by their overlap, or taken as it is.',
            );
        }
        $other = $step->source === '' ? $table : self::other($table, $step, $others);
        if ($step->from === '') {
            throw TableRefused::because('Say which series fills the gaps.');
        }
        $from = Steps::chosen($other, [$step->from]);
        [$times, $mine, $theirs] = self::both($table->times, $other->times);
        $series = self::at($table->series, $mine);
        $givers = self::at(array_map(static fn (int $i): DataSeries => $other->series[$i], $from), $theirs);
        $count = 0;
        $factors = [];
        foreach ($chosen as $i) {
            $giver = self::giver($series[$i], $givers, $step->source === '');
            if ($giver === null) {
                continue;
            }
            $factor = $step->take === 'plain' ? 1.0 : self::overlap($series[$i], $giver);
            $factors[] = $factor;
            $values = $cells = [];
            foreach ($series[$i]->values as $at => $value) {
                $isFilled = $value === null && $giver->values[$at] !== null;
                $values[] = $value ?? ($giver->values[$at] === null ? null : $giver->values[$at] * $factor);
                $count += $isFilled ? 1 : 0;
                $whose = $step->source === '' ? '' : $others->name($step->source).' ';
                $cells[] = $isFilled ? $whose.($giver->cells[$at] ?? '') : $series[$i]->cells[$at] ?? '';
            }
            $series[$i] = $series[$i]->with($values, null, null, $series[$i]->cells === [] ? [] : $cells);
        }
        $factors = array_values(
            array_unique(array_map(static fn (float $f): string => Grid::text((float) sprintf('%.4g', $f)), $factors)),
        );
        $by = $step->take === 'plain' || $factors === [] ? '' : ' × '.implode(', ', array_slice($factors, 0, 4));

        return new StepState(
            $table->with(array_values($series), $times),
            Said::counted($count, 'gap', 'gaps')." filled from `$step->from`$by",
        );
    }

    /**
     * The series that stands for the same element, or the only one there is.
     *
     * @param  list<DataSeries>  $givers
     */
    private static function giver(DataSeries $series, array $givers, bool $isOwn): ?DataSeries
    {
        foreach ($givers as $giver) {
            $same =
                array_map('mb_strtolower', array_values($giver->elements)) ===
                array_map('mb_strtolower', array_values($series->elements));
            if ($same && ! ($isOwn && $giver->label() === $series->label())) {
                return $giver;
            }
        }

        return count($givers) === 1 && $givers[0]->elements === [] ? $givers[0] : null;
    }

    /** What the other is multiplied with: sum ÷ sum, where both were measured. */
    private static function overlap(DataSeries $series, DataSeries $giver): float
    {
        [$own, $theirs] = [0.0, 0.0];
        $count = 0;
        foreach ($series->values as $i => $value) {
            $other = $giver->values[$i];
            if ($value !== null && $other !== null) {
                $own += $value;
                $theirs += $other;
                $count++;
            }
        }

        return $count > 0 && $theirs !== 0.0
            ? $own / $theirs
            : throw TableRefused::because(
                "`{$series->label()}` and `{$giver->label()}` were never both measured: there is no overlap to go by.",
            );
    }

    /**
     * The other table, its times told as those of this one.
     *
     * @throws TableRefused
     */
    private static function other(DataTable $table, CleaningStep $step, Others $others): DataTable
    {
        if ($step->source === '') {
            throw TableRefused::because('Say which source.');
        }
        $other = $others->table($step->source);
        if ($other->timeKind === $table->timeKind) {
            return $other;
        }
        $areYears = static fn (DataTable $t): bool => array_filter(
            $t->times,
            static fn (float $y): bool => $y >= 1000 && $y <= 3000 && $y === floor($y),
        ) === $t->times;
        if ($table->timeKind === 'date' && $areYears($other)) {
            return self::timed(
                $other,
                'date',
                array_map(static fn (float $y): float => Moment::of((int) $y)->seconds ?? 0.0, $other->times),
            );
        }
        if ($other->timeKind === 'date' && $areYears($table) && Periods::of($other)->each === 'year') {
            return self::timed($other, 'number', array_map(static fn (float $s): float => (float) gmdate('Y', (int) $s), $other->times));
        }
        throw TableRefused::because('One of the tables has dates, the other numbers: their times cannot be held against each other.');
    }

    /**
     * @param  'number'|'date'  $kind
     * @param  list<float>  $times
     */
    private static function timed(DataTable $t, string $kind, array $times): DataTable
    {
        return new DataTable(
            $t->layout,
            $t->timeName,
            $kind,
            $times,
            DataTable::words($kind, $times),
            $t->series,
            $t->apart,
            $t->remarks,
            $t->understood,
        );
    }

    /**
     * @param  list<float>  $mine
     * @param  list<float>  $theirs
     * @return array{list<float>, list<int|null>, list<int|null>} times of both, and where each stands in the one and the other
     */
    private static function both(array $mine, array $theirs): array
    {
        $key = static fn (float $t): string => (string) json_encode($t);
        $known = array_fill_keys(array_map($key, $mine), true);
        $all = $mine;
        foreach ($theirs as $time) {
            if (! isset($known[$key($time)])) {
                $known[$key($time)] = true;
                $all[] = $time;
            }
        }
        asort($all);
        $own = array_map(static fn (int $i): ?int => $i < count($mine) ? $i : null, array_keys($all));
        $there = array_flip(array_reverse(array_map($key, $theirs), true));
        $seen = [];
        $other = [];
        foreach ($all as $time) {
            // A time that comes twice here takes theirs once.
            $other[] = isset($seen[$key($time)]) ? null : $there[$key($time)] ?? null;
            $seen[$key($time)] = true;
        }

        return [array_values($all), $own, $other];
    }

    /**
     * @param  list<DataSeries>  $series
     * @param  list<int|null>  $places
     * @return list<DataSeries>
     */
    private static function at(array $series, array $places): array
    {
        return array_map(
            static fn (DataSeries $s): DataSeries => $s->with(
                array_map(static fn (?int $i): ?float => $i === null ? null : $s->values[$i], $places),
                null,
                null,
                $s->cells === [] ? [] : array_map(static fn (?int $i): string => $i === null ? '' : $s->cells[$i], $places),
            ),
            $series,
        );
    }
}
