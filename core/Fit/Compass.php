<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Fit;

/**
 * A step to either side along each number, and a shorter one where none is better: a pattern search, which needs nothing but an order of
 * what comes out. Its last good direction is tried too, so it follows an edge.
 *
 * Source: R. Hooke, T. A. Jeeves, "Direct search solution of numerical and statistical problems", Journal of the ACM 8 (1961).
 */
final readonly class Compass implements Search
{
    private const MOST_FOR_EACH = 400;

    /**
     * @param  list<Freed>  $freed
     * @param  \Closure(?list<float>): float  $score  of what is told of a point; the less the better
     */
    public function __construct(private array $freed, private \Closure $score, private float $step = 0.05, private float $fine = 1e-8)
    {
    }

    public function from(array $start): \Generator
    {
        $box = new Box($this->freed);
        $n = count($this->freed);
        $point = $box->shares($start);
        [$told] = (yield [$box->point($point)]);
        $value = ($this->score)($told);
        $along = array_fill(0, $n, 0.0);
        $step = $this->step;
        for ($asked = 1; $step > $this->fine && $asked < self::MOST_FOR_EACH * $n;) {
            $tried = [];
            for ($i = 0; $i < $n; $i++) {
                foreach ([$step, -$step] as $by) {
                    $tried[] = $box->clipped([...$point, $i => $point[$i] + $by]);
                }
            }
            foreach (Found::distance($along) > 0.0 ? [1.0, 2.0, 0.5] : [] as $times) {
                $tried[] = $box->clipped(array_map(static fn (float $p, float $a): float => $p + $times * $a, $point, $along));
            }
            $answers = (yield array_map($box->point(...), $tried));
            $asked += count($tried);
            $best = null;
            $least = $value;
            foreach ($answers as $i => $told) {
                $reached = ($this->score)($told);
                if ($reached < $least && isset($tried[$i])) {
                    [$best, $least] = [$tried[$i], $reached];
                }
            }
            if ($best === null) {
                $step *= 0.5;
                $along = array_map(static fn (float $a): float => 0.5 * $a, $along);

                continue;
            }
            $along = array_map(static fn (float $b, float $p): float => $b - $p, $best, $point);
            [$point, $value] = [$best, $least];
        }

        return new Found($box->point($point), $value, $step <= $this->fine);
    }
}
