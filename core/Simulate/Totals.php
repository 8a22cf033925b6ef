<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Simulate;

use MerryOrbit\Core\Formula\FormulaText;
use MerryOrbit\Core\Formula\Name;
use MerryOrbit\Core\Model\Auxiliary;
use MerryOrbit\Core\Model\Model;

/** A model with running totals of some of its variables. */
final readonly class Totals
{
    /** @param  array<string, string>  $ids  by variable, the id of its total */
    private function __construct(public Model $model, public array $ids)
    {
    }

    /** @param  list<string>  $of  ids of what has a rate: flows, auxiliaries, stocks, parameters */
    public static function of(Model $model, array $of): self
    {
        $ids = $added = [];
        foreach ($of as $one) {
            $id = 'total-'.count($ids);
            $name = "total of {$model->nameOf($one)}";
            while ($model->element($id) !== null || $model->idOf(Name::key($name)) !== null) {
                $id .= 'x';
                $name .= ' x';
            }
            $ids[$one] = $id;
            $added[$id] = new Auxiliary(
                $id,
                $name,
                FormulaText::typed('total('.Name::written((string) $model->nameOf($one)).')', $model->idOf(...)),
            );
        }

        return new self($added === [] ? $model : $model->with(['elements' => [...$model->elements, ...$added]]), $ids);
    }
}
