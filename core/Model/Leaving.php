<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Model;

/** One of a part of the document that others refer to: when it goes they stay, without it. */
interface Leaving
{
    /** The model, of which it is no part any more, with nothing that refers to it. */
    public function left(Model $model): Model;
}
