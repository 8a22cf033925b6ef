<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Formula\Node;

/** The operand with its sign turned. */
final readonly class Negative extends Node
{
    public function __construct(public Node $operand, int $from, int $length)
    {
        parent::__construct($from, $length);
    }

    public function parts(): array
    {
        return [$this->operand];
    }

    public function with(array $parts): self
    {
        return new self($parts[0], $this->from, $this->length);
    }
}
