<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Edit;

use MerryOrbit\Core\Model\Model;
use MerryOrbit\Core\Model\Point;

/** New spots on the causal map. */
final readonly class MoveOnMap extends Edit
{
    /** @param  array<string, Point>  $spots  by element id */
    public function __construct(public array $spots)
    {
    }

    public function apply(Model $model): Model
    {
        $known = array_intersect_key($this->spots, $model->elements);

        return $known === [] ? throw EditRefused::gone() : $model->with(['mapSpots' => [...MapSpots::of($model), ...$known]]);
    }

    public function words(Model $before): string
    {
        $id = (string) array_key_first($this->spots);

        return count($this->spots) === 1
            ? "Moved `{$before->nameOf($id)}` on the map"
            : 'Moved '.count($this->spots).' things on the map';
    }
}
