<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Data;

/**
 * How well simulated values fit measured ones. Errors are simulated minus measured; standard deviations divide by n. The mean squared
 * error falls into three shares that add up to one (H. Theil, Applied Economic Forecasting, 1966): bias, unequal variation, and
 * unequal covariation. What would be 0 ÷ 0 is null.
 */
final readonly class Comparison
{
    private function __construct(
        public int $n,
        public ?float $rmse,
        public ?float $mae,
        public ?float $mape,
        public int $zeros,
        public ?float $meanError,
        public ?float $correlation,
        public ?float $r2,
        public ?float $bias,
        public ?float $variation,
        public ?float $covariation,
        public ?float $autocorrelation,
        public ?float $measuredMean,
        public bool $isWider,
    ) {
    }

    /**
     * @param  list<float|null>  $measured  null and NAN do not count
     * @param  list<float|null>  $simulated  as many
     */
    public static function of(array $measured, array $simulated): self
    {
        $m = $s = [];
        foreach ($measured as $i => $value) {
            $other = $simulated[$i] ?? null;
            if ($value !== null && $other !== null && is_finite($value) && is_finite($other)) {
                $m[] = $value;
                $s[] = $other;
            }
        }
        $n = count($m);
        if ($m === [] || $s === []) {
            return new self(0, null, null, null, 0, null, null, null, null, null, null, null, null, false);
        }
        $e = array_map(static fn (float $a, float $b): float => $a - $b, $s, $m);
        $squares = self::sum(array_map(static fn (float $x): float => $x * $x, $e));
        $mse = $squares / $n;
        [$meanM, $meanE] = [self::mean($m), self::mean($e)];
        [$fromM, $fromS, $fromE] = [self::aside($m), self::aside($s), self::aside($e)];
        [$varM, $varS, $cov] = [self::product($fromM, $fromM), self::product($fromS, $fromS), self::product($fromS, $fromM)];
        [$sdM, $sdS] = [sqrt($varM), sqrt($varS)];
        $relative = [];
        foreach ($m as $i => $value) {
            if ($value !== 0.0) {
                $relative[] = abs($e[$i] / $value);
            }
        }
        $shares = $mse > 0.0 ? [$meanE ** 2 / $mse, ($sdS - $sdM) ** 2 / $mse, (2.0 * ($sdS * $sdM - $cov)) / $mse] : [null, null, null];
        $varE = self::product($fromE, $fromE);
        $next = 0.0;
        for ($i = 1; $i < $n; $i++) {
            $next += $fromE[$i] * $fromE[$i - 1];
        }

        return new self(
            $n,
            sqrt($mse),
            self::sum(array_map(abs(...), $e)) / $n,
            $relative === [] ? null : 100.0 * self::mean($relative),
            $n - count($relative),
            $meanE,
            $sdM > 0.0 && $sdS > 0.0 ? max(-1.0, min(1.0, $cov / ($sdS * $sdM))) : null,
            $varM > 0.0 ? 1.0 - $squares / ($varM * $n) : null,
            $shares[0],
            $shares[1],
            // Rounding may leave less than nothing.
            $shares[2] === null ? null : max(0.0, $shares[2]),
            $varE > 0.0 ? $next / ($varE * $n) : null,
            $meanM,
            $sdS > $sdM,
        );
    }

    /** What is most of the error, as a sentence; null where there is nothing to say. */
    public function sentence(): ?string
    {
        if ($this->rmse === null || $this->bias === null || $this->variation === null || $this->covariation === null) {
            return $this->rmse === 0.0 ? 'The run meets every point.' : null;
        }
        $shares = ['bias' => $this->bias, 'variation' => $this->variation, 'covariation' => $this->covariation];
        arsort($shares);
        $most = array_key_first($shares);
        $part = $shares[$most] > 0.55 ? 'Mostly ' : 'Of several kinds, most of it ';

        return $part.
            match ($most) {
                'bias' => 'bias: the run lies '.$this->beside().' throughout.',
                'variation' => 'variation: the run swings too '.($this->isWider ? 'wide' : 'little').'.',
                default => ($this->autocorrelation ?? 0.0) > 0.4
                    ? 'covariation: level and swing are right, but its ups and downs come at other times.'
                    : 'covariation: each point differs for itself, and the run lies right as a whole.',
            };
    }

    private function beside(): string
    {
        $by = (float) $this->meanError;
        $share = $this->measuredMean !== null && $this->measuredMean !== 0.0 ? abs($by / $this->measuredMean) : null;
        $side = $by > 0.0 ? 'too high' : 'too low';

        return $share === null || $share > 10.0 ? $side : round(100.0 * $share).' % '.$side;
    }

    /** @return array<string, int|float|null> */
    public function toRecord(): array
    {
        return [
            'n' => $this->n,
            'rmse' => $this->rmse,
            'mae' => $this->mae,
            'mape' => $this->mape,
            'mean_error' => $this->meanError,
            'correlation' => $this->correlation,
            'r2' => $this->r2,
            'bias' => $this->bias,
            'variation' => $this->variation,
            'covariation' => $this->covariation,
            'autocorrelation' => $this->autocorrelation,
            'zeros' => $this->zeros,
        ];
    }

    /** @param  non-empty-list<float>  $values */
    private static function mean(array $values): float
    {
        return self::sum($values) / count($values);
    }

    /**
     * Summed with what rounding loses (Neumaier, 1974).
     *
     * @param  list<float>  $values
     */
    private static function sum(array $values): float
    {
        [$sum, $lost] = [0.0, 0.0];
        foreach ($values as $value) {
            $next = $sum + $value;
            $lost += abs($sum) >= abs($value) ? $sum - $next + $value : $value - $next + $sum;
            $sum = $next;
        }

        return $sum + $lost;
    }

    /**
     * How far each value is from their mean; exactly nothing where all are the same.
     *
     * @param  non-empty-list<float>  $values
     * @return non-empty-list<float>
     */
    private static function aside(array $values): array
    {
        $from = array_map(static fn (float $v): float => $v - $values[0], $values);
        $mean = self::mean($from);

        return array_map(static fn (float $v): float => $v - $mean, $from);
    }

    /**
     * The mean of the products.
     *
     * @param  non-empty-list<float>  $a
     * @param  non-empty-list<float>  $b
     */
    private static function product(array $a, array $b): float
    {
        return self::sum(array_map(static fn (float $x, float $y): float => $x * $y, $a, $b)) / count($a);
    }
}
