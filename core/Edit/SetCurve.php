<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Edit;

use MerryOrbit\Core\Model\Between;
use MerryOrbit\Core\Model\Beyond;
use MerryOrbit\Core\Model\Curve;
use MerryOrbit\Core\Model\Model;

/** The points of a curve, how it runs between and outside them, and the unit of its input. */
final readonly class SetCurve extends Edit
{
    /** @param  list<array{float, float}>  $points */
    public function __construct(public string $id, public array $points, public Between $between, public Beyond $beyond, public string $inputUnit)
    {
    }

    public function apply(Model $model): Model
    {
        $curve = $model->element($this->id) ?? throw EditRefused::gone();
        if (! $curve instanceof Curve) {
            throw EditRefused::because('curve.kind', "Only a curve has points; `$curve->name` is a {$curve->kind()->value}.");
        }
        $refusal = Curve::refusal($this->points);
        if ($refusal !== null) {
            throw EditRefused::because('curve.points', $refusal, 'points');
        }

        return $model->withElement($curve->with(['points' => $this->points, 'between' => $this->between, 'beyond' => $this->beyond, 'inputUnit' => SetUnit::fit($this->inputUnit)]));
    }

    public function words(Model $before): string
    {
        return 'Changed the curve `'.$before->nameOf($this->id).'`, now with '.count($this->points).' points';
    }
}
