<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Data\Steps;

use MerryOrbit\Core\Data\DataSeries;
use MerryOrbit\Core\Data\DataTable;
use MerryOrbit\Core\Data\Figures;
use MerryOrbit\Core\Data\TableRefused;
use MerryOrbit\Core\Formula\Name;
use MerryOrbit\Core\Model\CleaningStep;

/**
 * Series along one thing as series along another, by a table that says which belongs to which and by which share: coves to bays. A sum
 * gives each bay its share of every cove; where all shares of a cove add up to one, the whole stays the same.
 */
final class OverMapping
{
    private const TAKES = ['sum', 'mean', 'weighted'];

    /**
     * @param  list<int>  $chosen
     *
     * @throws TableRefused
     */
    public static function of(DataTable $table, array $chosen, CleaningStep $step, Others $others): StepState
    {
        if (! in_array($step->take, self::TAKES, true)) {
            throw TableRefused::because('Say what several become together: '.implode(', ', self::TAKES).'.');
        }
        $along = self::along($table, $chosen, $step->along);
        [$shares, $targets] = self::shares($step, $others, $along);
        $groups = $called = $strange = [];
        $used = 0;
        foreach ($chosen as $i) {
            $series = $table->series[$i];
            $element = $series->elements[$along];
            $rest = array_diff_key($series->elements, [$along => '']);
            if (! isset($shares[Name::key($element)])) {
                $strange[$element] = true;

                continue;
            }
            $used++;
            foreach ($shares[Name::key($element)] as $target => $share) {
                $key = json_encode([$series->name, $series->unit, $rest, $target], JSON_THROW_ON_ERROR);
                $groups[$key][] = [$series, $share];
                $called[$key] ??= $series->with([], null, null, [])->called($series->name, [$step->to => $targets[$target], ...$rest]);
            }
        }
        if ($groups === []) {
            throw TableRefused::because("Nothing of `$along` stands in the mapping: ".implode(', ', array_keys($strange)).'.');
        }
        $made = [];
        foreach ($groups as $key => $members) {
            $made[] = self::together($members, $step->take, $called[$key]);
        }
        $left = array_diff_key($table->series, array_flip($chosen));

        return new StepState(
            $table->with([...array_values($left), ...$made]),
            self::said($step, [$used, count($made)], $shares, $strange),
        );
    }

    /** @param  list<int>  $chosen */
    private static function along(DataTable $table, array $chosen, string $along): string
    {
        foreach ($chosen as $i) {
            $found = null;
            foreach (array_keys($table->series[$i]->elements) as $name) {
                $found = Name::key($name) === Name::key($along) ? $name : $found;
            }
            if ($found === null) {
                throw TableRefused::because(
                    "`{$table->series[$i]->label()}` is not told apart by `$along`. Gather columns into one series first.",
                );
            }
        }

        return $found ?? throw TableRefused::because('There is no series at this step.');
    }

    /**
     * @return array{array<string, array<string, float>>, array<string, string>} shares by keys of elements and targets; names of targets
     *
     * @throws TableRefused
     */
    private static function shares(CleaningStep $step, Others $others, string $along): array
    {
        if ($step->source === '' || $step->to === '') {
            throw TableRefused::because("Say by which table, and to which column of it, `$step->along` goes.");
        }
        $words = $others->words($step->source);
        $from = $words->column($step->from === '' ? $along : $step->from, 'mapping');
        $to = $words->column($step->to, 'mapping');
        $share = $step->share === '' ? null : $words->column($step->share, 'mapping');
        $figures = new Figures('.');
        $shares = $targets = [];
        foreach ($words->rows as $row) {
            $read = $share === null ? null : $figures->read($row[$share]) ?? (new Figures(','))->read($row[$share]);
            if ($share !== null && $read === null) {
                throw TableRefused::because("The share `{$row[$share]}` of `{$row[$from]}` is no number.");
            }
            $target = Name::key($row[$to]);
            $value = $read === null ? 1.0 : $read['value'] * ($read['unit'] === '%' ? 0.01 : 1.0);
            $shares[Name::key($row[$from])][$target] = ($shares[Name::key($row[$from])][$target] ?? 0.0) + $value;
            $targets[$target] ??= $row[$to];
        }

        return [$shares, $targets];
    }

    /**
     * @param  list<array{DataSeries, float}>  $members  with their shares
     */
    private static function together(array $members, string $take, DataSeries $called): DataSeries
    {
        $values = $cells = [];
        $isTraced = $members[0][0]->cells !== [];
        foreach (array_keys($members[0][0]->values) as $i) {
            [$sum, $weight, $isWhole, $from] = [0.0, 0.0, true, []];
            foreach ($members as [$series, $share]) {
                $value = $series->values[$i];
                if ($share === 0.0) {
                    continue;
                }
                if ($value === null) {
                    $isWhole = false;

                    continue;
                }
                $part = $take === 'mean' ? 1.0 : $share;
                $sum += $part * $value;
                $weight += $part;
                $from[] = $isTraced ? $series->cells[$i] : '';
            }
            $values[] = match (true) {
                $weight === 0.0 || ($take === 'sum' && ! $isWhole) => null,
                $take === 'sum' => $sum,
                default => $sum / $weight,
            };
            $cells[] = $isTraced ? Cells::together($from) : '';
        }

        return $called->with($values, null, null, $isTraced ? $cells : []);
    }

    /**
     * @param  array{int, int}  $counts  of series before and after
     * @param  array<string, array<string, float>>  $shares
     * @param  array<string, true>  $strange
     */
    private static function said(CleaningStep $step, array $counts, array $shares, array $strange): string
    {
        $how = ['sum' => 'added up', 'mean' => 'as means', 'weighted' => 'as means weighted by their shares'][$step->take] ?? '';
        $said = "$counts[0] series become $counts[1], $how";
        $off = array_filter($shares, static fn (array $s): bool => abs(array_sum($s) - 1.0) > 1e-6);
        if ($off !== [] && $step->take === 'sum') {
            $said .= '; shares of '.self::listed(array_keys($off)).' do not add up to one';
        }

        return $strange === [] ? $said : "$said; not in the mapping, and left out: ".self::listed(array_keys($strange));
    }

    /** @param  list<string>  $names */
    private static function listed(array $names): string
    {
        return implode(', ', array_slice($names, 0, 5)).(count($names) > 5 ? ' and '.(count($names) - 5).' more' : '');
    }
}
