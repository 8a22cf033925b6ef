<?php

declare(strict_types=1);

namespace Tests\Core;

use MerryOrbit\Core\Analysis\Analyser;
use MerryOrbit\Core\Edit\EditReader;
use MerryOrbit\Core\Edit\EditRefused;
use MerryOrbit\Core\Map\CausalGraph;
use MerryOrbit\Core\Map\Loops;
use MerryOrbit\Core\Map\Proposals;
use MerryOrbit\Core\Model\Flow;
use MerryOrbit\Core\Model\Kind;
use MerryOrbit\Core\Model\Model;
use MerryOrbit\Core\Model\ModelRecord;
use MerryOrbit\Core\Structure\Checkup;
use PHPUnit\Framework\TestCase;

/** From a causal map to stocks and flows: what is proposed, what formulas start from, and that the map stays. */
final class FormTest extends TestCase
{
    /** @param  list<string>  $lines  such as `rain + lens` */
    private static function map(array $lines): Model
    {
        $model = new Model('Map');
        foreach ($lines as $i => $line) {
            self::assertSame(1, preg_match('/^(.+) ([+?-]) (.+)$/D', $line, $m));
            $model = EditReader::read([
                'kind' => 'say',
                'id' => sprintf('l%02d', $i),
                'from' => $m[1],
                'fromId' => Build::id($m[1]),
                'to' => $m[3],
                'toId' => Build::id($m[3]),
                'sign' => $m[2],
            ])->apply($model);
        }

        return $model;
    }

    private static function form(Model $model, string $id, string $kind): Model
    {
        $edit = EditReader::read(['kind' => 'form', 'id' => $id, 'element' => $kind]);
        $next = $edit->apply($model);
        self::assertSame(json_encode(ModelRecord::of($model)), json_encode(ModelRecord::of($edit->inverse($model)->apply($next))));

        return $next;
    }

    public function test_kinds_are_proposed_with_their_reasons(): void
    {
        $model = self::map([
            'rain - dredging',
            'settling - depth',
            'dredging + depth',
            'depth + ships',
            'ships + dues',
            'dues + dredging',
            'anger + talk',
            'talk + anger',
        ]);
        $proposals = array_column(Proposals::of($model), null, 'id');
        $kinds = array_map(static fn (array $p): string => $p['kind'], $proposals);
        ksort($kinds);
        self::assertSame(
            [
                'anger' => 'stock',
                'depth' => 'stock',
                'dredging' => 'flow',
                'dues' => 'auxiliary',
                'rain' => 'parameter',
                'settling' => 'parameter',
                'ships' => 'auxiliary',
                'talk' => 'auxiliary',
            ],
            $kinds,
        );
        self::assertSame('`dredging` fills or drains it: it builds up over time.', $proposals['depth']['why']);
        self::assertStringContainsString('something in a loop has to remember', $proposals['anger']['why']);
        self::assertSame('stock', Proposals::of($model)[0]['kind']);
    }

    /** Whatever the map, a model that takes all proposals has no loop that would have to be settled at one moment. */
    public function test_every_loop_gets_something_that_remembers(): void
    {
        mt_srand(31);
        for ($i = 0; $i < 40; $i++) {
            $lines = [];
            for ($k = mt_rand(3, 14); $k > 0; $k--) {
                [$a, $b] = [mt_rand(1, 6), mt_rand(1, 6)];
                $lines["$a $b"] = "thing $a ".['+', '-'][mt_rand(0, 1)]." thing $b";
            }
            $model = self::map(array_values($lines));
            $before = $model;
            $stocks = array_column(array_filter(Proposals::of($model), static fn (array $p): bool => $p['kind'] === 'stock'), 'id');
            foreach (Loops::of(CausalGraph::ofMap($model))->loops as $loop) {
                self::assertNotSame([], array_intersect($loop->path, $stocks));
            }
            foreach (Proposals::of($model) as $proposal) {
                $model = self::form($model, $proposal['id'], $proposal['kind']);
            }
            $codes = array_map(static fn ($p): string => $p->code, Analyser::analyse($model)->problems);
            self::assertSame([], array_intersect(['circle.now', 'name.factor', 'name.unknown'], $codes));
            self::assertSame([], Proposals::of($model));
            // The map is what it was.
            self::assertEquals($before->part('causalLinks'), $model->part('causalLinks'));
            self::assertEquals(CausalGraph::ofMap($before)->links, CausalGraph::ofMap($model)->links);
            self::assertEquals($before->part('mapSpots'), $model->part('mapSpots'));
        }
    }

    public function test_flows_find_their_stocks_and_formulas_start_with_the_signs_of_the_map(): void
    {
        $map = self::map([
            'settling - depth',
            'dredging + depth',
            'money + dredging',
            'storms - dredging',
            'haste ? dredging',
            'tide + depth',
            'slip - depth',
        ]);
        // In whatever order.
        foreach ([['depth', 'dredging', 'settling'], ['settling', 'dredging', 'depth']] as $order) {
            $model = $map;
            foreach ($order as $id) {
                $model = self::form($model, $id, $id === 'depth' ? 'stock' : 'flow');
            }
            self::assertSame(
                [['settling', 'depth', null], ['dredging', null, 'depth']],
                array_values(
                    array_map(
                        static fn (Flow $e): array => [$e->id, $e->from, $e->to],
                        array_filter($model->elements, static fn ($e): bool => $e instanceof Flow),
                    ),
                ),
            );
            self::assertSame('money - storms', $model->formulaOf($model->elements['dredging']));
        }
        // What is no flow feeds one.
        $model = self::form(self::form($model, 'tide', 'parameter'), 'slip', 'auxiliary');
        $flow = $model->inflows('depth')[1];
        self::assertSame(['change of depth', 'tide - slip'], [$flow->name, $model->formulaOf($flow)]);
        // A formula that was written since stays.
        $model = self::form(self::form($map, 'depth', 'stock'), 'tide', 'parameter');
        $id = (string) $model->idOf('change of depth');
        $model = EditReader::read(['kind' => 'formula', 'id' => $id, 'text' => 'tide / 7'])->apply($model);
        self::assertSame('tide / 7', $model->formulaOf(self::form($model, 'slip', 'auxiliary')->elements[$id]));
    }

    public function test_where_map_and_formula_contradict_each_other_it_is_remarked(): void
    {
        $model = self::map(['depth + ships', 'ships + noise']);
        foreach (['depth' => 'parameter', 'ships' => 'auxiliary', 'noise' => 'auxiliary'] as $id => $kind) {
            $model = self::form($model, $id, $kind);
        }
        $model = EditReader::read(['kind' => 'formula', 'id' => 'depth', 'text' => '7'])->apply($model);
        self::assertNotContains('map.contradicts', self::health($model));
        $model = EditReader::read(['kind' => 'formula', 'id' => 'ships', 'text' => '10 - depth'])->apply($model);
        self::assertContains('map.contradicts', self::health($model));
        $found = array_values(
            array_filter(Checkup::of(Analyser::analyse($model)), static fn ($p): bool => $p->code === 'map.contradicts'),
        );
        self::assertSame(
            [
                'ships',
                'The map says that more `depth` makes more `ships`; the formula of `ships` makes it less. One of them is to be changed.',
            ],
            [$found[0]->element, $found[0]->sentence],
        );
        $edit = EditReader::read($found[0]->remedy?->edits[0] ?? null);
        self::assertNotContains('map.contradicts', self::health($edit->apply($model)));
    }

    /** @return list<string> */
    private static function health(Model $model): array
    {
        return array_map(static fn ($p): string => $p->code, Checkup::of(Analyser::analyse($model)));
    }

    public function test_only_a_factor_takes_form(): void
    {
        $model = self::form(self::map(['depth + ships']), 'depth', 'stock');
        self::assertSame(Kind::Stock, $model->elements['depth']->kind());
        $this->expectException(EditRefused::class);
        $this->expectExceptionMessage('`depth` is a stock already.');
        self::form($model, 'depth', 'parameter');
    }
}
