<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Fit;

use MerryOrbit\Core\Law\Special;
use MerryOrbit\Core\Uncertain\Ranks;

/**
 * How far several chains of draws agree, and how many independent draws they are worth.
 *
 * Source: A. Vehtari, A. Gelman, D. Simpson, B. Carpenter, P.-C. Bürkner, "Rank-normalization, folding, and localization: an improved R̂
 * for assessing convergence of MCMC", Bayesian Analysis 16 (2021).
 */
final readonly class Chains
{
    /**
     * @param  list<list<float>>  $chains  of one number, all equally long
     * @return array{rhat: ?float, ess: ?float} R̂ of ranks in halves, the larger of that of the draws and of their distances from the
     *   middle; the effective number of draws in the bulk; null of what never moved, or is too short
     */
    public static function told(array $chains): array
    {
        $halves = [];
        foreach ($chains as $chain) {
            $half = intdiv(count($chain), 2);
            if ($half < 4) {
                return ['rhat' => null, 'ess' => null];
            }
            array_push($halves, array_slice($chain, 0, $half), array_slice($chain, -$half));
        }
        $all = array_merge(...$halves);
        sort($all);
        if ($all[0] === $all[count($all) - 1]) {
            return ['rhat' => null, 'ess' => null];
        }
        $middle = 0.5 * ($all[intdiv(count($all) - 1, 2)] + $all[intdiv(count($all), 2)]);
        $folded = array_map(static fn (array $h): array => array_map(static fn (float $v): float => abs($v - $middle), $h), $halves);
        $normal = self::normal($halves);

        return ['rhat' => max(self::rhat($normal), self::rhat(self::normal($folded))), 'ess' => self::ess($normal)];
    }

    /**
     * How the ranks of a chain lie among those of all: of chains that agree every bar has about as many.
     *
     * @param  list<list<float>>  $chains  of one number, all equally long
     * @return list<list<int>> of each chain how many of its draws are in each part of all ranks
     */
    public static function ranks(array $chains, int $bins): array
    {
        $ranks = Ranks::shared(array_merge(...$chains));
        $all = count($ranks);

        return array_map(static function (array $own) use ($bins, $all): array {
            $bars = array_fill(0, $bins, 0);
            foreach ($own as $rank) {
                $bars[min($bins - 1, (int) (($bins * $rank) / $all))]++;
            }

            return array_values($bars);
        }, array_chunk($ranks, max(1, count($chains[0] ?? []))));
    }

    /**
     * Ranks in all chains together, as quantiles of the normal distribution.
     *
     * @param  list<list<float>>  $chains
     * @return list<list<float>>
     */
    private static function normal(array $chains): array
    {
        $ranks = Ranks::shared(array_merge(...$chains));
        $n = count($ranks);
        $scores = array_map(static fn (float $r): float => Special::normalQuantile(($r + 0.625) / ($n + 0.25)), $ranks);

        return array_chunk($scores, max(1, count($chains[0] ?? [])));
    }

    /** @param  list<list<float>>  $chains */
    private static function rhat(array $chains): float
    {
        [$within, $between, $n] = self::variances($chains);

        return $within > 0.0 ? sqrt(($n - 1) / $n + $between / $within) : INF;
    }

    /**
     * @param  list<list<float>>  $chains
     * @return array{float, float, int} the mean variance within, the variance of the means, and how long each is
     */
    private static function variances(array $chains): array
    {
        $n = count($chains[0] ?? [0.0]);
        $means = array_map(static fn (array $c): float => array_sum($c) / $n, $chains);
        $mean = array_sum($means) / count($means);
        $within = $between = 0.0;
        foreach ($chains as $i => $chain) {
            foreach ($chain as $v) {
                $within += ($v - $means[$i]) ** 2;
            }
            $between += ($means[$i] - $mean) ** 2;
        }

        return [$within / (($n - 1) * count($chains)), count($chains) > 1 ? $between / (count($chains) - 1) : 0.0, $n];
    }

    /** @param  list<list<float>>  $chains */
    private static function ess(array $chains): float
    {
        [$within, $between, $n] = self::variances($chains);
        $m = count($chains);
        $whole = ($within * ($n - 1)) / $n + $between;
        $means = array_map(static fn (array $c): float => array_sum($c) / $n, $chains);
        $correlation = static function (int $lag) use ($chains, $means, $n, $m, $within, $whole): float {
            $sum = 0.0;
            foreach ($chains as $i => $chain) {
                for ($t = 0; $t < $n - $lag; $t++) {
                    $sum += ($chain[$t] - $means[$i]) * ($chain[$t + $lag] - $means[$i]);
                }
            }

            return 1.0 - ($within - $sum / ($n * $m)) / $whole;
        };
        // Pairs of neighbours are positive and fall (Geyer): where they do not any more, the rest is noise.
        $time = -1.0;
        $last = INF;
        for ($lag = 0; $lag + 1 < $n; $lag += 2) {
            $pair = ($lag === 0 ? 1.0 : $correlation($lag)) + $correlation($lag + 1);
            if ($pair <= 0.0) {
                break;
            }
            $last = min($last, $pair);
            $time += 2.0 * $last;
        }
        $draws = $n * $m;

        // What swings to and fro may be worth more than it is, but not endlessly.
        return min($draws * log10($draws), $draws / max($time, 1e-9));
    }
}
