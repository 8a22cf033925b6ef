<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Formula\Node;

/** A part of a formula. `from` and `length` are bytes of the text it was read from. */
abstract readonly class Node
{
    public function __construct(public int $from, public int $length)
    {
    }

    /** @return list<Node> */
    public function parts(): array
    {
        return [];
    }
}
