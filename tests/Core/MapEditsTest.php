<?php

declare(strict_types=1);

namespace Tests\Core;

use MerryOrbit\Core\Analysis\Analyser;
use MerryOrbit\Core\Edit\Edit;
use MerryOrbit\Core\Edit\EditReader;
use MerryOrbit\Core\Edit\EditRefused;
use MerryOrbit\Core\Edit\MapSpots;
use MerryOrbit\Core\Exchange\NativeFile;
use MerryOrbit\Core\Map\CausalGraph;
use MerryOrbit\Core\Map\Sentences;
use MerryOrbit\Core\Model\CausalLink;
use MerryOrbit\Core\Model\Kind;
use MerryOrbit\Core\Model\Meaning;
use MerryOrbit\Core\Model\Model;
use MerryOrbit\Core\Model\ModelRecord;
use PHPUnit\Framework\Attributes\DataProvider;
use PHPUnit\Framework\TestCase;

final class MapEditsTest extends TestCase
{
    /** Made by two edits: silt settling – depth, depth + ships. */
    private static function map(): Model
    {
        $model = new Model('Harbour');
        foreach ([self::say(1, 'silt settling', '-', 'depth'), self::say(2, 'depth', '+', 'ships', ['late' => true])] as $edit) {
            $model = $edit->apply($model);
        }

        return $model;
    }

    /** @param  array<string, mixed>  $more */
    private static function say(int $n, string $from, string $sign, string $to, array $more = []): Edit
    {
        $record = ['kind' => 'say', 'id' => "l$n", 'from' => $from, 'fromId' => "a$n", 'to' => $to, 'toId' => "b$n", 'sign' => $sign];

        return EditReader::read([...$record, ...$more]);
    }

    /** @return list<string> such as `silt settling - depth` */
    private static function told(Model $model): array
    {
        $told = [];
        foreach ($model->part('causalLinks') as $link) {
            self::assertInstanceOf(CausalLink::class, $link);
            $told[] = "{$model->nameOf($link->from)} $link->sign {$model->nameOf($link->to)}".($link->late ? ' late' : '');
        }
        sort($told);

        return $told;
    }

    public function test_what_is_said_becomes_factors_and_a_link_beside_what_stands(): void
    {
        $model = self::map();
        self::assertSame(['depth + ships late', 'silt settling - depth'], self::told($model));
        self::assertSame(['a1', 'b1', 'b2'], array_keys($model->elements));
        self::assertSame(Kind::Factor, $model->elements['b1']->kind());
        $before = MapSpots::of($model);
        $more = self::say(3, 'Ships', '-', 'quiet')->apply($model);
        self::assertSame('b3', $more->idOf('quiet'));
        self::assertEquals($before, array_intersect_key(MapSpots::of($more), $before));
        // Said again it is what is said now; nothing else of it changes.
        $again = self::say(9, 'DEPTH', '?', 'ships')->apply($model);
        self::assertSame(['depth ? ships late', 'silt settling - depth'], self::told($again));
        self::assertSame('Said that `DEPTH` acts on `ships`', self::say(9, 'DEPTH', '?', 'ships')->words($model));
        $alone = self::say(4, 'gulls', '+', '')->apply($model);
        self::assertSame(['gulls'], array_slice(array_column(array_map(get_object_vars(...), $alone->elements), 'name'), -1));
        self::assertArrayHasKey('a4', MapSpots::of($alone));
    }

    public function test_forty_factors_lie_apart(): void
    {
        $model = new Model('Ring');
        for ($i = 0; $i < 40; $i++) {
            $model = self::say($i, "factor $i", '+', 'factor '.($i * 7 + 1) % 40)->apply($model);
        }
        $spots = array_values(MapSpots::of($model));
        self::assertCount(40, $spots);
        foreach ($spots as $i => $one) {
            foreach (array_slice($spots, $i + 1) as $other) {
                self::assertTrue(abs($one->x - $other->x) >= 190 || abs($one->y - $other->y) >= 92);
            }
        }
    }

    public function test_nothing_of_a_map_is_computed_and_no_number_depends_on_it(): void
    {
        $plain = Build::model(['rain' => '2'], ['lens' => '100'], ['recharge' => ['rain', 'to' => 'lens']]);
        $model = self::say(1, 'rain', '+', 'hope')->apply($plain);
        self::assertSame(Meaning::of($plain), Meaning::of($model));
        $analysis = Analyser::analyse($model);
        self::assertSame([], $analysis->problems);
        self::assertSame(['lens', 'rain', 'recharge'], array_keys($analysis->columns()));
        self::assertContains('hope', CausalGraph::ofModel($analysis)->names);
        self::assertSame(['rain', 'hope'], array_values(CausalGraph::ofMap($model)->names));
        $used = EditReader::read(['kind' => 'formula', 'id' => 'recharge', 'text' => 'rain * hope'])->apply($model);
        $problem = Analyser::analyse($used)->problems[0];
        self::assertSame(['name.factor', 7, 4], [$problem->code, $problem->from, $problem->length]);
        $made = EditReader::read(['kind' => 'become', 'id' => 'b1', 'element' => 'parameter'])->apply($used);
        self::assertSame(['formula.missing'], array_column(array_map(get_object_vars(...), Analyser::analyse($made)->problems), 'code'));
        self::assertNotSame(Meaning::of($used), Meaning::of($made));
        self::assertEquals(MapSpots::of($used), MapSpots::of($made));
    }

    public function test_a_factor_put_into_a_link_leaves_its_sign_as_it_was(): void
    {
        $edit = EditReader::read(['kind' => 'between', 'link' => 'l1', 'id' => 'n1', 'name' => 'shallows', 'second' => 'l9']);
        $model = $edit->apply(self::map());
        self::assertSame(['depth + ships late', 'shallows + depth', 'silt settling - shallows'], self::told($model));
        self::assertSame('Put `shallows` between `silt settling` and `depth`', $edit->words(self::map()));
        // Through something that is there, and is linked already.
        $through = EditReader::read(['kind' => 'between', 'link' => 'l7', 'id' => 'n2', 'name' => 'depth', 'second' => 'l8']);
        self::assertSame(
            ['depth + ships late', 'silt settling - depth'],
            self::told($through->apply(self::say(7, 'silt settling', '-', 'ships')->apply(self::map()))),
        );
    }

    public function test_factors_are_merged_and_split_with_their_links(): void
    {
        $model = self::map();
        foreach (
            [self::say(3, 'mud', '+', 'depth'), self::say(4, 'ships', '+', 'mud'), self::say(5, 'mud', '+', 'silt settling')] as $edit
        ) {
            $model = $edit->apply($model);
        }
        $merged = EditReader::read(['kind' => 'merge', 'id' => 'a1', 'other' => 'a3'])->apply($model);
        // They contradict each other on depth; what went from one to the other is gone.
        self::assertSame(['depth + ships late', 'ships + silt settling', 'silt settling ? depth'], self::told($merged));
        self::assertNull($merged->element('a3'));
        $split = EditReader::read([
            'kind' => 'split',
            'id' => 'b1',
            'other' => 'n1',
            'name' => 'depth at the quay',
            'links' => ['l2', 'l4'],
        ]);
        self::assertSame(
            ['depth at the quay + ships late', 'mud + depth', 'mud + silt settling', 'ships + mud', 'silt settling - depth'],
            self::told($split->apply($model)),
        );
    }

    public function test_a_link_is_turned_round_unless_there_is_one_that_way(): void
    {
        $turn = EditReader::read(['kind' => 'put', 'part' => 'causalLinks', 'id' => 'l1', 'fields' => ['from' => 'b1', 'to' => 'a1']]);
        self::assertSame(['depth + ships late', 'depth - silt settling'], self::told($turn->apply(self::map())));
        $this->expectException(EditRefused::class);
        $this->expectExceptionMessage('already. Change that one.');
        $turn->apply(self::say(8, 'depth', '+', 'silt settling')->apply(self::map()));
    }

    /** @param  array<string, mixed>  $record */
    #[DataProvider('mistakes')]
    public function test_what_makes_no_sense_is_said(array $record, string $sentence): void
    {
        $model = EditReader::read(['kind' => 'add', 'id' => 'sea', 'element' => 'stock', 'name' => 'sea'])->apply(self::map());
        $this->expectException(EditRefused::class);
        $this->expectExceptionMessage($sentence);
        EditReader::read($record)->apply($model);
    }

    /** @return iterable<string, array{array<string, mixed>, string}> */
    public static function mistakes(): iterable
    {
        $between = ['kind' => 'between', 'id' => 'n', 'second' => 's'];
        yield 'an end' => [[...$between, 'link' => 'l1', 'name' => 'depth'], 'is an end of this link already'];
        yield 'no link' => [[...$between, 'link' => 'l7', 'name' => 'x'], 'not in the model any more'];
        yield 'no name' => [['kind' => 'say', 'id' => 'l', 'from' => ' ', 'fromId' => 'f', 'to' => '', 'toId' => 't'], 'name'];
        yield 'itself' => [['kind' => 'merge', 'id' => 'a1', 'other' => 'a1'], 'cannot be merged with itself'];
        yield 'a stock' => [['kind' => 'merge', 'id' => 'a1', 'other' => 'sea'], '`sea` is a stock of the model'];
        yield 'a curve' => [['kind' => 'become', 'id' => 'a1', 'element' => 'curve'], 'can become a stock, a flow'];
        yield 'spots' => [['kind' => 'map-move', 'spots' => ['a1' => ['x' => 1]]], 'needs `y`'];
        yield 'twice' => [['kind' => 'split', 'id' => 'a1', 'other' => 'n', 'name' => 'ships', 'links' => []], 'already is a factor'];
    }

    public function test_a_file_keeps_all_of_a_map_and_each_edit_is_taken_back_to_the_byte(): void
    {
        $model = self::map();
        $wording = ['of' => 'b1', 'more' => 'the quay is deeper', 'less' => 'the quay is less deep'];
        $edits = [
            self::say(3, 'dredging', '+', 'depth', [
                'strength' => 'strong',
                'mechanism' => 'It takes the silt out.',
                'standing' => 'disputed',
            ]),
            EditReader::read(['kind' => 'put', 'part' => 'wordings', 'id' => 'w1', 'fields' => $wording]),
            EditReader::read(['kind' => 'between', 'link' => 'l1', 'id' => 'n1', 'name' => 'bars', 'second' => 'l9']),
            EditReader::read(['kind' => 'split', 'id' => 'b1', 'other' => 'n2', 'name' => 'the channel', 'links' => ['l2']]),
            EditReader::read(['kind' => 'map-move', 'spots' => ['b1' => ['x' => 7.5, 'y' => -3]]]),
            EditReader::read(['kind' => 'merge', 'id' => 'a1', 'other' => 'b2']),
            EditReader::read(['kind' => 'become', 'id' => 'b1', 'element' => 'stock']),
            EditReader::read(['kind' => 'delete', 'ids' => ['b1']]),
        ];
        foreach ($edits as $edit) {
            $next = $edit->apply($model);
            $file = NativeFile::export($next);
            $imported = NativeFile::import($file);
            self::assertSame([], $imported->log);
            self::assertSame($file, NativeFile::export($imported->model));
            $back = $edit->inverse($model)->apply($next);
            self::assertSame(json_encode(ModelRecord::of($model)), json_encode(ModelRecord::of($back)));
            $model = $next;
        }
        self::assertSame([[], []], [$model->part('wordings'), array_intersect_key(MapSpots::of($model), ['b1' => 0])]);
    }

    public function test_links_are_read_both_ways_as_people_speak(): void
    {
        $model = self::say(3, 'ships', '?', 'noise')->apply(self::map());
        foreach (
            [
                ['of' => 'a1', 'more' => 'more silt settles', 'less' => 'less silt settles'],
                ['of' => 'b1', 'number' => 'one'],
                ['of' => 'b2', 'number' => 'many'],
            ] as $i => $fields
        ) {
            $model = EditReader::read(['kind' => 'put', 'part' => 'wordings', 'id' => "w$i", 'fields' => $fields])->apply($model);
        }
        $graph = CausalGraph::ofMap($model);
        self::assertSame(
            [
                [
                    'When more silt settles, there is less `depth` than there otherwise would be.',
                    'When less silt settles, there is more `depth` than there otherwise would be.',
                ],
                [
                    'When there is more `depth`, after a while, there are more `ships` than there otherwise would be.',
                    'When there is less `depth`, after a while, there are fewer `ships` than there otherwise would be.',
                ],
                ['More or less `ships` changes `noise`; which way is open.', ''],
            ],
            array_map((new Sentences($graph))->bothWays(...), array_values($graph->links)),
        );
    }
}
