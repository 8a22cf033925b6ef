<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Law;

use MerryOrbit\Core\Problem\NotUnderstood;

/** A distribution of a known family, with its parameters as people give them. */
final readonly class Family implements Law
{
    /** What each takes, in its order. */
    public const TAKES = [
        'normal' => ['mean', 'sd'],
        'lognormal' => ['mean', 'sd'],
        'uniform' => ['low', 'high'],
        'triangular' => ['low', 'mode', 'high'],
        'beta' => ['a', 'b', 'low', 'high'],
        'gamma' => ['shape', 'scale'],
        'weibull' => ['shape', 'scale'],
        'exponential' => ['mean'],
    ];

    private const ROUNDS = 200;

    /** @param  list<float>  $p */
    private function __construct(private string $name, private array $p)
    {
    }

    /**
     * @param  key-of<self::TAKES>  $name
     * @param  list<float>  $p
     *
     * @throws NotUnderstood
     */
    public static function of(string $name, array $p): self
    {
        $takes = self::TAKES[$name];
        if (count($p) !== count($takes)) {
            throw NotUnderstood::because("`$name` takes ".implode(', ', $takes).'; there are '.count($p).' numbers.');
        }
        $wrong = match ($name) {
            'normal' => $p[1] > 0.0 ? null : 'the sd is larger than 0',
            'lognormal' => $p[0] > 0.0 && $p[1] > 0.0 ? null : 'mean and sd are larger than 0',
            'uniform' => $p[1] > $p[0] ? null : 'high is larger than low',
            'triangular' => $p[0] < $p[2] && $p[1] >= $p[0] && $p[1] <= $p[2] ? null : 'the mode lies from low to high',
            'beta' => $p[0] > 0.0 && $p[1] > 0.0 && $p[3] > $p[2] ? null : 'a and b are larger than 0, and high larger than low',
            'exponential' => $p[0] > 0.0 ? null : 'the mean is larger than 0',
            default => $p[0] > 0.0 && $p[1] > 0.0 ? null : 'shape and scale are larger than 0',
        };

        return $wrong === null ? new self($name, $p) : throw NotUnderstood::because("Of `$name`, $wrong.");
    }

    public function until(float $x): float
    {
        return $this->both($x)[0];
    }

    public function beyond(float $x): float
    {
        return $this->both($x)[1];
    }

    /** @return array{float, float} */
    private function both(float $x): array
    {
        $p = $this->p;

        return match ($this->name) {
            'normal' => Special::normal(($x - $p[0]) / $p[1]),
            'lognormal' => $x <= 0.0 ? [0.0, 1.0] : Special::normal((log($x) - $this->logMean()) / $this->logSd()),
            'uniform' => self::shares(($x - $p[0]) / ($p[1] - $p[0])),
            'triangular' => $this->triangle($x),
            'beta' => Special::beta($p[0], $p[1], ($x - $p[2]) / ($p[3] - $p[2])),
            'gamma' => Special::gamma($p[0], $x / $p[1]),
            'weibull' => $x <= 0.0 ? [0.0, 1.0] : [-expm1(-(($x / $p[1]) ** $p[0])), exp(-(($x / $p[1]) ** $p[0]))],
            default => $x <= 0.0 ? [0.0, 1.0] : [-expm1(-$x / $p[0]), exp(-$x / $p[0])],
        };
    }

    /** @return array{float, float} */
    private static function shares(float $part): array
    {
        return [max(0.0, min(1.0, $part)), max(0.0, min(1.0, 1.0 - $part))];
    }

    /** @return array{float, float} */
    private function triangle(float $x): array
    {
        [$low, $mode, $high] = $this->p;
        if ($x <= $mode) {
            $until = $x <= $low ? 0.0 : ($x - $low) ** 2 / (($high - $low) * ($mode - $low));

            return [$until, 1.0 - $until];
        }
        $beyond = $x >= $high ? 0.0 : ($high - $x) ** 2 / (($high - $low) * ($high - $mode));

        return [1.0 - $beyond, $beyond];
    }

    public function quantile(float $p, float $rest): float
    {
        $q = $this->p;

        return match ($this->name) {
            'normal' => $q[0] + $q[1] * self::normalAt($p, $rest),
            'lognormal' => exp($this->logMean() + $this->logSd() * self::normalAt($p, $rest)),
            'uniform' => $p < 0.5 ? $q[0] + $p * ($q[1] - $q[0]) : $q[1] - $rest * ($q[1] - $q[0]),
            'triangular' => $this->triangleAt($p, $rest),
            'beta' => $q[2] + ($q[3] - $q[2]) * $this->searched($p, $rest, 1.0),
            'gamma' => $q[1] * $this->searched($p, $rest, $this->farGamma($rest)),
            'weibull' => $q[1] * (-self::logOf($rest, $p)) ** (1.0 / $q[0]),
            default => -$q[0] * self::logOf($rest, $p),
        };
    }

    /** The normal quantile, from whichever side is smaller. */
    private static function normalAt(float $p, float $rest): float
    {
        return $p <= $rest ? Special::normalQuantile($p) : -Special::normalQuantile($rest);
    }

    /** ln of a number near one, by what it lacks. */
    private static function logOf(float $x, float $rest): float
    {
        return $rest < 0.5 ? log1p(-$rest) : log($x);
    }

    /** Where less than the rest is left. */
    private function farGamma(float $rest): float
    {
        $far = $this->p[0] + 1.0;
        while (Special::gamma($this->p[0], $far)[1] > $rest) {
            $far *= 2.0;
        }

        return $far;
    }

    /** The root of P(x) = p for the families that have none in closed form, without their scale: by Newton's method, kept in a bracket. */
    private function searched(float $p, float $rest, float $high): float
    {
        [$a, $b] = $this->p;
        $isBeta = $this->name === 'beta';
        $low = 0.0;
        $x = $isBeta ? $a / ($a + $b) : min($a, 0.5 * $high);
        for ($i = 0; $i < self::ROUNDS; $i++) {
            [$until, $beyond] = $isBeta ? Special::beta($a, $b, $x) : Special::gamma($a, $x);
            // From whichever side is smaller, where digits are left.
            $over = $p <= $rest ? $until - $p : $rest - $beyond;
            [$low, $high] = $over < 0.0 ? [$x, $high] : [$low, $x];
            $slope = $isBeta ? $this->betaDensity($x) : exp(($a - 1.0) * log($x) - $x - Special::logGamma($a));
            $next = $slope > 0.0 && is_finite($slope) ? $x - $over / $slope : -1.0;
            if ($next <= $low || $next >= $high) {
                // Tiny values lie many powers below.
                $next = $low > 0.0 ? sqrt($low) * sqrt($high) : $high / 256.0;
            }
            if (abs($next - $x) <= 1e-15 * $x || $high - $low <= 1e-15 * $high) {
                return $next;
            }
            $x = $next;
        }

        return $x;
    }

    private function triangleAt(float $p, float $rest): float
    {
        [$low, $mode, $high] = $this->p;
        $over = $p * ($high - $low) - ($mode - $low);
        if ($over <= 0.0) {
            return $low + sqrt($p * ($high - $low) * ($mode - $low));
        }
        // high − s, without taking two near numbers from each other.
        $s = sqrt($rest * ($high - $low) * ($high - $mode));

        return $rest < 0.5 ? $high - $s : $mode + (($high - $mode) * $over) / ($high - $mode + $s);
    }

    public function density(float $x): float
    {
        $p = $this->p;

        return match ($this->name) {
            'normal' => exp(-0.5 * (($x - $p[0]) / $p[1]) ** 2) / ($p[1] * sqrt(2.0 * M_PI)),
            'lognormal' => $x <= 0.0
                ? 0.0
                : exp(-0.5 * ((log($x) - $this->logMean()) / $this->logSd()) ** 2) / ($x * $this->logSd() * sqrt(2.0 * M_PI)),
            'uniform' => $x < $p[0] || $x > $p[1] ? 0.0 : 1.0 / ($p[1] - $p[0]),
            'triangular' => $this->triangleDensity($x),
            'beta' => $this->betaDensity(($x - $p[2]) / ($p[3] - $p[2])) / ($p[3] - $p[2]),
            'gamma' => $x <= 0.0 ? 0.0 : exp(($p[0] - 1.0) * log($x / $p[1]) - $x / $p[1] - Special::logGamma($p[0])) / $p[1],
            'weibull' => $x <= 0.0 ? 0.0 : ($p[0] / $p[1]) * ($x / $p[1]) ** ($p[0] - 1.0) * exp(-(($x / $p[1]) ** $p[0])),
            default => $x < 0.0 ? 0.0 : exp(-$x / $p[0]) / $p[0],
        };
    }

    private function triangleDensity(float $x): float
    {
        [$low, $mode, $high] = $this->p;
        if ($x < $low || $x > $high) {
            return 0.0;
        }

        return match (true) {
            $x < $mode => (2.0 * ($x - $low)) / (($high - $low) * ($mode - $low)),
            $x > $mode => (2.0 * ($high - $x)) / (($high - $low) * ($high - $mode)),
            default => 2.0 / ($high - $low),
        };
    }

    private function betaDensity(float $x): float
    {
        [$a, $b] = $this->p;

        return $x <= 0.0 || $x >= 1.0
            ? 0.0
            : exp(
                ($a - 1.0) * log($x) +
                    ($b - 1.0) * log1p(-$x) +
                    Special::logGamma($a + $b) -
                    Special::logGamma($a) -
                    Special::logGamma($b),
            );
    }

    private function logSd(): float
    {
        return sqrt(log1p(($this->p[1] / $this->p[0]) ** 2));
    }

    /** Mean and sd are of the variable itself, not of its logarithm. */
    private function logMean(): float
    {
        return log($this->p[0]) - 0.5 * $this->logSd() ** 2;
    }
}
