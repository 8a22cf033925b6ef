<?php

declare(strict_types=1);

namespace Tests\Core;

use MerryOrbit\Core\Plan\Circles;
use PHPUnit\Framework\TestCase;

final class CirclesTest extends TestCase
{
    public function test_what_is_needed_comes_first(): void
    {
        $circles = new Circles(['a' => ['b', 'c'], 'b' => ['c'], 'c' => ['outside'], 'd' => []]);
        self::assertSame([], $circles->circles);
        self::assertEqualsCanonicalizing(['a', 'b', 'c', 'd'], $circles->order);
        self::assertLessThan(array_search('a', $circles->order, true), array_search('b', $circles->order, true));
        self::assertLessThan(array_search('b', $circles->order, true), array_search('c', $circles->order, true));
    }

    public function test_the_way_round_is_a_real_and_short_one(): void
    {
        $needs = ['a' => ['b'], 'b' => ['c', 'd'], 'c' => ['e'], 'd' => ['a'], 'e' => ['a'], 'self' => ['self', 'a']];
        $found = (new Circles($needs))->circles;
        self::assertEqualsCanonicalizing([['a', 'b', 'd'], ['self']], $found);
        foreach ($found as $way) {
            foreach ($way as $i => $node) {
                self::assertContains($way[($i + 1) % count($way)], $needs[$node]);
            }
        }
    }

    public function test_a_long_chain_is_no_trouble(): void
    {
        $needs = [];
        for ($i = 0; $i < 20_000; $i++) {
            $needs["n$i"] = ['n'.($i + 1)];
        }
        $circles = new Circles($needs);
        self::assertSame([], $circles->circles);
        self::assertSame('n19999', $circles->order[0]);
    }

    /** Against the plain definition: a node is on a circle when it can reach itself. */
    public function test_random_graphs_agree_with_the_definition(): void
    {
        mt_srand(3);
        for ($round = 0; $round < 300; $round++) {
            $count = mt_rand(1, 9);
            $needs = [];
            for ($i = 0; $i < $count; $i++) {
                $needs["n$i"] = array_values(
                    array_unique(array_map(static fn (): string => 'n'.mt_rand(0, $count), array_fill(0, mt_rand(0, 3), 0))),
                );
            }
            $reach = [];
            foreach ($needs as $node => $_) {
                $reach[$node] = self::reachable($needs, $node);
            }
            $circles = new Circles($needs);
            $onCircle = array_keys(array_filter($reach, static fn (array $r, string $n): bool => isset($r[$n]), ARRAY_FILTER_USE_BOTH));
            foreach ($circles->circles as $way) {
                self::assertSame([], array_diff($way, $onCircle));
            }
            // Each group of nodes that reach each other is reported once.
            $groups = [];
            foreach ($onCircle as $node) {
                $members = array_filter($onCircle, static fn (string $other): bool => isset($reach[$node][$other], $reach[$other][$node]));
                sort($members);
                $groups[implode(',', $members)] = true;
            }
            self::assertCount(count($groups), $circles->circles);
            if ($onCircle === []) {
                $places = array_flip($circles->order);
                foreach ($needs as $node => $needed) {
                    foreach (array_intersect($needed, array_keys($needs)) as $one) {
                        self::assertLessThan($places[$node], $places[$one]);
                    }
                }
            }
        }
    }

    /**
     * @param  array<string, list<string>>  $needs
     * @return array<string, true>
     */
    private static function reachable(array $needs, string $from): array
    {
        $seen = [];
        $queue = $needs[$from];
        while (($node = array_pop($queue)) !== null) {
            if (! isset($seen[$node]) && isset($needs[$node])) {
                $seen[$node] = true;
                array_push($queue, ...$needs[$node]);
            }
        }

        return $seen;
    }
}
