<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Model;

/** A relation of one input to one output, called by its name: `effect of crowding(density)`. */
final readonly class Curve extends Relation
{
    public function kind(): Kind
    {
        return Kind::Curve;
    }
}
