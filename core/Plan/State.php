<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Plan;

use MerryOrbit\Core\Formula\Node\Node;

/** What is integrated: a stock, or a hidden one that a function with a memory needs. */
final readonly class State
{
    /**
     * @param  list<array{string, int}>  $rates  keys of equations, each with 1 for what enters and -1 for what leaves
     * @param  ?Node  $forced  what its value is set to at every look while a hand holds it, and its own value while none does
     */
    public function __construct(
        public string $key,
        public string $owner,
        public Node $initial,
        public array $rates,
        public ?Node $forced = null,
    ) {
    }
}
