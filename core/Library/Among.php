<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Library;

/** What values are among all along a dimension, for all of them at once. */
final class Among
{
    /**
     * The largest is the first; of equals the one that comes first.
     *
     * @param  list<float>  $x
     * @return list<float> from 1
     */
    public static function ranks(array $x): array
    {
        // PHP's sorting leaves equals in their order.
        arsort($x, SORT_NUMERIC);
        $ranks = [];
        $rank = 0.0;
        foreach (array_keys($x) as $i) {
            $ranks[$i] = ++$rank;
        }
        ksort($ranks);

        return array_values($ranks);
    }

    /**
     * What each gets of a supply: higher priorities first, equals in proportion to what they want.
     *
     * @param  list<float>  $supply  as each sees it
     * @param  list<float>  $wanted
     * @param  list<float>  $priorities
     * @return list<float>
     */
    public static function allotted(array $supply, array $wanted, array $priorities): array
    {
        $known = [];
        $shares = [];
        foreach ($wanted as $i => $own) {
            $key = (string) $priorities[$i];
            if (! isset($known[$key])) {
                $before = $equal = 0.0;
                foreach ($wanted as $k => $other) {
                    $other = $other > 0.0 ? $other : 0.0;
                    $before += $priorities[$k] > $priorities[$i] ? $other : 0.0;
                    $equal += $priorities[$k] == $priorities[$i] ? $other : 0.0;
                }
                $known[$key] = [$before, $equal];
            }
            [$before, $equal] = $known[$key];
            $own = $own > 0.0 ? $own : 0.0;
            $left = $supply[$i] - $before;
            $left = $left > 0.0 ? $left : 0.0;
            $shares[] = $equal <= $left ? $own : ($left * $own) / $equal;
        }

        return $shares;
    }
}
