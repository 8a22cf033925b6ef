<?php

declare(strict_types=1);

namespace Tests\Core;

use MerryOrbit\Core\Edit\DeleteElements;
use MerryOrbit\Core\Edit\Edit;
use MerryOrbit\Core\Edit\EditReader;
use MerryOrbit\Core\Edit\EditRefused;
use MerryOrbit\Core\Exchange\NativeFile;
use MerryOrbit\Core\Model\Meaning;
use MerryOrbit\Core\Model\Model;
use MerryOrbit\Core\Model\ModelRecord;
use PHPUnit\Framework\Attributes\DataProvider;
use PHPUnit\Framework\TestCase;

/** The question of a study, its boundary and its reference modes, as parts of its document. */
final class AskTest extends TestCase
{
    /** @param  array<string, mixed>  $fields */
    private static function put(string $part, string $id, array $fields): Edit
    {
        return EditReader::read(['kind' => 'put', 'part' => $part, 'id' => $id, 'fields' => $fields]);
    }

    private static function model(): Model
    {
        return Build::model(['rain' => '2'], ['lens' => '100'], ['recharge' => ['rain', 'to' => 'lens']]);
    }

    public function test_what_is_asked_survives_the_file_and_is_undone_to_the_byte(): void
    {
        $model = self::model();
        $edits = [
            self::put('questions', 'q', [
                'text' => ' Why does the lens thin out? ',
                'of' => 'lens',
                'answers' => ['It draws the wells.', ' '],
            ]),
            self::put('questions', 'q', ['who' => 'the council', 'decision' => 'a second well']),
            self::put('boundary', 'b1', ['name' => 'rain', 'side' => 'given', 'of' => 'rain']),
            self::put('boundary', 'b2', ['name' => "the   tides\n", 'side' => 'left', 'why' => 'the same each year', 'place' => 3]),
            self::put('boundary', 'b2', ['side' => 'inside', 'why' => null]),
            self::put('modes', 'm1', ['kind' => 'feared', 'of' => 'lens', 'points' => [[0, 100], [10, 20.5]], 'words' => 'salt comes']),
            self::put('modes', 'm2', ['kind' => 'seen', 'what' => 'thickness', 'unit' => 'm', 'points' => [[-3, 7]]]),
        ];
        foreach ($edits as $edit) {
            $next = $edit->apply($model);
            self::assertSame(Meaning::of($model), Meaning::of($next));
            $file = NativeFile::export($next);
            $imported = NativeFile::import($file);
            self::assertSame([], $imported->log);
            self::assertSame($file, NativeFile::export($imported->model));
            self::assertSame(json_encode(ModelRecord::of($model)), json_encode(ModelRecord::of($edit->inverse($model)->apply($next))));
            $model = $next;
        }
        $records = static fn (string $part): array => array_map(
            static fn ($one): array => $one instanceof \MerryOrbit\Core\Model\Recorded ? $one->toRecord() : [],
            array_values($model->part($part)),
        );
        self::assertSame(
            [
                [
                    'id' => 'q',
                    'text' => 'Why does the lens thin out?',
                    'of' => 'lens',
                    'who' => 'the council',
                    'decision' => 'a second well',
                    'answers' => ['It draws the wells.'],
                ],
            ],
            $records('questions'),
        );
        self::assertSame(['id' => 'b2', 'name' => 'the tides', 'place' => 3.0], $records('boundary')[1]);
        // What is asked about outlives what answers it.
        $without = (new DeleteElements(['lens']))->apply($model);
        self::assertCount(2, $without->part('modes'));
        self::assertStringContainsString('"of":"lens"', NativeFile::export($without));
    }

    /** @param  array<string, mixed>  $fields */
    #[DataProvider('mistakes')]
    public function test_what_makes_no_sense_is_said(string $part, array $fields, string $sentence): void
    {
        $this->expectException(EditRefused::class);
        $this->expectExceptionMessage($sentence);
        self::put($part, 'x', $fields)->apply(self::model());
    }

    /** @return iterable<string, array{string, array<string, mixed>, string}> */
    public static function mistakes(): iterable
    {
        yield 'long' => ['questions', ['text' => str_repeat('x', 1001)], '`text` of a question is text of at most 1,000 characters'];
        yield 'answers' => ['questions', ['answers' => array_fill(0, 13, 'x')], 'a list of at most 12 texts'];
        yield 'answer' => ['questions', ['answers' => [3]], 'Each of `answers`'];
        yield 'side' => ['boundary', ['name' => 'x', 'side' => 'above'], 'is one of inside, given, left'];
        yield 'nameless' => ['boundary', ['name' => ' '], 'A boundary line needs `name`'];
        yield 'place' => ['boundary', ['name' => 'x', 'place' => 'first'], 'is a number from'];
        yield 'kind' => ['modes', ['kind' => 'wished', 'points' => [[0, 1]]], 'is one of seen, feared, hoped, expected'];
        yield 'pairs' => ['modes', ['points' => [[0]]], 'pairs of numbers'];
        yield 'text' => ['modes', ['points' => [[0, 'high']]], 'pairs of numbers'];
        yield 'order' => ['modes', ['points' => [[3, 1], [2, 1]]], 'increase; 2 comes too early'];
        yield 'none' => ['modes', ['points' => []], 'one to 2,000 points'];
    }

    public function test_a_study_has_one_question(): void
    {
        $model = self::put('questions', 'q', ['text' => 'Why?'])->apply(self::model());
        $this->expectException(EditRefused::class);
        $this->expectExceptionMessage('A study has at most 1 questions.');
        self::put('questions', 'r', ['text' => 'How?'])->apply($model);
    }
}
