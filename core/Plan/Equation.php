<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Plan;

use MerryOrbit\Core\Formula\Node\Node;

/** What is computed from others: a flow or auxiliary, or a hidden part of one that a function with a memory needs. */
final readonly class Equation
{
    /**
     * @param  string  $key  the element's id, or its id with a number for a hidden part
     * @param  string  $owner  the element's id
     * @param  Node  $node  its names are keys of the plan
     * @param  ?string  $draw  for chance: which draw of the element this is
     */
    public function __construct(
        public string $key,
        public string $owner,
        public Node $node,
        public Pace $pace = Pace::Stage,
        public ?string $draw = null,
    ) {
    }
}
