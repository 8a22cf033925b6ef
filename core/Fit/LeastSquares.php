<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Fit;

use MerryOrbit\Core\Uncertain\Householder;

/**
 * Levenberg and Marquardt within bounds: straight lines through the gaps at a point say where they would be least; how far that is trusted
 * is tried at three sizes at once. What stands at a bound and wants beyond it is left there.
 *
 * Sources: J. J. Moré, "The Levenberg–Marquardt algorithm: implementation and theory", Lecture Notes in Mathematics 630 (1978), for the
 * scaling; C. Kanzow, N. Yamashita, M. Fukushima, "Levenberg–Marquardt methods with strong local convergence properties for solving
 * nonlinear equations with convex constraints", J. Comput. Appl. Math. 172 (2004), for the projection on the bounds.
 */
final readonly class LeastSquares implements Search
{
    private const MOST_STEPS = 200;

    /** Below it a step is rounding, and a gain too. */
    private const NOTHING = 1e-13;

    /** The cosine between the gaps and what can still be done about them. */
    private const FLAT = 1e-9;

    private const LEAST_TRUST = 1e12;

    /** Steps that gain less than this part are near the end, where slopes have to be good. */
    private const NEAR = 1e-2;

    /**
     * @param  list<Freed>  $freed
     * @param  float  $fine  it is at rest when a step gains less than this part
     * @param  int  $most  steps
     */
    public function __construct(private array $freed, private float $fine = 1e-10, private int $most = self::MOST_STEPS)
    {
    }

    public function from(array $start): \Generator
    {
        $point = array_map(static fn (Freed $f, float $v): float => $f->within($v), $this->freed, $start);
        [$gaps] = (yield [$point]);
        if ($gaps === null || $point === []) {
            return new Found($point, Found::distance($gaps), $gaps !== null);
        }
        $distance = Found::distance($gaps);
        $scales = array_fill(0, count($point), 0.0);
        $damping = 1e-3;
        $idle = 0;
        $isRough = true;
        for ($step = 0; $step < $this->most; $step++) {
            $slopes = new Slopes($this->freed, $point, $isRough);
            $columns = $slopes->columns($gaps, yield $slopes->points());
            $sizes = array_map(static fn (array $c): float => sqrt(Found::distance($c)), $columns);
            $scales = array_map(static fn (float $a, float $b): float => max($a, $b), $scales, $sizes);
            $free = $this->free($point, $columns, $gaps);
            $steepest = 0.0;
            foreach ($free as $j) {
                $along = abs(self::product($columns[$j], $gaps));
                $steepest = max($steepest, $along / max(1e-300, $sizes[$j] * sqrt($distance)));
            }
            if ($free === [] || $distance === 0.0 || $steepest <= self::FLAT) {
                if ($isRough && $distance > 0.0) {
                    $isRough = false;

                    continue;
                }

                return new Found($point, $distance, true);
            }
            for ($isNearer = false; ! $isNearer && $damping < self::LEAST_TRUST;) {
                $tried = [];
                foreach ([0.1, 1.0, 10.0] as $times) {
                    $to = $this->stepped($point, $columns, $gaps, $scales, $free, $damping * $times);
                    if ($to !== null) {
                        $tried[] = [$to, $damping * $times];
                    }
                }
                $best = null;
                $least = $distance;
                foreach ((yield array_column($tried, 0)) as $i => $there) {
                    if ($there !== null && isset($tried[$i]) && Found::distance($there) < $least) {
                        [$best, $least] = [[...$tried[$i], $there], Found::distance($there)];
                    }
                }
                if ($best === null) {
                    $damping *= 100.0;

                    continue;
                }
                $isNearer = true;
                [$to, $used, $there] = $best;
                $moved = 0.0;
                foreach ($this->freed as $j => $f) {
                    $moved = max($moved, abs($to[$j] - $point[$j]) / max(abs($point[$j]), 1e-12 * ($f->high - $f->low)));
                }
                $gain = ($distance - $least) / $distance;
                $idle = $gain < $this->fine && $moved < 100.0 * $this->fine ? $idle + 1 : 0;
                $isRough = $isRough && $gain > self::NEAR;
                [$point, $gaps, $distance, $damping] = [$to, $there, $least, max(1e-12, $used * 0.3)];
                if ($idle > ($this->fine > 1e-8 ? 0 : 1) || ($gain < self::NOTHING && $moved < 1e-10)) {
                    return new Found($point, $distance, true);
                }
            }
            if (! $isNearer && $isRough) {
                [$isRough, $damping] = [false, 1e-3];
            } elseif (! $isNearer) {
                // Not even a small step against the slope is nearer: what is left of it is rounding, or a kink.
                return new Found($point, $distance, $steepest < 1e-4);
            }
        }

        return new Found($point, $distance, false);
    }

    /**
     * @param  list<float>  $point
     * @param  list<list<float>>  $columns
     * @param  list<float>  $gaps
     * @return list<int> those that do not stand at a bound and want beyond it, and that do anything
     */
    private function free(array $point, array $columns, array $gaps): array
    {
        $free = [];
        foreach ($this->freed as $j => $f) {
            $along = self::product($columns[$j], $gaps);
            if (
                Found::distance($columns[$j]) > 0.0 &&
                ! ($point[$j] <= $f->low && $along > 0.0) &&
                ! ($point[$j] >= $f->high && $along < 0.0)
            ) {
                $free[] = $j;
            }
        }

        return $free;
    }

    /**
     * @param  list<float>  $point
     * @param  list<list<float>>  $columns
     * @param  list<float>  $gaps
     * @param  list<float>  $scales
     * @param  list<int>  $free
     * @return ?list<float>
     */
    private function stepped(array $point, array $columns, array $gaps, array $scales, array $free, float $damping): ?array
    {
        $system = [];
        foreach ($free as $i => $j) {
            // Scaled to columns of one size, with a row behind that holds each step back.
            $column = array_map(static fn (float $v): float => $v / $scales[$j], $columns[$j]);
            foreach (array_keys($free) as $k) {
                $column[] = $k === $i ? sqrt($damping) : 0.0;
            }
            $system[] = $column;
        }
        $wanted = [...array_map(static fn (float $g): float => -$g, $gaps), ...array_fill(0, count($free), 0.0)];
        $solved = Householder::of($system, $wanted);
        if ($solved === null) {
            return null;
        }
        foreach ($free as $i => $j) {
            $point[$j] = $this->freed[$j]->within($point[$j] + $solved->solution[$i] / $scales[$j]);
        }

        return array_values($point);
    }

    /**
     * @param  list<float>  $a
     * @param  list<float>  $b
     */
    private static function product(array $a, array $b): float
    {
        $sum = 0.0;
        foreach ($a as $i => $v) {
            $sum += $v * $b[$i];
        }

        return $sum;
    }
}
