<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Compile\Loops;

use MerryOrbit\Core\Formula\Node\Node;

/** One thing that is computed for all its elements: an equation, something looked up along dimensions, a stock's rate, what a cell keeps. */
final readonly class LoopItem
{
    /**
     * @param  'equation'|'lifted'|'sum'|'rate'|'watch'|'end'  $kind
     * @param  string  $key  of the equation, the stock, the cell …
     * @param  list<string>  $extent  ids of dimensions
     * @param  bool  $early  whether it is computed only at the start of a step
     * @param  array<string, true>  $near  keys of which it reads the same element
     * @param  array<string, true>  $far  keys of which it reads others
     * @param  array<string, int>  $behind  keys of which it reads elements before its own, which a loop has met already, and how far before at most
     */
    public function __construct(
        public string $kind,
        public string $key,
        public array $extent,
        public ?Node $node,
        public bool $early,
        public array $near,
        public array $far,
        public array $behind,
        /** How many elements there are. */
        public int $size,
    ) {
    }

    /** What no other item is called. */
    public function name(): string
    {
        return match ($this->kind) {
            'equation', 'lifted', 'sum' => $this->key,
            default => "$this->kind $this->key",
        };
    }
}
