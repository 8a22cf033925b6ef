<?php

declare(strict_types=1);

namespace Tests\Core;

use MerryOrbit\Core\Analysis\Analyser;
use MerryOrbit\Core\Edit\EditReader;
use MerryOrbit\Core\Edit\EditRefused;
use MerryOrbit\Core\Exchange\FileRefused;
use MerryOrbit\Core\Exchange\NativeFile;
use MerryOrbit\Core\Model\ModelRecord;
use MerryOrbit\Core\Model\Scenario;
use Opis\JsonSchema\Validator;
use PHPUnit\Framework\Attributes\DataProvider;
use PHPUnit\Framework\TestCase;

final class NativeFileTest extends TestCase
{
    private const DEMO = __DIR__.'/../../demo';

    public function test_demo_files_are_sound_canonical_and_follow_the_schema(): void
    {
        $schema = (string) file_get_contents(__DIR__.'/../../docs/model.schema.json');
        $files = glob(self::DEMO.'/*.json') ?: [];
        self::assertNotSame([], $files);
        foreach ($files as $file) {
            $text = (string) file_get_contents($file);
            $imported = NativeFile::import($text);
            self::assertSame([], $imported->log, $file);
            self::assertSame([], Analyser::analyse($imported->model)->problems, $file);
            self::assertSame($text, NativeFile::export($imported->model), $file);
            self::assertTrue((new Validator())->validate(json_decode($text), $schema)->isValid(), $file);
            self::assertNull(Build::run($imported->model)->fault);
        }
    }

    /** Whatever state a model is in, writing and reading it gives the same text, and the text follows the schema. */
    public function test_any_model_survives_the_file(): void
    {
        $schema = (string) file_get_contents(__DIR__.'/../../docs/model.schema.json');
        mt_srand(5);
        $model = Build::model(['rain' => '2'], ['lens' => '1'], ['wells' => ['lens + nobody', 'from' => 'lens']]);
        for ($i = 0; $i < 200; $i++) {
            try {
                $model = EditReader::read(RandomEdit::record($model, $i))->apply($model);
            } catch (EditRefused) {
            }
        }
        $model = $model->with(['scenarios' => [...$model->scenarios, 'as-it-is' => new Scenario('as-it-is', 'As it is')]]);
        $text = NativeFile::export($model);
        $imported = NativeFile::import($text);
        self::assertSame([], $imported->log);
        self::assertSame($text, NativeFile::export($imported->model));
        self::assertEquals(
            array_map(ModelRecord::ofElement(...), $model->elements)['lens'] ?? null,
            array_map(ModelRecord::ofElement(...), $imported->model->elements)['lens'] ?? null,
        );
        $result = (new Validator())->validate(json_decode($text), $schema);
        self::assertTrue($result->isValid(), (string) json_encode($result->error()?->data()->fullPath()));
    }

    public function test_a_file_written_by_hand_needs_little(): void
    {
        $imported = NativeFile::import(
            '{"format": "merry-orbit model", "version": 1, "elements": [{"kind": "stock", "name": "lens", "formula": "5"}, {"kind": "flow", "name": "rain", "formula": "2", "to": "LENS"}]}',
        );
        self::assertSame(
            [5.0, 6.0],
            array_slice(
                Build::run($imported->model, [], new \MerryOrbit\Core\Model\TimeSettings(0, 1, 0.5))->column(
                    $imported->model->idOf('lens') ?? '',
                ),
                0,
                2,
            ),
        );
        self::assertSame(
            $imported->model->idOf('lens'),
            NativeFile::import(
                '{"format": "merry-orbit model", "version": 1, "elements": [{"kind": "stock", "name": "Lens"}]}',
            )->model->idOf('lens'),
            'ids made from names are the same every time',
        );
    }

    /** @return iterable<string, array{string, string}> */
    public static function refused(): iterable
    {
        $file = static fn (string $rest): string => '{"format": "merry-orbit model", "version": 1, '.$rest.'}';
        yield 'no JSON' => ['hello', 'not readable JSON'];
        yield 'other JSON' => ['{"a": 1}', 'lacks the line'];
        yield 'deep' => [str_repeat('[', 100_000), 'not readable JSON'];
        yield 'from the future' => ['{"format": "merry-orbit model", "version": 99}', 'newer'];
        yield 'no version' => ['{"format": "merry-orbit model"}', 'version'];
        yield 'elements no list' => [$file('"elements": {"a": 1}'), '"elements" must be a list'];
        yield 'element no object' => [$file('"elements": ["lens"]'), 'element 1'];
        yield 'name missing' => [$file('"elements": [{"kind": "stock"}]'), 'at least one letter'];
        yield 'kind unknown' => [$file('"elements": [{"kind": "boat", "name": "a"}]'), 'must be one of stock'];
        yield 'formula no text' => [
            $file('"elements": [{"kind": "stock", "name": "a", "formula": 5}]'),
            '"formula" of element 1 (`a`) must be text',
        ];
        yield 'name twice' => [$file('"elements": [{"kind": "stock", "name": "a b"}, {"kind": "stock", "name": "A_B"}]'), 'Two elements'];
        yield 'end unknown' => [$file('"elements": [{"kind": "flow", "name": "f", "to": "nowhere"}]'), 'no stock of that name'];
        yield 'method' => [$file('"time": {"method": "magic"}'), 'method'];
        yield 'time no number' => [$file('"time": {"end": "soon"}'), '"end" of time must be a number'];
    }

    #[DataProvider('refused')]
    public function test_what_is_no_model_is_refused_with_a_sentence(string $text, string $words): void
    {
        try {
            NativeFile::import($text);
            self::fail('It was read without complaint');
        } catch (FileRefused $e) {
            self::assertStringContainsString($words, $e->getMessage());
        }
    }

    public function test_what_is_left_out_is_a_line_of_the_log(): void
    {
        $log = NativeFile::import(
            '{"format": "merry-orbit model", "version": 1, "colour": "red", "elements": [{"kind": "stock", "name": "a", "id": "NO WAY", "size": 3}], "layout": [{"element": "b", "at": [1, 2]}], "links": [{"from": "a", "to": "a"}]}',
        )->log;
        self::assertSame(['colour', 'element 1', '`a`', 'layout line 1', 'links'], array_map(static fn ($l): string => $l->where, $log));
    }

    public function test_a_file_of_version_1_may_use_names_that_have_become_functions_since(): void
    {
        $file = static fn (int $version): string => '{"format": "merry-orbit model", "version": '.
            $version.
            ', "elements": [{"kind": "parameter", "name": "Total", "formula": "3"}, {"kind": "auxiliary", "name": "double", "formula": "2 * total + max(1, TOTAL) + total of all"}, {"kind": "parameter", "name": "total of all", "formula": "1"}]}';
        $old = NativeFile::import($file(1))->model;
        self::assertSame('2 * "Total" + max(1, "Total") + total of all', $old->formulaOf($old->elements[(string) $old->idOf('double')]));
        self::assertSame(['name.quoted'], Build::codes($old));
        self::assertSame(10.0, Build::run($old)->steady()[(string) $old->idOf('double')]);
        self::assertContains('function.bare', Build::codes(NativeFile::import($file(2))->model));
    }
}
