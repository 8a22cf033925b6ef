<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Analysis;

use MerryOrbit\Core\Formula\Name;
use MerryOrbit\Core\Plan\Key;

/** What a name with elements behind it, `oysters[north, seed]`, means in a model. */
final class KeyReading
{
    /**
     * A name, and the elements that stand in brackets behind it.
     *
     * @return array{string, list<string>}
     */
    public static function apart(string $written): array
    {
        $written = trim($written, " \t");
        if (preg_match('/^(.*\S)\s*\[([^\[\]]*)\]$/Dsu', $written, $m) !== 1) {
            return [trim($written, '"'), []];
        }

        return [trim($m[1], '"'), array_map(static fn (string $one): string => trim($one, " \t\""), explode(',', $m[2]))];
    }

    /** @return ?string an id, or the key of an element of it; null if there is nothing of that name */
    public static function key(Analysis $analysis, string $written): ?string
    {
        // A name may end in brackets itself.
        $plain = $analysis->model->idOf(Name::key(trim($written, " \t\"")));
        if ($plain !== null) {
            return $plain;
        }
        [$whole, $at] = self::apart($written);
        $id = $analysis->model->idOf(Name::key($whole));
        if ($id === null || $at === []) {
            return $id;
        }
        $over = $analysis->extents[$id] ?? [];
        $ids = array_map(
            static fn (string $dimension, string $one): string => (string) $analysis->model->dimensions()->elementOf($dimension, $one),
            array_slice($over, 0, count($at)),
            array_slice($at, 0, count($over)),
        );
        $key = (new Key($id, '', $ids))->text();

        return count($ids) === count($at) && $analysis->positions->place($key) !== null ? $key : null;
    }
}
