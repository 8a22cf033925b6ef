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

    /** A time without the noise of arithmetic, 0.15 for 0.15000000000000002; what is not round stays as it is. */
    public static function time(float $time): float
    {
        $round = (float) sprintf('%.12g', $time);

        return abs($round - $time) <= 1e-14 * max(1.0, abs($time)) ? $round : $time;
    }

    /** For reading: four digits that count, thousands apart. */
    public static function brief(float $value): string
    {
        $rounded = (float) sprintf('%.4g', $value);
        $size = abs($rounded);
        if ($size !== 0.0 && ($size >= 1e15 || $size < 1e-4)) {
            return (string) $rounded;
        }
        $digits = $size === 0.0 ? 0 : max(0, 3 - (int) floor(log10($size)));
        $text = number_format($rounded, $digits);

        return str_contains($text, '.') ? rtrim(rtrim($text, '0'), '.') : $text;
    }
}
