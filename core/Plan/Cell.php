<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Plan;

use MerryOrbit\Core\Formula\Node\Node;

/**
 * What is carried from step to step without being integrated, as `kind` says:
 *   previous        the value of `watched` at the start of the step before
 *   highest, lowest the largest or smallest value of `watched` at the steps' starts so far
 *   shift           all values of `watched` at the steps' starts
 *   hold, latch, drift   its own value
 *   times           its own value, and whether the condition held
 */
final readonly class Cell
{
    /** @param  ?Node  $first  what a previous or shifted value is before there is one */
    public function __construct(
        public string $key,
        public string $owner,
        public string $kind,
        public ?Node $watched = null,
        public ?Node $first = null,
    ) {
    }
}
