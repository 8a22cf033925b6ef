<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Formula\Node;

/** A mention of something the model defines; `key` is the form in which names are compared. */
final readonly class NameUse extends Node
{
    public function __construct(public string $key, public string $written, int $from, int $length)
    {
        parent::__construct($from, $length);
    }
}
