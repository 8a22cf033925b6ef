<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Model;

/** What accumulates. Its formula is its initial value; its equation follows from its flows. */
final readonly class Stock extends Element
{
    public function kind(): Kind
    {
        return Kind::Stock;
    }
}
