<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Formula\Node;

/** A dimension, a mapping, or an element of a dimension, as the argument of a function. `key`: the form in which names are compared. */
final readonly class Along extends Node
{
    public function __construct(public string $key, public string $written, int $from, int $length)
    {
        parent::__construct($from, $length);
    }
}
