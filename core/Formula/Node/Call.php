<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Formula\Node;

use MerryOrbit\Core\Formula\FunctionSpec;

/** A call of a function of the catalogue. */
final readonly class Call extends Node
{
    /** @param  list<Node>  $arguments as many as the function takes */
    public function __construct(public FunctionSpec $function, public array $arguments, int $from, int $length)
    {
        parent::__construct($from, $length);
    }

    public function parts(): array
    {
        return $this->arguments;
    }

    public function with(array $parts): self
    {
        return new self($this->function, $parts, $this->from, $this->length);
    }
}
