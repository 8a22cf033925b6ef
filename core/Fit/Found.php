<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Fit;

/** Where a search ended. */
final readonly class Found
{
    /**
     * @param  list<float>  $point  a value for each freed number
     * @param  float  $distance  the sum of squares there; INF where no run came to an end
     * @param  bool  $isConverged  whether nothing nearer is to be found from there, as far as the search can tell
     */
    public function __construct(public array $point, public float $distance, public bool $isConverged)
    {
    }

    /** @param  ?list<float>  $gaps */
    public static function distance(?array $gaps): float
    {
        $sum = 0.0;
        foreach ($gaps ?? [INF] as $gap) {
            $sum += $gap * $gap;
        }

        return is_nan($sum) ? INF : $sum;
    }
}
