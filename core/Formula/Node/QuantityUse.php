<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Formula\Node;

use MerryOrbit\Core\Formula\Quantity;

/** A mention of a built-in quantity. */
final readonly class QuantityUse extends Node
{
    public function __construct(public Quantity $quantity, int $from, int $length)
    {
        parent::__construct($from, $length);
    }
}
