<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Experiment;

/** Two courses on one time axis, though their runs stepped or ended differently. */
final class Alignment
{
    /**
     * A course at other moments, on straight lines between its own; NAN before its first and after its last.
     *
     * @param  list<float>  $times  increasing
     * @param  list<float>  $values  as many
     * @param  list<float>  $wanted  increasing
     * @return list<float> as long as `$wanted`
     */
    public static function at(array $times, array $values, array $wanted): array
    {
        if ($times === $wanted) {
            return $values;
        }
        $found = [];
        $last = count($times) - 1;
        $i = 0;
        foreach ($wanted as $time) {
            while ($i < $last && $times[$i + 1] <= $time) {
                $i++;
            }
            if ($last < 0 || $time < $times[0] || $time > $times[$last]) {
                $found[] = NAN;
            } elseif ($i === $last || $time === $times[$i]) {
                $found[] = $values[$i];
            } else {
                $found[] = $values[$i] + (($time - $times[$i]) / ($times[$i + 1] - $times[$i])) * ($values[$i + 1] - $values[$i]);
            }
        }

        return $found;
    }

    /**
     * @param  list<float>  $values
     * @param  list<float>  $base  as many
     * @return list<float>
     */
    public static function difference(array $values, array $base): array
    {
        return array_map(static fn (float $v, float $b): float => $v - $b, $values, $base);
    }

    /**
     * The difference in per cent of the size of the base; NAN where that is zero.
     *
     * @param  list<float>  $values
     * @param  list<float>  $base  as many
     * @return list<float>
     */
    public static function percent(array $values, array $base): array
    {
        return array_map(static fn (float $v, float $b): float => $b == 0.0 ? NAN : (100.0 * ($v - $b)) / abs($b), $values, $base);
    }
}
