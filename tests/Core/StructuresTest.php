<?php

declare(strict_types=1);

namespace Tests\Core;

use MerryOrbit\Core\Analysis\Analyser;
use MerryOrbit\Core\Compile\ProgramStore;
use MerryOrbit\Core\Map\CausalGraph;
use MerryOrbit\Core\Map\GraphLink;
use MerryOrbit\Core\Map\Loop;
use MerryOrbit\Core\Map\Loops;
use MerryOrbit\Core\Map\Sketch;
use MerryOrbit\Core\Map\Structure;
use MerryOrbit\Core\Map\Structures;
use MerryOrbit\Core\Simulate\Simulator;
use PHPUnit\Framework\Attributes\DataProvider;
use PHPUnit\Framework\TestCase;

final class StructuresTest extends TestCase
{
    /** The signs of their loops, as the trade tells them. */
    private const LOOPS = [
        'rivals' => '+',
        'limit' => '+-',
        'pool' => '++--',
        'backfire' => '+-',
        'relief' => '+--',
        'goal' => '--',
        'have' => '++',
        'capacity' => '+--',
    ];

    /** @return iterable<string, array{Structure}> */
    public static function all(): iterable
    {
        foreach (Structures::all() as $structure) {
            yield $structure->id => [$structure];
        }
    }

    public function test_there_are_at_least_eight(): void
    {
        self::assertSame(array_keys(self::LOOPS), array_keys(Structures::all()));
    }

    #[DataProvider('all')]
    public function test_its_loops_are_what_they_are_told_to_be(Structure $structure): void
    {
        $signs = array_map(static fn (Loop $l): string => $l->sign, Loops::of($structure->graph())->loops);
        sort($signs);
        self::assertSame(self::LOOPS[$structure->id], implode('', $signs));
    }

    #[DataProvider('all')]
    public function test_it_is_recognised_under_other_names_among_others_and_not_with_another_sign(Structure $structure): void
    {
        mt_srand(crc32($structure->id));
        $roles = array_keys($structure->roles);
        $ids = array_map(static fn (int $i): string => "f$i", range(0, count($roles) - 1));
        shuffle($ids);
        $as = array_combine($roles, $ids);
        $links = array_map(static fn (GraphLink $l): GraphLink => new GraphLink($as[$l->from], $as[$l->to], $l->sign), $structure->links);
        // What else is there does not matter.
        $more = [new GraphLink('x', $ids[0], '+'), new GraphLink($ids[1], 'y', '-'), new GraphLink('x', 'y', '?')];
        $names = array_fill_keys([...$ids, 'x', 'y'], 'a name');
        $found = self::found($structure, CausalGraph::of($names, [...$links, ...$more]));
        self::assertNotSame([], $found);
        self::assertEqualsCanonicalizing($ids, array_values($found[0]));
        foreach ($structure->links as $i => $link) {
            $turned = $links;
            $turned[$i] = new GraphLink($as[$link->from], $as[$link->to], $link->sign === '+' ? '-' : '+');
            $graph = CausalGraph::of($names, array_values($turned));
            foreach (self::found($structure, $graph) as $roles) {
                // Only if it is one in another way.
                foreach ($structure->links as $own) {
                    self::assertSame($own->sign, $graph->link($roles[$own->from], $roles[$own->to])?->sign);
                }
            }
        }
    }

    /** Every way to give roles to factors is tried. */
    public function test_in_small_maps_nothing_is_missed_and_nothing_is_made_up(): void
    {
        mt_srand(41);
        $limit = Structures::all()['limit'];
        for ($i = 0; $i < 40; $i++) {
            $names = $links = [];
            for ($a = 0; $a < 5; $a++) {
                $names["f$a"] = "f$a";
                for ($b = 0; $b < 5; $b++) {
                    if ($a !== $b && mt_rand(0, 1) === 1) {
                        $links[] = new GraphLink("f$a", "f$b", ['+', '-'][mt_rand(0, 1)]);
                    }
                }
            }
            $graph = CausalGraph::of($names, $links);
            $wanted = [];
            foreach (['f0', 'f1', 'f2', 'f3', 'f4'] as $size) {
                foreach (['f0', 'f1', 'f2', 'f3', 'f4'] as $growth) {
                    foreach (['f0', 'f1', 'f2', 'f3', 'f4'] as $crowding) {
                        $sign = static fn (string $f, string $t): ?string => $graph->link($f, $t)?->sign;
                        $fits = count(array_unique([$size, $growth, $crowding])) === 3 && $sign($size, $growth) === '+';
                        if (
                            $fits &&
                            $sign($growth, $size) === '+' &&
                            $sign($size, $crowding) === '+' &&
                            $sign($crowding, $growth) === '-'
                        ) {
                            $key = [$size, $growth, $crowding];
                            sort($key);
                            $wanted[implode(' ', $key)] = true;
                        }
                    }
                }
            }
            $found = array_map(static function (array $roles): string {
                sort($roles);

                return implode(' ', $roles);
            }, self::found($limit, $graph));
            self::assertTrue(Structures::in($graph)['limit']['isComplete']);
            self::assertEqualsCanonicalizing(array_keys($wanted), $found);
        }
    }

    public function test_a_large_map_is_searched_within_a_second(): void
    {
        mt_srand(42);
        $names = $links = [];
        for ($i = 0; $i < 120; $i++) {
            $names["f$i"] = "f$i";
        }
        for ($i = 0; $i < 500; $i++) {
            $links[] = new GraphLink('f'.mt_rand(0, 119), 'f'.mt_rand(0, 119), ['+', '-'][mt_rand(0, 1)]);
        }
        $found = [];
        $took = Pace::seconds(static function () use (&$found, $names, $links): void {
            $found = Structures::in(CausalGraph::of($names, $links));
        });
        self::assertSame(array_keys(self::LOOPS), array_keys($found));
        self::assertLessThan(1.5, $took);
    }

    public function test_the_courses_are_as_they_are_told(): void
    {
        $rivals = self::played('rivals');
        self::assertGreaterThan(0.7, min($rivals['our effort'][320], $rivals['their effort'][320]));
        self::assertLessThan(0.25, abs($rivals['our share'][320]));
        $backfire = self::played('backfire');
        self::assertLessThan($backfire['trouble'][24], $backfire['trouble'][40]);
        self::assertGreaterThan(0.0, $backfire['side effect'][60]);
        $have = self::played('have');
        self::assertGreaterThan(0.5, $have['success of one'][320]);
        self::assertLessThan(-0.5, $have['success of the other'][320]);
        $goal = self::played('goal');
        self::assertLessThan(0.0, min([0.0, ...$goal['goal']]));
        $limit = self::played('limit');
        self::assertLessThan(max([0.0, ...$limit['growth']]), $limit['growth'][320]);
    }

    /** @return array<string, list<float>> by name of the role */
    private static function played(string $id): array
    {
        $structure = Structures::all()[$id];
        $sketch = new Sketch($structure->graph(), $structure->play);
        $run = (new Simulator(new ProgramStore('')))->run(Analyser::made($sketch->model, []));
        $heights = [];
        foreach ($sketch->stocks as $role => $stock) {
            $heights[$structure->roles[$role]] = $run->column($stock);
        }

        return $heights;
    }

    /** @return list<array<string, string>> */
    private static function found(Structure $structure, CausalGraph $graph): array
    {
        return Structures::in($graph)[$structure->id]['places'];
    }
}
