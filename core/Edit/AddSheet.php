<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Edit;

use MerryOrbit\Core\Model\Model;
use MerryOrbit\Core\Model\Sheet;

/** A new sheet behind the others. */
final readonly class AddSheet extends Edit
{
    private const MOST = 200;

    public function __construct(public string $id, public string $name)
    {
    }

    public function apply(Model $model): Model
    {
        if ($model->sheet($this->id) !== null) {
            throw EditRefused::because('sheet.known', 'This sheet is already in the model.');
        }
        if (count($model->sheets) >= self::MOST) {
            throw EditRefused::because('sheet.many', 'A model has at most '.self::MOST.' sheets. Put more things on one of them.');
        }

        return $model->with(['sheets' => [...$model->sheets, new Sheet($this->id, RenameSheet::fit($model, $this->name, $this->id))]]);
    }

    public function words(Model $before): string
    {
        return 'Added the sheet “'.trim($this->name).'”';
    }
}
