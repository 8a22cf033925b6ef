<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Data\Steps;

use MerryOrbit\Core\Data\DataTable;

/** Words that steps say of themselves. */
final class Said
{
    /** @param  list<int>  $chosen */
    public static function of(DataTable $table, array $chosen): string
    {
        $names = array_values(array_unique(array_map(static fn (int $i): string => '`'.$table->series[$i]->name.'`', $chosen)));

        return count($names) === 1 || count($names) > 4
            ? (count($names) === 1
                ? $names[0]
                : count($names).' series')
            : implode(', ', array_slice($names, 0, -1)).' and '.$names[count($names) - 1];
    }

    public static function counted(int $count, string $one, string $many): string
    {
        return number_format($count).' '.($count === 1 ? $one : $many);
    }
}
