<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Edit;

use MerryOrbit\Core\Model\Element;
use MerryOrbit\Core\Model\Factor;
use MerryOrbit\Core\Model\Model;

/** What can have a formula, a course and a place on a sheet: anything but a factor of the causal map. */
final class Computing
{
    public static function known(Model $model, string $id): bool
    {
        $element = $model->element($id);

        return $element !== null && ! ($element instanceof Factor);
    }

    /** @throws EditRefused when it is gone, or a factor */
    public static function element(Model $model, string $id): Element
    {
        $element = $model->element($id) ?? throw EditRefused::gone();
        if ($element instanceof Factor) {
            throw EditRefused::because(
                'factor.computes',
                "`$element->name` is a factor of the map and is not computed. First make it a stock, a flow, an auxiliary or a parameter.",
            );
        }

        return $element;
    }
}
