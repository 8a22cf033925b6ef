<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Map;

/** The feedback loops of a graph, the shorter ones first, named by their sign. */
final readonly class Loops
{
    /** So many are listed if nothing else is said. */
    public const USUAL = 2_000;

    /** More are not read by anybody, and not held. */
    public const MOST = 1_000_000;

    /** @param  list<Loop>  $loops */
    private function __construct(public array $loops, public bool $isComplete)
    {
    }

    /** @param  int  $most  how many are listed; of more the shorter ones are */
    public static function of(CausalGraph $graph, int $most = self::USUAL): self
    {
        [$ids, $effects] = self::numbered($graph);
        [$circuits, $isComplete] = Circuits::of($effects, $most);

        return new self(self::named($graph, $ids, $circuits), $isComplete);
    }

    /** As few of the shortest as all others can be put together of: each passes a link that those before it leave open. */
    public static function independent(CausalGraph $graph, int $most = self::USUAL): self
    {
        [$ids, $effects] = self::numbered($graph);
        [$circuits, $isWhole] = IndependentCircuits::of($effects);

        return new self(self::named($graph, $ids, array_slice($circuits, 0, $most)), $isWhole && count($circuits) <= $most);
    }

    /**
     * Factors in the order of their names, so that loops of one length come in the order of their paths.
     *
     * @return array{list<string>, array<int, list<int>>}
     */
    private static function numbered(CausalGraph $graph): array
    {
        $ids = array_map(strval(...), array_keys($graph->names));
        usort($ids, static fn (string $a, string $b): int => strcmp($graph->names[$a], $graph->names[$b]) ?: strcmp($a, $b));
        $places = array_flip($ids);
        $effects = [];
        foreach ($ids as $place => $id) {
            $effects[$place] = [];
        }
        foreach ($graph->effects() as $from => $all) {
            $to = array_values(array_unique(array_map(static fn (string $id): int => $places[$id], $all)));
            sort($to);
            $effects[$places[$from]] = $to;
        }

        return [$ids, $effects];
    }

    /**
     * @param  list<string>  $ids
     * @param  list<non-empty-list<int>>  $circuits
     * @return list<Loop>
     */
    private static function named(CausalGraph $graph, array $ids, array $circuits): array
    {
        $loops = [];
        $counts = ['+' => 0, '-' => 0, '?' => 0];
        foreach ($circuits as $circuit) {
            $path = array_map(static fn (int $place): string => $ids[$place], $circuit);
            [$sign, $delayed] = self::signOf($graph, $path);
            $letter = ['+' => 'R', '-' => 'B', '?' => 'U'][$sign];
            $loops[] = new Loop($letter.++$counts[$sign], $sign, $delayed, $path);
        }

        return $loops;
    }

    /**
     * Reinforcing with an even number of links that turn the other way, balancing with an odd one.
     *
     * @param  non-empty-list<string>  $path
     * @return array{'+'|'-'|'?', bool}
     */
    public static function signOf(CausalGraph $graph, array $path): array
    {
        $isPositive = true;
        $isOpen = $delayed = false;
        foreach ($path as $i => $from) {
            $link = $graph->link($from, $path[($i + 1) % count($path)]);
            $isOpen = $isOpen || ($link->sign ?? '?') === '?';
            $isPositive = $link?->sign === '-' ? ! $isPositive : $isPositive;
            $delayed = $delayed || $link?->late === true;
        }

        return [$isOpen ? '?' : ($isPositive ? '+' : '-'), $delayed];
    }
}
