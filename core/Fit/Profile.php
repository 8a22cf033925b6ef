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

    /**
     * Of each freed number.
     *
     * @return list<list<array{float, ?float}>> values, rising, and the least distance with the number held there; null where no run ends
     */
    public static function of(Calibration $calibration, Fitted $fitted): array
    {
        $freed = $calibration->freed;
        $held = $searches = $starts = [];
        foreach ($freed as $j => $f) {
            $others = array_values(array_filter($freed, static fn (Freed $one): bool => $one !== $f));
            foreach (self::places($f, $fitted->point[$j], $fitted->errors[$j] ?? null) as $value) {
                $held[] = [$j, $value];
                $searches[] = new LeastSquares($others);
                $starts[] = self::without($fitted->point, $j);
            }
        }
        $found = Together::searchedEach(
            $searches,
            $starts,
            static fn (array $asked): array => $calibration->at(
                array_map(static fn (array $one): array => self::with($one[1], ...$held[$one[0]]), $asked),
            ),
        );
        $profiles = array_fill(0, count($freed), []);
        foreach ($found as $i => $end) {
            [$j, $value] = $held[$i];
            $profiles[$j][] = [$value, is_finite($end->distance) ? $end->distance : null];
        }

        return $profiles;
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
