<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Shape;

use MerryOrbit\Core\Model\Mapping;

/** A dimension that a gathering goes over, perhaps towards another one. */
final readonly class Bound
{
    public function __construct(public string $dimension, public ?Mapping $mapping)
    {
    }
}
