<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Formula\Node;

use MerryOrbit\Core\Formula\Operator;

/** Two operands and what joins them. */
final readonly class Binary extends Node
{
    public function __construct(public Operator $operator, public Node $left, public Node $right)
    {
        parent::__construct($left->from, $right->from + $right->length - $left->from);
    }

    public function parts(): array
    {
        return [$this->left, $this->right];
    }

    public function with(array $parts): self
    {
        return new self($this->operator, $parts[0], $parts[1]);
    }
}
