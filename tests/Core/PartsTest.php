<?php

declare(strict_types=1);

namespace Tests\Core;

use MerryOrbit\Core\Edit\DeleteElements;
use MerryOrbit\Core\Edit\Edit;
use MerryOrbit\Core\Edit\EditReader;
use MerryOrbit\Core\Edit\EditRefused;
use MerryOrbit\Core\Edit\Patch;
use MerryOrbit\Core\Edit\RenameElement;
use MerryOrbit\Core\Exchange\Fragment;
use MerryOrbit\Core\Exchange\NativeFile;
use MerryOrbit\Core\Exchange\PartSchemas;
use MerryOrbit\Core\Model\CausalLink;
use MerryOrbit\Core\Model\Model;
use MerryOrbit\Core\Model\ModelRecord;
use MerryOrbit\Core\Model\Part;
use MerryOrbit\Core\Model\Parts;
use MerryOrbit\Core\Structure\Comparison;
use PHPUnit\Framework\Attributes\DataProvider;
use PHPUnit\Framework\TestCase;

/** Parts of a document: all that follows from a declaration, shown with one that nobody else knows. */
final class PartsTest extends TestCase
{
    private static function shed(): Model
    {
        return Build::model(['rain' => '2', 'share' => '10%'], ['lens' => '100'], ['wells' => ['lens / 7', 'from' => 'lens']]);
    }

    /** @param  array<string, mixed>  $fields */
    private static function put(string $id, array $fields, string $part = 'toys'): Edit
    {
        return EditReader::read(['kind' => 'put', 'part' => $part, 'id' => $id, 'fields' => $fields]);
    }

    private static function refusal(Model $model, Edit $edit): string
    {
        try {
            $edit->apply($model);
        } catch (EditRefused $e) {
            return $e->getMessage();
        }
        self::fail('It was not refused.');
    }

    private static function through(Patch $patch): Patch
    {
        /** @var array<string, mixed> $record */
        $record = json_decode(
            json_encode($patch->record, JSON_THROW_ON_ERROR | JSON_PRESERVE_ZERO_FRACTION),
            true,
            flags: JSON_THROW_ON_ERROR,
        );

        return Patch::fromRecord($record);
    }

    public function test_a_toy_is_stored_undone_compared_exported_and_imported_without_another_line(): void
    {
        Parts::with(Toy::part(), static function (): void {
            $start = self::shed();
            $ball = self::put('t1', ['name' => 'ball', 'owner' => 'rain', 'size' => 2]);
            self::assertSame('Added the toy “ball”', $ball->words($start));
            $model = $ball->apply($start);
            $kite = self::put('t2', ['name' => 'kite']);
            $model = $kite->apply($model);

            // Stored.
            /** @var array<string, mixed> $record */
            $record = json_decode(
                json_encode(ModelRecord::of($model), JSON_THROW_ON_ERROR | JSON_PRESERVE_ZERO_FRACTION),
                true,
                flags: JSON_THROW_ON_ERROR,
            );
            self::assertEquals($model->part('toys'), ModelRecord::toModel($record)->part('toys'));

            // Changed field by field, and taken back.
            $larger = self::put('t1', ['size' => 7.5]);
            self::assertSame('Changed the toy “ball”', $larger->words($model));
            $next = $larger->apply($model);
            self::assertSame(['t1' => ['size' => 7.5]], Patch::between($model, $next)->of('toys'));
            self::assertEquals($model, self::through(Patch::between($next, $model))->apply($next));
            self::assertEquals($start->part('toys'), self::through(Patch::between($next, $start))->apply($next)->part('toys'));
            $free = self::put('t1', ['owner' => null])->apply($next);
            self::assertEquals($next, self::through(Patch::between($free, $next))->apply($free));
            self::assertEquals($free, self::through(Patch::between($next, $free))->apply($next));

            // Compared in words, with names for ids.
            $renamed = (new RenameElement('rain', 'rainfall'))->apply($next);
            self::assertSame(
                [
                    [
                        'what' => 'changed',
                        'key' => 'toys/t1',
                        'element' => null,
                        'name' => 'Toy “ball”',
                        'kind' => 'toy',
                        'fields' => [['field' => 'size', 'was' => '2', 'now' => '7.5']],
                    ],
                ],
                Comparison::between($model, $next),
            );
            self::assertContains(
                ['field' => 'owner', 'was' => 'rain', 'now' => 'rainfall'],
                array_merge(
                    ...array_column(Comparison::between($model, (new RenameElement('rain', 'rainfall'))->apply($next)), 'fields'),
                ),
            );

            // Out and in, with names for ids.
            $text = NativeFile::export($renamed);
            self::assertStringContainsString('{"id":"t1","name":"ball","owner":"rainfall","size":7.5}', $text);
            $back = NativeFile::import($text);
            self::assertSame([], $back->log);
            self::assertEquals($renamed->part('toys'), $back->model->part('toys'));
            self::assertSame($text, NativeFile::export($back->model));

            // It goes with its owner, and comes back with it.
            $gone = (new DeleteElements(['rain']))->apply($renamed);
            self::assertSame(['t2'], array_keys($gone->part('toys')));
            self::assertEquals($renamed->part('toys'), (new DeleteElements(['rain']))->inverse($renamed)->apply($gone)->part('toys'));
            self::assertSame([], NativeFile::import(Fragment::of($renamed, ['share']))->model->part('toys'));
            self::assertSame(['t1'], array_keys(NativeFile::import(Fragment::of($renamed, ['rain', 'share']))->model->part('toys')));

            // And away.
            $drop = EditReader::read(['kind' => 'drop', 'part' => 'toys', 'id' => 't2']);
            self::assertSame('Removed the toy “kite”', $drop->words($renamed));
            self::assertSame(['t1'], array_keys($drop->apply($renamed)->part('toys')));
            self::assertStringContainsString('not there any more', self::refusal($start, $drop).' not there any more');
        });
    }

    public function test_edits_of_two_windows_are_merged_and_clash_only_in_the_same_field(): void
    {
        Parts::with(Toy::part(), static function (): void {
            $base = self::put('t1', ['name' => 'ball', 'size' => 2])->apply(self::shed());
            $theirs = self::put('t1', ['name' => 'balloon'])->apply($base);
            $ours = self::put('t1', ['size' => 3]);
            $both = $ours->apply($theirs);
            self::assertEquals(new Toy('t1', 'balloon', null, 3.0), $both->part('toys')['t1']);
            $touches = static fn (Edit $edit): array => Patch::between($base, $edit->apply($base))->touches();
            self::assertNull(Patch::clash($touches($ours), $touches(self::put('t1', ['name' => 'balloon']))));
            self::assertSame('toys/t1/size', Patch::clash($touches($ours), $touches(self::put('t1', ['size' => 9]))));
            self::assertNotNull(
                Patch::clash($touches($ours), $touches(EditReader::read(['kind' => 'drop', 'part' => 'toys', 'id' => 't1']))),
            );
            self::assertNull(Patch::clash($touches($ours), $touches(self::put('t2', ['size' => 9]))));
            // Taking ours back leaves what they did.
            $inverse = self::through(Patch::between($both, $theirs));
            self::assertEquals(
                new Toy('t1', 'kite', null, 2.0),
                $inverse->apply(self::put('t1', ['name' => 'kite'])->apply($both))->part('toys')['t1'],
            );
            // What they took away is not brought back by half.
            self::assertSame([], $inverse->apply($both->with(['toys' => []]))->part('toys'));
        });
    }

    public function test_what_is_no_toy_is_refused_with_a_sentence(): void
    {
        Parts::with(Toy::part(), static function (): void {
            $model = self::shed();
            self::assertStringContainsString('a size that is a number', self::refusal($model, self::put('t1', ['size' => 'large'])));
            self::assertStringContainsString('a thing of the model', self::refusal($model, self::put('t1', ['owner' => 'nobody'])));
            foreach (['t1', 't2', 't3'] as $id) {
                $model = self::put($id, [])->apply($model);
            }
            self::assertStringContainsString('at most 3 toys', self::refusal($model, self::put('t4', [])));
            $file = json_decode(NativeFile::export($model), true);
            self::assertIsArray($file);
            $imported = NativeFile::import(
                (string) json_encode([...$file, 'toys' => [['id' => 't9', 'owner' => 'gone'], ['id' => 't8']]]),
            );
            self::assertSame(['t8'], array_keys($imported->model->part('toys')));
            self::assertStringContainsString('toy 1', (string) json_encode($imported->log));
        });
        $this->expectException(EditRefused::class);
        $this->expectExceptionMessage(
            'no part called `toys`; there are scenarios, plots, findings, mappings, tables, courses, causalLinks',
        );
        self::put('t1', []);
    }

    public function test_schema_and_types_of_a_part_follow_from_its_declaration(): void
    {
        Parts::with(Toy::part(), static function (): void {
            $schema = (string) json_encode(PartSchemas::into(new \stdClass()), JSON_UNESCAPED_SLASHES);
            self::assertStringContainsString('"toys":{"type":"array","maxItems":3,"items":{"$ref":"#/$defs/toy"}}', $schema);
            self::assertStringContainsString('"toy":{"type":"object","required":["id"]', $schema);
            self::assertStringContainsString(
                "export interface ToyRecord {\n    id: string\n    name?: string\n    owner?: string\n    size?: number\n}",
                PartSchemas::typescript(),
            );
        });
    }

    public function test_causal_links_last_beside_formulas_and_hold_what_people_say(): void
    {
        $model = self::shed();
        $link = self::put(
            'l1',
            ['from' => 'lens', 'to' => 'wells', 'sign' => '+', 'late' => true, 'mechanism' => 'More lies there to be pumped.'],
            'causalLinks',
        );
        self::assertSame('Added the causal link of `lens` and `wells`', $link->words($model));
        $model = $link->apply($model);
        self::assertEquals(
            new CausalLink('l1', 'lens', 'wells', '+', late: true, mechanism: 'More lies there to be pumped.'),
            $model->part('causalLinks')['l1'],
        );
        self::assertSame([], $model->links, 'what the formula uses is derived');
        $model = self::put(
            'l1',
            ['standing' => 'disputed', 'late' => false, 'grounds' => 'The log of the wells, 2031.'],
            'causalLinks',
        )->apply($model);
        self::assertSame(
            [
                'id' => 'l1',
                'from' => 'lens',
                'to' => 'wells',
                'sign' => '+',
                'mechanism' => 'More lies there to be pumped.',
                'grounds' => 'The log of the wells, 2031.',
                'standing' => 'disputed',
            ],
            $model->part('causalLinks')['l1'] instanceof CausalLink ? $model->part('causalLinks')['l1']->toRecord() : [],
        );
        $text = NativeFile::export($model);
        self::assertStringContainsString('"from":"lens"', $text);
        $schema = (string) file_get_contents(__DIR__.'/../../docs/model.schema.json');
        self::assertTrue((new \Opis\JsonSchema\Validator())->validate(json_decode($text), $schema)->isValid());
        self::assertEquals($model->more, NativeFile::import($text)->model->more);
        foreach (
            [
                [['from' => 'lens', 'to' => 'wells'], 'already'],
                [['from' => 'lens', 'to' => 'gone'], 'not there'],
                [['from' => 'rain', 'to' => 'lens', 'sign' => 'up'], 'one of +, -, ?'],
                [['from' => 'rain', 'to' => 'lens', 'late' => 'yes'], 'true or false'],
                [['from' => 'rain'], 'leads'],
                [['from' => 'rain', 'to' => 'lens', 'grounds' => str_repeat('x', 5000)], '4,000'],
            ] as [$fields, $words]
        ) {
            self::assertStringContainsString($words, self::refusal($model, self::put('l2', $fields, 'causalLinks')));
        }
        self::assertSame([], (new DeleteElements(['lens']))->apply($model)->part('causalLinks'));
    }

    /** @return iterable<string, array{string}> */
    public static function demos(): iterable
    {
        yield 'fresh water' => ['fresh-water'];
        yield 'kelp and urchins' => ['kelp-and-urchins'];
    }

    /** Documents and patches as they were stored before there were parts. */
    #[DataProvider('demos')]
    public function test_what_was_stored_before_is_read_undone_and_made_again(string $demo): void
    {
        /** @var array<string, array{first: array<string, mixed>, last: array<string, mixed>, patches: list<array{forward: array<string, mixed>, inverse: array<string, mixed>}>}> $stored */
        $stored = json_decode(
            (string) file_get_contents(__DIR__.'/fixtures/stored-before-parts.json'),
            true,
            flags: JSON_THROW_ON_ERROR,
        );
        $first = ModelRecord::toModel($stored[$demo]['first']);
        $last = ModelRecord::toModel($stored[$demo]['last']);
        foreach (array_diff_key($stored[$demo]['last'], ['links' => true]) as $field => $value) {
            self::assertEquals($value, ModelRecord::of($last)[$field] ?? null, $field);
        }
        self::assertEquals($stored[$demo]['last']['links'], array_values((array) ModelRecord::of($last)['links']));
        $model = $last;
        foreach (array_reverse($stored[$demo]['patches']) as $patch) {
            $model = Patch::fromRecord($patch['inverse'])->apply($model);
        }
        self::assertSame(ModelRecord::of($first), ModelRecord::of($model));
        foreach ($stored[$demo]['patches'] as $patch) {
            $model = Patch::fromRecord($patch['forward'])->apply($model);
        }
        self::assertSame(ModelRecord::of($last), ModelRecord::of($model));
        // The study of then is the demo file of then, and gives the same numbers.
        $demoModel = NativeFile::import((string) file_get_contents(__DIR__."/../../demo/$demo.json"))->model;
        [$then, $now] = [Build::run($first), Build::run($demoModel)];
        foreach ($now->columns() as $id) {
            self::assertSame($now->column($id), $then->column($id), $id);
        }
    }

    public function test_every_part_has_a_name_of_its_own_and_filed_ones_a_word(): void
    {
        foreach (Parts::all() as $name => $part) {
            self::assertSame($name, $part->name);
            self::assertTrue(! $part->inFile || ($part->word !== '' && $part->most > 0));
        }
        self::assertInstanceOf(Part::class, Parts::find('scenarios'));
        self::assertNull(Parts::find('toys'));
    }
}
