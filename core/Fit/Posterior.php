<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Fit;

use MerryOrbit\Core\Law\Special;
use MerryOrbit\Core\Reduce\Processes;
use MerryOrbit\Core\Uncertain\Householder;
use Random\Engine\Xoshiro256StarStar;
use Random\Randomizer;

/**
 * What the data leave open: draws of the freed numbers by how well runs with them fit, and how likely they were held to be before. Several
 * chains, each by itself, begin at other places. Each step is one of two, by chance: to a place that is drawn anew from about where the
 * best fit says they are; or a walk whose steps learn during the warm-up how far they can go in which direction. Both leave the
 * posterior as it is; what was learned stays as it is while draws are kept.
 *
 * Sources: N. Metropolis and others (1953) and W. K. Hastings (1970) for the chain; M. Vihola, "Robust adaptive Metropolis algorithm with
 * coerced acceptance rate", Statistics and Computing 22 (2012), for the walk. Where errors are not known their standard deviations, of
 * density 1/sd, are integrated out exactly, and drawn afterwards.
 */
final class Posterior
{
    /** Of the draws of a chain, before any is kept; and at least so many. */
    private const WARM_UP = 0.5;

    private const FEWEST = 200;

    /** How often a draw is tried anew, of all steps. */
    private const ANEW = 0.5;

    /** Degrees of freedom of the t distribution that they come from: its tails are longer than those of a posterior should be. */
    private const TAILS = 5;

    private const WANTED = 0.25;

    /** @var list<float> where new draws come from */
    private array $middle;

    /** @var list<list<float>> its spread, a lower triangle */
    private array $spread;

    /** Whether any run came to an end. */
    public readonly bool $isSomewhere;

    /** @var list<int> of each gap its series */
    private readonly array $series;

    public function __construct(private readonly Calibration $calibration, private readonly Belief $belief, private readonly int $seed)
    {
        $this->series = $calibration->gaps->series();
        $fitted = $calibration->fit('least-squares', 4, $seed);
        $this->isSomewhere = is_finite($fitted->distance);
        [$this->middle, $this->spread] = $this->about($fitted->point);
    }

    /**
     * As of a straight line through the gaps at the best fit, and a normal belief: where the posterior is, and how wide.
     *
     * @param  list<float>  $best
     * @return array{list<float>, list<list<float>>}
     */
    private function about(array $best): array
    {
        [$gaps] = $this->calibration->at([$best]);
        $slopes = new Slopes($this->belief->freed, $best);
        $columns =
            $gaps === null
                ? array_map(static fn (): array => [], $best)
                : $slopes->columns($gaps, $this->calibration->at($slopes->points()));
        $sds = $this->sdsAt($gaps ?? []);
        foreach ($columns as $j => $column) {
            $columns[$j] = array_map(fn (float $v, int $i): float => $v / $sds[$this->series[$i]], $column, array_keys($column));
        }
        $wanted = array_fill(0, count($columns[0] ?? []), 0.0);
        foreach ($this->belief->moments() as $j => [$middle, $variance]) {
            foreach (array_keys($columns) as $k) {
                $columns[$k][] = $k === $j ? 1.0 / sqrt($variance) : 0.0;
            }
            $wanted[] = ($middle - $best[$j]) / sqrt($variance);
        }
        $solved = Householder::of($columns, $wanted) ?? throw new \LogicException('A belief has a width.');
        $at = array_map(
            static fn (Freed $f, float $b, float $by): float => $f->within($b + $by),
            $this->belief->freed,
            $best,
            $solved->solution,
        );

        return [$at, self::root($solved->inverseOfProducts())];
    }

    /**
     * @param  list<float>  $gaps
     * @return list<float> of each series, in units of the gaps
     */
    private function sdsAt(array $gaps): array
    {
        $sums = $counts = array_fill(0, count($this->calibration->gaps->misses), 0.0);
        foreach ($gaps as $i => $gap) {
            $sums[$this->series[$i]] += $gap * $gap;
            $counts[$this->series[$i]]++;
        }

        return array_map(
            fn (float $sum, float $n): float => $this->calibration->isKnown || $n < 1 ? 1.0 : max(sqrt($sum / $n), 1e-12),
            $sums,
            $counts,
        );
    }

    /**
     * @param  list<list<float>>  $matrix  symmetric and positive
     * @return list<list<float>> rows of a lower triangle whose product with itself turned over it is
     */
    private static function root(array $matrix): array
    {
        $rows = [];
        foreach ($matrix as $i => $row) {
            $own = [];
            for ($j = 0; $j <= $i; $j++) {
                $sum = $row[$j];
                for ($k = 0; $k < $j; $k++) {
                    $sum -= $own[$k] * ($j === $i ? $own[$k] : $rows[$j][$k]);
                }
                $own[] = $j === $i ? sqrt(max($sum, 1e-300)) : $sum / $rows[$j][$j];
            }
            $rows[] = $own;
        }

        return $rows;
    }

    /**
     * @param  int  $draws  of all chains together
     */
    public function drawn(int $draws, int $chains, int $jobs): Sampled
    {
        $each = max(8, (int) ceil($draws / $chains));
        $jobs = max(1, min($jobs, $chains));
        $parts = [];
        for ($job = 0; $job < $jobs; $job++) {
            $mine = array_values(array_filter(range(0, $chains - 1), static fn (int $c): bool => $c % $jobs === $job));
            $parts[] = fn (): array => array_combine($mine, array_map(fn (int $chain): array => $this->chain($chain, $each), $mine));
        }
        $all = [];
        foreach (Processes::each($parts) as $some) {
            $all += $some;
        }
        ksort($all);

        return new Sampled($this->belief->freed, $all, $each);
    }

    /**
     * @param  list<float>  $point
     * @return array{float, list<float>} the logarithm of the posterior without its constant, and the sum of squares of each series
     */
    private function at(array $point): array
    {
        $prior = $this->belief->logDensity($point);
        if ($prior === -INF) {
            return [-INF, []];
        }
        [$gaps] = $this->calibration->at([$point], alone: true);
        if ($gaps === null) {
            return [-INF, []];
        }
        $sums = $counts = array_fill(0, count($this->calibration->gaps->misses), 0.0);
        foreach ($gaps as $i => $gap) {
            $sums[$this->series[$i]] += $gap * $gap;
            $counts[$this->series[$i]]++;
        }
        foreach ($sums as $s => $sum) {
            $prior -= $this->calibration->isKnown ? 0.5 * $sum : 0.5 * $counts[$s] * log(max($sum, 1e-300));
        }

        return [$prior, array_values($sums)];
    }

    /**
     * @return array{draws: list<list<float>>, sds: list<list<float>>, accepted: int}
     */
    private function chain(int $number, int $each): array
    {
        $random = new Randomizer(new Xoshiro256StarStar(hash('sha256', "$this->seed/chain $number", true)));
        $uniform = static fn (): float => ($random->getInt(0, (1 << 52) - 1) + 0.5) / (1 << 52);
        $n = count($this->middle);
        [$point, [$height, $sums]] = $this->start($uniform);
        $walk = array_map(
            static fn (array $row): array => array_map(static fn (float $v): float => (2.38 / sqrt($n)) * $v, $row),
            $this->spread,
        );
        $warm = max(self::FEWEST, (int) (self::WARM_UP * $each));
        $draws = $sds = [];
        $accepted = 0;
        for ($step = 0; $step < $warm + $each; $step++) {
            $isAnew = $uniform() < self::ANEW;
            $z = array_map(static fn (): float => Special::normalQuantile($uniform()), $point);
            if ($isAnew) {
                // A t distribution: a normal one over the root of a chi-square.
                $tail = sqrt(self::TAILS / $this->chiSquare(self::TAILS, $uniform));
                $to = $this->placed($this->middle, $this->spread, array_map(static fn (float $v): float => $v * $tail, $z));
            } else {
                $to = $this->placed($point, $walk, $z);
            }
            [$reached, $there] = $this->at($to);
            $gain = $reached - $height + ($isAnew ? $this->logAnew($point) - $this->logAnew($to) : 0.0);
            $chance = is_nan($gain) ? 0.0 : exp(min(0.0, $gain));
            $isTaken = $uniform() < $chance;
            if ($isTaken) {
                [$point, $height, $sums] = [$to, $reached, $there];
            }
            if ($step < $warm) {
                $walk = $isAnew ? $walk : $this->learned($walk, $z, $chance, $step);

                continue;
            }
            $accepted += $isTaken ? 1 : 0;
            $draws[] = $point;
            $sds[] = $this->calibration->isKnown ? [] : $this->sdsOf($sums, $uniform);
        }

        return ['draws' => $draws, 'sds' => $sds, 'accepted' => $accepted];
    }

    /**
     * Chains begin apart from each other, somewhat wider than where they will be.
     *
     * @param  \Closure(): float  $uniform
     * @return array{list<float>, array{float, list<float>}}
     */
    private function start(\Closure $uniform): array
    {
        for ($try = 0; $try < 50; $try++) {
            $z = array_map(static fn (): float => 2.0 * Special::normalQuantile($uniform()), $this->middle);
            $point = $this->placed($this->middle, $this->spread, $z);
            $at = $this->at($point);
            if ($at[0] > -INF) {
                return [$point, $at];
            }
        }

        return [$this->middle, $this->at($this->middle)];
    }

    /**
     * @param  list<float>  $from
     * @param  list<list<float>>  $rows
     * @param  list<float>  $z
     * @return list<float>
     */
    private function placed(array $from, array $rows, array $z): array
    {
        return array_map(
            static function (float $v, array $row) use ($z): float {
                foreach ($row as $k => $w) {
                    $v += $w * $z[$k];
                }

                return $v;
            },
            $from,
            $rows,
        );
    }

    /**
     * How likely a place is among those that are drawn anew, as a logarithm without its constant.
     *
     * @param  list<float>  $point
     */
    private function logAnew(array $point): float
    {
        $z = [];
        foreach ($this->spread as $i => $row) {
            $v = $point[$i] - $this->middle[$i];
            foreach ($z as $k => $known) {
                $v -= $row[$k] * $known;
            }
            $z[] = $v / $row[$i];
        }

        return -0.5 * (self::TAILS + count($point)) * log(1.0 + Found::distance($z) / self::TAILS);
    }

    /**
     * Longer or shorter in the direction that was tried, by how likely that step was.
     *
     * @param  list<list<float>>  $walk
     * @param  list<float>  $z
     * @return list<list<float>>
     */
    private function learned(array $walk, array $z, float $chance, int $step): array
    {
        $n = count($z);
        $rate = min(1.0, $n * ($step + 1) ** -0.6) * ($chance - self::WANTED);
        $length = Found::distance($z);
        // S (I + rate · z zᵀ ÷ |z|²) Sᵀ
        $matrix = [];
        $moved = $this->placed(array_fill(0, $n, 0.0), $walk, $z);
        for ($i = 0; $i < $n; $i++) {
            $row = [];
            for ($j = 0; $j < $n; $j++) {
                $sum = ($rate * $moved[$i] * $moved[$j]) / $length;
                for ($k = 0; $k <= min($i, $j); $k++) {
                    $sum += $walk[$i][$k] * $walk[$j][$k];
                }
                $row[] = $sum;
            }
            $matrix[] = $row;
        }

        return self::root($matrix);
    }

    /**
     * Standard deviations of the errors, given the sums of squares.
     *
     * @param  list<float>  $sums
     * @param  \Closure(): float  $uniform
     * @return list<float>
     */
    private function sdsOf(array $sums, \Closure $uniform): array
    {
        $counts = array_count_values($this->series);

        return array_map(
            fn (float $sum, int $s): float => sqrt($sum / $this->chiSquare(max(1, $counts[$s] ?? 1), $uniform)),
            $sums,
            array_keys($sums),
        );
    }

    /** @param  \Closure(): float  $uniform */
    private function chiSquare(int $freedom, \Closure $uniform): float
    {
        $sum = 0.0;
        for ($i = 0; $i < $freedom; $i++) {
            $sum += Special::normalQuantile($uniform()) ** 2;
        }

        return max($sum, 1e-300);
    }
}
