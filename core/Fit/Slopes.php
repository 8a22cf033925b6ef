<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Fit;

/**
 * How the gaps change with each freed number at a point: central differences, at a bound from within. Far from where it is flat a
 * difference to one side, with half the runs, shows the way as well.
 */
final readonly class Slopes
{
    /** The cube root of what doubles tell apart: where cutting off and rounding err alike. */
    private const STEP = 6e-6;

    /** The square root of it, for differences to one side. */
    private const ROUGH = 1e-7;

    /** @var list<array{list<float>, list<float>, bool}> of each number two points, and whether both lie on one side */
    private array $pairs;

    /**
     * @param  list<Freed>  $freed
     * @param  list<float>  $point
     */
    public function __construct(private array $freed, private array $point, private bool $isRough = false)
    {
        $pairs = [];
        foreach ($freed as $j => $f) {
            $step = ($isRough ? self::ROUGH : self::STEP) * max(abs($point[$j]), 1e-4 * ($f->high - $f->low));
            $at = static fn (float $by): array => [...$point, $j => $point[$j] + $by];
            $isUp = $f->low > $point[$j] - $step;
            $isDown = $f->high < $point[$j] + $step;
            $pairs[] = match (true) {
                $isUp => [$at($step), $at(2 * $step), true],
                $isDown => [$at(-$step), $at(-2 * $step), true],
                default => [$at(-$step), $at($step), false],
            };
        }
        $this->pairs = $pairs;
    }

    /** @return list<list<float>> where the gaps have to be known */
    public function points(): array
    {
        return $this->isRough
            ? array_map(static fn (array $p): array => $p[0], $this->pairs)
            : array_merge(...array_map(static fn (array $p): array => [$p[0], $p[1]], $this->pairs), ...[[]]);
    }

    /**
     * @param  list<float>  $gaps  at the point
     * @param  list<?list<float>>  $answers  at points()
     * @return list<list<float>> of each number a column; 0 where the runs beside fail, so that it is left where it is
     */
    public function columns(array $gaps, array $answers): array
    {
        $columns = [];
        foreach ($this->pairs as $j => [$one, $other, $isAside]) {
            [$a, $b] = $this->isRough ? [$answers[$j], null] : [$answers[2 * $j], $answers[2 * $j + 1]];
            [$byOne, $byOther] = [$one[$j] - $this->point[$j], $other[$j] - $this->point[$j]];
            $columns[] = match (true) {
                $a === null && $b === null => array_fill(0, count($gaps), 0.0),
                $a === null => array_map(static fn (float $g, float $y): float => ($y - $g) / $byOther, $gaps, (array) $b),
                $b === null => array_map(static fn (float $g, float $x): float => ($x - $g) / $byOne, $gaps, $a),
                // A parabola through the three.
                $isAside => array_map(
                    static fn (float $g, float $x, float $y): float => (4 * ($x - $g) - ($y - $g)) / (2 * $byOne),
                    $gaps,
                    $a,
                    $b,
                ),
                default => array_map(static fn (float $x, float $y): float => ($y - $x) / ($byOther - $byOne), $a, $b),
            };
        }

        return $columns;
    }
}
