<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Law;

use MerryOrbit\Core\Problem\NotUnderstood;

/** What was seen, and all between: quantiles are linear between the values in their order, so none is less than the least. */
final readonly class Empirical implements Law
{
    public const MOST = 2_000;

    /** @param  non-empty-list<float>  $values  not falling, at least two of them different */
    private function __construct(private array $values)
    {
    }

    /**
     * @param  list<float>  $values
     *
     * @throws NotUnderstood
     */
    public static function of(array $values): self
    {
        if (count($values) > self::MOST) {
            throw NotUnderstood::because(
                '`empirical` takes at most '.number_format(self::MOST).' values; these are '.number_format(count($values)).'.',
            );
        }
        sort($values);

        return $values === [] || $values[0] === $values[count($values) - 1]
            ? throw NotUnderstood::because(
                '`empirical` takes values that were seen, at least two different ones: `empirical(2.1, 3.5, 2.8)`.',
            )
            : new self($values);
    }

    public function until(float $x): float
    {
        $last = count($this->values) - 1;
        if ($x < $this->values[0]) {
            return 0.0;
        }
        if ($x >= $this->values[$last]) {
            return 1.0;
        }
        // The last value that is not above.
        [$low, $high] = [0, $last];
        while ($high - $low > 1) {
            $middle = intdiv($low + $high, 2);
            $this->values[$middle] <= $x ? ($low = $middle) : ($high = $middle);
        }

        return ($low + ($x - $this->values[$low]) / ($this->values[$low + 1] - $this->values[$low])) / $last;
    }

    public function beyond(float $x): float
    {
        return 1.0 - $this->until($x);
    }

    public function quantile(float $p, float $rest): float
    {
        $at = min(1.0, max(0.0, $p)) * (count($this->values) - 1);
        $low = min((int) floor($at), count($this->values) - 2);

        return $this->values[$low] + ($at - $low) * ($this->values[$low + 1] - $this->values[$low]);
    }

    public function density(float $x): float
    {
        $last = count($this->values) - 1;
        if ($x < $this->values[0] || $x > $this->values[$last]) {
            return 0.0;
        }
        for ($i = 0; $i < $last - 1 && $this->values[$i + 1] <= $x; $i++);
        $width = $this->values[$i + 1] - $this->values[$i];

        return $width > 0.0 ? 1.0 / $last / $width : INF;
    }
}
