<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Fit;

/** A search, a profile or a chain, whatever it comes to: it asks for points, and is sent what runs have there. */
final readonly class Walk
{
    /** @param  \Generator<int, list<list<float>>, list<?list<float>>, mixed>  $steps */
    public function __construct(public \Generator $steps)
    {
    }
}
