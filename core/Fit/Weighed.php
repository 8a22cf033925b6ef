<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Fit;

/**
 * A search that is told what runs have, and makes gaps of that itself: where the sizes of errors are not known it looks for them too, by
 * turns with the numbers. Each turn begins where the last one ended, so it takes few runs.
 *
 * Source: W. Oberhofer, J. Kmenta, "A general procedure for obtaining maximum likelihood estimates in generalized regression models",
 * Econometrica 42 (1974), for estimates by turns.
 */
final readonly class Weighed
{
    private const MOST_TURNS = 12;

    /** Sizes that change by less than this part are found; and by less than that, nearly. */
    private const SAME = 1e-4;

    private const NEARLY = 1e-2;

    /** How far a turn is gone as long as sizes still change much, and then. */
    private const ROUGH = 1e-3;

    private const FINE = 1e-7;

    /** @param  string  $using  one of Calibration::WAYS: the first turn; all others, and the last digits, are looked for by slopes */
    public function __construct(private Calibration $calibration, private string $using, private int $seed)
    {
    }

    private function first(): Search
    {
        return $this->using === 'least-squares' && ! $this->calibration->isKnown
            ? new LeastSquares($this->calibration->freed, self::ROUGH)
            : $this->calibration->search($this->using, $this->seed);
    }

    /**
     * @param  list<float>  $start
     * @return \Generator<int, list<list<float>>, list<?list<float>>, Found> asks for points; is sent what runs have there
     */
    public function from(array $start): \Generator
    {
        $gaps = $this->calibration->gaps;
        $scales = [];
        $found = new Found($start, INF, false);
        $search = $this->first();
        $isFine = $this->using === 'least-squares' && $this->calibration->isKnown;
        for ($turn = 0; $turn < self::MOST_TURNS; $turn++) {
            $walk = $search->from($found->point);
            while ($walk->valid()) {
                $points = $walk->current();
                $told = (yield $points);
                $walk->send(
                    array_map(fn (array $p, ?array $there): ?array => $this->calibration->gapsAt($p, $there, $scales), $points, $told),
                );
            }
            $end = $walk->getReturn();
            [$there] = (yield [$end->point]);
            if ($there === null || $gaps->of($there) === null) {
                return new Found($end->point, INF, false);
            }
            $now = $gaps->scales($there);
            $before = $scales === [] ? array_fill(0, count($now), 1.0) : $scales;
            $moved = max([0.0, ...array_map(static fn (float $a, float $b): float => abs($a / $b - 1.0), $now, $before)]);
            [$found, $scales] = [
                new Found($end->point, $this->calibration->distance($end->point, $there, $now), $end->isConverged),
                $now,
            ];
            if ($isFine && $moved < self::SAME) {
                break;
            }
            $isFine = $moved < self::NEARLY;
            $search = new LeastSquares($this->calibration->freed, $isFine ? self::FINE : self::ROUGH);
        }

        return $found;
    }
}
