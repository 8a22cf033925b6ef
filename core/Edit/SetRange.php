<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Edit;

use MerryOrbit\Core\Model\Model;
use MerryOrbit\Core\Model\Parameter;

/** The range of a parameter's dial and its step; null lets them follow from the value. */
final readonly class SetRange extends Edit
{
    public function __construct(public string $id, public ?float $low, public ?float $high, public ?float $step)
    {
    }

    public function apply(Model $model): Model
    {
        $element = $model->element($this->id) ?? throw EditRefused::gone();
        if (! ($element instanceof Parameter)) {
            throw EditRefused::because(
                'range.kind',
                "Only a parameter has a dial; `$element->name` is a {$element->kind()->value}.",
                'range',
            );
        }
        foreach ([$this->low, $this->high, $this->step] as $value) {
            if ($value !== null && ! is_finite($value)) {
                throw EditRefused::because('range.number', 'The range of a dial is given in plain numbers.', 'range');
            }
        }
        if ($this->low !== null && $this->high !== null && $this->low >= $this->high) {
            throw EditRefused::because('range.order', 'The low end of the dial must lie below its high end.', 'range');
        }
        if ($this->step !== null && $this->step <= 0) {
            throw EditRefused::because('range.step', 'The step of the dial must be larger than zero.', 'range');
        }

        return $model->withElement($element->with(['low' => $this->low, 'high' => $this->high, 'step' => $this->step]));
    }

    public function words(Model $before): string
    {
        return 'Changed the dial of `'.$before->nameOf($this->id).'`';
    }
}
