<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Fit;

/**
 * How far off the best is when one number is held elsewhere and all others are fitted anew. Where that rises like a parabola the standard
 * error tells all; where it is flat to one side, or bent, the profile tells more.
 *
 * Source: D. M. Bates, D. G. Watts, "Nonlinear Regression Analysis and Its Applications" (1988), chapter 6.
 */
final readonly class Profile
{
    /** Places to either side, and how many standard errors the furthest is away; without one, of the bounds. */
    private const PLACES = 6;

    private const ERRORS = 3.0;

    /** It is drawn: the last digits do not show. */
    private const FINE = 1e-5;

    /**
     * Of each freed number.
     *
     * @return list<list<array{float, ?float}>> values, rising, and the least distance with the number held there; null where no run ends
     */
    public static function of(Calibration $calibration, Fitted $fitted): array
    {
        $walks = [];
        foreach (array_keys($calibration->freed) as $j) {
            $walks[] = self::walk($calibration->freed, $fitted->point, $fitted->errors[$j] ?? null, $j);
        }
        $walk = Together::walk($walks);
        while ($walk->valid()) {
            $walk->send($calibration->at(array_column($walk->current(), 1)));
        }
        /** @var list<list<array{float, ?float}>> $profiles */
        $profiles = $walk->getReturn();

        return $profiles;
    }

    /**
     * Of one freed number.
     *
     * @param  non-empty-list<Freed>  $freed
     * @param  list<float>  $best
     * @param  ?float  $error  its standard error there
     * @return \Generator<int, list<list<float>>, list<?list<float>>, list<array{float, ?float}>> asks for points; is sent the gaps there
     */
    public static function walk(array $freed, array $best, ?float $error, int $j): \Generator
    {
        $places = self::places($freed[$j], $best[$j], $error);
        $below = array_reverse(array_values(array_filter($places, static fn (float $v): bool => $v < $best[$j])));
        $above = array_values(array_filter($places, static fn (float $v): bool => $v >= $best[$j]));
        $walks = [self::outward($freed, $best, $j, $below), self::outward($freed, $best, $j, $above)];
        $walk = Together::walk($walks);
        while ($walk->valid()) {
            $walk->send(yield array_column($walk->current(), 1));
        }
        /** @var array{list<array{float, ?float}>, list<array{float, ?float}>} $sides */
        $sides = $walk->getReturn();

        return [...array_reverse($sides[0]), ...$sides[1]];
    }

    /**
     * From place to place: each begins where the last two point to, so it takes few runs.
     *
     * @param  non-empty-list<Freed>  $freed
     * @param  list<float>  $best
     * @param  list<float>  $places  ever farther from the best
     * @return \Generator<int, list<list<float>>, list<?list<float>>, list<array{float, ?float}>>
     */
    private static function outward(array $freed, array $best, int $j, array $places): \Generator
    {
        $others = array_values(array_filter($freed, static fn (Freed $one): bool => $one !== $freed[$j]));
        [$at, $last] = [$best[$j], self::without($best, $j)];
        $change = array_fill(0, count($others), 0.0);
        $told = [];
        foreach ($places as $value) {
            $start = array_map(
                static fn (Freed $f, float $v, float $by): float => $f->within($v + $by * ($value - $at)),
                $others,
                $last,
                $change,
            );
            $walk = (new LeastSquares($others, self::FINE))->from($start);
            while ($walk->valid()) {
                $walk->send(yield array_map(static fn (array $p): array => self::with($p, $j, $value), $walk->current()));
            }
            $end = $walk->getReturn();
            $told[] = [$value, is_finite($end->distance) ? $end->distance : null];
            if (is_finite($end->distance)) {
                $by = $value - $at;
                $change = $by === 0.0 ? $change : array_map(static fn (float $a, float $b): float => ($a - $b) / $by, $end->point, $last);
                [$at, $last] = [$value, $end->point];
            }
        }

        return $told;
    }

    /** @return list<float> rising, within the bounds; what lies beyond is looked at there */
    private static function places(Freed $f, float $best, ?float $error): array
    {
        $reach = $error === null ? 0.5 * ($f->high - $f->low) : self::ERRORS * $error;
        $places = [];
        for ($k = -self::PLACES; $k <= self::PLACES; $k++) {
            $places[] = $f->within($best + ($k * $reach) / self::PLACES);
        }

        return array_values(array_unique($places, SORT_NUMERIC));
    }

    /**
     * @param  list<float>  $point
     * @return list<float>
     */
    private static function without(array $point, int $j): array
    {
        array_splice($point, $j, 1);

        return $point;
    }

    /**
     * @param  list<float>  $point
     * @return list<float>
     */
    private static function with(array $point, int $j, float $value): array
    {
        array_splice($point, $j, 0, [$value]);

        return $point;
    }
}
