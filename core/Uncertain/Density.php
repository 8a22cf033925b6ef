<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Uncertain;

/**
 * How densely values lie, smoothed by a normal kernel. Its width follows B. W. Silverman, "Density Estimation for Statistics and Data
 * Analysis" (1986), 3.31: 0.9 times the smaller of sd and interquartile range ÷ 1.34, times n to the power of −1/5.
 */
final readonly class Density
{
    private const POINTS = 120;

    /** Beyond so many widths a kernel adds nothing that is seen. */
    private const REACH = 4.0;

    /**
     * @param  float  $width  over which it is smoothed, in the unit of the values; 0 where all are equal
     * @param  list<float>  $at
     * @param  list<float>  $density  per unit
     */
    private function __construct(public float $width, public array $at, public array $density)
    {
    }

    /** @param  list<float>  $sorted  finite, not falling, at least one */
    public static function of(array $sorted): self
    {
        $all = Summary::of($sorted, [25.0, 75.0]);
        if ($all === null || $all->sd === null || $all->sd === 0.0) {
            return new self(0.0, [], []);
        }
        $n = count($sorted);
        $quartiles = ($all->percentiles['75'] - $all->percentiles['25']) / 1.34;
        $width = 0.9 * ($quartiles > 0.0 ? min($all->sd, $quartiles) : $all->sd) * $n ** -0.2;
        $reach = self::REACH * $width;
        [$low, $high] = [$sorted[0] - 3.0 * $width, $sorted[$n - 1] + 3.0 * $width];
        $at = $density = [];
        $first = 0;
        for ($i = 0; $i <= self::POINTS; $i++) {
            $x = $low + (($high - $low) * $i) / self::POINTS;
            while ($first < $n && $sorted[$first] < $x - $reach) {
                $first++;
            }
            $sum = 0.0;
            for ($k = $first; $k < $n && $sorted[$k] <= $x + $reach; $k++) {
                $z = ($x - $sorted[$k]) / $width;
                $sum += exp(-0.5 * $z * $z);
            }
            $at[] = $x;
            $density[] = $sum / ($n * $width * sqrt(2.0 * M_PI));
        }

        return new self($width, $at, $density);
    }
}
