<?php

declare(strict_types=1);

namespace Tests\Core;

use MerryOrbit\Core\Analysis\Analyser;
use MerryOrbit\Core\Map\CausalGraph;
use MerryOrbit\Core\Map\Circuits;
use MerryOrbit\Core\Map\IndependentCircuits;
use MerryOrbit\Core\Map\Loop;
use MerryOrbit\Core\Map\Loops;
use MerryOrbit\Core\Map\MapCsv;
use MerryOrbit\Core\Map\Sentences;
use MerryOrbit\Core\Model\CausalLink;
use MerryOrbit\Core\Problem\NotUnderstood;
use PHPUnit\Framework\Attributes\DataProvider;
use PHPUnit\Framework\TestCase;

final class FeedbackTest extends TestCase
{
    public function test_complete_digraphs_have_as_many_circuits_as_there_are_ways_to_arrange_some_of_their_nodes(): void
    {
        foreach ([1 => 0, 2 => 1, 3 => 5, 4 => 20, 5 => 84, 6 => 409] as $size => $count) {
            $effects = [];
            foreach (range(0, $size - 1) as $node) {
                $effects[$node] = array_values(array_diff(range(0, $size - 1), [$node]));
            }
            [$circuits, $isComplete] = Circuits::of($effects, 1_000);
            self::assertCount($count, $circuits);
            self::assertTrue($isComplete);
            self::assertSame(self::naively($effects), $circuits);
            self::assertCount($size * ($size - 1) - $size + 1, IndependentCircuits::of($effects)[0]);
        }
    }

    public function test_a_ring_of_thousands_is_one_circuit(): void
    {
        $effects = array_map(static fn (int $node): array => [($node + 1) % 3_000], range(0, 2_999));
        self::assertSame([[range(0, 2_999)], true], Circuits::of($effects, 2_000));
        self::assertSame([[range(0, 2_999)], true], IndependentCircuits::of($effects));
    }

    public function test_random_digraphs_have_the_circuits_that_trying_every_way_finds(): void
    {
        mt_srand(17);
        for ($i = 0; $i < 150; $i++) {
            $effects = self::random(mt_rand(2, 7), mt_rand(1, 6) / 10);
            $all = self::naively($effects);
            self::assertSame([$all, true], Circuits::of($effects, 2_000));
            if ($all !== []) {
                // Too many: those listed are no longer than those left out.
                [$some, $isComplete] = Circuits::of($effects, count($all) - 1);
                self::assertFalse($isComplete);
                self::assertSame(array_map(count(...), array_slice($all, 0, -1)), array_map(count(...), $some));
                self::assertSame([], array_udiff($some, $all, static fn (array $a, array $b): int => $a <=> $b));
            }
        }
    }

    /** Vectors are a matroid: taking from all circuits, the shorter first, what no sum of those before gives is the least there is. */
    public function test_the_independent_set_spans_all_circuits_and_is_the_shortest_that_does(): void
    {
        mt_srand(18);
        for ($i = 0; $i < 100; $i++) {
            $effects = self::random(mt_rand(2, 6), mt_rand(2, 6) / 10);
            $least = [];
            foreach (self::naively($effects) as $circuit) {
                if (self::rank([...$least, $circuit], $effects) > count($least)) {
                    $least[] = $circuit;
                }
            }
            [$found, $isWhole] = IndependentCircuits::of($effects);
            self::assertTrue($isWhole);
            self::assertSame(count($found), self::rank($found, $effects));
            self::assertSame(array_map(count(...), $least), array_map(count(...), $found));
        }
    }

    public function test_a_hundred_and_twenty_factors_with_five_hundred_links_answer_within_a_second(): void
    {
        mt_srand(19);
        $effects = array_fill(0, 120, []);
        for ($links = 0; $links < 500;) {
            [$from, $to] = [mt_rand(0, 119), mt_rand(0, 119)];
            if ($from !== $to && ! in_array($to, $effects[$from], true)) {
                $effects[$from][] = $to;
                $links++;
            }
        }
        $effects = array_map(static function (array $all): array {
            sort($all);

            return $all;
        }, $effects);
        [$circuits, $isComplete] = Circuits::of($effects, 2_000);
        self::assertLessThan(1.0, Pace::seconds(static fn (): array => Circuits::of($effects, 2_000)));
        self::assertCount(2_000, $circuits);
        self::assertFalse($isComplete);
        self::assertCount(2_000, array_unique(array_map(static fn (array $circuit): string => implode(' ', $circuit), $circuits)));
    }

    public function test_signs_lateness_and_names_of_loops(): void
    {
        $graph = MapCsv::read(
            <<<'CSV'
            From,to,sign,late,mechanism
            kelp,growth,+,,more to grow from
            growth,Kelp,+,,
            growth,kelp,+,,said twice
            kelp,crowding,+,yes,
            crowding,growth,−,,
            kelp,urchins,+,,
            urchins,kelp,-,,
            urchins,kelp,+,,somebody sees it otherwise
            kelp,kelp,-,,
            CSV
            ,
        );
        $named = array_map(static fn (Loop $l): array => [$l->name, $l->sign, $l->delayed, $l->path], Loops::of($graph)->loops);
        self::assertSame(
            [
                ['B1', '-', false, ['kelp']],
                ['R1', '+', false, ['growth', 'kelp']],
                ['U1', '?', false, ['kelp', 'urchins']],
                ['B2', '-', true, ['crowding', 'growth', 'kelp']],
            ],
            $named,
        );
    }

    public function test_a_map_is_read_as_other_programs_write_it(): void
    {
        $plain = MapCsv::read("from,to,sign,late\nsilt,depth,-,no\ndepth,silt,?,yes\n");
        foreach (
            [
                'semicolons, other order, a mark before the text' => "\u{FEFF}Sign;To;From;Late\r\n-;depth;silt;\r\n?;silt;depth;x\r\n",
                'tabs, quotes' => "from\tto\tsign\tlate\n\"silt\"\t\"depth\"\t−\t0\ndepth\tsilt\t\ttrue\n",
                'blank lines, columns of no concern' => "\n\nfrom,to,mechanism,sign,late\nsilt,depth,\"settles, slowly\",–,\n,,,,\ndepth,silt,,?,1\n",
            ] as $how => $text
        ) {
            self::assertTrue(MapCsv::looksLike($text), $how);
            self::assertEquals($plain, MapCsv::read($text), $how);
        }
        foreach (['{"format": "merry-orbit model"}', '<xmile version="1.0"/>', "time,to\n1,2", ''] as $other) {
            self::assertFalse(MapCsv::looksLike($other));
        }
    }

    public function test_a_model_has_the_loops_of_its_formulas_flows_and_what_people_say(): void
    {
        $model = Build::model(
            ['share' => '0.1', 'room' => '900'],
            ['kelp' => '40', 'purse' => 'kelp'],
            [
                'growth' => ['kelp * share * (1 - kelp / room)', 'to' => 'kelp'],
                'cut' => ['delay(kelp, 2) * 0.1', 'from' => 'kelp'],
                'income' => ['cut * 3', 'to' => 'purse'],
            ],
            ['urchins' => ''],
        )->with([
            'causalLinks' => [
                'a' => new CausalLink('a', 'urchins', 'kelp', '-'),
                'b' => new CausalLink('b', 'kelp', 'urchins', '+', late: true),
            ],
        ]);
        $loops = array_map(
            static fn (Loop $l): array => [$l->sign, $l->delayed, $l->path],
            Loops::of(CausalGraph::ofModel(Analyser::analyse($model)))->loops,
        );
        // More kelp grows more or, where it is crowded, less; the purse is fed by the cut, but starts only once from the kelp.
        self::assertSame([['-', true, ['cut', 'kelp']], ['?', false, ['growth', 'kelp']], ['-', true, ['kelp', 'urchins']]], $loops);
    }

    public function test_a_run_settles_signs_that_a_formula_leaves_open(): void
    {
        $analysis = Analyser::analyse(
            Build::model(['r' => '1'], ['x' => '2'], ['growth' => ['x * (r - x / 10)', 'to' => 'x']], ['kept' => 'x']),
        );
        foreach (['+' => '+', '-' => '-', '±' => '?', '' => '?'] as $seen => $sign) {
            [$loop] = Loops::of(CausalGraph::ofModel($analysis, ['x>growth' => $seen, 'x>kept' => '-']))->loops;
            self::assertSame([$sign, ['growth', 'x']], [$loop->sign, $loop->path]);
        }
        $kept = CausalGraph::ofModel($analysis, ['x>kept' => '-'])->link('x', 'kept');
        self::assertSame('+', $kept?->sign, 'a formula knows better');
    }

    public function test_links_and_loops_are_told_in_sentences(): void
    {
        $graph = MapCsv::read("from,to,sign,late\nsilt,depth,-,\ndepth,ships,+,yes\nships,silt,+,\nships,noise,?,\nnoise,ships,-,\n");
        $sentences = new Sentences($graph);
        self::assertSame(
            [
                'With more `silt`, less `depth` than there otherwise would be. With less `silt`, more `depth` than there otherwise would be.',
                'With more `depth`, after a while, more `ships` than there otherwise would be. '.
                'With less `depth`, after a while, less `ships` than there otherwise would be.',
                'With more `ships`, more `silt` than there otherwise would be. With less `ships`, less `silt` than there otherwise would be.',
                'More or less `ships` changes `noise`; which way is open.',
                'With more `noise`, less `ships` than there otherwise would be. With less `noise`, more `ships` than there otherwise would be.',
            ],
            array_map(static fn ($l): string => trim(implode(' ', $sentences->bothWays($l))), array_values($graph->links)),
        );
        $stories = [];
        foreach (Loops::of($graph)->loops as $loop) {
            $stories[$loop->name] = $sentences->ofLoop($loop);
        }
        self::assertSame(
            [
                'U1' => [
                    'Begin with more `noise`.',
                    'That makes for less `ships` than there otherwise would be.',
                    'That changes `noise`; which way is open.',
                    'As long as that is open, so is whether the loop is reinforcing or balancing.',
                ],
                'B1' => [
                    'Begin with more `depth`.',
                    'After a while that makes for more `ships` than there otherwise would be.',
                    'That makes for more `silt` than there otherwise would be.',
                    'That makes for less `depth` than there otherwise would be.',
                    'This works against what began it: the loop is balancing.',
                ],
            ],
            $stories,
        );
    }

    #[DataProvider('mistakes')]
    public function test_a_mistake_in_a_map_is_told_with_its_line(string $csv, string $words): void
    {
        $this->expectException(NotUnderstood::class);
        $this->expectExceptionMessage($words);
        MapCsv::read($csv);
    }

    /** @return list<array{string, string}> */
    public static function mistakes(): array
    {
        return [
            ['', 'It lacks `from`'],
            ["from;to\na;b", 'It lacks `sign`'],
            ["from,to,sign\na,,+", 'Line 2 of the map has no name in `to`.'],
            ["\nfrom,to,sign\n\na,b,more", 'Line 4 of the map has the sign `more`'],
            ["from,to,sign,late\na,b,+,perhaps", 'Line 2 of the map says `perhaps` in `late`'],
            ["from,to,sign\n\xff,b,+", 'no text in UTF-8'],
        ];
    }

    /** @return array<int, list<int>> */
    private static function random(int $size, float $density): array
    {
        $effects = [];
        foreach (range(0, $size - 1) as $node) {
            $effects[$node] = array_values(
                array_filter(range(0, $size - 1), static fn (): bool => mt_rand() / mt_getrandmax() < $density),
            );
        }

        return $effects;
    }

    /**
     * Every way that never returns before its start, which is the least on it.
     *
     * @param  array<int, list<int>>  $effects
     * @return list<list<int>>
     */
    private static function naively(array $effects): array
    {
        $found = [];
        for ($ways = array_map(static fn (int $node): array => [$node], array_keys($effects)); $ways !== [];) {
            $way = array_pop($ways);
            foreach ($effects[$way[count($way) - 1]] as $to) {
                if ($to === $way[0]) {
                    $found[] = $way;
                } elseif ($to > $way[0] && ! in_array($to, $way, true)) {
                    $ways[] = [...$way, $to];
                }
            }
        }
        usort($found, static fn (array $a, array $b): int => [count($a), $a] <=> [count($b), $b]);

        return $found;
    }

    /**
     * By whole numbers that never round (fraction-free elimination): small circuits keep them small.
     *
     * @param  list<list<int>>  $circuits
     * @param  array<int, list<int>>  $effects
     */
    private static function rank(array $circuits, array $effects): int
    {
        $rows = [];
        foreach ($circuits as $circuit) {
            $row = [];
            foreach ($effects as $from => $all) {
                foreach ($all as $to) {
                    $at = array_search($from, $circuit, true);
                    $row[] = $at !== false && $circuit[($at + 1) % count($circuit)] === $to ? 1 : 0;
                }
            }
            $rows[] = $row;
        }
        $rank = 0;
        $before = 1;
        foreach (array_keys($rows[0] ?? []) as $column) {
            $pivot = null;
            foreach (array_slice(array_keys($rows), $rank) as $i) {
                $pivot ??= $rows[$i][$column] !== 0 ? $i : null;
            }
            if ($pivot === null) {
                continue;
            }
            [$rows[$rank], $rows[$pivot]] = [$rows[$pivot], $rows[$rank]];
            foreach (array_slice(array_keys($rows), $rank + 1) as $i) {
                $rows[$i] = array_map(
                    static fn (int $x, int $p): int => intdiv($x * $rows[$rank][$column] - $p * $rows[$i][$column], $before),
                    $rows[$i],
                    $rows[$rank],
                );
            }
            $before = $rows[$rank++][$column];
        }

        return $rank;
    }
}
