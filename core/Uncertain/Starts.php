<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Uncertain;

use MerryOrbit\Core\Formula\FormulaText;
use MerryOrbit\Core\Formula\Name;
use MerryOrbit\Core\Formula\Reference;
use MerryOrbit\Core\Model\Model;
use MerryOrbit\Core\Model\Parameter;
use MerryOrbit\Core\Model\Stock;

/** Plain initial values as parameters, so that runs that start elsewhere are runs of one compiled program. */
final class Starts
{
    /** The initial value of a stock that is written as a plain number; null of all else. */
    public static function plain(Model $model, string $id): ?float
    {
        $stock = $model->elements[$id] ?? null;
        if (! ($stock instanceof Stock) || $stock->isTransit() || $stock->exceptions !== [] || ($model->shapes[$id] ?? []) !== []) {
            return null;
        }
        $written = trim($stock->formula->text($model->nameOf(...)));

        return is_numeric($written) ? (float) $written : null;
    }

    /** The id of the parameter that stands for the initial value of a stock. */
    public static function parameter(string $stock): string
    {
        return "start-of-$stock";
    }

    /**
     * @param  array<string>  $keys
     * @return list<string> the stocks whose initial values some of these keys stand for
     */
    public static function among(Model $model, array $keys): array
    {
        return array_values(
            array_filter(
                array_map(strval(...), array_keys($model->elements)),
                static fn (string $id): bool => in_array(self::parameter($id), $keys, true),
            ),
        );
    }

    /**
     * The model with a parameter in place of each of these initial values, which comes to the same.
     *
     * @param  list<string>  $stocks  those without a plain initial value are left as they are
     */
    public static function opened(Model $model, array $stocks): Model
    {
        $elements = $model->elements;
        foreach (array_unique($stocks) as $id) {
            $stock = $elements[$id] ?? null;
            if (! ($stock instanceof Stock) || self::plain($model, $id) === null) {
                continue;
            }
            $name = "start of $stock->name";
            while ($model->idOf(Name::key($name)) !== null) {
                $name .= ' x';
            }
            $start = self::parameter($id);
            $elements[$start] = new Parameter($start, $name, $stock->formula, $stock->unit);
            $elements[$id] = $stock->with(['formula' => new FormulaText([new Reference(Name::written($name), $start)])]);
        }

        return $elements === $model->elements ? $model : $model->with(['elements' => $elements]);
    }
}
