<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Shape;

use MerryOrbit\Core\Formula\Node\NameUse;
use MerryOrbit\Core\Formula\Node\Node;
use MerryOrbit\Core\Plan\Cell;
use MerryOrbit\Core\Plan\Equation;
use MerryOrbit\Core\Plan\Keys;
use MerryOrbit\Core\Plan\State;

/** Over what the hidden parts of functions with a memory extend: it follows from what they hold. */
final class HiddenExtents
{
    /**
     * Adds them to what is known; some need each other.
     *
     * @param  array<string, Equation>  $equations
     * @param  array<string, State>  $states
     * @param  array<string, Cell>  $cells
     * @param  array<string, Node>  $initials
     * @return array<string, ExtentError> by element id, what does not fit
     */
    public static function settle(Extents $extents, Keys $keys, array $equations, array $states, array $cells, array $initials): array
    {
        $nodes = $errors = [];
        foreach ($equations as $equation) {
            if ($keys->isHidden($equation->key)) {
                $nodes[$equation->key][] = $equation->node;
                if ($equation->draw !== null) {
                    // Every element draws for itself.
                    $nodes[$equation->key][] = new NameUse($equation->owner, '', 0, 0);
                }
            }
        }
        foreach ($states as $state) {
            if ($keys->isHidden($state->key)) {
                $rates = array_map(static fn (array $r): Node => new NameUse($r[0], $r[0], 0, 0), $state->rates);
                $nodes[$state->key] = [$state->initial, ...$rates];
            }
        }
        foreach ($cells as $cell) {
            if ($keys->isHidden($cell->key)) {
                $nodes[$cell->key] = [...$nodes[$cell->key] ?? [], ...array_filter([$cell->watched, $cell->first])];
            }
        }
        foreach ($initials as $key => $node) {
            $nodes[$key] = [$node];
        }
        do {
            $changed = false;
            foreach ($nodes as $key => $all) {
                $extent = $extents->known[$key] ?? [];
                foreach ($all as $node) {
                    try {
                        $extent = $extents->union($extent, $extents->of($node), $node);
                    } catch (ExtentError $e) {
                        $errors[$keys->owner($key)] ??= $e;
                    }
                }
                if ($extent !== ($extents->known[$key] ?? [])) {
                    $extents->known[$key] = $extent;
                    $changed = true;
                }
            }
        } while ($changed);

        return $errors;
    }
}
