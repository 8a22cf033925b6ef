<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Map;

use MerryOrbit\Core\Plan\Circles;

/** Strongly connected parts of a directed graph: within one, each node leads to each. No circuit passes through two. */
final class Parts
{
    /**
     * @param  array<int, list<int>>  $effects  by node, the nodes that it acts on; others than keys are passed over
     * @return list<non-empty-array<int, non-empty-list<int>>> by part, its nodes in order and what they act on within it; nodes on no
     *   circuit are in none
     */
    public static function of(array $effects): array
    {
        $needs = [];
        foreach ($effects as $node => $all) {
            $needs["n$node"] = array_map(static fn (int $to): string => "n$to", $all);
        }
        $group = (new Circles($needs))->group;
        ksort($effects);
        $parts = [];
        foreach ($effects as $node => $all) {
            $own = $group["n$node"];
            $within = array_values(array_filter($all, static fn (int $to): bool => ($group["n$to"] ?? null) === $own));
            if ($within !== []) {
                $parts[$own][$node] = $within;
            }
        }

        return array_values($parts);
    }
}
