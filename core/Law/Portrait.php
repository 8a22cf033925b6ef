<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Law;

use MerryOrbit\Core\Problem\NotUnderstood;
use MerryOrbit\Core\Problem\Shown;

/** A distribution as it is shown and shaped: its density, some of its quantiles, and what another family would be for the same. */
final readonly class Portrait
{
    private const POINTS = 80;

    private const PERCENTS = [1, 5, 25, 50, 75, 95, 99];

    /** Of a normal distribution, from its median to where 5 % lie beyond. */
    private const TO_95 = 1.6448536269514722;

    private function __construct(private Distribution $law)
    {
    }

    public static function of(Distribution $law): self
    {
        return new self($law);
    }

    /** Where nothing is known yet: about a tenth of the value to each side, or the range of the dial of what is 0. */
    public static function usual(float $value, ?float $low, ?float $high): string
    {
        return $value === 0.0
            ? 'uniform('.Shown::number($low ?? 0.0).', '.Shown::number($high ?? 1.0).')'
            : 'normal('.Shown::number($value).', '.Shown::number(self::round(0.1 * abs($value))).')';
    }

    /** @return array<string, mixed> */
    public function toRecord(): array
    {
        $limit = static fn (float $v): ?float => is_finite($v) ? $v : null;
        $percentiles = [];
        foreach (self::PERCENTS as $p) {
            $percentiles[$p] = $this->law->quantile($p / 100.0);
        }

        return [
            'law' => $this->law->written,
            'family' => $this->law->family,
            'numbers' => $this->law->numbers,
            'low' => $limit($this->law->low),
            'high' => $limit($this->law->high),
            'percentiles' => (object) $percentiles,
            'density' => $this->density(),
        ];
    }

    /** @return list<array{float, float}> values and densities; of single values how likely each is */
    public function density(): array
    {
        if ($this->law->family === 'discrete') {
            $values = array_unique(array_map(fn (int $i): float => $this->law->quantile(($i + 0.5) / 400), range(0, 399)));

            return array_map(fn (float $x): array => [$x, $this->law->density($x)], array_values($values));
        }
        [$low, $high] = [$this->law->quantile(0.001), $this->law->quantile(0.999)];
        $step = ($high - $low) / self::POINTS;
        $points = [];
        for ($i = 0; $i <= self::POINTS; $i++) {
            // The mean density around each point: at the ends of some there is no limit to it.
            $x = $low + $step * $i;
            [$from, $to] = [max($low, $x - $step / 2.0), min($high, $x + $step / 2.0)];
            $points[] = [$x, ($this->law->until($to) - $this->law->until($from)) / ($to - $from)];
        }

        return $points;
    }

    /**
     * Another family with about the same middle and spread.
     *
     * @throws NotUnderstood where that family cannot be like it
     */
    public function as(string $family): string
    {
        $q = fn (float $p): float => $this->law->quantile($p);
        [$low, $middle, $high] = [$q(0.05), $q(0.5), $q(0.95)];
        $sd = ($high - $low) / (2.0 * self::TO_95);
        // Of a Weibull distribution, (x ÷ scale) to the power of its shape is log 2 at the median and log 4 at the upper quartile.
        $shape = $middle > 0.0 ? log(2.0) / log($q(0.75) / $middle) : 1.0;
        if (in_array($family, ['lognormal', 'gamma', 'weibull', 'exponential'], true) && $middle <= 0.0) {
            throw NotUnderstood::because("`$family` is of numbers above 0; the middle of this one is ".Shown::number($middle).'.');
        }
        $numbers = match ($family) {
            'normal', 'lognormal' => [$middle, $sd],
            'uniform' => [1.5 * $q(0.25) - 0.5 * $q(0.75), 1.5 * $q(0.75) - 0.5 * $q(0.25)],
            'triangular' => [$q(0.005), $middle, $q(0.995)],
            'beta' => [2.0, 2.0, $q(0.005), $q(0.995)],
            'gamma' => [($middle / $sd) ** 2, $sd ** 2 / $middle],
            'weibull' => [$shape, $middle / log(2.0) ** (1.0 / $shape)],
            'exponential' => [$middle],
            'empirical' => [$low, $q(0.25), $middle, $q(0.75), $high],
            'discrete' => [$low, $middle, $high],
            default => throw NotUnderstood::because("There is no distribution `$family`."),
        };
        $words = array_map(static fn (float $v): string => Shown::number(self::round($v)), $numbers);
        $weights = [1, 2, 1];
        $words =
            $family === 'discrete' ? array_map(static fn (string $w, int $i): string => "$w: $weights[$i]", $words, [0, 1, 2]) : $words;

        return "$family(".implode(', ', $words).')';
    }

    /** Three digits are enough to begin with. */
    private static function round(float $value): float
    {
        return (float) sprintf('%.3g', $value);
    }
}
