<?php

declare(strict_types=1);

namespace Tests\Core;

use MerryOrbit\Core\Edit\Edit;
use MerryOrbit\Core\Edit\EditReader;
use MerryOrbit\Core\Edit\EditRefused;
use MerryOrbit\Core\Exchange\NativeFile;
use MerryOrbit\Core\Map\Record;
use MerryOrbit\Core\Model\Model;
use MerryOrbit\Core\Model\ModelRecord;
use MerryOrbit\Core\Model\Pair;
use PHPUnit\Framework\Attributes\DataProvider;
use PHPUnit\Framework\TestCase;

/** A workshop: pairs, what is put aside, ideas, and the record of it all. */
final class RecordTest extends TestCase
{
    /** @param  array<string, mixed>  $fields */
    private static function put(string $part, string $id, array $fields): Edit
    {
        return EditReader::read(['kind' => 'put', 'part' => $part, 'id' => $id, 'fields' => $fields]);
    }

    private static function model(): Model
    {
        $model = new Model('The | beach');
        foreach ([['waves', '-', 'sand'], ['sand', '-', 'waves'], ['wind', '?', 'waves']] as $i => [$from, $sign, $to]) {
            $model = EditReader::read([
                'kind' => 'say',
                'id' => "l$i",
                'from' => $from,
                'fromId' => $from,
                'to' => $to,
                'toId' => $to,
                'sign' => $sign,
                'standing' => $i === 0 ? 'disputed' : 'agreed',
                'mechanism' => $i === 0 ? "They carry\n*it* off." : '',
            ])->apply($model);
        }

        return $model;
    }

    public function test_all_that_was_said_stands_in_the_record_and_survives_the_file(): void
    {
        $model = self::model();
        foreach (
            [
                self::put('questions', 'q', ['text' => 'Why does the beach go?', 'answers' => ['It names the winter.']]),
                self::put('boundary', 'b', ['name' => 'tides', 'side' => 'left', 'why' => 'the same each year']),
                self::put('pairs', 'p1', ['one' => 'wind', 'other' => 'waves', 'votes' => 4]),
                self::put('pairs', 'p2', ['one' => 'sand', 'other' => 'waves', 'votes' => 7]),
                self::put('parked', 'k1', ['text' => 'Who owns it?']),
                self::put('parked', 'k2', ['text' => 'When?', 'done' => true]),
                self::put('actions', 'i1', ['text' => 'a groyne', 'of' => 'sand', 'effort' => 'great']),
                self::put('actions', 'i2', ['text' => 'grass', 'link' => 'l0', 'effect' => 'great']),
                self::put('loopNames', 'n1', ['path' => ['waves', 'sand'], 'name' => 'More sand, more sand']),
                EditReader::read(['kind' => 'group', 'ids' => ['waves', 'wind'], 'name' => 'at sea', 'tint' => '']),
            ] as $edit
        ) {
            $next = $edit->apply($model);
            self::assertSame(json_encode(ModelRecord::of($model)), json_encode(ModelRecord::of($edit->inverse($model)->apply($next))));
            $model = $next;
        }
        $file = NativeFile::export($model);
        self::assertSame($file, NativeFile::export(NativeFile::import($file)->model));
        self::assertSame(
            strtr(
                <<<'TEXT'
                # The \| beach

                **Why does the beach go?**

                What would count as an answer:

                1. It names the winter.

                ## Boundary

                - Left out: tides (the same each year)

                ## 3 factors

                - sand
                - **at sea**: waves, wind

                ## Votes for pairs

                | pair | votes |
                |---|---:|
                | sand, waves | 7 |
                | wind, waves | 4 |

                ## 3 links

                - More or less **wind** changes **waves**; which way is open. *agreed*
                - With more **sand**, less **waves** {than} With less **sand**, more **waves** {than} *agreed*
                - With more **waves**, less **sand** {than} With less **waves**, more **sand** {than} *disputed*
                  - Why: They carry \*it\* off.

                ## 1 feedback loop

                ### R1 More sand, more sand

                Begin with more **sand**. That makes for less **waves** {than} That makes for more **sand** {than} {end}

                ## Open points

                - waves → sand: disputed, said to act turned over
                - wind → waves: open which way

                ## For later

                - [ ] Who owns it?
                - [x] When?

                ## Action ideas

                | idea | at | effect | effort |
                |---|---|---|---|
                | grass | waves → sand | great | middle |
                | a groyne | sand | middle | great |

                TEXT
                ,
                ['{than}' => 'than there otherwise would be.', '{end}' => 'This adds to what began it: the loop is reinforcing.'],
            ),
            Record::markdown(NativeFile::import($file)->model),
        );
    }

    public function test_nothing_said_is_a_heading_alone(): void
    {
        self::assertSame("# Empty\n", Record::markdown(new Model('Empty')));
    }

    public function test_pairs_go_over_with_their_votes_when_two_are_one(): void
    {
        $model = self::model();
        foreach (['silt', 'foam'] as $name) {
            $model = EditReader::read([
                'kind' => 'say',
                'id' => 'x',
                'from' => $name,
                'fromId' => $name,
                'to' => '',
                'toId' => 'y',
            ])->apply($model);
        }
        foreach ([['silt', 'waves', 2], ['sand', 'waves', 3], ['silt', 'wind', 5], ['silt', 'sand', 9]] as $i => [$one, $other, $votes]) {
            $model = self::put('pairs', "p$i", ['one' => $one, 'other' => $other, 'votes' => $votes])->apply($model);
        }
        $merged = EditReader::read(['kind' => 'merge', 'id' => 'sand', 'other' => 'silt'])->apply($model);
        $votes = array_map(
            static fn (mixed $p): array => $p instanceof Pair ? [$p->one, $p->other, $p->votes] : [],
            $merged->part('pairs'),
        );
        self::assertEqualsCanonicalizing([['sand', 'waves', 5], ['sand', 'wind', 5]], array_values($votes));
    }

    /** @param  array<string, mixed>  $fields */
    #[DataProvider('mistakes')]
    public function test_what_makes_no_sense_is_said(string $part, array $fields, string $sentence): void
    {
        $model = self::put('pairs', 'p', ['one' => 'wind', 'other' => 'waves'])->apply(self::model());
        $this->expectException(EditRefused::class);
        $this->expectExceptionMessage($sentence);
        self::put($part, 'x', $fields)->apply($model);
    }

    /** @return iterable<string, array{string, array<string, mixed>, string}> */
    public static function mistakes(): iterable
    {
        yield 'itself' => ['pairs', ['one' => 'wind', 'other' => 'wind'], 'both are the same'];
        yield 'gone' => ['pairs', ['one' => 'wind', 'other' => 'gulls'], 'one of them is not there'];
        yield 'again' => ['pairs', ['one' => 'waves', 'other' => 'wind'], 'are a pair already'];
        yield 'votes' => ['pairs', ['one' => 'sand', 'other' => 'wind', 'votes' => -1], 'is a number from 0'];
        yield 'empty' => ['parked', ['text' => ' '], 'needs `text`'];
        yield 'done' => ['parked', ['text' => 'x', 'done' => 'yes'], 'is true or false'];
        yield 'no way' => ['loopNames', ['name' => 'x'], 'needs `path`'];
        yield 'effect' => ['actions', ['text' => 'x', 'effect' => 'huge'], 'is one of small, middle, great'];
    }
}
