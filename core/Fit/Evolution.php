<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Fit;

use MerryOrbit\Core\Law\Special;
use Random\Engine\Xoshiro256StarStar;
use Random\Randomizer;

/**
 * A cloud of points that learns in which directions it goes down (CMA-ES): good on narrow bent valleys and where there are several.
 *
 * Source: N. Hansen, "The CMA evolution strategy: a tutorial", arXiv 1604.00772 (2016). Points outside of the bounds are taken from their
 * edge and held to be worse by how far they were outside.
 */
final readonly class Evolution implements Search
{
    private const MOST_FOR_EACH = 1_000;

    private const FIRST_SIZE = 0.25;

    /** @var \Closure(?list<float>): float */
    private \Closure $score;

    /**
     * @param  list<Freed>  $freed
     * @param  (\Closure(?list<float>): float)|null  $score  of what is told of a point, the less the better; the distance of gaps
     * @param  float  $fine  how small a cloud, as a part of the bounds, is a point
     */
    public function __construct(private array $freed, private int $seed, ?\Closure $score = null, private float $fine = 1e-9)
    {
        $this->score = $score ?? Found::distance(...);
    }

    public function from(array $start): \Generator
    {
        $box = new Box($this->freed);
        $n = count($this->freed);
        $random = new Randomizer(new Xoshiro256StarStar(hash('sha256', "$this->seed/evolution/".json_encode($start), true)));
        $many = 4 + (int) floor(3 * log($n));
        $half = intdiv($many, 2);
        $weights = array_map(static fn (int $i): float => log($half + 0.5) - log($i + 1), range(0, $half - 1));
        $sum = array_sum($weights);
        $weights = array_map(static fn (float $w): float => $w / $sum, $weights);
        $mass = 1.0 / array_sum(array_map(static fn (float $w): float => $w * $w, $weights));
        // The rates of learning of the tutorial.
        $cPath = (4 + $mass / $n) / ($n + 4 + (2 * $mass) / $n);
        $cSize = ($mass + 2) / ($n + $mass + 5);
        $cOne = 2 / (($n + 1.3) ** 2 + $mass);
        $cMany = min(1 - $cOne, (2 * ($mass - 2 + 1 / $mass)) / (($n + 2) ** 2 + $mass));
        $damp = 1 + 2 * max(0.0, sqrt(($mass - 1) / ($n + 1)) - 1) + $cSize;
        $usual = sqrt($n) * (1 - 1 / (4 * $n) + 1 / (21 * $n * $n));

        $mean = $box->shares($start);
        $size = self::FIRST_SIZE;
        $path = $steps = array_fill(0, $n, 0.0);
        $shape = Symmetric::unit($n);
        [$axes, $lengths] = [Symmetric::unit($n), array_fill(0, $n, 1.0)];
        $best = $mean;
        $least = INF;
        $isConverged = false;
        for ($asked = 0, $round = 0; $asked < self::MOST_FOR_EACH * $n; $round++) {
            $drawn = $moved = $points = $outside = [];
            for ($k = 0; $k < $many; $k++) {
                $z = array_map(
                    static fn (): float => Special::normalQuantile(($random->getInt(0, (1 << 52) - 1) + 0.5) / (1 << 52)),
                    $mean,
                );
                $y = array_fill(0, $n, 0.0);
                foreach ($axes as $a => $axis) {
                    foreach ($axis as $i => $v) {
                        $y[$i] += $v * $lengths[$a] * $z[$a];
                    }
                }
                $x = array_map(static fn (float $m, float $v): float => $m + $size * $v, $mean, $y);
                $inside = $box->clipped($x);
                $drawn[] = $z;
                $moved[] = $y;
                $points[] = $inside;
                $outside[] = Found::distance(array_map(static fn (float $a, float $b): float => $a - $b, $x, $inside));
            }
            $answers = (yield array_map($box->point(...), $points));
            $asked += $many;
            $values = array_map($this->score, $answers);
            foreach ($values as $k => $v) {
                if ($v < $least) {
                    [$least, $best] = [$v, $points[$k]];
                }
            }
            $known = array_filter($values, is_finite(...));
            if ($known === []) {
                $size *= 0.7;

                continue;
            }
            $range = max($known) - min($known);
            $held = array_map(static fn (float $v, float $o): float => $v + $o * (1.0 + $range) * 10, $values, $outside);
            asort($held);
            $order = array_slice(array_keys($held), 0, $half);
            $step = $whitened = array_fill(0, $n, 0.0);
            foreach ($order as $i => $k) {
                foreach ($moved[$k] as $j => $v) {
                    $step[$j] += $weights[$i] * $v;
                }
                foreach ($axes as $a => $axis) {
                    foreach ($axis as $j => $v) {
                        $whitened[$j] += $weights[$i] * $v * $drawn[$k][$a];
                    }
                }
            }
            $mean = array_map(static fn (float $m, float $v): float => $m + $size * $v, $mean, $step);
            $steps = array_map(
                static fn (float $s, float $w): float => (1 - $cSize) * $s + sqrt($cSize * (2 - $cSize) * $mass) * $w,
                $steps,
                $whitened,
            );
            $length = sqrt(Found::distance($steps));
            $isShort = $length / sqrt(1 - (1 - $cSize) ** (2 * ($round + 1))) < (1.4 + 2 / ($n + 1)) * $usual;
            $path = array_map(
                static fn (float $p, float $v): float => (1 - $cPath) * $p + ($isShort ? sqrt($cPath * (2 - $cPath) * $mass) * $v : 0.0),
                $path,
                $step,
            );
            $kept = 1 - $cOne - $cMany + ($isShort ? 0.0 : $cOne * $cPath * (2 - $cPath));
            foreach ($shape as $i => $row) {
                foreach ($row as $j => $v) {
                    $added = 0.0;
                    foreach ($order as $r => $k) {
                        $added += $weights[$r] * $moved[$k][$i] * $moved[$k][$j];
                    }
                    $row[$j] = $kept * $v + $cOne * $path[$i] * $path[$j] + $cMany * $added;
                }
                $shape[$i] = $row;
            }
            $size *= exp(min(1.0, ($cSize / $damp) * ($length / $usual - 1)));
            [$axes, $lengths] = Symmetric::axes($shape);
            if ($size * max([0.0, ...$lengths]) < $this->fine || $range <= 1e-13 * abs($least)) {
                $isConverged = true;
                break;
            }
        }

        return new Found($box->point($best), $least, $isConverged);
    }
}
