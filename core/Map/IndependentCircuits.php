<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Map;

/**
 * The shortest set of circuits of which no one is a sum of others, by the links that they pass, over the rationals; in a strongly
 * connected graph there are links − nodes + 1 of them.
 *
 * It is enough to look at shortest ways from a node to a link and from there back, and at what such closed ways fall apart into: any
 * circuit is a sum of closed ways like these through any of its nodes, none of which is longer (after J. D. Horton, "A
 * polynomial-time algorithm to find the shortest cycle basis of a graph", SIAM J. Comput. 16 (1987)). The shortest first, each is
 * taken that is independent of those before it, which for vectors gives the least total length.
 */
final class IndependentCircuits
{
    /** Independence is looked for among whole numbers modulo a prime, which errs only where the prime divides a determinant. */
    private const PRIME = 2_147_483_629;

    /** So many nodes are passed on closed ways, at most: some seconds. */
    private const STEPS = 10_000_000;

    /** @var array<string, int> by link, its place in vectors */
    private array $links = [];

    /** @var array<int, array<int, int>> by the place of its first link, a reduced vector */
    private array $taken = [];

    /** @param  array<int, list<int>>  $effects  of a strongly connected part */
    private function __construct(array $effects)
    {
        foreach ($effects as $from => $all) {
            foreach ($all as $to) {
                $this->links["$from $to"] = count($this->links);
            }
        }
    }

    /**
     * @param  array<int, list<int>>  $effects  by node, the nodes that it acts on, each once and in order
     * @return array{list<non-empty-list<int>>, bool} circuits from their least node on, the shorter ones first; and whether the set is
     *   whole, which it may not be in parts of thousands of nodes
     */
    public static function of(array $effects): array
    {
        $found = [];
        $isWhole = true;
        foreach (Parts::of($effects) as $part) {
            [$candidates, $isEach] = self::candidates($part);
            usort($candidates, static fn (array $a, array $b): int => [count($a), $a] <=> [count($b), $b]);
            $self = new self($part);
            $wanted = array_sum(array_map(count(...), $part)) - count($part) + 1;
            foreach ($candidates as $circuit) {
                if ($wanted > 0 && $self->isIndependent($circuit)) {
                    $found[] = $circuit;
                    $wanted--;
                }
            }
            $isWhole = $isWhole && $isEach && $wanted === 0;
        }
        usort($found, static fn (array $a, array $b): int => [count($a), $a] <=> [count($b), $b]);

        return [$found, $isWhole];
    }

    /**
     * Nodes of which each circuit passes one: as few as taking those with most links first makes them.
     *
     * @param  non-empty-array<int, non-empty-list<int>>  $part
     * @return non-empty-list<int>
     */
    private static function roots(array $part): array
    {
        $roots = [];
        for ($parts = [$part]; ($part = array_pop($parts)) !== null;) {
            $in = array_count_values(array_merge(...array_values($part)));
            $best = $most = 0;
            foreach ($part as $node => $all) {
                $links = count($all) * ($in[$node] ?? 0);
                if ($links > $most) {
                    [$best, $most] = [$node, $links];
                }
            }
            $roots[] = $best;
            unset($part[$best]);
            array_push($parts, ...Parts::of($part));
        }

        return $roots;
    }

    /**
     * Of each root the shortest ways to it, and by them the closed ways over each link. A link on such a way itself gives the same
     * closed way as the link before it.
     *
     * @param  non-empty-array<int, non-empty-list<int>>  $part
     * @return array{list<non-empty-list<int>>, bool}
     */
    private static function candidates(array $part): array
    {
        $causes = [];
        foreach ($part as $from => $all) {
            foreach ($all as $to) {
                $causes[$to][] = $from;
            }
        }
        $candidates = [];
        $steps = 0;
        foreach (self::roots($part) as $root) {
            $forth = self::tree($part, $root);
            $back = self::tree($causes, $root);
            foreach ($part as $from => $all) {
                foreach ($all as $to) {
                    if ($from !== $root && $back[$from] === $to) {
                        continue;
                    }
                    $walk = [...array_reverse(self::way($forth, $from)), ...self::way($back, $to)];
                    array_pop($walk);
                    $steps += count($walk);
                    foreach (self::fallenApart($walk) as $circuit) {
                        $candidates[implode(' ', $circuit)] = $circuit;
                    }
                }
                if ($steps > self::STEPS) {
                    return [array_values($candidates), false];
                }
            }
        }

        return [array_values($candidates), true];
    }

    /**
     * Shortest ways to a node, or from it.
     *
     * @param  array<int, list<int>>  $next
     * @return array<int, int> by node, the one before it on its way
     */
    private static function tree(array $next, int $root): array
    {
        $before = [$root => $root];
        for ($ring = [$root]; $ring !== [];) {
            $further = [];
            foreach ($ring as $node) {
                foreach ($next[$node] as $to) {
                    if (! isset($before[$to])) {
                        $before[$to] = $node;
                        $further[] = $to;
                    }
                }
            }
            $ring = $further;
        }

        return $before;
    }

    /**
     * @param  array<int, int>  $tree
     * @return list<int> from a node back to the root, both among them
     */
    private static function way(array $tree, int $node): array
    {
        $way = [$node];
        while ($tree[$node] !== $node) {
            $way[] = $node = $tree[$node];
        }

        return $way;
    }

    /**
     * The circuits that a closed way consists of.
     *
     * @param  list<int>  $walk  nodes, the last leads to the first
     * @return list<non-empty-list<int>> from their least node on
     */
    private static function fallenApart(array $walk): array
    {
        $circuits = [];
        $path = $at = [];
        foreach ([...$walk, $walk[0]] as $node) {
            if (isset($at[$node])) {
                $circuit = [$node, ...array_slice($path, $at[$node] + 1)];
                $path = array_slice($path, 0, $at[$node]);
                foreach ($circuit as $gone) {
                    unset($at[$gone]);
                }
                $least = (int) array_search(min($circuit), $circuit, true);
                $circuits[] = [min($circuit), ...array_slice($circuit, $least + 1), ...array_slice($circuit, 0, $least)];
            }
            $at[$node] = count($path);
            $path[] = $node;
        }

        return $circuits;
    }

    /** @param  non-empty-list<int>  $circuit */
    private function isIndependent(array $circuit): bool
    {
        $vector = [];
        foreach ($circuit as $i => $from) {
            $vector[$this->links[$from.' '.$circuit[($i + 1) % count($circuit)]]] = 1;
        }
        while ($vector !== []) {
            $first = min(array_keys($vector));
            $known = $this->taken[$first] ?? null;
            if ($known === null) {
                $inverse = self::inverse($vector[$first]);
                $this->taken[$first] = array_map(static fn (int $x): int => ($x * $inverse) % self::PRIME, $vector);

                return true;
            }
            $factor = $vector[$first];
            foreach ($known as $place => $value) {
                $rest = (($vector[$place] ?? 0) - (($factor * $value) % self::PRIME) + self::PRIME) % self::PRIME;
                if ($rest === 0) {
                    unset($vector[$place]);
                } else {
                    $vector[$place] = $rest;
                }
            }
        }

        return false;
    }

    /** By Fermat: x to the power of the prime less two. */
    private static function inverse(int $x): int
    {
        $result = 1;
        for ($power = self::PRIME - 2; $power > 0; $power >>= 1) {
            $result = ($power & 1) === 1 ? ($result * $x) % self::PRIME : $result;
            $x = ($x * $x) % self::PRIME;
        }

        return $result;
    }
}
