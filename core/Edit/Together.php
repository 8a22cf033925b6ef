<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Edit;

use MerryOrbit\Core\Model\Model;

/** Several edits that are one: made, undone and told as one. */
final readonly class Together extends Edit
{
    /** @param  non-empty-list<Edit>  $edits */
    public function __construct(public array $edits, private string $said = '')
    {
    }

    public function apply(Model $model): Model
    {
        foreach ($this->edits as $edit) {
            $model = $edit->apply($model);
        }

        return $model;
    }

    public function words(Model $before): string
    {
        if ($this->said !== '') {
            return $this->said;
        }
        $words = $this->edits[0]->words($before);

        return count($this->edits) === 1 ? $words : $words.' and '.(count($this->edits) - 1).' more';
    }
}
