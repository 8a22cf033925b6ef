<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Shape;

use MerryOrbit\Core\Formula\Node\CurveCall;
use MerryOrbit\Core\Formula\Node\Pick;

/** Which models are run in loops over their elements, and what of a formula that cannot do. */
final class Packing
{
    /** From so many values on; fewer are quicker written out, each in a variable of its own. */
    public const FROM = 1_000;

    /** How many values there may be in all, hidden ones too. */
    public const LARGEST = 2_000_000;

    /** What needs its elements one by one; null if all can be run in loops. */
    public static function hindrance(ShapedPlan $shaped): ?string
    {
        $plan = $shaped->plan;
        if ($plan->transits !== []) {
            return 'a transit stock';
        }
        foreach ($plan->equations as $equation) {
            foreach ($equation->node->all() as $part) {
                if ($part instanceof CurveCall && $shaped->extent($part->key) !== []) {
                    return 'a series with a course for each element';
                }
                if (
                    $part instanceof Pick &&
                    count(array_filter($shaped->extents->moves($part), static fn (Move $m): bool => $m->mapping !== null)) > 1
                ) {
                    return 'a pick by way of two mappings';
                }
            }
        }
        foreach ($shaped->formulas() as [$key, $node]) {
            if (Lifting::refuses($shaped->extents, $node, $shaped->extent($key))) {
                return 'a look among elements within a choice, which could fail there';
            }
        }

        return self::areLimitsAligned($shaped) ? null : 'a stock that never goes below zero, with a flow over other dimensions';
    }

    /** Limits act along whole columns if the flows of the stocks that they touch extend as these do. */
    private static function areLimitsAligned(ShapedPlan $shaped): bool
    {
        $plan = $shaped->plan;
        $touched = [];
        foreach ($plan->flows as $id => $ends) {
            if ($plan->isLimited($id)) {
                $touched += array_fill_keys(array_filter([$ends['from'], $ends['to']]), true);
            }
        }
        foreach ($plan->flows as $id => $ends) {
            foreach (array_filter([$ends['from'], $ends['to']]) as $stock) {
                if (isset($touched[$stock]) && $shaped->extent($id) !== $shaped->extent($stock)) {
                    return false;
                }
            }
        }

        return true;
    }
}
