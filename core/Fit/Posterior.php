<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Fit;

use MerryOrbit\Core\Reduce\Processes;
use MerryOrbit\Core\Uncertain\Householder;

/**
 * What the data leave open: draws of the freed numbers by how well runs with them fit, and how likely they were held to be before. Several
 * chains, each by itself, begin at other places; see Chain.
 */
final readonly class Posterior
{
    /**
     * @param  bool  $isSomewhere  whether any run came to an end
     */
    private function __construct(
        private Calibration $calibration,
        private Belief $belief,
        private Chain $chain,
        public bool $isSomewhere,
    ) {
    }

    public static function of(Calibration $calibration, Belief $belief, int $seed): self
    {
        $fitted = $calibration->fit('least-squares', 4, $seed);

        return self::about($calibration, $belief, $fitted->point, is_finite($fitted->distance), $seed);
    }

    /**
     * Around a fit that is known.
     *
     * @param  list<float>  $best
     */
    public static function about(Calibration $calibration, Belief $belief, array $best, bool $isSomewhere, int $seed): self
    {
        $likelihood = new Likelihood($calibration->gaps);
        $chain = new Chain($belief, $likelihood, ...[...self::shape($calibration, $belief, $likelihood, $best), $seed]);

        return new self($calibration, $belief, $chain, $isSomewhere);
    }

    /**
     * As of a straight line through the gaps at the best fit, and a normal belief: where the posterior is, and how wide.
     *
     * @param  list<float>  $best
     * @return array{list<float>, list<list<float>>}
     */
    private static function shape(Calibration $calibration, Belief $belief, Likelihood $likelihood, array $best): array
    {
        [$gaps] = $calibration->at([$best]);
        $slopes = new Slopes($belief->freed, $best);
        $columns =
            $gaps === null ? array_map(static fn (): array => [], $best) : $slopes->columns($gaps, $calibration->at($slopes->points()));
        $sizes = $gaps === null ? [] : $likelihood->sizes($gaps);
        foreach ($columns as $j => $column) {
            $columns[$j] = array_map(static fn (float $v, float $size): float => $v / $size, $column, $sizes);
        }
        $wanted = array_fill(0, count($columns[0] ?? []), 0.0);
        foreach ($belief->moments() as $j => [$middle, $variance]) {
            foreach (array_keys($columns) as $k) {
                $columns[$k][] = $k === $j ? 1.0 / sqrt($variance) : 0.0;
            }
            $wanted[] = ($middle - $best[$j]) / sqrt($variance);
        }
        $solved = Householder::of($columns, $wanted) ?? throw new \LogicException('A belief has a width.');
        $at = array_map(
            static fn (Freed $f, float $b, float $by): float => $f->within($b + $by),
            $belief->freed,
            $best,
            $solved->solution,
        );

        return [$at, Symmetric::root($solved->inverseOfProducts())];
    }

    /** @return \Generator<int, list<list<float>>, list<?list<float>>, array{draws: list<list<float>>, sds: list<list<float>>, accepted: int}> */
    public function walk(int $chain, int $each): \Generator
    {
        return $this->chain->walk($chain, $each);
    }

    /** Draws of each chain, for so many of all together. */
    public static function each(int $draws, int $chains): int
    {
        return max(8, (int) ceil($draws / $chains));
    }

    /**
     * @param  int  $draws  of all chains together
     */
    public function drawn(int $draws, int $chains, int $jobs): Sampled
    {
        $each = self::each($draws, $chains);
        $jobs = max(1, min($jobs, $chains));
        $parts = [];
        for ($job = 0; $job < $jobs; $job++) {
            $mine = array_values(array_filter(range(0, $chains - 1), static fn (int $c): bool => $c % $jobs === $job));
            $parts[] = fn (): array => array_combine($mine, array_map(fn (int $chain): array => $this->made($chain, $each), $mine));
        }
        $all = [];
        foreach (Processes::each($parts) as $some) {
            $all += $some;
        }
        ksort($all);

        return new Sampled($this->belief->freed, $all, $each);
    }

    /** @return array{draws: list<list<float>>, sds: list<list<float>>, accepted: int} */
    private function made(int $chain, int $each): array
    {
        $walk = $this->walk($chain, $each);
        while ($walk->valid()) {
            $walk->send($this->calibration->at($walk->current(), alone: true));
        }

        return $walk->getReturn();
    }
}
