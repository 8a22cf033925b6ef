<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Library;

/**
 * Draws that depend on the run's seed, the draw's name and the step alone. Each takes one uniform number by inversion, so that
 * a small change of a parameter changes a draw little. An argument for which there is no distribution gives NAN.
 *
 * `grain` is how many steps share a draw: 1, but more when a run is repeated at a finer step with the same draws.
 */
final class Chance
{
    /** Beyond this variance counts are drawn from the normal distribution. */
    private const LARGEST_VARIANCE = 1e7;

    /** Uniform on the open interval from 0 to 1. */
    public static function uniform(int $seed, string $draw, int $turn): float
    {
        /** @var array{1: int} $bits */
        $bits = unpack('q', hash('xxh3', "$seed/$draw/$turn", true));

        return ((($bits[1] >> 11) & 0x1FFFFFFFFFFFFF) + 0.5) / 9007199254740992.0;
    }

    public static function random(float $low, float $high, int $seed, string $draw, int $step, int $grain): float
    {
        return $low + ($high - $low) * self::uniform($seed, $draw, intdiv($step, $grain));
    }

    public static function gaussian(float $mean, float $sd, int $seed, string $draw, int $step, int $grain): float
    {
        return $sd >= 0.0 ? $mean + $sd * self::normalQuantile(self::uniform($seed, $draw, intdiv($step, $grain))) : NAN;
    }

    public static function lognormal(float $mean, float $sd, int $seed, string $draw, int $step, int $grain): float
    {
        if (! ($mean > 0.0 && $sd >= 0.0)) {
            return NAN;
        }
        $variance = log(1.0 + ($sd / $mean) ** 2);

        return exp(
            log($mean) - 0.5 * $variance + sqrt($variance) * self::normalQuantile(self::uniform($seed, $draw, intdiv($step, $grain))),
        );
    }

    public static function exponential(float $mean, int $seed, string $draw, int $step, int $grain): float
    {
        return $mean >= 0.0 ? -$mean * log(self::uniform($seed, $draw, intdiv($step, $grain))) : NAN;
    }

    /** Events per time unit: a Poisson count over the step, divided by its length. */
    public static function poisson(float $rate, int $seed, string $draw, int $step, int $grain, float $length): float
    {
        $expected = $rate * $length * $grain;
        if (! ($expected >= 0.0 && is_finite($expected))) {
            return NAN;
        }
        $u = self::uniform($seed, $draw, intdiv($step, $grain));
        $count =
            $expected > self::LARGEST_VARIANCE
                ? max(0.0, round($expected + sqrt($expected) * self::normalQuantile($u)))
                : self::fromMode(
                    $u,
                    floor($expected),
                    exp(floor($expected) * log(max($expected, 1e-300)) - $expected - self::logFactorial(floor($expected))),
                    static fn (float $k): float => $expected / $k,
                    INF,
                );

        return $count / ($length * $grain);
    }

    public static function binomial(float $n, float $p, int $seed, string $draw, int $step, int $grain): float
    {
        $n = floor($n + 0.5);
        if (! ($n >= 0.0 && $p >= 0.0 && $p <= 1.0 && is_finite($n))) {
            return NAN;
        }
        if ($p === 0.0 || $p === 1.0 || $n === 0.0) {
            return $n * $p;
        }
        $u = self::uniform($seed, $draw, intdiv($step, $grain));
        $variance = $n * $p * (1.0 - $p);
        if ($variance > self::LARGEST_VARIANCE) {
            return min($n, max(0.0, round($n * $p + sqrt($variance) * self::normalQuantile($u))));
        }
        $mode = min($n, floor(($n + 1.0) * $p));
        $atMode = exp(
            self::logFactorial($n) -
                self::logFactorial($mode) -
                self::logFactorial($n - $mode) +
                $mode * log($p) +
                ($n - $mode) * log(1.0 - $p),
        );

        return self::fromMode($u, $mode, $atMode, static fn (float $k): float => ((($n - $k + 1.0) / $k) * $p) / (1.0 - $p), $n);
    }

    /** The next value of a stationary Ornstein–Uhlenbeck process, exact for any step. */
    public static function drift(
        float $before,
        float $mean,
        float $sd,
        float $correlationTime,
        int $seed,
        string $draw,
        int $step,
        int $grain,
        float $length,
    ): float {
        if (! ($sd >= 0.0 && $correlationTime > 0.0)) {
            return NAN;
        }
        if ($step % $grain !== 0) {
            return $before;
        }
        $normal = self::normalQuantile(self::uniform($seed, $draw, intdiv($step, $grain)));
        $kept = $step === 0 ? 0.0 : exp((-$length * $grain) / $correlationTime);

        return $mean + ($step === 0 ? 0.0 : $kept * ($before - $mean)) + $sd * sqrt(1.0 - $kept * $kept) * $normal;
    }

    /**
     * Walks outward from the most likely count until the probability is used up.
     *
     * @param  \Closure(float): float  $ratio  probability of k as a share of that of k − 1
     */
    private static function fromMode(float $u, float $mode, float $atMode, \Closure $ratio, float $most): float
    {
        $up = $down = $mode;
        $pUp = $pDown = $atMode;
        $u -= $atMode;
        while ($u > 0.0) {
            $moved = false;
            if ($down > 0.0) {
                $pDown /= $ratio($down);
                $down--;
                $u -= $pDown;
                $moved = $pDown > 0.0;
                if ($u <= 0.0) {
                    return $down;
                }
            }
            if ($up < $most) {
                $up++;
                $pUp *= $ratio($up);
                $u -= $pUp;
                $moved = $moved || $pUp > 0.0;
                if ($u <= 0.0) {
                    return $up;
                }
            }
            if (! $moved) {
                // What is left of u is rounding.
                return $mode;
            }
        }

        return $mode;
    }

    /** By Stirling's series, above 10 with an error below 1e-13. */
    private static function logFactorial(float $n): float
    {
        $shift = 0.0;
        while ($n < 10.0) {
            $n++;
            $shift += log($n);
        }
        $s = 1.0 / ($n * $n);

        return ($n + 0.5) * log($n) -
            $n +
            0.918938533204672742 +
            (1.0 / 12.0 - $s * (1.0 / 360.0 - $s * (1.0 / 1260.0 - $s * (1.0 / 1680.0 - $s / 1188.0)))) / $n -
            $shift;
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
