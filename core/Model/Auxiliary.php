<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Model;

/** What is computed from others at every moment. */
final readonly class Auxiliary extends Computed
{
    public function kind(): Kind
    {
        return Kind::Auxiliary;
    }
}
