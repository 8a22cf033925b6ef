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

    /** The value at a time, or at the end of the run; null where it has none. */
    public static function valueAt(Trajectory $run, string $id, ?float $time = null): ?float
    {
        $end = $run->times()[$run->length() - 1] ?? null;

        return $end === null ? null : self::values($run, $id, [$time ?? $end])[0];
    }

    /**
     * What one variable comes to in several runs, against the first of them.
     *
     * @param  list<?float>  $values  of the base first
     * @return list<array{value: ?float, difference: ?float, percent: ?float}> as many
     */
    public static function against(array $values): array
    {
        $base = $values[0] ?? null;

        return array_map(static function (?float $value) use ($base): array {
            $both = $value !== null && $base !== null;

            return [
                'value' => $value,
                'difference' => $both ? $value - $base : null,
                'percent' => $both ? self::known(Alignment::percent([$value], [$base]))[0] : null,
            ];
        }, $values);
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
