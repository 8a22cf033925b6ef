<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Plan;

use MerryOrbit\Core\Formula\Node\Node;

/** How a transit stock is computed: how long its content travels, and the flow by which it arrives. */
final readonly class Transit
{
    public function __construct(public string $stock, public Node $travel, public ?string $arrival)
    {
    }
}
