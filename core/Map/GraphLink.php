<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Map;

use MerryOrbit\Core\Model\CausalLink;

/** One factor acts on another: more of it, more (`+`) or less (`-`) of the other; `?` where that is open. */
final readonly class GraphLink
{
    /** Beats of a link that is late; one that is not takes a single one. */
    public const LATE = 3;

    /**
     * @param  string  $sign  `+`, `-` or `?`
     * @param  value-of<CausalLink::STRENGTHS>  $strength
     */
    public function __construct(
        public string $from,
        public string $to,
        public string $sign,
        public bool $late = false,
        public string $strength = 'usual',
    ) {
    }

    /** How many beats it takes until its effect begins to move. */
    public function beats(): int
    {
        return $this->late ? self::LATE : 1;
    }

    /** This and another between the same two. */
    public function merged(self $other): self
    {
        return new self(
            $this->from,
            $this->to,
            $this->sign === $other->sign ? $this->sign : '?',
            $this->late || $other->late,
            $this->strength === $other->strength ? $this->strength : 'usual',
        );
    }
}
