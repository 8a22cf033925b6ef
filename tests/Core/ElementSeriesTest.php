<?php

declare(strict_types=1);

namespace Tests\Core;

use MerryOrbit\Core\Analysis\Analyser;
use MerryOrbit\Core\Edit\EditReader;
use MerryOrbit\Core\Exchange\Fragment;
use MerryOrbit\Core\Exchange\ModelFile;
use MerryOrbit\Core\Exchange\NativeFile;
use MerryOrbit\Core\Exchange\Xmile\XmileWriter;
use MerryOrbit\Core\Model\Meaning;
use MerryOrbit\Core\Model\Model;
use PHPUnit\Framework\TestCase;

/** Series with a course of their own for each element along dimensions. */
final class ElementSeriesTest extends TestCase
{
    use ShapedModels;

    /** @param  list<array<string, mixed>>  $courses */
    private static function rain(array $courses): Model
    {
        return self::model(
            [['name' => 'bay', 'elements' => ['north', 'south', 'lee']]],
            [
                ['kind' => 'series', 'name' => 'rain', 'points' => [[0, 1], [4, 5]], 'dimensions' => ['bay']],
                self::line('stock', 'water', '10', 'bay'),
                ['kind' => 'flow', 'name' => 'in', 'formula' => 'rain', 'to' => 'water'],
                self::line('auxiliary', 'all', 'sum(rain)'),
                self::line('auxiliary', 'of north', 'rain[bay: north]'),
                self::line('auxiliary', 'later', 'at(rain, time + 1)'),
            ],
            ['courses' => $courses],
        );
    }

    private const OWN = [
        ['id' => 'c1', 'of' => 'rain', 'values' => [[['south'], [[0, 10], [2, 20], [4, 0]]], [['lee'], [[0, 7], [4, 7]]]]],
    ];

    public function test_each_element_follows_its_own_points(): void
    {
        $columns = self::columns(self::rain(self::OWN));
        self::assertSame([1.0, 2.0, 3.0], [$columns['rain[north]'][0], $columns['rain[north]'][2], $columns['rain[north]'][4]]);
        self::assertSame(
            [10.0, 15.0, 20.0, 0.0],
            [$columns['rain[south]'][0], $columns['rain[south]'][2], $columns['rain[south]'][4], $columns['rain[south]'][8]],
        );
        self::assertSame(7.0, $columns['rain[lee]'][5]);
        self::assertSame(1.0 + 10.0 + 7.0, $columns['all'][0]);
        self::assertSame($columns['rain[north]'], $columns['of north']);
        self::assertSame(15.0, $columns['later[south]'][0]);
        // Euler adds up what each course gave.
        self::assertEqualsWithDelta(10.0 + 0.5 * array_sum(array_slice($columns['rain[south]'], 0, 8)), $columns['water[south]'][8], 1e-12);
        $same = self::columns(self::rain([]));
        self::assertSame($same['rain[north]'], $same['rain[south]']);
    }

    public function test_it_is_written_and_read_by_names(): void
    {
        $model = self::rain(self::OWN);
        $file = NativeFile::export($model);
        self::assertStringContainsString('"courses": [', $file);
        $back = NativeFile::import($file)->model;
        self::assertSame($file, NativeFile::export($back));
        self::assertSame(self::columns($model), self::columns($back));
        self::assertNotSame(Meaning::of($model), Meaning::of(self::rain([])));
    }

    public function test_what_does_not_fit_is_said(): void
    {
        $log = static fn (array $courses): string => json_encode(
            NativeFile::import(
                json_encode(
                    [
                        'format' => NativeFile::FORMAT,
                        'version' => NativeFile::VERSION,
                        'elements' => [['kind' => 'parameter', 'name' => 'rain', 'formula' => '1']],
                        'courses' => $courses,
                    ],
                    JSON_THROW_ON_ERROR,
                ),
                true,
            )->log,
            JSON_THROW_ON_ERROR,
        );
        self::assertStringContainsString('there is none of that name', $log(self::OWN));
        self::assertStringContainsString(
            'Course 1 of a series is not a list',
            $log([['id' => 'c', 'of' => 'rain', 'values' => [[['north'], [[0]]]]]]),
        );
        self::assertStringContainsString('Course 1', $log([['id' => 'c', 'of' => 'rain', 'values' => [[['north'], [[5, 1], [2, 1]]]]]]));
    }

    public function test_a_large_model_with_courses_is_written_out(): void
    {
        $analysis = Analyser::made(self::rain(self::OWN), [], 1);
        self::assertNull($analysis->shaped);
        self::assertSame([], $analysis->blockers());
    }

    public function test_copies_keep_their_courses(): void
    {
        $model = self::rain(self::OWN);
        $text = Fragment::of($model, [(string) $model->idOf('rain')]);
        $paste = ['kind' => 'paste', 'id' => 'p1', 'text' => $text, 'at' => ['x' => 0, 'y' => 0], 'sheet' => 'sheet-1'];
        $pasted = EditReader::read($paste, static fn (string $t): Model => NativeFile::import($t)->model)->apply($model);
        $columns = self::columns($pasted);
        self::assertSame($columns['rain[south]'], $columns['rain 2[south]']);
        self::assertNotSame($columns['rain[north]'], $columns['rain 2[south]']);
    }

    public function test_in_xmile_each_course_is_a_graphical_function(): void
    {
        $model = $this->withoutAt();
        [$xml, $log] = XmileWriter::write($model);
        self::assertStringContainsString('A series over dimensions became', json_encode($log, JSON_THROW_ON_ERROR));
        $back = ModelFile::import($xml)->model;
        [$ours, $theirs] = [self::columns($model), self::columns($back)];
        foreach (['rain[north]', 'rain[south]', 'water[south]', 'water[lee]', 'all'] as $name) {
            self::assertEqualsWithDelta($ours[$name], $theirs[$name], 1e-12, $name);
        }
    }

    /** The standard knows no look at another time. */
    private function withoutAt(): Model
    {
        $model = self::rain(self::OWN);

        return self::after($model, ['kind' => 'delete', 'ids' => [$model->idOf('later')]]);
    }
}
