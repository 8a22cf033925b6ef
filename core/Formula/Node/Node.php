<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Formula\Node;

/** A part of a formula. `from` and `length` are bytes of the text it was read from. */
abstract readonly class Node
{
    public function __construct(public int $from, public int $length)
    {
    }

    /** @return list<Node> */
    public function parts(): array
    {
        return [];
    }

    /**
     * The same with other parts.
     *
     * @param  list<Node>  $parts  as many as parts() gives
     */
    public function with(array $parts): self
    {
        return $this;
    }

    /**
     * This node and all within it, each before its parts, from left to right.
     *
     * @return list<Node>
     */
    public function all(): array
    {
        $all = [];
        $this->gather($all);

        return $all;
    }

    /** @param  list<Node>  $all */
    private function gather(array &$all): void
    {
        $all[] = $this;
        foreach ($this->parts() as $part) {
            $part->gather($all);
        }
    }

    /**
     * The same tree with some nodes replaced; what is not touched stays the same object.
     *
     * @param  \Closure(Node): ?Node  $change  gets each node before its parts, and gives another for it and all within it, or null to look into it
     */
    public function map(\Closure $change): self
    {
        $other = $change($this);
        if ($other !== null) {
            return $other;
        }
        $parts = $this->parts();
        $new = [];
        foreach ($parts as $part) {
            $new[] = $part->map($change);
        }

        return $new === $parts ? $this : $this->with($new);
    }
}
