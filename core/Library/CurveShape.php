<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Library;

use MerryOrbit\Core\Model\Between;
use MerryOrbit\Core\Model\Beyond;
use MerryOrbit\Core\Model\Relation;

/**
 * A curve as polynomials: between two points the value is c0 + c1 u + c2 u² + c3 u³ with u = x − x0.
 *
 * Smooth curves: piecewise cubic Hermite interpolation with slopes that keep it monotone between the points; the weighted
 * harmonic mean of F. N. Fritsch and J. Butland, SIAM J. Sci. Stat. Comput. 5 (1984), end slopes by the three-point formula.
 */
final readonly class CurveShape
{
    /** @param  non-empty-list<array{float, float, float, float, float}>  $pieces  x0, c0, c1, c2, c3; the first lies before all points, the last behind */
    private function __construct(public array $pieces)
    {
    }

    public static function of(Relation $curve): self
    {
        $points = $curve->points;
        $last = count($points) - 1;
        if ($last < 1) {
            throw new \LogicException('A curve needs two points.');
        }
        $slopes = [];
        for ($i = 0; $i < $last; $i++) {
            $slopes[] = ($points[$i + 1][1] - $points[$i][1]) / ($points[$i + 1][0] - $points[$i][0]);
        }
        $tangents = $curve->between === Between::Smooth ? self::tangents($points, $slopes) : $slopes;
        $pieces = [];
        for ($i = 0; $i < $last; $i++) {
            [$x, $y] = $points[$i];
            $h = $points[$i + 1][0] - $x;
            $pieces[] = match ($curve->between) {
                Between::Straight => [$x, $y, $slopes[$i], 0.0, 0.0],
                Between::Stepped => [$x, $y, 0.0, 0.0, 0.0],
                Between::Smooth => [
                    $x,
                    $y,
                    $tangents[$i],
                    (3.0 * $slopes[$i] - 2.0 * $tangents[$i] - $tangents[$i + 1]) / $h,
                    ($tangents[$i] + $tangents[$i + 1] - 2.0 * $slopes[$i]) / ($h * $h),
                ],
            };
        }
        $goesOn = $curve->beyond === Beyond::Extended && $curve->between !== Between::Stepped;
        $ends = [$goesOn ? $tangents[0] : 0.0, $goesOn ? $tangents[count($tangents) - 1] : 0.0];

        return new self([
            [$points[0][0], $points[0][1], $ends[0], 0.0, 0.0],
            ...$pieces,
            [$points[$last][0], $points[$last][1], $ends[1], 0.0, 0.0],
        ]);
    }

    /**
     * Points that show its course: corners, and more where it bends.
     *
     * @return list<array{float, float}>
     */
    public function path(): array
    {
        $path = [];
        for ($i = 1; $i < count($this->pieces) - 1; $i++) {
            [$x, $y, , $c2, $c3] = $this->pieces[$i];
            $until = $this->pieces[$i + 1][0];
            $parts = $c2 === 0.0 && $c3 === 0.0 ? 1 : 12;
            for ($k = 0; $k < $parts; $k++) {
                $at = $x + (($until - $x) * $k) / $parts;
                $path[] = [$at, $this->value($at)];
            }
            if ($this->pieces[$i][2] === 0.0 && $parts === 1) {
                $path[] = [$until, $y];
            }
        }
        $path[] = [$this->last(), $this->value($this->last())];

        return $path;
    }

    public function first(): float
    {
        return $this->pieces[1][0];
    }

    public function last(): float
    {
        return $this->pieces[count($this->pieces) - 1][0];
    }

    public function value(float $x): float
    {
        $low = 0;
        $high = count($this->pieces) - 1;
        while ($low < $high) {
            $middle = intdiv($low + $high + 1, 2);
            if ($x >= $this->pieces[$middle][0]) {
                $low = $middle;
            } else {
                $high = $middle - 1;
            }
        }
        [$x0, $c0, $c1, $c2, $c3] = $this->pieces[$low];
        $u = $x - $x0;

        return $c0 + $u * ($c1 + $u * ($c2 + $u * $c3));
    }

    /**
     * @param  list<array{float, float}>  $points
     * @param  list<float>  $slopes
     * @return list<float>
     */
    private static function tangents(array $points, array $slopes): array
    {
        $last = count($slopes);
        if ($last < 2) {
            return [$slopes[0], $slopes[0]];
        }
        $h = static fn (int $i): float => $points[$i + 1][0] - $points[$i][0];
        $tangents = [self::endTangent($h(0), $h(1), $slopes[0], $slopes[1])];
        for ($i = 1; $i < $last; $i++) {
            $a = $slopes[$i - 1];
            $b = $slopes[$i];
            $wa = 2.0 * $h($i) + $h($i - 1);
            $wb = $h($i) + 2.0 * $h($i - 1);
            $tangents[] = $a * $b > 0.0 ? ($wa + $wb) / ($wa / $a + $wb / $b) : 0.0;
        }
        $tangents[] = self::endTangent($h($last - 1), $h($last - 2), $slopes[$last - 1], $slopes[$last - 2]);

        return $tangents;
    }

    private static function endTangent(float $near, float $far, float $slope, float $next): float
    {
        $tangent = ((2.0 * $near + $far) * $slope - $near * $next) / ($near + $far);
        if ($tangent * $slope <= 0.0) {
            return 0.0;
        }

        return $slope * $next <= 0.0 && abs($tangent) > 3.0 * abs($slope) ? 3.0 * $slope : $tangent;
    }
}
