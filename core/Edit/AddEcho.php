<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Edit;

use MerryOrbit\Core\Model\Appearance;
use MerryOrbit\Core\Model\Model;
use MerryOrbit\Core\Model\Point;

/** A second appearance of an element. */
final readonly class AddEcho extends Edit
{
    public function __construct(public string $id, public string $element, public Point $at, public string $sheet)
    {
    }

    public function apply(Model $model): Model
    {
        if (! isset($model->made()[$this->element])) {
            Computing::element($model, $this->element);
        }
        if ($model->element($this->id) !== null || isset($model->echoes[$this->id])) {
            throw EditRefused::because('element.known', 'This echo is already in the model.');
        }
        RenameSheet::known($model, $this->sheet);
        if (count($model->echoes) >= Model::MOST_ELEMENTS) {
            throw EditRefused::because('model.full', 'A model holds at most '.number_format(Model::MOST_ELEMENTS).' echoes.');
        }

        return $model->with(['echoes' => [...$model->echoes, $this->id => new Appearance($this->element, $this->at, $this->sheet)]]);
    }

    public function words(Model $before): string
    {
        return 'Echoed `'.
            $before->nameOf($this->element).
            '`'.
            (count($before->sheets) > 1 ? ' on '.($before->sheet($this->sheet)->name ?? '') : '');
    }
}
