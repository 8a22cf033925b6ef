<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Fit;

use MerryOrbit\Core\Law\Distribution;
use MerryOrbit\Core\Law\Special;

/** How likely values of the freed numbers are held to be before the data: a distribution for some, else all between the bounds alike. */
final readonly class Belief
{
    /**
     * @param  non-empty-list<Freed>  $freed
     * @param  array<string, Distribution>  $priors  by key; cut by the bounds
     */
    public function __construct(public array $freed, public array $priors)
    {
    }

    /**
     * @param  list<float>  $point
     * @return float the logarithm of the density, without its constant; −INF outside
     */
    public function logDensity(array $point): float
    {
        $sum = 0.0;
        foreach ($this->freed as $j => $f) {
            if ($point[$j] < $f->low || $point[$j] > $f->high) {
                return -INF;
            }
            $prior = $this->priors[$f->key] ?? null;
            $density = $prior === null ? 1.0 : $prior->density($point[$j]);
            if ($density <= 0.0) {
                return -INF;
            }
            $sum += log($density);
        }

        return $sum;
    }

    /**
     * How far each number with a prior is from its middle, in standard deviations, where its distribution is made a normal one by its
     * quantiles: so a search counts it as one measurement more.
     *
     * @param  list<float>  $point
     * @return list<float>
     */
    public function gaps(array $point): array
    {
        $gaps = [];
        foreach ($this->freed as $j => $f) {
            $prior = $this->priors[$f->key] ?? null;
            if ($prior !== null) {
                $gaps[] = Special::normalQuantile(min(1.0 - 1e-15, max(1e-15, $prior->until($point[$j]))));
            }
        }

        return $gaps;
    }

    /** @return list<array{float, float}> middle and variance of each, as of a normal distribution; of no prior as wide as its bounds */
    public function moments(): array
    {
        return array_map(function (Freed $f): array {
            $prior = $this->priors[$f->key] ?? null;
            if ($prior === null) {
                return [0.5 * ($f->low + $f->high), ($f->high - $f->low) ** 2];
            }
            // From its middle half; that of a normal is 1.349 standard deviations wide.
            $sd = ($prior->quantile(0.75) - $prior->quantile(0.25)) / 1.349;

            return [$prior->median(), max($sd, 1e-9 * ($f->high - $f->low)) ** 2];
        }, $this->freed);
    }
}
