<?php

declare(strict_types=1);

namespace Tests\Core;

use MerryOrbit\Core\Formula\Catalogue;
use MerryOrbit\Core\Formula\FunctionSpec;

/** Formulas of all operators and functions over `p`, `q`, `s` and time; uses mt_rand, so seed it. */
final class RandomFormula
{
    public static function text(int $depth): string
    {
        if ($depth === 0 || mt_rand(0, 5) === 0) {
            return ['p', 'q', 's', 'time', '2', '0.5', '3%', '7'][mt_rand(0, 7)];
        }
        $part = static fn (): string => self::text($depth - 1);
        switch (mt_rand(0, 5)) {
            case 0:
                return '('.$part().' '.['=', '<>', '<', '<=', '>', '>=', 'and', 'or'][mt_rand(0, 7)].' '.$part().')';
            case 1:
                return '('.['-', 'not '][mt_rand(0, 1)].$part().')';
            case 2:
            case 3:
                return '('.$part().' '.['+', '-', '*', '/', '^'][mt_rand(0, 4)].' '.$part().')';
            default:
                $isPlain = static fn (FunctionSpec $f): bool => ! in_array($f->group, ['series', 'dimensions'], true);
                $functions = array_values(array_filter(Catalogue::all(), $isPlain));
                $function = $functions[mt_rand(0, count($functions) - 1)];
                $count = mt_rand($function->fewest(), $function->repeats ? $function->fewest() + 1 : $function->most());

                $arguments = array_map($part, range(1, $count));
                $order = array_search('order', $function->parameters, true);
                if ($order !== false && isset($arguments[$order])) {
                    $arguments[$order] = (string) mt_rand(1, 4);
                }

                return $function->name.'('.implode(', ', $arguments).')';
        }
    }
}
