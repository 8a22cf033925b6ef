<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Formula\Node;

/**
 * A mention of something the model defines. `key` is, as it was read from text, the form in which names are compared; where a model is
 * analysed, the id of the element, or empty where nothing is called so; in a plan the key of what is computed.
 */
final readonly class NameUse extends Node
{
    public function __construct(public string $key, public string $written, int $from, int $length)
    {
        parent::__construct($from, $length);
    }
}
