<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Fit;

use MerryOrbit\Core\Model\FitPlan;
use MerryOrbit\Core\Model\Measured;

/**
 * How the misses of a series are distributed: what it counts when a run has this where that was measured. Each comes as the root of what
 * it adds to twice the negative logarithm of the likelihood, with the sign of the miss, so that sums of squares are what is to be least.
 *
 * Sources: P. J. Huber, "Robust estimation of a location parameter" (1964), for errors counted by their size beyond 1.345; P. McCullagh,
 * J. A. Nelder, "Generalized Linear Models" (1989), for the deviances of counts.
 */
final readonly class Misses
{
    /** How many errors away a point may be and still count by its square (Huber): 95 % as good where all is normal. */
    private const NEAR = 1.345;

    /** Degrees of freedom of the t distribution. */
    private const TAILS = 4.0;

    /** Of counts in clusters: their relative standard deviation besides that of counting, where none is said. */
    private const CLUSTERS = 0.3;

    /**
     * @param  value-of<FitPlan::MISSES>  $kind
     * @param  list<float>  $sds  of each point, as it is known; of an estimated one to begin with
     * @param  bool  $isEstimated  whether its size follows from the misses themselves
     * @param  float  $weight  how much it counts beside others
     */
    private function __construct(
        public string $kind,
        private array $sds,
        public bool $isEstimated,
        public float $weight = 1.0,
        private float $usual = 1.0,
    ) {
    }

    /** Normal, of one size for all points. */
    public static function normal(float $sd, bool $isEstimated = false): self
    {
        return new self('normal', [], $isEstimated, usual: $sd);
    }

    /** @param  value-of<FitPlan::MISSES>  $kind */
    public static function of(Measured $measured, string $kind): self
    {
        $values = array_column($measured->points, 1);
        $points = array_keys($values);
        $said = array_map($measured->errorOf(...), $points);
        $isKnown = ! in_array(null, $said, true);
        $w = $measured->weight;
        if ($kind === 'count') {
            return new self($kind, [], false, $w);
        }
        if ($kind === 'clustered') {
            $share = static fn (int $i): float => ($said[$i] ?? 0.0) > 0.0 && $values[$i] > 0.0 ? $said[$i] / $values[$i] : self::CLUSTERS;

            return new self($kind, array_map($share, $points), false, $w);
        }
        if ($kind === 'factor') {
            $share = static fn (int $i): float => $values[$i] > 0.0 ? ($said[$i] ?? 0.0) / $values[$i] : 1.0;

            return new self($kind, $isKnown ? array_map($share, $points) : [], ! $isKnown, $w);
        }

        return new self($kind, $isKnown ? array_map(floatval(...), $said) : [], ! $isKnown, $w, self::spread($values));
    }

    /** @param  list<float>  $values */
    private static function spread(array $values): float
    {
        $mean = array_sum($values) / max(1, count($values));
        $sum = array_sum(array_map(static fn (float $v): float => ($v - $mean) ** 2, $values));
        $sd = sqrt($sum / max(1, count($values)));

        return $sd > 0.0 ? $sd : max(1e-12, 0.1 * abs($mean));
    }

    /** Whether gaps are simply differences in standard deviations, so that those of another size are in proportion. */
    public function isNormal(): bool
    {
        return $this->kind === 'normal' || $this->kind === 'factor';
    }

    /** Whether a measured value can count at all. */
    public function takes(float $measured): bool
    {
        return match ($this->kind) {
            'factor' => $measured > 0.0,
            'count', 'clustered' => $measured >= 0.0,
            default => true,
        };
    }

    /** The standard deviation of a point; of factors, counts and clusters in their own measure. */
    public function sd(int $point): float
    {
        return $this->sds[$point] ?? $this->usual;
    }

    /**
     * @param  float  $scale  of an estimated one, by how much its errors are larger than taken to begin with
     * @return float not finite where a run cannot have that
     */
    public function gap(float $simulated, float $measured, int $point, float $scale = 1.0): float
    {
        $sd = $this->sd($point) * $scale;
        $plain = ($simulated - $measured) / $sd;

        return match ($this->kind) {
            'normal' => $plain,
            'factor' => $simulated > 0.0 ? log($simulated / $measured) / $sd : INF,
            'outliers' => abs($plain) <= self::NEAR ? $plain : self::signed($plain, self::NEAR * (2.0 * abs($plain) - self::NEAR)),
            'tails' => self::signed($plain, (self::TAILS + 1.0) * log(1.0 + $plain ** 2 / self::TAILS)),
            'count' => self::counted($simulated, $measured),
            'clustered' => self::clustered($simulated, $measured, 1.0 / $sd ** 2),
        };
    }

    /**
     * How large errors are, from the misses of all points at scale 1.
     *
     * @param  list<float>  $plain  simulated minus measured, in the errors taken to begin with
     */
    public function scale(array $plain): float
    {
        if ($plain === []) {
            return 1.0;
        }
        if ($this->kind === 'outliers' || $this->kind === 'tails') {
            $sizes = array_map(abs(...), $plain);
            sort($sizes);
            $middle = 0.5 * ($sizes[intdiv(count($sizes) - 1, 2)] + $sizes[intdiv(count($sizes), 2)]);

            // Half of a normal distribution lies within 0.6745 standard deviations.
            return max(1e-9, $middle / 0.6745);
        }

        return max(1e-9, sqrt(Found::distance($plain) / count($plain)));
    }

    /** What scale() takes: the miss in errors, whatever it counts. */
    public function plain(float $simulated, float $measured, int $point): float
    {
        return $this->kind === 'factor'
            ? ($simulated > 0.0 ? log($simulated / $measured) : INF) / $this->sd($point)
            : ($simulated - $measured) / $this->sd($point);
    }

    /** What may be measured where a run has a value, for a normal deviate. */
    public function made(float $simulated, float $deviate, float $sd): float
    {
        return match ($this->kind) {
            'factor' => $simulated * exp($sd * $deviate),
            'count' => round(max(0.0, $simulated + sqrt(max(0.0, $simulated)) * $deviate)),
            'clustered' => round(max(0.0, $simulated + sqrt(max(0.0, $simulated) + ($sd * $simulated) ** 2) * $deviate)),
            default => $simulated + $sd * $deviate,
        };
    }

    private static function signed(float $sign, float $square): float
    {
        return ($sign < 0.0 ? -1.0 : 1.0) * sqrt(max(0.0, $square));
    }

    private static function counted(float $simulated, float $measured): float
    {
        if ($simulated < 0.0 || ($simulated === 0.0 && $measured > 0.0)) {
            return INF;
        }
        $part = $measured === 0.0 ? 0.0 : $measured * log($measured / $simulated);

        return self::signed($simulated - $measured, 2.0 * ($part - ($measured - $simulated)));
    }

    private static function clustered(float $simulated, float $measured, float $size): float
    {
        if ($simulated < 0.0 || ($simulated === 0.0 && $measured > 0.0)) {
            return INF;
        }
        $part = $measured === 0.0 ? 0.0 : $measured * log($measured / $simulated);

        return self::signed(
            $simulated - $measured,
            2.0 * ($part - ($measured + $size) * log(($measured + $size) / ($simulated + $size))),
        );
    }
}
