<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Edit;

use MerryOrbit\Core\Model\Model;
use MerryOrbit\Core\Model\Table;

/** What becomes of the values of a parameter when its dimensions, or their elements, become others. */
final class TableChange
{
    /**
     * A dimension that comes has the value that was there before for all of its elements; of one that goes the first element's value
     * stays. So to add one and to take it away again changes nothing.
     *
     * @param  list<string>  $before  the dimensions that its table names elements of
     */
    public static function follow(Model $model, string $parameter, array $before): Model
    {
        $now = $model->shapes[$parameter] ?? [];
        $tables = $model->part('tables');
        foreach ($tables as $key => $table) {
            if (! ($table instanceof Table) || $table->of !== $parameter) {
                continue;
            }
            if ($now === []) {
                unset($tables[$key]);

                continue;
            }
            $values = self::values($model, $table, $before, $now);
            $tables[$key] = new Table($table->id, $table->of, $values);
            if ($values === []) {
                unset($tables[$key]);
            }
        }

        return $tables === $model->part('tables') ? $model : $model->with(['tables' => $tables]);
    }

    /**
     * @param  list<string>  $before
     * @param  list<string>  $now
     * @return list<array{list<string>, float}>
     */
    private static function values(Model $model, Table $table, array $before, array $now): array
    {
        $dimensions = $model->dimensions();
        $gone = array_values(array_diff($before, $now));
        $values = [];
        foreach ($table->values as [$at, $value]) {
            if (count($at) !== count($before)) {
                continue;
            }
            $place = array_combine($before, $at);
            foreach ($gone as $dimension) {
                // Of a dimension that is gone altogether nothing tells the first element: the first value stays.
                $first = $dimensions->allElements($dimension)[0] ?? null;
                if ($first !== null && $place[$dimension] !== $first) {
                    continue 2;
                }
            }
            $places = [[]];
            foreach ($now as $dimension) {
                $known = isset($place[$dimension]) ? [$place[$dimension]] : $dimensions->allElements($dimension);
                $next = [];
                foreach ($places as $one) {
                    foreach ($known as $element) {
                        if ($dimensions->has($dimension, $element) && count($next) < Table::MOST_VALUES) {
                            $next[] = [...$one, $element];
                        }
                    }
                }
                $places = $next;
            }
            foreach ($places as $one) {
                $values[implode(',', $one)] ??= [$one, $value];
            }
        }

        return array_slice(array_values($values), 0, Table::MOST_VALUES);
    }
}
