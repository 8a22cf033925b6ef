<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Law;

/** How likely the values of an uncertain number are. */
interface Law
{
    /** How likely it is not to be above x. */
    public function until(float $x): float;

    /** How likely it is to be above x: by itself, so that small ones are exact. */
    public function beyond(float $x): float;

    /** The value that it is not above with probability p, of 0 < p < 1; `$rest` is 1 − p, by itself. */
    public function quantile(float $p, float $rest): float;

    /** How densely it lies at x; of single values how likely each is. */
    public function density(float $x): float;
}
