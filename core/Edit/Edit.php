<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Edit;

use MerryOrbit\Core\Model\Model;

/** One change of a model. */
abstract readonly class Edit
{
    /** @throws EditRefused with a sentence, when the change makes no sense for this model */
    abstract public function apply(Model $model): Model;

    /** What it does, in a few words for the history: "Renamed `wells` to `pumping`". */
    abstract public function words(Model $before): string;

    /** The edit that takes this one back exactly, given the model before it. */
    public function inverse(Model $before): Patch
    {
        return Patch::between($this->apply($before), $before);
    }
}
