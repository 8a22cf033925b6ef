<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Uncertain;

/**
 * How many of many runs lie above a value, and how sure that is: the 95 % interval of the share, as if the runs were drawn by plain chance
 * (a Latin hypercube is surer). Source: E. B. Wilson, "Probable inference", Journal of the American Statistical Association 22 (1927).
 */
final readonly class Beyond
{
    private const SURE = 1.959963984540054;

    private function __construct(public float $share, public float $low, public float $high)
    {
    }

    /**
     * @param  list<float>  $values
     * @return ?self null of none
     */
    public static function of(array $values, float $limit): ?self
    {
        $n = count($values);
        if ($n === 0) {
            return null;
        }
        $share = count(array_filter($values, static fn (float $v): bool => $v > $limit)) / $n;
        $squared = self::SURE ** 2 / $n;
        $middle = ($share + $squared / 2.0) / (1.0 + $squared);
        $way = (self::SURE * sqrt(($share * (1.0 - $share)) / $n + $squared / (4.0 * $n))) / (1.0 + $squared);

        return new self($share, max(0.0, $middle - $way), min(1.0, $middle + $way));
    }
}
