<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Fit;

/**
 * How likely what was measured is, from the gaps of a run. Where the size of normal errors is not known it has the density 1/sd and is
 * integrated out exactly: the sum of squares to the power of −n/2 is left.
 */
final readonly class Likelihood
{
    /** @var list<int> of each gap its series */
    private array $series;

    /** @var array<int, float> how many measurements a series counts as, of those whose size is integrated out */
    public array $open;

    /** @var list<float> 0 for each series */
    private array $none;

    public function __construct(Gaps $gaps)
    {
        $this->series = $gaps->series();
        $counts = array_count_values($this->series);
        $open = [];
        foreach ($gaps->misses as $s => $misses) {
            if ($misses->isEstimated && $misses->isNormal()) {
                $open[$s] = $misses->weight * ($counts[$s] ?? 0);
            }
        }
        $this->open = $open;
        $this->none = array_map(static fn (): float => 0.0, $gaps->misses);
    }

    /**
     * @param  ?list<float>  $gaps  at the size of errors taken to begin with; of robust kinds at the size that was found
     * @return array{float, list<float>} the logarithm without its constant, −INF where a run cannot be; and the sum of squares of each series
     */
    public function at(?array $gaps): array
    {
        if ($gaps === null) {
            return [-INF, []];
        }
        $sums = $this->none;
        foreach ($gaps as $i => $gap) {
            $sums[$this->series[$i]] += $gap * $gap;
        }
        $sums = array_values($sums);
        $log = 0.0;
        foreach ($sums as $s => $sum) {
            $log -= isset($this->open[$s]) ? 0.5 * $this->open[$s] * log(max($sum, 1e-300)) : 0.5 * $sum;
        }

        return [$log, $sums];
    }

    /**
     * The size of errors of each gap as it is most likely there.
     *
     * @param  list<float>  $gaps
     * @return list<float>
     */
    public function sizes(array $gaps): array
    {
        [, $sums] = $this->at($gaps);

        return array_map(
            fn (int $s): float => isset($this->open[$s]) && $this->open[$s] > 0.0 ? max(sqrt($sums[$s] / $this->open[$s]), 1e-12) : 1.0,
            $this->series,
        );
    }
}
