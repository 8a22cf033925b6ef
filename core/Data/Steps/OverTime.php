<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Data\Steps;

use MerryOrbit\Core\Data\DataSeries;
use MerryOrbit\Core\Data\DataTable;
use MerryOrbit\Core\Data\Periods;
use MerryOrbit\Core\Data\TableRefused;
use MerryOrbit\Core\Model\CleaningStep;

/**
 * Values over longer or shorter periods. A sum is spread evenly over the period that it is of and goes to each new period by the part
 * that it shares with it, so that nothing is lost where weeks cross months; a new period that is not covered is a gap. Means of periods
 * are weighted by what they share; values of moments count alike.
 */
final class OverTime
{
    private const TAKES = ['sum', 'mean', 'least', 'greatest', 'first', 'last'];

    private const MOST = 200_000;

    /**
     * @param  list<int>  $chosen
     *
     * @throws TableRefused
     */
    public static function of(DataTable $table, array $chosen, CleaningStep $step): StepState
    {
        if (! in_array($step->take, self::TAKES, true)) {
            throw TableRefused::because('Say what many values become: '.implode(', ', self::TAKES).'.');
        }
        if (count($chosen) < count($table->series)) {
            throw TableRefused::because('All series of a table have the same times: leave out the others, or take all of them.');
        }
        $old = Periods::of($table);
        $new = Periods::called($table, $step->to);
        $shares = self::shares($table->times, $old, $new);
        $begins = array_keys($shares);
        sort($begins);
        $times = array_map(floatval(...), $begins);
        $part = 0;
        $series = [];
        foreach ($table->series as $s) {
            $values = $cells = [];
            foreach ($times as $begin) {
                $inside = $shares[self::key($begin)];
                [$values[], $isPart] = self::value($s, $inside, $new->end($begin) - $begin, $step->take);
                $part += $isPart ? 1 : 0;
                $cells[] = $s->cells === [] ? '' : Cells::together(array_map(static fn (array $in): string => $s->cells[$in[0]], $inside));
            }
            $over = ['sum' => 'sum', 'mean' => 'mean'][$step->take] ?? '';
            $series[] = $s->with($values, null, $over, $s->cells === [] ? [] : $cells);
        }
        $words = 'by '.(is_numeric($new->each) ? "$new->each" : $new->words()).', '.self::told($step->take);

        return new StepState(
            $table->with($series, $times, $new->each),
            $words.($part > 0 ? '; '.Said::counted($part, 'sum is', 'sums are').' of a period that is not whole, and a gap' : ''),
        );
    }

    private static function told(string $take): string
    {
        return ['sum' => 'added up', 'mean' => 'as means', 'least' => 'the least', 'greatest' => 'the greatest'][$take] ?? "the $take";
    }

    private static function key(float $time): string
    {
        return (string) json_encode($time, JSON_PRESERVE_ZERO_FRACTION);
    }

    /**
     * Which rows share how much of which new period.
     *
     * @param  list<float>  $times
     * @return array<string, list<array{int, float, float, bool}>> by beginning: number of the row, what it shares, its own length, whether it
     *   begins there
     */
    private static function shares(array $times, Periods $old, Periods $new): array
    {
        $shares = [];
        foreach ($times as $i => $time) {
            $end = max($old->end($time), $time);
            $begin = $new->begin($time);
            do {
                $next = $new->end($begin);
                $shared = min($end, $next) - max($time, $begin);
                if ($shared > 0.0 || $end === $time) {
                    $shares[self::key($begin)][] = [$i, max(0.0, $shared), $end - $time, $begin <= $time];
                }
                $begin = $next;
                if (count($shares) > self::MOST) {
                    throw TableRefused::because('That would be more than '.number_format(self::MOST).' periods. Take longer ones.');
                }
            } while ($begin < $end - 1e-9 * max(1.0, abs($end)));
        }

        return $shares;
    }

    /**
     * @param  list<array{int, float, float, bool}>  $inside
     * @return array{?float, bool} the value, and whether it is missing since the period is not covered
     */
    private static function value(DataSeries $s, array $inside, float $length, string $take): array
    {
        $isOfPeriods = $s->over !== '';
        $values = $weights = [];
        $covered = 0.0;
        foreach ($inside as [$row, $shared, $own, $beginsHere]) {
            $value = $s->values[$row];
            if ($value === null) {
                continue;
            }
            $covered += $shared;
            if ($take === 'sum') {
                $values[] = $own > 0.0 ? $value * ($shared / $own) : $value;
            } elseif ($isOfPeriods || $beginsHere) {
                $values[] = $value;
                $weights[] = $isOfPeriods && $own > 0.0 ? $shared : 1.0;
            }
        }
        if ($values === []) {
            return [null, false];
        }
        if ($take === 'sum') {
            $isPart = $covered < $length * (1.0 - 1e-9);

            return [$isPart ? null : array_sum($values), $isPart];
        }
        $sum = 0.0;
        foreach ($values as $i => $v) {
            $sum += $v * $weights[$i];
        }

        return [
            match ($take) {
                'mean' => $sum / array_sum($weights),
                'least' => min($values),
                'greatest' => max($values),
                'first' => $values[0],
                default => $values[count($values) - 1],
            },
            false,
        ];
    }
}
