<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Fit;

use MerryOrbit\Core\Law\Special;
use Random\Engine\Xoshiro256StarStar;
use Random\Randomizer;

/**
 * One chain of draws. Each step is one of three, by chance: to a place that is drawn anew from about where the best fit says they are; a
 * walk whose steps learn during the warm-up how far they can go in which direction; or as far as two places of the warm-up lie apart,
 * which goes along valleys that are bent. All leave the posterior as it is; what was learned stays as it is while draws are kept.
 *
 * Sources: N. Metropolis and others (1953) and W. K. Hastings (1970) for the chain; M. Vihola, "Robust adaptive Metropolis algorithm with
 * coerced acceptance rate", Statistics and Computing 22 (2012), for the walk; C. J. F. ter Braak, J. A. Vrugt, "Differential evolution
 * Markov chain with snooker updater and fewer chains", Statistics and Computing 18 (2008), for differences of past places.
 *
 * @phpstan-type Drawn array{draws: list<list<float>>, sds: list<list<float>>, accepted: int}
 */
final readonly class Chain
{
    /** Of the draws of a chain, before any is kept; and at least so many. */
    private const WARM_UP = 1.0;

    private const FEWEST = 200;

    /** How often a draw is tried anew, of all steps; and by a difference of places. */
    private const ANEW = 0.35;

    private const APART = 0.4;

    /** Places of the warm-up that are remembered at the least before differences are tried. */
    private const REMEMBERED = 30;

    /** How often the whole difference is tried, which may lead from one valley to another. */
    private const WHOLE = 0.1;

    /** Degrees of freedom of the t distribution that they come from: its tails are longer than those of a posterior should be. */
    private const TAILS = 5;

    private const WANTED = 0.25;

    /** How much wider than what was seen draws are tried, as a factor of variances. */
    private const WIDER = 1.5;

    /**
     * @param  list<float>  $middle  where new draws come from
     * @param  list<list<float>>  $spread  a lower triangle
     */
    public function __construct(
        private Belief $belief,
        private Likelihood $likelihood,
        private array $middle,
        private array $spread,
        private int $seed,
    ) {
    }

    /**
     * @param  int  $number  of the chain: each has chance of its own
     * @param  int  $each  draws that are kept
     * @return \Generator<int, list<list<float>>, list<?list<float>>, Drawn> asks for points, one at a time; is sent the gaps there
     */
    public function walk(int $number, int $each): \Generator
    {
        $random = new Randomizer(new Xoshiro256StarStar(hash('sha256', "$this->seed/chain $number", true)));
        $uniform = static fn (): float => ($random->getInt(0, (1 << 52) - 1) + 0.5) / (1 << 52);
        $n = count($this->middle);
        [$point, [$height, $sums]] = yield from $this->start($uniform);
        $walk = array_map(
            static fn (array $row): array => array_map(static fn (float $v): float => (2.38 / sqrt($n)) * $v, $row),
            $this->spread,
        );
        $warm = self::warmUp($each);
        $draws = $sds = $past = [];
        $about = [[$this->middle, $this->spread]];
        $accepted = 0;
        for ($step = 0; $step < $warm + $each; $step++) {
            $kind = $uniform();
            $isAnew = $kind < self::ANEW;
            $isApart = ! $isAnew && $kind < self::ANEW + self::APART && count($past) >= self::REMEMBERED;
            $z = array_map(static fn (): float => Special::normalQuantile($uniform()), $point);
            if ($isApart) {
                $to = $this->apart($point, $past, $z, $uniform);
            } elseif ($isAnew) {
                // A t distribution: a normal one over the root of a chi-square.
                $tail = sqrt(self::TAILS / $this->chiSquare(self::TAILS, $uniform));
                [$middle, $spread] = $about[(int) ($uniform() * count($about))];
                $to = $this->placed($middle, $spread, array_map(static fn (float $v): float => $v * $tail, $z));
            } else {
                $to = $this->placed($point, $walk, $z);
            }
            [$reached, $there] = yield from $this->at($to);
            $gain = $reached - $height + ($isAnew ? self::logAnew($about, $point) - self::logAnew($about, $to) : 0.0);
            $chance = is_nan($gain) ? 0.0 : exp(min(0.0, $gain));
            $isTaken = $uniform() < $chance;
            if ($isTaken) {
                [$point, $height, $sums] = [$to, $reached, $there];
            }
            if ($step < $warm) {
                $walk = $isAnew || $isApart ? $walk : $this->learned($walk, $z, $chance, $step);
                // Where it began is forgotten.
                if ($step >= $warm / 4) {
                    $past[] = $point;
                }
                if ($step + 1 === intdiv($warm, 2) || $step + 1 === $warm) {
                    $about = [[$this->middle, $this->spread], ...$this->seen($past)];
                }

                continue;
            }
            $accepted += $isTaken ? 1 : 0;
            $draws[] = $point;
            $sds[] = $this->sdsOf($sums, $uniform);
        }

        return ['draws' => $draws, 'sds' => $sds, 'accepted' => $accepted];
    }

    /** Steps before any draw is kept. */
    public static function warmUp(int $each): int
    {
        return max(self::FEWEST, (int) (self::WARM_UP * $each));
    }

    /**
     * @param  list<float>  $point
     * @return \Generator<int, list<list<float>>, list<?list<float>>, array{float, list<float>}> the logarithm of the posterior without its
     *   constant, and the sum of squares of each series
     */
    private function at(array $point): \Generator
    {
        $prior = $this->belief->logDensity($point);
        if ($prior === -INF) {
            return [-INF, []];
        }
        [$gaps] = (yield [$point]);
        [$log, $sums] = $this->likelihood->at($gaps);

        return [$prior + $log, $sums];
    }

    /**
     * Chains begin apart from each other, somewhat wider than where they will be.
     *
     * @param  \Closure(): float  $uniform
     * @return \Generator<int, list<list<float>>, list<?list<float>>, array{list<float>, array{float, list<float>}}>
     */
    private function start(\Closure $uniform): \Generator
    {
        for ($try = 0; $try < 50; $try++) {
            $z = array_map(static fn (): float => 2.0 * Special::normalQuantile($uniform()), $this->middle);
            $point = $this->placed($this->middle, $this->spread, $z);
            $at = yield from $this->at($point);
            if ($at[0] > -INF) {
                return [$point, $at];
            }
        }

        return [$this->middle, (yield from $this->at($this->middle))];
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
     * @param  list<float>  $point
     * @param  non-empty-list<list<float>>  $past
     * @param  list<float>  $z
     * @param  \Closure(): float  $uniform
     * @return list<float>
     */
    private function apart(array $point, array $past, array $z, \Closure $uniform): array
    {
        $one = $past[(int) ($uniform() * count($past))];
        $other = $past[(int) ($uniform() * count($past))];
        $part = $uniform() < self::WHOLE ? 1.0 : 2.38 / sqrt(2 * count($point));
        // A little to all sides besides, so that every place can be reached.
        $aside = $this->placed(array_fill(0, count($point), 0.0), $this->spread, $z);

        return array_map(
            static fn (float $v, float $a, float $b, float $by): float => $v + $part * ($a - $b) + 0.01 * $by,
            $point,
            $one,
            $other,
            $aside,
        );
    }

    /**
     * Where the warm-up was, somewhat wider: that is known better than from the slopes at the best fit where the posterior is bent.
     *
     * @param  list<list<float>>  $past
     * @return list<array{list<float>, list<list<float>>}>
     */
    private function seen(array $past): array
    {
        $n = count($this->middle);
        $many = count($past);
        if ($many < 10 * $n) {
            return [];
        }
        $means = array_map(static fn (int $j): float => array_sum(array_column($past, $j)) / $many, range(0, $n - 1));
        $spread = [];
        for ($i = 0; $i < $n; $i++) {
            for ($j = 0; $j < $n; $j++) {
                $sum = $i === $j ? 1e-6 * $many * $this->spread[$i][$i] ** 2 : 0.0;
                foreach ($past as $point) {
                    $sum += ($point[$i] - $means[$i]) * ($point[$j] - $means[$j]);
                }
                $spread[$i][$j] = (self::WIDER * $sum) / $many;
            }
        }

        return [[$means, Symmetric::root(array_values(array_map(array_values(...), $spread)))]];
    }

    /**
     * How likely a place is among those that are drawn anew, as a logarithm without its constant.
     *
     * @param  non-empty-list<array{list<float>, list<list<float>>}>  $about
     * @param  list<float>  $point
     */
    private static function logAnew(array $about, array $point): float
    {
        $logs = array_map(static function (array $one) use ($point): float {
            [$middle, $spread] = $one;
            $z = [];
            $size = 0.0;
            foreach ($spread as $i => $row) {
                $v = $point[$i] - $middle[$i];
                foreach ($z as $k => $known) {
                    $v -= $row[$k] * $known;
                }
                $z[] = $v / $row[$i];
                $size += log($row[$i]);
            }

            return -0.5 * (self::TAILS + count($point)) * log(1.0 + Found::distance($z) / self::TAILS) - $size;
        }, $about);
        $most = max($logs);

        return $most + log(array_sum(array_map(static fn (float $l): float => exp($l - $most), $logs)));
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

        return Symmetric::root($matrix);
    }

    /**
     * Standard deviations of the errors that are not known, given the sums of squares.
     *
     * @param  list<float>  $sums
     * @param  \Closure(): float  $uniform
     * @return list<float>
     */
    private function sdsOf(array $sums, \Closure $uniform): array
    {
        $sds = [];
        foreach ($this->likelihood->open as $s => $count) {
            $sds[] = sqrt(($sums[$s] ?? 0.0) / $this->chiSquare(max(1, (int) round($count)), $uniform));
        }

        return $sds;
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
