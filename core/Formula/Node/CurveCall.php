<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Formula\Node;

/** A curve of the model looked up at the argument; `key` is the form in which names are compared. */
final readonly class CurveCall extends Node
{
    public function __construct(public string $key, public string $written, public int $nameLength, public Node $argument, int $from, int $length)
    {
        parent::__construct($from, $length);
    }

    public function parts(): array
    {
        return [$this->argument];
    }
}
