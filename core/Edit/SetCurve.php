<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Edit;

use MerryOrbit\Core\Model\Between;
use MerryOrbit\Core\Model\Beyond;
use MerryOrbit\Core\Model\Model;
use MerryOrbit\Core\Model\Relation;

/** The points of a curve or a series, how it runs between and outside them, and the unit of a curve's input. Null: as it is. */
final readonly class SetCurve extends Edit
{
    /** @param  ?list<array{float, float}>  $points */
    public function __construct(
        public string $id,
        public ?array $points = null,
        public ?Between $between = null,
        public ?Beyond $beyond = null,
        public ?string $inputUnit = null,
    ) {
    }

    public function apply(Model $model): Model
    {
        $curve = $model->element($this->id) ?? throw EditRefused::gone();
        if (! ($curve instanceof Relation)) {
            throw EditRefused::because('curve.kind', "Only a curve or a series has points; `$curve->name` is a {$curve->kind()->value}.");
        }
        $refusal = $this->points === null ? null : Relation::refusal($this->points);
        if ($refusal !== null) {
            throw EditRefused::because('curve.points', $refusal, 'points');
        }

        return $model->withElement(
            $curve->with([
                'points' => $this->points ?? $curve->points,
                'between' => $this->between ?? $curve->between,
                'beyond' => $this->beyond ?? $curve->beyond,
                'inputUnit' => $this->inputUnit === null ? $curve->inputUnit : SetUnit::fit($this->inputUnit),
            ]),
        );
    }

    public function words(Model $before): string
    {
        if ($this->points === null) {
            return 'Changed how `'.$before->nameOf($this->id).'` is read';
        }

        return 'Changed the points of `'.$before->nameOf($this->id).'`, now '.count($this->points);
    }
}
