<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Exchange\Xmile;

/** A number as a file writes it, where it is one that can be computed with: `1e999` is as little a number as `soon`. */
final class Numeral
{
    /** @return ?float finite; null for anything else */
    public static function read(?string $text): ?float
    {
        $number = $text !== null && is_numeric($text) ? (float) $text : NAN;

        return is_finite($number) ? $number : null;
    }
}
