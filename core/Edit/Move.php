<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Edit;

use MerryOrbit\Core\Model\Appearance;
use MerryOrbit\Core\Model\Model;
use MerryOrbit\Core\Model\Placement;

/** New places on the sheet. */
final readonly class Move extends Edit
{
    /** @param  array<string, Placement>  $placements by element or echo id */
    public function __construct(public array $placements)
    {
    }

    public function apply(Model $model): Model
    {
        $known = array_intersect_key($this->placements, $model->elements);
        $echoes = $model->echoes;
        foreach (array_intersect_key($this->placements, $echoes) as $id => $place) {
            $echoes[$id] = new Appearance($echoes[$id]->element, $place->at, $echoes[$id]->sheet);
        }
        if ($known === [] && $echoes === $model->echoes) {
            throw EditRefused::gone();
        }
        foreach ($known as $id => $place) {
            // A move stays on the sheet; MoveToSheet leaves it.
            $known[$id] = $place->with(['sheet' => $model->sheetOf($id)]);
        }

        return $model->with(['placements' => [...$model->placements, ...$known], 'echoes' => $echoes]);
    }

    public function words(Model $before): string
    {
        $id = array_key_first($this->placements);

        return count($this->placements) === 1 && $id !== null
            ? 'Moved '.
                    (isset($before->echoes[$id]) ? 'the echo of ' : '').
                    '`'.
                    $before->nameOf($before->echoes[$id]->element ?? $id).
                    '`'
            : 'Moved '.count($this->placements).' things';
    }
}
