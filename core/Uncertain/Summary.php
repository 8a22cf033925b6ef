<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Uncertain;

/** What many values of one outcome come to. */
final readonly class Summary
{
    /** @param  array<int|string, float>  $percentiles  by their number as it was given */
    private function __construct(
        public float $mean,
        public ?float $sd,
        public float $min,
        public float $max,
        public array $percentiles,
    ) {
    }

    /**
     * @param  list<float>  $values
     * @param  list<float>  $percents  from 0 to 100
     * @return ?self null of no values
     */
    public static function of(array $values, array $percents): ?self
    {
        $values = array_values(array_filter($values, is_finite(...)));
        $n = count($values);
        if ($n === 0) {
            return null;
        }
        sort($values);
        $mean = array_sum($values) / $n;
        // Around the mean, and the mean's own rounding taken out.
        $squares = $rest = 0.0;
        foreach ($values as $v) {
            $squares += ($v - $mean) ** 2;
            $rest += $v - $mean;
        }
        $sd = $n < 2 ? null : sqrt(max(0.0, ($squares - ($rest * $rest) / $n) / ($n - 1)));
        $percentiles = [];
        foreach ($percents as $p) {
            $percentiles[self::named($p)] = self::percentile($values, $p / 100.0);
        }

        return new self($mean, $sd, $values[0], $values[$n - 1], $percentiles);
    }

    /**
     * Of values in a row, moment by moment.
     *
     * @param  list<list<float>>  $runs  of each run what it has at each moment, from a place on
     * @param  list<float>  $percents
     * @return array{mean: list<?float>, percentiles: array<string, list<?float>>} null where no run has a value
     */
    public static function overTime(array $runs, int $from, int $moments, array $percents): array
    {
        $mean = [];
        $percentiles = array_fill_keys(array_map(self::named(...), $percents), []);
        for ($m = 0; $m < $moments; $m++) {
            $s = self::of(array_column($runs, $from + $m), $percents);
            $mean[] = $s?->mean;
            foreach (array_keys($percentiles) as $p) {
                $percentiles[$p][] = $s->percentiles[$p] ?? null;
            }
        }

        return ['mean' => $mean, 'percentiles' => $percentiles];
    }

    /** How a percentile is called. */
    private static function named(float $percent): string
    {
        return (string) json_encode($percent == floor($percent) ? (int) $percent : $percent);
    }

    /**
     * Linear between order statistics. Source: R. J. Hyndman, Y. Fan, "Sample quantiles in statistical packages", The American
     * Statistician 50 (1996), type 7.
     *
     * @param  non-empty-list<float>  $sorted
     */
    public static function percentile(array $sorted, float $share): float
    {
        $at = $share * (count($sorted) - 1);
        $low = (int) floor($at);
        $high = min($low + 1, count($sorted) - 1);

        return $sorted[$low] + ($at - $low) * ($sorted[$high] - $sorted[$low]);
    }
}
