<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Uncertain;

/**
 * How many values lie where: bars of a round width, about as wide as D. Freedman and P. Diaconis, "On the histogram as a density
 * estimator" (1981), would have them.
 */
final class Histogram
{
    private const FEWEST = 5.0;

    private const MOST = 60.0;

    /**
     * @param  list<float>  $sorted  finite, not falling
     * @return list<array{float, float, int}> from, to (left out), how many
     */
    public static function of(array $sorted): array
    {
        $s = Summary::of($sorted, [25.0, 75.0]);
        if ($s === null || $s->max <= $s->min) {
            return $s === null ? [] : [[$s->min, $s->max, count($sorted)]];
        }
        $quartiles = $s->percentiles['75'] - $s->percentiles['25'];
        $usual = $quartiles > 0.0 ? ($s->max - $s->min) / (2.0 * $quartiles * count($sorted) ** (-1 / 3)) : 20.0;
        $raw = ($s->max - $s->min) / min(self::MOST, max(self::FEWEST, $usual));
        $power = 10.0 ** floor(log10($raw));
        $step = 10.0 * $power;
        foreach ([5.0, 2.0, 1.0] as $round) {
            $step = $raw <= $round * $power * (1.0 + 1e-9) ? $round * $power : $step;
        }
        $from = floor($s->min / $step) * $step;
        $bars = array_fill(0, (int) floor(($s->max - $from) / $step) + 1, 0);
        foreach ($sorted as $v) {
            $bars[(int) floor(($v - $from) / $step)]++;
        }

        return array_map(
            static fn (int $count, int $i): array => [$from + $i * $step, $from + ($i + 1) * $step, $count],
            $bars,
            array_keys($bars),
        );
    }

    /**
     * Which share of the values is not above a value, at so many of them.
     *
     * @param  list<float>  $sorted  finite, not falling
     * @return list<array{float, float}> values and shares
     */
    public static function cumulative(array $sorted, int $most): array
    {
        $n = count($sorted);
        $every = max(1, (int) ceil($n / $most));
        $steps = [];
        for ($i = $every - 1; $i < $n; $i += $every) {
            $steps[] = [$sorted[$i], (float) (($i + 1) / $n)];
        }

        return $n % $every === 0 ? $steps : [...$steps, [$sorted[$n - 1], 1.0]];
    }
}
