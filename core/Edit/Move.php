<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Edit;

use MerryOrbit\Core\Model\Model;
use MerryOrbit\Core\Model\Placement;

/** New places on the sheet. */
final readonly class Move extends Edit
{
    /** @param  array<string, Placement>  $placements by element id */
    public function __construct(public array $placements)
    {
    }

    public function apply(Model $model): Model
    {
        $known = array_intersect_key($this->placements, $model->elements);
        if ($known === []) {
            throw EditRefused::gone();
        }

        return $model->with(['placements' => [...$model->placements, ...$known]]);
    }

    public function words(Model $before): string
    {
        $id = array_key_first($this->placements);

        return count($this->placements) === 1 && $id !== null ? 'Moved `'.$before->nameOf($id).'`' : 'Moved '.count($this->placements).' things';
    }
}
