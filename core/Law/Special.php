<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Law;

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

    /**
     * Of Student's t with so many degrees of freedom, from the incomplete beta function; halved until doubles tell no further apart.
     *
     * @param  float  $p  between 0 and 1
     */
    public static function studentQuantile(float $p, float $freedom): float
    {
        if ($p === 0.5) {
            return 0.0;
        }
        $beyond = min($p, 1.0 - $p);
        $tail = static fn (float $t): float => 0.5 * self::beta(0.5 * $freedom, 0.5, $freedom / ($freedom + $t * $t))[0];
        for ($high = 1.0; $tail($high) > $beyond && $high < 1e150; $high *= 2.0);
        for ([$low, $i] = [0.0, 0]; $i < 200 && $low < ($middle = 0.5 * ($low + $high)) && $middle < $high; $i++) {
            $tail($middle) > $beyond ? ($low = $middle) : ($high = $middle);
        }

        return $p < 0.5 ? -$high : $high;
    }

    /** Source: M. J. Wichura, "Algorithm AS 241: the percentage points of the normal distribution", Applied Statistics 37 (1988). */
    public static function normalQuantile(float $p): float
    {
        $q = $p - 0.5;
        if (abs($q) <= 0.425) {
            return $q *
                self::rational(
                    0.180625 - $q * $q,
                    [
                        3.387132872796366608,
                        1.3314166789178437745e2,
                        1.9715909503065514427e3,
                        1.3731693765509461125e4,
                        4.5921953931549871457e4,
                        6.7265770927008700853e4,
                        3.3430575583588128105e4,
                        2.5090809287301226727e3,
                    ],
                    [
                        1.0,
                        4.2313330701600911252e1,
                        6.871870074920579083e2,
                        5.3941960214247511077e3,
                        2.1213794301586595867e4,
                        3.930789580009271061e4,
                        2.8729085735721942674e4,
                        5.226495278852854561e3,
                    ],
                );
        }
        $r = sqrt(-log($q < 0.0 ? $p : 1.0 - $p));
        $x =
            $r <= 5.0
                ? self::rational(
                    $r - 1.6,
                    [
                        1.42343711074968357734,
                        4.6303378461565452959,
                        5.7694972214606914055,
                        3.64784832476320460504,
                        1.27045825245236838258,
                        2.4178072517745061177e-1,
                        2.27238449892691845833e-2,
                        7.7454501427834140764e-4,
                    ],
                    [
                        1.0,
                        2.05319162663775882187,
                        1.6763848301838038494,
                        6.8976733498510000455e-1,
                        1.4810397642748007459e-1,
                        1.51986665636164571966e-2,
                        5.475938084995344946e-4,
                        1.05075007164441684324e-9,
                    ],
                )
                : self::rational(
                    $r - 5.0,
                    [
                        6.6579046435011037772,
                        5.4637849111641143699,
                        1.7848265399172913358,
                        2.9656057182850489123e-1,
                        2.6532189526576123093e-2,
                        1.2426609473880784386e-3,
                        2.71155556874348757815e-5,
                        2.01033439929228813265e-7,
                    ],
                    [
                        1.0,
                        5.9983220655588793769e-1,
                        1.3692988092273580531e-1,
                        1.48753612908506148525e-2,
                        7.868691311456132591e-4,
                        1.8463183175100546818e-5,
                        1.4215117583164458887e-7,
                        2.04426310338993978564e-15,
                    ],
                );

        return $q < 0.0 ? -$x : $x;
    }

    /**
     * @param  list<float>  $above
     * @param  list<float>  $below
     */
    private static function rational(float $x, array $above, array $below): float
    {
        $a = $b = 0.0;
        for ($i = count($above) - 1; $i >= 0; $i--) {
            $a = $a * $x + $above[$i];
            $b = $b * $x + $below[$i];
        }

        return $a / $b;
    }
}
