<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Compile;

use MerryOrbit\Core\Formula\Node\Node;

/** Finished code within a formula: a number, or a condition. */
final readonly class Code extends Node
{
    public function __construct(public string $text, public bool $isCondition = false)
    {
        parent::__construct(0, 0);
    }
}
