<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Uncertain;

/**
 * Functions that distributions are made of, with a relative error of about 1e-14. Sources: NIST Digital Library of Mathematical
 * Functions, 5.11 (log gamma), 8.7 and 8.9 (incomplete gamma), 8.17 (incomplete beta); continued fractions after W. J. Lentz, Applied
 * Optics 15 (1976), as modified by I. J. Thompson and A. R. Barnett (1986).
 */
final class Special
{
    private const SMALL = 1e-300;

    private const NEAR = 1e-16;

    private const MOST = 10_000;

    /** ln Γ(x) of x > 0, by Stirling's series above 10. */
    public static function logGamma(float $x): float
    {
        $shift = 0.0;
        while ($x < 10.0) {
            $shift += log($x);
            $x += 1.0;
        }
        $s = 1.0 / ($x * $x);
        $series =
            1.0 / 12.0 - $s * (1.0 / 360.0 - $s * (1.0 / 1260.0 - $s * (1.0 / 1680.0 - $s * (1.0 / 1188.0 - ($s * 691.0) / 360360.0))));

        return ($x - 0.5) * log($x) - $x + 0.91893853320467274178 + $series / $x - $shift;
    }

    /**
     * The regularised incomplete gamma functions of a > 0 and x ≥ 0.
     *
     * @return array{float, float} P, up to x, and Q, beyond it: each by itself, so that small ones are exact
     */
    public static function gamma(float $a, float $x): array
    {
        if ($x <= 0.0) {
            return [0.0, 1.0];
        }
        if (is_infinite($x)) {
            return [1.0, 0.0];
        }
        $scale = exp($a * log($x) - $x - self::logGamma($a));
        if ($x < $a + 1.0) {
            $sum = $term = 1.0 / $a;
            for ($n = 1; $n < self::MOST && abs($term) > self::NEAR * abs($sum); $n++) {
                $term *= $x / ($a + $n);
                $sum += $term;
            }

            return [$scale * $sum, 1.0 - $scale * $sum];
        }
        $fraction = self::fraction($x + 1.0 - $a, static fn (int $n): array => [-$n * ($n - $a), $x + 2.0 * $n + 1.0 - $a]);

        return [1.0 - $scale / $fraction, $scale / $fraction];
    }

    /**
     * The regularised incomplete beta functions of a, b > 0 and x from 0 to 1.
     *
     * @return array{float, float} up to x, and beyond it
     */
    public static function beta(float $a, float $b, float $x): array
    {
        if ($x <= 0.0 || $x >= 1.0) {
            return $x <= 0.0 ? [0.0, 1.0] : [1.0, 0.0];
        }
        if ($x > ($a + 1.0) / ($a + $b + 2.0)) {
            [$beyond, $until] = self::beta($b, $a, 1.0 - $x);

            return [$until, $beyond];
        }
        $scale = exp($a * log($x) + $b * log1p(-$x) + self::logGamma($a + $b) - self::logGamma($a) - self::logGamma($b)) / $a;
        $fraction = self::fraction(1.0, static function (int $n) use ($a, $b, $x): array {
            $m = intdiv($n, 2);
            $d =
                $n % 2 === 0
                    ? ($m * ($b - $m) * $x) / (($a + $n - 1.0) * ($a + $n))
                    : (-($a + $m) * ($a + $b + $m) * $x) / (($a + $n - 1.0) * ($a + $n));

            return [$d, 1.0];
        });

        return [$scale / $fraction, 1.0 - $scale / $fraction];
    }

    /**
     * The standard normal distribution.
     *
     * @return array{float, float} up to x, and beyond it
     */
    public static function normal(float $x): array
    {
        [$inner, $outer] = self::gamma(0.5, 0.5 * $x * $x);

        return $x < 0.0 ? [0.5 * $outer, 0.5 + 0.5 * $inner] : [0.5 + 0.5 * $inner, 0.5 * $outer];
    }

    /**
     * b₀ + a₁ ÷ (b₁ + a₂ ÷ (b₂ + …)).
     *
     * @param  \Closure(int): array{float, float}  $next  aₙ and bₙ, from 1
     */
    private static function fraction(float $first, \Closure $next): float
    {
        $f = $first === 0.0 ? self::SMALL : $first;
        $c = $f;
        $d = 0.0;
        for ($n = 1; $n < self::MOST; $n++) {
            [$a, $b] = $next($n);
            $d = $b + $a * $d;
            $d = 1.0 / (abs($d) < self::SMALL ? self::SMALL : $d);
            $c = $b + $a / $c;
            $c = abs($c) < self::SMALL ? self::SMALL : $c;
            $f *= $c * $d;
            if (abs($c * $d - 1.0) < self::NEAR) {
                break;
            }
        }

        return $f;
    }
}
