<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Formula\Node;

/** A formula with exceptions: what holds for all, and what holds instead for some elements of its dimensions. */
final readonly class Cases extends Node
{
    /**
     * @param  list<Node>  $exceptions
     * @param  list<array<string, list<string>>>  $regions  of each exception, ids of elements by dimension
     * @param  list<string>  $words  of each exception, for whom it is, as people say it
     */
    public function __construct(public Node $main, public array $exceptions, public array $regions, public array $words)
    {
        parent::__construct($main->from, $main->length);
    }

    public function parts(): array
    {
        return [$this->main, ...$this->exceptions];
    }

    public function with(array $parts): self
    {
        return new self($parts[0], array_slice($parts, 1), $this->regions, $this->words);
    }
}
