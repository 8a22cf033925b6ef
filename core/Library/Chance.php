<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Library;

use MerryOrbit\Core\Law\Special;

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
        return $sd >= 0.0 ? $mean + $sd * Special::normalQuantile(self::uniform($seed, $draw, intdiv($step, $grain))) : NAN;
    }

    public static function lognormal(float $mean, float $sd, int $seed, string $draw, int $step, int $grain): float
    {
        if (! ($mean > 0.0 && $sd >= 0.0)) {
            return NAN;
        }
        $variance = log(1.0 + ($sd / $mean) ** 2);

        return exp(
            log($mean) - 0.5 * $variance + sqrt($variance) * Special::normalQuantile(self::uniform($seed, $draw, intdiv($step, $grain))),
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
                ? max(0.0, round($expected + sqrt($expected) * Special::normalQuantile($u)))
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
            return min($n, max(0.0, round($n * $p + sqrt($variance) * Special::normalQuantile($u))));
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
        $normal = Special::normalQuantile(self::uniform($seed, $draw, intdiv($step, $grain)));
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
}
