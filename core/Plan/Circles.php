<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Plan;

/**
 * Sorts things so that each comes after what it needs, and finds the circles in which that is impossible.
 *
 * Source: R. E. Tarjan, "Depth-first search and linear graph algorithms", SIAM J. Comput. 1 (1972).
 */
final class Circles
{
    /** @var array<string, int> */
    private array $index = [];

    /** @var array<string, int> */
    private array $low = [];

    /** @var list<string> */
    private array $stack = [];

    /** @var array<string, true> */
    private array $onStack = [];

    /** @var list<string> every node, after all that it needs, as far as there are no circles */
    public array $order = [];

    /** @var array<string, int> nodes that need each other, directly or not, have the same number */
    public array $group = [];

    /** @var list<non-empty-list<string>> each circle as the way round: every node needs the next, the last the first */
    public array $circles = [];

    /** @param  array<string, list<string>>  $needs by node, the nodes it needs; those that are no keys are passed over */
    public function __construct(private readonly array $needs)
    {
        foreach ($needs as $node => $_) {
            if (! isset($this->index[$node])) {
                $this->visit($node);
            }
        }
    }

    private function visit(string $node): void
    {
        $this->index[$node] = $this->low[$node] = count($this->index);
        $this->stack[] = $node;
        $this->onStack[$node] = true;
        foreach ($this->needs[$node] as $next) {
            if (! isset($this->needs[$next])) {
                continue;
            }
            if (! isset($this->index[$next])) {
                $this->visit($next);
                $this->low[$node] = min($this->low[$node], $this->low[$next]);
            } elseif (isset($this->onStack[$next])) {
                $this->low[$node] = min($this->low[$node], $this->index[$next]);
            }
        }
        if ($this->low[$node] !== $this->index[$node]) {
            return;
        }
        $members = [];
        do {
            $member = (string) array_pop($this->stack);
            unset($this->onStack[$member]);
            $members[$member] = true;
            $this->order[] = $member;
            $this->group[$member] = count($this->order) - count($members);
        } while ($member !== $node);
        if (count($members) > 1 || in_array($node, $this->needs[$node], true)) {
            $this->circles[] = $this->wayRound($node, $members);
        }
    }

    /**
     * A shortest way from the node back to itself, by breadth first.
     *
     * @param  array<string, true>  $members
     * @return non-empty-list<string>
     */
    private function wayRound(string $node, array $members): array
    {
        $cameFrom = [];
        $queue = [$node];
        while (($here = array_shift($queue)) !== null) {
            foreach ($this->needs[$here] as $next) {
                if ($next === $node) {
                    $way = [$here];
                    while ($way[0] !== $node) {
                        array_unshift($way, $cameFrom[$way[0]]);
                    }

                    return $way;
                }
                if (isset($members[$next]) && ! isset($cameFrom[$next])) {
                    $cameFrom[$next] = $here;
                    $queue[] = $next;
                }
            }
        }

        return [$node];
    }
}
