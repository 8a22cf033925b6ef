<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Edit;

use MerryOrbit\Core\Formula\Name;
use MerryOrbit\Core\Model\Model;

/** A new name and note of the study. */
final readonly class SetTitle extends Edit
{
    public function __construct(public string $name, public ?string $note = null)
    {
    }

    public function apply(Model $model): Model
    {
        $name = trim((string) preg_replace('/\s+/u', ' ', $this->name));
        $refusal = Name::refusal($name);
        if ($refusal !== null) {
            throw EditRefused::because('title.unfit', $refusal, 'name');
        }

        return $model->with(['name' => $name, 'note' => $this->note === null ? $model->note : SetNote::fit($this->note)]);
    }

    public function words(Model $before): string
    {
        return $this->note === null ? 'Named the study `'.trim($this->name).'`' : 'Changed the words about the study';
    }
}
