<?php

declare(strict_types=1);

namespace Tests\Core;

use MerryOrbit\Core\Analysis\Analyser;
use MerryOrbit\Core\Compile\ProgramStore;
use MerryOrbit\Core\Map\Arrivals;
use MerryOrbit\Core\Map\CausalGraph;
use MerryOrbit\Core\Map\GraphLink;
use MerryOrbit\Core\Map\Loops;
use MerryOrbit\Core\Map\Push;
use MerryOrbit\Core\Map\Sketch;
use MerryOrbit\Core\Map\Told;
use MerryOrbit\Core\Problem\NotUnderstood;
use MerryOrbit\Core\Simulate\Simulator;
use PHPUnit\Framework\TestCase;

final class SketchTest extends TestCase
{
    /** Not zero: rounding alone stays far below. */
    private const MOVED = 1e-12;

    public function test_a_lone_link_follows_its_closed_form_in_its_direction(): void
    {
        foreach (['+' => 1, '-' => -1] as $sign => $way) {
            $heights = self::played(self::graph(["a $sign b"]), [new Push('a', 1.0)]);
            foreach ($heights['a'] as $k => $a) {
                $t = $k * 0.125;
                // a' = tanh 1 - a, and b' = ±tanh a - b by Simpson's rule over the integral of its solution.
                self::assertEqualsWithDelta(tanh(1.0) * (1.0 - exp(-$t)), $a, 1e-5);
                $inner = static fn (float $s): float => exp($s - $t) * tanh(tanh(1.0) * (1.0 - exp(-$s)));
                self::assertEqualsWithDelta($way * self::simpson($inner, 0.0, $t), $heights['b'][$k], 1e-5);
            }
        }
    }

    public function test_at_its_first_return_a_balancing_loop_lessens_what_a_push_did_and_a_reinforcing_one_adds_to_it(): void
    {
        foreach ([['a + b', 'b + c', 'c + a', 1], ['a + b', 'b - c', 'c + a', -1], ['a - b', 'b - c', 'c - a ~', -1]] as $links) {
            $adds = array_pop($links);
            self::assertIsInt($adds);
            $push = [new Push('a', 1.0, from: 0.0, until: 2.0)];
            $closed = self::played(self::graph($links), $push)['a'];
            $open = self::played(self::graph(array_slice($links, 0, 2)), $push)['a'];
            $first = array_values(
                array_filter(array_map(static fn (float $x, float $y): float => $x - $y, $closed, $open), self::moved(...)),
            );
            self::assertNotSame([], $first);
            self::assertSame($adds, $first[0] <=> 0.0);
            // Not only at once: the greatest difference is of that sign, too.
            self::assertSame($adds, abs(max($first)) <=> abs(min($first)));
        }
    }

    public function test_what_is_late_arrives_later_and_as_far(): void
    {
        $heights = self::played(self::graph(['a + soon', 'a + late ~']), [new Push('a', 1.0)]);
        $half = static fn (array $course): int => count(array_filter($course, static fn (mixed $h): bool => $h < 0.3));
        self::assertGreaterThan($half($heights['soon']) + 10, $half($heights['late']));
        self::assertEqualsWithDelta($heights['soon'][320], $heights['late'][320], 1e-6);
    }

    public function test_strength_and_hands_do_what_they_say(): void
    {
        $heights = self::played(self::graph(['a + weak w', 'a + usual u', 'a + strong s', 'b + a']), [
            new Push('a', 0.8, true, 4.0, 20.0),
            new Push('b', -1.0, false, 30.0),
        ]);
        self::assertSame(0.0, $heights['a'][31]);
        self::assertEqualsWithDelta(0.8, $heights['a'][159], 1e-6);
        self::assertEqualsWithDelta(tanh(0.5 * 0.8), $heights['w'][159], 1e-4);
        self::assertEqualsWithDelta(tanh(0.8), $heights['u'][159], 1e-4);
        self::assertEqualsWithDelta(tanh(1.5 * 0.8), $heights['s'][159], 1e-4);
        // Let go, it comes back; then the other one pulls it down.
        self::assertEqualsWithDelta(0.0, $heights['a'][240], 1e-3);
        self::assertLessThan(-0.5, $heights['a'][320]);
    }

    public function test_heights_are_bounded_for_ever_and_the_same_to_the_bit(): void
    {
        mt_srand(21);
        for ($i = 0; $i < 12; $i++) {
            $graph = self::random(mt_rand(2, 9), false, true);
            $push = [new Push('n0', 1.0), new Push('n1', -1.0, true, 3.0, 9.0)];
            $heights = self::played($graph, $push, 400.0, ['n1' => 1.0]);
            foreach ($heights as $course) {
                self::assertLessThanOrEqual(1.0, max([0.0, ...array_map(abs(...), $course)]));
            }
            self::assertSame($heights, self::played($graph, $push, 400.0, ['n1' => 1.0]));
        }
    }

    /** Ways are tried one by one, and the sketch is run: both know nothing of how arrivals are found. */
    public function test_of_maps_without_loops_the_words_say_what_all_ways_say_and_what_the_run_does(): void
    {
        mt_srand(22);
        for ($i = 0; $i < 60; $i++) {
            $graph = self::random(mt_rand(3, 8), true);
            $pushed = mt_rand(0, 1) === 1 ? '+' : '-';
            $ways = [];
            self::follow($graph, 'n0', $pushed, 0, $ways);
            $first = $last = [];
            foreach ((new Arrivals($graph, ['n0' => $pushed]))->all() as $arrival) {
                $first[$arrival['id']] ??= $arrival;
                $last[$arrival['id']] = $arrival;
            }
            self::assertEqualsCanonicalizing(array_keys($ways), array_keys($first));
            $heights = self::played($graph, [new Push('n0', $pushed === '+' ? 1.0 : -1.0)]);
            foreach ($ways as $id => $all) {
                $soonest = min([999, ...array_column($all, 0)]);
                $early = array_unique(array_column(array_filter($all, static fn (array $w): bool => $w[0] === $soonest), 1));
                $whole = array_unique(array_column($all, 1));
                self::assertSame($soonest, $first[$id]['beat']);
                self::assertSame(count($early) === 1 ? reset($early) : '?', $first[$id]['direction']);
                self::assertSame(count($whole) === 1 ? reset($whole) : '?', $last[$id]['direction']);
                $moved = array_filter($heights[$id], self::moved(...));
                if (count($early) === 1) {
                    self::assertSame(reset($early) === '+' ? 1 : -1, reset($moved) <=> 0.0, "the first movement of $id");
                }
                foreach (count($whole) === 1 ? $moved : [] as $height) {
                    self::assertSame(reset($whole) === '+' ? 1 : -1, $height <=> 0.0, "every movement of $id");
                }
            }
        }
    }

    public function test_what_comes_back_closes_a_loop_and_where_ways_meet_it_depends(): void
    {
        $graph = self::graph(['a - b', 'b + c ~', 'c + a', 'a + d', 'd + e', 'b + e', 'c + e', 'x ? y']);
        $told = new Told($graph, new Arrivals($graph, ['a' => '+', 'x' => '-']), Loops::of($graph));
        self::assertSame(
            [
                'arrivals' => [
                    ['beat' => 1, 'name' => 'b', 'direction' => '-', 'because' => ['a']],
                    ['beat' => 1, 'name' => 'd', 'direction' => '+', 'because' => ['a']],
                    ['beat' => 1, 'name' => 'y', 'direction' => '?', 'because' => ['x']],
                    ['beat' => 2, 'name' => 'e', 'direction' => '?', 'because' => ['b', 'd']],
                    ['beat' => 4, 'name' => 'c', 'direction' => '-', 'because' => ['b']],
                ],
                'closes' => [['beat' => 5, 'loop' => 'B1']],
            ],
            $told->record(static fn (string $id): string => $graph->names[$id]),
        );
        self::assertSame(
            [
                "    1  Less `b` than usual, because of `a`.\n",
                "    1  More `d` than usual, because of `a`.\n",
                "    1  `y` changes, because of `x`; which way is open.\n",
                "    2  `e` is moved both ways, by `b` and `d`: it depends on which is stronger.\n",
                "    4  Less `c` than usual, because of `b`.\n",
                "    5  Loop B1 comes back to `a`, by way of `c`, and works against what happened there.\n",
            ],
            array_slice($told->lines(), 1),
        );
        // What it came through is no other way: a loop further on closes by itself.
        $later = self::graph(['p + a', 'a + b', 'b - a', 'a - z ~', 'p + z']);
        $again = new Told($later, new Arrivals($later, ['p' => '+']), Loops::of($later));
        self::assertSame(
            ['a +', 'z +', 'b +', 'z ?'],
            array_map(static fn (array $a): string => "{$a['id']} {$a['direction']}", (new Arrivals($later, ['p' => '+']))->all()),
        );
        self::assertContains(
            "    3  Loop B1 comes back to `a`, by way of `b`, and works against what happened there.\n",
            $again->lines(),
        );
        self::assertContains("    4  `z` is now moved by `a`, too: how it ends depends on which is stronger.\n", $again->lines());
        $alone = new Told($later, new Arrivals($later, ['z' => '+']), Loops::of($later));
        self::assertSame(["Nothing else moves: no link leads on from there.\n"], $alone->lines());
    }

    public function test_names_that_are_no_names_of_models_or_come_twice_are_played_all_the_same(): void
    {
        $names = [
            'a' => 'time of a link',
            'b' => '"',
            'c' => 'change of time of a link',
            'd' => 'weight of a usual link',
            'e' => '3rd, or so',
        ];
        $links = [
            new GraphLink('a', 'b', '+', true),
            new GraphLink('b', 'c', '+'),
            new GraphLink('c', 'd', '-'),
            new GraphLink('d', 'e', '-'),
        ];
        $heights = self::played(CausalGraph::of($names, $links), [new Push('a', 1.0)]);
        self::assertGreaterThan(0.1, $heights['e'][320]);
        self::assertSame([], Analyser::analyse((new Sketch(CausalGraph::of($names, $links)))->model)->problems);
    }

    public function test_hands_from_outside_are_read_or_told_what_is_wrong(): void
    {
        self::assertEquals(
            new Push('a', -1.0, true, 2.0, 5.0),
            Push::read(['factor' => 'a', 'by' => -1, 'hold' => true, 'from' => 2, 'until' => 5]),
        );
        foreach ([['factor' => 'a'], ['factor' => 3, 'by' => 1], ['factor' => 'a', 'by' => 2], 'a'] as $bad) {
            self::assertStringContainsString('how far it goes `by`', self::refusal($bad));
        }
        foreach ([['from' => -1], ['from' => 3, 'until' => 2], ['until' => 'x']] as $bad) {
            self::assertStringContainsString('ends at `until`', self::refusal(['factor' => 'a', 'by' => 1, ...$bad]));
        }
    }

    private static function refusal(mixed $record): string
    {
        try {
            Push::read($record);
        } catch (NotUnderstood $e) {
            return $e->getMessage();
        }
        self::fail('It was read.');
    }

    private static function moved(mixed $height): bool
    {
        return is_float($height) && abs($height) > self::MOVED;
    }

    /** @param  \Closure(float): float  $f */
    private static function simpson(\Closure $f, float $from, float $until): float
    {
        $step = ($until - $from) / 400;
        $sum = $f($from) + $f($until);
        for ($k = 1; $k < 400; $k++) {
            $sum += $f($from + $k * $step) * ($k % 2 === 1 ? 4 : 2);
        }

        return ($sum * $step) / 3;
    }

    /**
     * Every way from a factor on.
     *
     * @param  array<string, list<array{int, string}>>  $ways  gets, by factor, beats and direction of each
     */
    private static function follow(CausalGraph $graph, string $id, string $direction, int $beat, array &$ways): void
    {
        foreach ($graph->links as $link) {
            if ($link->from === $id) {
                $next = [$beat + ($link->late ? 3 : 1), $link->sign === $direction ? '+' : '-'];
                $ways[$link->to][] = $next;
                self::follow($graph, $link->to, $next[1], $next[0], $ways);
            }
        }
    }

    /**
     * @param  list<Push>  $pushes
     * @param  array<string, float>  $starts
     * @return array<string, list<float>> heights by factor, eight in a beat
     */
    private static function played(CausalGraph $graph, array $pushes, float $beats = 40.0, array $starts = []): array
    {
        $sketch = new Sketch($graph, $pushes, $starts, $beats);
        $run = (new Simulator(new ProgramStore('')))->run(Analyser::made($sketch->model, []));

        return array_map(static fn (string $stock): array => $run->column($stock), $sketch->stocks);
    }

    /** @param  list<string>  $lines  such as `a - strong b`, with `~` behind what is late */
    private static function graph(array $lines): CausalGraph
    {
        $names = $links = [];
        foreach ($lines as $line) {
            self::assertSame(1, preg_match('/^(\S+) (\S) (?:(weak|usual|strong) )?(\S+)( ~)?$/D', $line, $m));
            $names += [$m[1] => $m[1], $m[4] => $m[4]];
            $strength = ['weak' => 'weak', 'strong' => 'strong'][$m[3]] ?? 'usual';
            $links[] = new GraphLink($m[1], $m[4], $m[2], isset($m[5]), $strength);
        }

        return CausalGraph::of($names, $links);
    }

    private static function random(int $size, bool $isAcyclic, bool $isStrong = false): CausalGraph
    {
        $names = $links = [];
        for ($i = 0; $i < $size; $i++) {
            $names["n$i"] = "n$i";
            for ($j = $isAcyclic ? $i + 1 : 0; $j < $size; $j++) {
                if ($i !== $j && mt_rand(0, 2) > 0) {
                    $links[] = new GraphLink(
                        "n$i",
                        "n$j",
                        mt_rand(0, 1) === 1 ? '+' : '-',
                        mt_rand(0, 2) === 0,
                        $isStrong ? 'strong' : 'usual',
                    );
                }
            }
        }

        return CausalGraph::of($names, $links);
    }
}
