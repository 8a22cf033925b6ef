<?php

declare(strict_types=1);

namespace Tests\Core;

use MerryOrbit\Core\Analysis\Analyser;
use MerryOrbit\Core\Edit\EditReader;
use MerryOrbit\Core\Edit\EditRefused;
use MerryOrbit\Core\Exchange\FileRefused;
use MerryOrbit\Core\Exchange\NativeFile;
use MerryOrbit\Core\Model\Meaning;
use MerryOrbit\Core\Model\Model;
use MerryOrbit\Core\Model\ModelRecord;
use PHPUnit\Framework\Attributes\DataProvider;
use PHPUnit\Framework\TestCase;

/** Formulas that are otherwise for some elements. */
final class ExceptionsTest extends TestCase
{
    use ShapedModels;

    /** @param  list<array<string, mixed>>  $exceptions */
    private static function chain(array $exceptions, string $formula = 'before / 2'): Model
    {
        return self::model(
            [self::$terraces, self::$ages, ['name' => 'outer terraces', 'partOf' => 'terrace', 'elements' => ['north', 'south']]],
            [
                self::line('parameter', 'before', '10', 'terrace', 'age'),
                [...self::line('auxiliary', 'rate', $formula), 'exceptions' => $exceptions],
            ],
        );
    }

    public function test_the_exception_whose_elements_all_lie_within_the_others_decides(): void
    {
        $start = self::start(
            self::chain([
                ['for' => ['age' => 'first', 'terrace' => 'north'], 'formula' => '3'],
                ['for' => ['age' => 'first'], 'formula' => '2 * before'],
                ['for' => ['age' => ['3']], 'formula' => 'before + position(terrace)'],
            ]),
        );
        self::assertSame(3.0, $start['rate[north, 0]']);
        self::assertSame([20.0, 20.0], [$start['rate[middle, 0]'], $start['rate[south, 0]']]);
        self::assertSame([5.0, 5.0], [$start['rate[north, 1]'], $start['rate[south, 2]']]);
        self::assertSame([11.0, 13.0], [$start['rate[north, 3]'], $start['rate[south, 3]']]);
    }

    public function test_an_exception_for_a_part_holds_for_its_elements_alone(): void
    {
        $start = self::start(self::chain([['for' => ['outer terraces' => 'all'], 'formula' => '1']]));
        self::assertSame([1.0, 5.0, 1.0], [$start['rate[north, 2]'], $start['rate[middle, 2]'], $start['rate[south, 2]']]);
    }

    public function test_what_the_exceptions_are_for_belongs_to_what_it_extends_over(): void
    {
        $model = self::model(
            [self::$terraces],
            [
                [...self::line('auxiliary', 'rate', '4'), 'exceptions' => [['for' => ['terrace' => ['south']], 'formula' => '9']]],
                [...self::line('stock', 'oysters', '100'), 'exceptions' => [['for' => ['terrace' => 'last'], 'formula' => 'rate * 2']]],
            ],
        );
        $start = self::start($model);
        self::assertSame([4.0, 4.0, 9.0], [$start['rate[north]'], $start['rate[middle]'], $start['rate[south]']]);
        self::assertSame([100.0, 18.0], [$start['oysters[north]'], $start['oysters[south]']]);
    }

    /** An ageing chain whose first stage is filled by an exception is the one that is filled by `else`, and both lose nothing. */
    public function test_a_chain_written_with_an_exception_is_the_one_written_with_else_to_the_bit(): void
    {
        $columns = static function (array $arriving): array {
            $flow = ['kind' => 'flow', 'name' => 'arriving', 'to' => 'oysters', 'dimensions' => ['age']];
            foreach ($arriving as $field => $value) {
                $flow[(string) $field] = $value;
            }

            return self::columns(self::model([self::$ages], [
                self::line('parameter', 'seed laid', '8'),
                self::line('stock', 'oysters', '0', 'age'),
                $flow,
                ['kind' => 'flow', 'name' => 'moving on', 'formula' => 'delay(oysters, 0.5) / 2', 'from' => 'oysters'],
            ]));
        };
        $with = $columns([
            'formula' => '"moving on"[age: previous]',
            'exceptions' => [['for' => ['age' => 'first'], 'formula' => 'seed laid']],
        ]);
        $without = $columns(['formula' => '"moving on"[age: previous; else seed laid]']);
        self::assertSame($without, $with);
        self::assertGreaterThan(0.1, $with['oysters[3]'][8]);
    }

    /** @return iterable<string, array{list<array<string, mixed>>, string, string, string, string}> */
    public static function mistakes(): iterable
    {
        yield 'overlap' => [
            [['for' => ['age' => 'first'], 'formula' => '1'], ['for' => ['terrace' => ['north']], 'formula' => '2']],
            'exception.overlap', 'exceptions.1', '', 'an exception for age first and one for terrace north, which overlap',
        ];
        yield 'twice the same' => [
            [['for' => ['age' => 'first'], 'formula' => '1'], ['for' => ['age' => ['0']], 'formula' => '2']],
            'exception.overlap', 'exceptions.1', '', 'which overlap',
        ];
        yield 'an unknown name' => [
            [['for' => ['age' => 'first'], 'formula' => '1 + wood']], 'name.unknown', 'exceptions.0', 'wood', 'Nothing is called `wood`',
        ];
        yield 'text that does not parse' => [
            [['for' => ['age' => 'last'], 'formula' => '1'], ['for' => ['age' => 'first'], 'formula' => '2 +']],
            'formula', 'exceptions.1', '', '',
        ];
        yield 'a pick over the edge' => [
            [['for' => ['age' => 'first'], 'formula' => 'before[age: previous]']], 'pick.edge', 'exceptions.0', 'before[age: previous]', '',
        ];
        yield 'an unknown element' => [
            [['for' => ['age' => 'first'], 'formula' => 'before[east]']],
            'element.unknown', 'exceptions.0', 'east', 'no element of `before`',
        ];
        yield 'one of two is wrong' => [
            [['for' => ['age' => 'first'], 'formula' => 'before'], ['for' => ['age' => 'last'], 'formula' => 'smooth(before)']],
            'function', 'exceptions.1', '', '',
        ];
    }

    /** @param  list<array<string, mixed>>  $exceptions */
    #[DataProvider('mistakes')]
    public function test_every_mistake_is_said_of_the_exception_that_it_is_in(
        array $exceptions,
        string $code,
        string $field,
        string $marked,
        string $words,
    ): void {
        $problems = Analyser::analyse(self::chain($exceptions))->blockers();
        self::assertCount(1, $problems);
        self::assertTrue(str_starts_with($problems[0]->code, $code), $problems[0]->code);
        self::assertSame($field, $problems[0]->field);
        self::assertStringContainsString($words, $problems[0]->sentence);
        $at = (int) substr($field, -1);
        if ($marked !== '') {
            $text = self::text($exceptions[$at]['formula']);
            self::assertSame($marked, substr($text, (int) $problems[0]->from, (int) $problems[0]->length));
        }
    }

    private static function text(mixed $formula): string
    {
        return is_string($formula) ? $formula : '';
    }

    public function test_exceptions_last_through_renaming_storage_and_files(): void
    {
        $model = self::chain([
            ['for' => ['age' => 'first'], 'formula' => 'before[north] * 2'],
            ['for' => ['age' => ['3']], 'formula' => 'before'],
        ]);
        $terraces = ['id' => 'terrace', 'name' => 'bed', 'elements' => [
            ['id' => 'north', 'name' => 'windy'], ['id' => 'middle', 'name' => 'middle'], ['id' => 'south', 'name' => 'south'],
        ]];
        $others = array_map(static fn ($d): array => $d->toRecord(), array_slice($model->dimensions, 1));
        $renamed = self::after(
            $model,
            ['kind' => 'dimensions', 'dimensions' => [$terraces, ...$others]],
            ['kind' => 'rename', 'id' => $model->idOf('before'), 'name' => 'earlier rate'],
        );
        $file = NativeFile::export($renamed);
        self::assertStringContainsString('{"for":{"age":"first"},"formula":"earlier rate[windy] * 2"}', $file);
        self::assertSame($file, NativeFile::export(NativeFile::import($file)->model));
        /** @var array<string, mixed> $record */
        $record = json_decode((string) json_encode(ModelRecord::of($renamed)), true);
        $stored = ModelRecord::toModel($record);
        self::assertSame($file, NativeFile::export($stored));
        self::assertSame(array_values(self::start($model)), array_values(self::start($stored)));
        self::assertNotSame(Meaning::of($model), Meaning::of(self::chain([])));
    }

    public function test_an_edit_sets_them_all_and_says_what_does_not_fit(): void
    {
        $model = self::chain([]);
        $id = (string) $model->idOf('rate');
        $after = self::after($model, [
            'kind' => 'exceptions', 'id' => $id, 'exceptions' => [['for' => ['terrace' => ['middle']], 'text' => '0']],
        ]);
        self::assertSame(0.0, self::start($after)['rate[middle, 1]']);
        $back = self::after($after, ['kind' => 'exceptions', 'id' => $id, 'exceptions' => []]);
        self::assertSame(NativeFile::export($model), NativeFile::export($back));
        foreach ([
            [['for' => ['terrace' => ['east']], 'text' => '1'], '`east`, which is no element of the dimension `terrace`'],
            [['for' => ['bay' => 'first'], 'text' => '1'], 'there is no dimension of that name'],
            [['for' => [], 'text' => '1'], 'for which elements it is'],
            [['for' => ['terrace' => ['north'], 'outer terraces' => 'all'], 'text' => '1'], 'twice'],
        ] as [$exception, $words]) {
            try {
                EditReader::read(['kind' => 'exceptions', 'id' => $id, 'exceptions' => [$exception]])->apply($model);
                self::fail('refused');
            } catch (EditRefused $e) {
                self::assertStringContainsString($words, $e->getMessage());
            }
        }
        $this->expectException(FileRefused::class);
        self::chain([['for' => ['terrace' => ['east']], 'formula' => '1']]);
    }

    /** What is turned from a parameter into an auxiliary keeps the values that it had for each element. */
    public function test_values_by_element_become_exceptions_of_what_is_no_parameter_any_more(): void
    {
        $model = self::model(
            [self::$terraces],
            [self::line('parameter', 'slope', '2', 'terrace')],
            ['tables' => [['id' => 't', 'of' => 'slope', 'values' => [[['south'], 0.1]]]]],
        );
        $id = (string) $model->idOf('slope');
        $after = self::after($model, ['kind' => 'become', 'id' => $id, 'element' => 'auxiliary']);
        self::assertSame(['slope[north]' => 2.0, 'slope[middle]' => 2.0, 'slope[south]' => 0.1], self::start($after));
        $this->expectExceptionMessage('has exceptions, which a parameter cannot have');
        self::after($after, ['kind' => 'become', 'id' => $id, 'element' => 'parameter']);
    }

    public function test_elements_that_are_gone_leave_a_sentence(): void
    {
        $model = self::chain([['for' => ['terrace' => ['south']], 'formula' => '1']]);
        $records = array_map(static fn ($d): array => $d->toRecord(), [$model->dimensions[1]]);
        $after = self::after($model, ['kind' => 'dimensions', 'dimensions' => $records]);
        self::assertContains('exception.gone', self::codes($after));
    }
}
