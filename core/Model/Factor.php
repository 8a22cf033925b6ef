<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Model;

/** A thing of a causal map that has no formula (yet): nothing of it is computed, and it needs none to be sound. */
final readonly class Factor extends Element
{
    public function kind(): Kind
    {
        return Kind::Factor;
    }
}
