<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Fit;

/**
 * Nelder and Mead: a simplex that is turned over, stretched and shrunk. It needs no slopes, so kinks and jumps do not mislead it.
 *
 * Sources: J. A. Nelder, R. Mead, "A simplex method for function minimization", The Computer Journal 7 (1965); F. Gao, L. Han,
 * "Implementing the Nelder–Mead simplex algorithm with adaptive parameters", Computational Optimization and Applications 51 (2012).
 */
final readonly class Simplex implements Search
{
    /** Of the box, to begin with; and for the second time, from where the first ended. */
    private const SIZES = [0.1, 0.03];

    private const MOST_FOR_EACH = 400;

    /** @param  list<Freed>  $freed */
    public function __construct(private array $freed)
    {
    }

    public function from(array $start): \Generator
    {
        $box = new Box($this->freed);
        $best = $box->shares($start);
        $value = INF;
        $isConverged = false;
        foreach (self::SIZES as $size) {
            $walk = $this->walk($box, $best, $size);
            while ($walk->valid()) {
                $walk->send(yield $walk->current());
            }
            [$best, $value, $isConverged] = $walk->getReturn();
        }

        return new Found($box->point($best), $value, $isConverged);
    }

    /**
     * @param  list<float>  $start  in the box
     * @return \Generator<int, list<list<float>>, list<?list<float>>, array{list<float>, float, bool}>
     */
    private function walk(Box $box, array $start, float $size): \Generator
    {
        $n = count($start);
        [$stretch, $draw, $shrink] = [1.0 + 2.0 / max(2, $n), 0.75 - 1.0 / (2.0 * max(2, $n)), 1.0 - 1.0 / max(2, $n)];
        $corners = [$start];
        for ($i = 0; $i < $n; $i++) {
            $corners[] = [...$start, $i => $start[$i] + ($start[$i] + $size > 1.0 ? -$size : $size)];
        }
        $values = array_map(Found::distance(...), yield array_map($box->point(...), $corners));
        for ($asked = $n + 1; $asked < self::MOST_FOR_EACH * $n;) {
            array_multisort($values, SORT_ASC, SORT_NUMERIC, $corners);
            $spread = 0.0;
            foreach ($corners as $corner) {
                foreach ($corner as $i => $v) {
                    $spread = max($spread, abs($v - $corners[0][$i]));
                }
            }
            if ($spread < 1e-10 || (1e-14 * abs($values[0]) >= $values[$n] - $values[0] && $spread < 1e-7)) {
                return [$corners[0], $values[0], $values[0] < INF];
            }
            $middle = array_fill(0, $n, 0.0);
            for ($c = 0; $c < $n; $c++) {
                $middle = array_map(static fn (float $m, float $v): float => $m + $v / $n, $middle, $corners[$c]);
            }
            $at = static fn (float $by): array => $box->clipped(
                array_map(static fn (float $m, float $v): float => $m + $by * ($m - $v), $middle, $corners[$n]),
            );
            $over = $at(1.0);
            [$gaps] = (yield [$box->point($over)]);
            $asked++;
            $reached = Found::distance($gaps);
            if ($reached >= $values[0] && $reached < $values[$n - 1]) {
                [$corners[$n], $values[$n]] = [$over, $reached];

                continue;
            }
            $next = $at(
                match (true) {
                    $reached < $values[0] => $stretch,
                    $reached < $values[$n] => $draw,
                    default => -$draw,
                },
            );
            [$gaps] = (yield [$box->point($next)]);
            $asked++;
            $further = Found::distance($gaps);
            if ($further < min($reached, $values[$n])) {
                [$corners[$n], $values[$n]] = [$next, $further];
            } elseif ($reached < $values[0]) {
                [$corners[$n], $values[$n]] = [$over, $reached];
            } else {
                for ($c = 1; $c <= $n; $c++) {
                    $corners[$c] = array_map(static fn (float $b, float $v): float => $b + $shrink * ($v - $b), $corners[0], $corners[$c]);
                }
                $told = (yield array_map($box->point(...), array_slice($corners, 1)));
                $asked += $n;
                foreach ($told as $c => $gaps) {
                    $values[$c + 1] = Found::distance($gaps);
                }
            }
        }

        return [$corners[0], $values[0], false];
    }
}
