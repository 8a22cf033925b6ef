<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Fit;

use MerryOrbit\Core\Uncertain\Summary;

/** What many runs of one choice come to as one number. The worst of what is to be large is its least. */
enum Over: string
{
    case Mean = 'mean';
    case P5 = 'p5';
    case P95 = 'p95';
    case Worst = 'worst';
    case WorstTwentieth = 'worst-twentieth';
    case Regret = 'regret';

    /**
     * @param  non-empty-list<float>  $values  of the outcome in each run
     * @param  list<float>  $bests  of regret, the best that any choice comes to in that run
     */
    public function of(array $values, bool $isMost, array $bests = []): float
    {
        $sorted = $values;
        sort($sorted);
        $n = count($sorted);
        if ($this === self::Regret) {
            return max(array_map(static fn (float $v, float $b): float => $isMost ? $b - $v : $v - $b, $values, $bests));
        }
        // A twentieth of the runs: of some of them only a part counts where it is no whole number.
        $worst = $isMost ? $sorted : array_reverse($sorted);
        $twentieth = max(1.0, 0.05 * $n);
        $sum = 0.0;
        foreach ($worst as $i => $v) {
            $sum += $v * max(0.0, min(1.0, $twentieth - $i));
        }

        return match ($this) {
            self::Mean => array_sum($values) / $n,
            self::P5 => Summary::percentile($sorted, 0.05),
            self::P95 => Summary::percentile($sorted, 0.95),
            self::Worst => $worst[0],
            self::WorstTwentieth => $sum / $twentieth,
        };
    }
}
