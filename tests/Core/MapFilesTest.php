<?php

declare(strict_types=1);

namespace Tests\Core;

use MerryOrbit\Core\Edit\EditReader;
use MerryOrbit\Core\Edit\MapSpots;
use MerryOrbit\Core\Exchange\FileRefused;
use MerryOrbit\Core\Exchange\ModelFile;
use MerryOrbit\Core\Map\CausalGraph;
use MerryOrbit\Core\Map\MapCsv;
use MerryOrbit\Core\Model\CausalLink;
use MerryOrbit\Core\Model\Model;
use PHPUnit\Framework\Attributes\DataProvider;
use PHPUnit\Framework\TestCase;

/** Causal maps in and out, as tables of links and as graphs. */
final class MapFilesTest extends TestCase
{
    private static function map(): Model
    {
        $model = new Model('Harbour');
        $more = ['late' => true, 'strength' => 'strong', 'mechanism' => "It \"fills\", <slowly> & surely,\nup.", 'grounds' => '=1+1'];
        foreach (
            [
                ['silt settling', '-', 'depth, at the quay', $more],
                ['depth, at the quay', '?', 'ships', ['standing' => 'disputed']],
                ['wells', '?', '', []],
            ] as $i => [$from, $sign, $to, $said]
        ) {
            $record = ['kind' => 'say', 'id' => "l$i", 'from' => $from, 'fromId' => "a$i", 'to' => $to, 'toId' => "b$i", 'sign' => $sign];
            $model = EditReader::read([...$record, ...$said])->apply($model);
        }

        return $model;
    }

    /** @return list<array<string, mixed>> what is said of each link, with the names of its ends */
    private static function told(Model $model, bool $withStanding): array
    {
        $told = [];
        foreach ($model->part('causalLinks') as $link) {
            self::assertInstanceOf(CausalLink::class, $link);
            $record = ['from' => $model->nameOf($link->from), 'to' => $model->nameOf($link->to)] + $link->toRecord();
            unset($record['id']);
            $told[] = $withStanding ? $record : array_diff_key($record, ['standing' => 0]);
        }

        return $told;
    }

    public function test_a_table_holds_all_links_and_what_is_said_of_them(): void
    {
        [$file, $log] = ModelFile::export(self::map(), 'map-csv');
        self::assertSame(
            ['factors: One factor without a link is not in it.'],
            array_map(static fn ($l): string => "$l->where: $l->sentence", $log),
        );
        $imported = ModelFile::import($file);
        self::assertSame([], $imported->log);
        self::assertSame(self::told(self::map(), false), self::told($imported->model, true));
        self::assertSame($file, ModelFile::export($imported->model, 'map-csv')[0]);
        // And it is what the command line takes.
        self::assertCount(2, MapCsv::read($file)->links);
    }

    public function test_a_graph_holds_factors_spots_and_links(): void
    {
        $map = EditReader::read(['kind' => 'map-move', 'spots' => ['a0' => ['x' => -12.5, 'y' => 40]]])->apply(self::map());
        [$file, $log] = ModelFile::export($map, 'graphml');
        self::assertSame([], $log);
        $imported = ModelFile::import($file);
        self::assertSame(self::told($map, true), self::told($imported->model, true));
        self::assertSame(array_values(CausalGraph::ofMap($map)->names), array_values(CausalGraph::ofMap($imported->model)->names));
        self::assertEquals(array_values(MapSpots::of($map)), array_values(MapSpots::of($imported->model)));
        // Schema and reader are those of the standard: another reader finds nodes and edges.
        $xml = simplexml_load_string($file);
        self::assertNotFalse($xml);
        self::assertSame([4, 2], [count($xml->graph->node), count($xml->graph->edge)]);
        self::assertSame('directed', (string) $xml->graph['edgedefault']);
    }

    public function test_graphs_of_other_programs_are_read_as_far_as_they_say_something(): void
    {
        $imported = ModelFile::import(
            <<<'XML'
            <?xml version="1.0"?>
            <graphml xmlns="http://graphml.graphdrawing.org/xmlns">
              <key id="d0" for="node" attr.name="label" attr.type="string"/>
              <key id="d1" for="edge" attr.name="weight" attr.type="double"/>
              <graph id="Beach" edgedefault="directed">
                <node id="n0"><data key="d0">waves</data></node><node id="n1"/>
                <edge source="n0" target="n1"><data key="d1">-0.5</data></edge>
                <edge source="n1" target="n0"><data key="d1">3</data></edge>
                <edge source="n1" target="n0"><data key="d1">-3</data></edge>
                <edge source="n1" target="n1"/>
              </graph>
            </graphml>
            XML
            ,
        );
        self::assertSame('Beach', $imported->model->name);
        self::assertSame(
            ['waves - n1', 'n1 ? waves', 'n1 ? n1'],
            array_map(
                static fn (array $l): string => implode(' ', [
                    is_string($l['from']) ? $l['from'] : '',
                    is_string($l['sign'] ?? null) ? $l['sign'] : '?',
                    is_string($l['to']) ? $l['to'] : '',
                ]),
                self::told($imported->model, true),
            ),
        );
        self::assertSame('`n1` acts on `waves` both ways here: that was left open.', $imported->log[0]->sentence);
    }

    #[DataProvider('mistakes')]
    public function test_what_cannot_be_read_is_said(string $file, string $sentence): void
    {
        $this->expectException(FileRefused::class);
        $this->expectExceptionMessage($sentence);
        ModelFile::import($file);
    }

    /** @return iterable<string, array{string, string}> */
    public static function mistakes(): iterable
    {
        yield 'no sign' => ["from,to\na,b\n", 'It lacks `sign`'];
        yield 'a sign' => ["from,to,sign\na,b,x\n", 'Line 2 of the map has the sign `x`'];
        yield 'no name' => ["from,to,sign\na,,+\n", 'no name in `to`'];
        yield 'long' => ["from,to,sign\n".str_repeat('a', 121).",b,+\n", 'Link 1:'];
        yield 'no graph' => ['<graphml/>', 'has no <graph> in it'];
        yield 'no node' => ['<graphml><graph><edge source="a" target="b"/></graph></graphml>', 'a node that is not there'];
        yield 'entities' => ['<!DOCTYPE x [<!ENTITY y "z">]><graphml><graph/></graphml>', 'document type or entities'];
        yield 'broken' => ['<graphml><graph>', 'breaks off'];
    }

    public function test_a_model_is_left_behind_and_that_is_said(): void
    {
        $model = EditReader::read(['kind' => 'form', 'id' => 'a0', 'element' => 'parameter'])->apply(self::map());
        $told = static fn (string $format): array => array_map(
            static fn ($l): string => $l->where,
            ModelFile::export($model, $format === 'map-csv' ? 'map-csv' : 'graphml')[1],
        );
        self::assertSame([['factors', 'model'], ['model']], [$told('map-csv'), $told('graphml')]);
        self::assertStringStartsWith('# Harbour', ModelFile::export($model, 'record')[0]);
    }
}
