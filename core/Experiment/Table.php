<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Experiment;

use MerryOrbit\Core\Simulate\Trajectory;

/** Values of several runs side by side, at chosen times. */
final class Table
{
    /**
     * The values of one variable of one run; null where the run has none.
     *
     * @param  list<float>  $times  increasing
     * @return list<?float> as long as `$times`
     */
    public static function values(Trajectory $run, string $id, array $times): array
    {
        if (! $run->has($id)) {
            return array_map(static fn (): ?float => null, $times);
        }

        return self::known(Alignment::at($run->times(), $run->column($id), $times));
    }

    /**
     * Which of some times lie between two saved moments: values there are on straight lines between those.
     *
     * @param  list<float>  $times  increasing
     * @return list<int> positions in `$times`
     */
    public static function between(Trajectory $run, array $times): array
    {
        $saved = $run->times();
        $last = count($saved) - 1;
        $found = [];
        $i = 0;
        foreach ($times as $k => $time) {
            while ($i < $last && $saved[$i + 1] <= $time) {
                $i++;
            }
            if ($last >= 0 && $time > $saved[0] && $time < $saved[$last] && abs($time - $saved[$i]) > 1e-9 * max(1.0, abs($time))) {
                $found[] = $k;
            }
        }

        return $found;
    }

    /**
     * @param  list<float>  $values
     * @return list<?float> null for what is no number
     */
    public static function known(array $values): array
    {
        return array_map(static fn (float $v): ?float => is_finite($v) ? $v : null, $values);
    }

    /**
     * What one variable comes to in each run, against the first of them.
     *
     * @param  non-empty-list<Trajectory>  $runs  the base first
     * @param  ?float  $time  null for the end of each run
     * @return list<array{value: ?float, difference: ?float, percent: ?float}> as many as runs
     */
    public static function against(array $runs, string $id, ?float $time = null): array
    {
        $at = static function (Trajectory $run) use ($id, $time): ?float {
            $end = $run->times()[$run->length() - 1] ?? null;

            return $end === null ? null : self::values($run, $id, [$time ?? $end])[0];
        };
        $base = $at($runs[0]);

        return array_map(static function (Trajectory $run) use ($at, $base): array {
            $value = $at($run);
            $both = $value !== null && $base !== null;

            return [
                'value' => $value,
                'difference' => $both ? $value - $base : null,
                'percent' => $both ? self::known(Alignment::percent([$value], [$base]))[0] : null,
            ];
        }, $runs);
    }

    /**
     * What a variable does in a run in a few numbers.
     *
     * @return ?array{first: float, last: float, least: float, most: float, leastAt: float, mostAt: float, mean: float, total: float, settled: ?float} total: its integral over time; settled: since when it stays within a thousandth of its range of its last value, null if it does so only at the very end; null without values
     */
    public static function summary(Trajectory $run, string $id): ?array
    {
        $values = $run->has($id) ? $run->column($id) : [];
        $times = $run->times();
        $last = count($values) - 1;
        if ($last < 0) {
            return null;
        }
        $least = $most = 0;
        $area = 0.0;
        foreach ($values as $i => $value) {
            $least = $value < $values[$least] ? $i : $least;
            $most = $value > $values[$most] ? $i : $most;
            $area += $i === 0 ? 0.0 : (($times[$i] - $times[$i - 1]) * ($value + $values[$i - 1])) / 2.0;
        }
        $near = 1e-3 * ($values[$most] - $values[$least]);
        $settled = $last;
        while ($settled > 0 && abs($values[$settled - 1] - $values[$last]) <= $near) {
            $settled--;
        }
        $span = $times[$last] - $times[0];

        return [
            'first' => $values[0],
            'last' => $values[$last],
            'least' => $values[$least],
            'most' => $values[$most],
            'leastAt' => $times[$least],
            'mostAt' => $times[$most],
            'mean' => $span > 0.0 ? $area / $span : $values[0],
            'total' => $area,
            // Resting for a tenth of the run is what a reader would call settled.
            'settled' => 0.1 * $span <= $times[$last] - $times[$settled] ? $times[$settled] : null,
        ];
    }
}
