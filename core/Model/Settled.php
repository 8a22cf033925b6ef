<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Model;

/** What may come with names of dimensions and elements where it keeps their ids. */
interface Settled
{
    /** The same with ids; what is not there stays as it is, and is no fit. */
    public function settled(Model $model): static;
}
