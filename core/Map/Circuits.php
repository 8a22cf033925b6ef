<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Map;

/**
 * The elementary circuits of a directed graph, the shorter ones first and equal ones in the order of the nodes.
 *
 * All of them are listed by the algorithm of D. B. Johnson, "Finding all the elementary circuits of a directed graph", SIAM J.
 * Comput. 4 (1975), as long as they are few. Of too many the shorter ones are listed, length by length: a search that turns
 * back where the way home is longer than what is left.
 */
final class Circuits
{
    /** So many links are followed in each search, at most: about a second. Steps are counted, so that results do not hang on the clock. */
    private const STEPS = 10_000_000;

    /** @var list<non-empty-list<int>> */
    private array $found = [];

    /** @var array<int, true> */
    private array $blocked = [];

    /** @var array<int, array<int, true>> */
    private array $waiting = [];

    /** @var list<int> */
    private array $path = [];

    private int $steps = 0;

    /** @param  int  $most  the search ends with so many circuits */
    private function __construct(private readonly int $most)
    {
    }

    /**
     * @param  array<int, list<int>>  $effects  by node, the nodes that it acts on, each once and in order
     * @return array{list<non-empty-list<int>>, bool} circuits from their least node on, at most so many, and whether these are all
     */
    public static function of(array $effects, int $most): array
    {
        $parts = Parts::of($effects);
        $all = new self($most + 1);
        $all->listAll($parts);
        $isComplete = count($all->found) <= $most && $all->steps <= self::STEPS;
        $found = $all->found;
        if (! $isComplete) {
            $short = new self($most);
            $short->listShort($parts);
            $found = $short->found;
        }
        usort($found, static fn (array $a, array $b): int => [count($a), $a] <=> [count($b), $b]);

        return [$found, $isComplete];
    }

    private function isOver(): bool
    {
        return count($this->found) >= $this->most || $this->steps > self::STEPS;
    }

    /** @param  list<non-empty-array<int, non-empty-list<int>>>  $parts */
    private function listAll(array $parts): void
    {
        while (! $this->isOver() && ($part = array_pop($parts)) !== null) {
            $start = array_key_first($part);
            $this->blocked = $this->waiting = $this->path = [];
            $this->circuit($part, $start, $start);
            unset($part[$start]);
            $this->steps += count($part);
            array_push($parts, ...Parts::of($part));
        }
    }

    /** @param  array<int, list<int>>  $part */
    private function circuit(array $part, int $node, int $start): bool
    {
        $isFound = false;
        $this->path[] = $node;
        $this->blocked[$node] = true;
        foreach ($part[$node] as $to) {
            if ($this->isOver()) {
                break;
            }
            $this->steps++;
            if ($to === $start) {
                $this->found[] = [$start, ...array_slice($this->path, 1)];
                $isFound = true;
            } elseif (! isset($this->blocked[$to]) && $this->circuit($part, $to, $start)) {
                $isFound = true;
            }
        }
        if ($isFound) {
            $this->unblock($node);
        } else {
            foreach ($part[$node] as $to) {
                $this->waiting[$to][$node] = true;
            }
        }
        array_pop($this->path);

        return $isFound;
    }

    private function unblock(int $node): void
    {
        $queue = [$node];
        while (($one = array_pop($queue)) !== null) {
            if (isset($this->blocked[$one])) {
                unset($this->blocked[$one]);
                array_push($queue, ...array_keys($this->waiting[$one] ?? []));
                $this->waiting[$one] = [];
            }
        }
    }

    /** @param  list<non-empty-array<int, non-empty-list<int>>>  $parts */
    private function listShort(array $parts): void
    {
        $causes = [];
        $longest = 0;
        foreach ($parts as $part) {
            $longest = max($longest, count($part));
            foreach ($part as $from => $all) {
                foreach ($all as $to) {
                    $causes[$to][] = $from;
                }
            }
        }
        for ($length = 1; $length <= $longest; $length++) {
            foreach ($parts as $part) {
                foreach (count($part) < $length ? [] : array_keys($part) as $start) {
                    if ($this->isOver()) {
                        return;
                    }
                    $home = $this->distances($causes, $start, $length - 1);
                    $this->ofLength($part, $home, [$start], [$start => true], $length);
                }
            }
        }
    }

    /**
     * @param  array<int, list<int>>  $causes
     * @return array<int, int> how many links it takes to get to a node by nodes that are not less, up to so many
     */
    private function distances(array $causes, int $start, int $most): array
    {
        $distances = [$start => 0];
        for ($ring = [$start], $far = 1; $ring !== [] && $far <= $most; $far++) {
            $next = [];
            foreach ($ring as $node) {
                foreach ($causes[$node] ?? [] as $from) {
                    $this->steps++;
                    if ($from > $start && ! isset($distances[$from])) {
                        $distances[$from] = $far;
                        $next[] = $from;
                    }
                }
            }
            $ring = $next;
        }

        return $distances;
    }

    /**
     * @param  array<int, list<int>>  $part
     * @param  array<int, int>  $home
     * @param  non-empty-list<int>  $path
     * @param  array<int, true>  $on
     */
    private function ofLength(array $part, array $home, array $path, array $on, int $length): void
    {
        $left = $length - count($path);
        foreach ($part[$path[count($path) - 1]] as $to) {
            if ($this->isOver()) {
                return;
            }
            $this->steps++;
            if ($left === 0) {
                if ($to === $path[0]) {
                    $this->found[] = $path;
                }
            } elseif (! isset($on[$to]) && ($home[$to] ?? PHP_INT_MAX) <= $left) {
                $this->ofLength($part, $home, [...$path, $to], $on + [$to => true], $length);
            }
        }
    }
}
