<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Formula\Node;

/** A curve of the model looked up at the argument. `key`: see NameUse. */
final readonly class CurveCall extends Node
{
    public function __construct(
        public string $key,
        public string $written,
        public int $nameLength,
        public Node $argument,
        int $from,
        int $length,
    ) {
        parent::__construct($from, $length);
    }

    public function parts(): array
    {
        return [$this->argument];
    }

    public function with(array $parts): self
    {
        return new self($this->key, $this->written, $this->nameLength, $parts[0], $this->from, $this->length);
    }
}
