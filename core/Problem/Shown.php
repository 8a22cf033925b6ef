<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Problem;

/** How values stand in sentences. */
final class Shown
{
    /** Short, but exact enough to be typed again. */
    public static function number(float $value): string
    {
        return (string) (float) sprintf('%.12g', $value);
    }
}
