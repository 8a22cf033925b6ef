<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Reduce;

use MerryOrbit\Core\Analysis\Analysis;
use MerryOrbit\Core\Simulate\Trajectory;

/** Which of the many elements of a thing have the greatest, or the least, value at the end of a run. */
final class Ranked
{
    /**
     * @param  array<string, string>  $look  by dimension an element or a gathering, such as `*sum`, that is looked at; along all others each element
     * @return list<string> keys as Gathered reads them, the first first; equals in the order of the elements
     */
    public static function keys(Trajectory $run, Analysis $analysis, string $id, array $look, bool $greatest, int $most): array
    {
        $dimensions = $analysis->model->dimensions();
        $places = [[]];
        foreach ($analysis->extents[$id] ?? [] as $dimension) {
            $own = $look[$dimension] ?? '';
            $next = [];
            foreach ($places as $place) {
                foreach ($own === '' ? $dimensions->elements($dimension) : [$own] as $one) {
                    $next[] = [...$place, $one];
                }
            }
            $places = $next;
        }
        $keys = array_map(static fn (array $place): string => "{$id}[".implode(',', $place).']', $places);
        [$all] = Gathered::added($run, $analysis, $keys);
        $values = [];
        foreach ($keys as $key) {
            $value = $all->length() === 0 ? null : $all->value($key, $all->length() - 1);
            if ($value !== null) {
                $values[$key] = $value;
            }
        }
        // PHP's sorting leaves equals in their order.
        $greatest ? arsort($values) : asort($values);

        return array_map(strval(...), array_slice(array_keys($values), 0, $most));
    }
}
