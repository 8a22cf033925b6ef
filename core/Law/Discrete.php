<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Law;

use MerryOrbit\Core\Problem\NotUnderstood;

/** Single values, each with its weight. */
final readonly class Discrete implements Law
{
    /** @param  non-empty-list<array{float, float}>  $shares  values, increasing, and how likely each is */
    private function __construct(private array $shares)
    {
    }

    /**
     * @param  list<array{float, float}>  $weights  values and weights
     *
     * @throws NotUnderstood
     */
    public static function of(array $weights): self
    {
        $sum = array_sum(array_column($weights, 1));
        $byValue = [];
        foreach ($weights as [$value, $weight]) {
            if ($weight < 0.0 || ! is_finite($weight)) {
                throw NotUnderstood::because('Of `discrete`, no weight is below 0.');
            }
            $key = (string) json_encode($value);
            $byValue[$key] = [$value, ($byValue[$key][1] ?? 0.0) + $weight / ($sum > 0.0 ? $sum : 1.0)];
        }
        $shares = array_values(array_filter($byValue, static fn (array $s): bool => $s[1] > 0.0));
        usort($shares, static fn (array $a, array $b): int => $a[0] <=> $b[0]);

        return $shares === []
            ? throw NotUnderstood::because('`discrete` takes values with weights, as in `discrete(1: 3, 2: 1)`.')
            : new self($shares);
    }

    public function until(float $x): float
    {
        return array_sum(array_column(array_filter($this->shares, static fn (array $s): bool => $s[0] <= $x), 1));
    }

    public function beyond(float $x): float
    {
        return array_sum(array_column(array_filter($this->shares, static fn (array $s): bool => $s[0] > $x), 1));
    }

    public function quantile(float $p, float $rest): float
    {
        $sum = 0.0;
        foreach ($this->shares as [$value, $share]) {
            $sum += $share;
            // Sums of shares fall short of what they are by a hair.
            if ($p <= $sum + 1e-12) {
                return $value;
            }
        }

        return $this->shares[count($this->shares) - 1][0];
    }

    public function density(float $x): float
    {
        foreach ($this->shares as [$value, $share]) {
            if ($value === $x) {
                return $share;
            }
        }

        return 0.0;
    }
}
