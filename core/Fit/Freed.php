<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Fit;

use MerryOrbit\Core\Problem\NotUnderstood;

/** A number of the model that a search may move: a parameter, one of its elements, or a plain initial value; within bounds. */
final readonly class Freed
{
    /**
     * @param  string  $key  of the parameter that is given a value: of an initial value, the one of Starts
     * @param  string  $name  for people
     * @param  float  $value  where it stands before
     * @param  bool  $isLog  whether it is searched by its logarithm
     */
    public function __construct(
        public string $key,
        public string $name,
        public float $value,
        public float $low,
        public float $high,
        public bool $isLog = false,
    ) {
        if (! ($low < $high)) {
            throw NotUnderstood::because("The bounds of `$name` go from the lower to the higher one.");
        }
        if ($isLog && $low <= 0.0) {
            throw NotUnderstood::because("`$name` is searched by its logarithm, so its lower bound is above 0.");
        }
    }

    /** Where a value lies between the bounds, from 0 to 1. */
    public function share(float $value): float
    {
        $share = $this->isLog
            ? log(max($value, $this->low) / $this->low) / log($this->high / $this->low)
            : ($value - $this->low) / ($this->high - $this->low);

        return min(1.0, max(0.0, $share));
    }

    public function at(float $share): float
    {
        $value = $this->isLog ? $this->low * ($this->high / $this->low) ** $share : $this->low + $share * ($this->high - $this->low);

        return $this->within($value);
    }

    public function within(float $value): float
    {
        return min($this->high, max($this->low, $value));
    }

    public function isAtBound(float $value): bool
    {
        $slack = 1e-9 * ($this->high - $this->low);

        return $value <= $this->low + $slack || $value >= $this->high - $slack;
    }
}
