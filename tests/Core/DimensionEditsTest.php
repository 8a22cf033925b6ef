<?php

declare(strict_types=1);

namespace Tests\Core;

use MerryOrbit\Core\Analysis\Analyser;
use MerryOrbit\Core\Edit\EditReader;
use MerryOrbit\Core\Edit\EditRefused;
use MerryOrbit\Core\Exchange\Fragment;
use MerryOrbit\Core\Exchange\NativeFile;
use MerryOrbit\Core\Model\Model;
use PHPUnit\Framework\Attributes\DataProvider;
use PHPUnit\Framework\TestCase;

/** Dimensions that come, go and are called otherwise, and how files keep them. */
final class DimensionEditsTest extends TestCase
{
    use ShapedModels;

    /** @return array<string, mixed> */
    private static function pools(string $last = 'hot', string $name = 'pool'): array
    {
        return ['id' => 'pool', 'name' => $name, 'elements' => [
            ['id' => 'children', 'name' => 'children'],
            ['id' => 'swimmers', 'name' => 'swimmers'],
            ['id' => 'hot', 'name' => $last],
        ]];
    }

    public function test_a_dimension_that_comes_late_and_goes_again_leaves_the_model_as_it_was(): void
    {
        $plain = self::model([], [
            self::line('parameter', 'volume', '100'),
            self::line('auxiliary', 'need', 'volume * 20'),
            self::line('stock', 'heat', 'need'),
        ]);
        $id = (string) $plain->idOf('volume');
        $month = ['id' => 'month', 'name' => 'month', 'from' => 1, 'to' => 3];
        $wide = self::after(
            $plain,
            ['kind' => 'dimensions', 'dimensions' => [self::pools()]],
            ['kind' => 'extent', 'id' => $id, 'dimensions' => ['pool']],
            ['kind' => 'put', 'part' => 'tables', 'id' => 't1', 'fields' => ['of' => $id, 'values' => [[['children'], 40], [['hot'], 12]]]],
        );
        self::assertSame([800.0, 2000.0, 240.0], array_values(array_filter(
            self::start($wide),
            static fn (string $n): bool => str_starts_with($n, 'need['),
            ARRAY_FILTER_USE_KEY,
        )));
        // Another dimension takes the values over for each of its elements, and leaves them behind when it goes.
        $wider = self::after(
            $wide,
            ['kind' => 'dimensions', 'dimensions' => [self::pools(), $month]],
            ['kind' => 'extent', 'id' => $id, 'dimensions' => ['month', 'pool']],
        );
        self::assertSame(800.0, self::start($wider)['need[3, children]']);
        $back = self::after(
            $wider,
            ['kind' => 'extent', 'id' => $id, 'dimensions' => ['pool']],
            ['kind' => 'dimensions', 'dimensions' => [self::pools()]],
        );
        self::assertSame(NativeFile::export($wide), NativeFile::export($back));
        $none = self::after($back, ['kind' => 'extent', 'id' => $id, 'dimensions' => []], ['kind' => 'dimensions', 'dimensions' => []]);
        self::assertSame(NativeFile::export($plain), NativeFile::export($none));
        // Taken away at once, with all that extends over it, it is the same.
        self::assertSame(NativeFile::export($plain), NativeFile::export(self::after($wider, ['kind' => 'dimensions', 'dimensions' => []])));
    }

    public function test_formulas_follow_what_is_called_otherwise_and_say_what_is_gone(): void
    {
        $model = self::after(
            self::model([], [self::line('parameter', 'volume', '100')]),
            ['kind' => 'dimensions', 'dimensions' => [self::pools()]],
        );
        $id = (string) $model->idOf('volume');
        $model = self::after(
            $model,
            ['kind' => 'extent', 'id' => $id, 'dimensions' => ['pool']],
            ['kind' => 'add', 'id' => 'a', 'element' => 'auxiliary', 'name' => 'a', 'at' => ['x' => 1, 'y' => 1]],
            ['kind' => 'formula', 'id' => 'a', 'text' => 'volume[hot] + volume[pool: hot] + sum(volume, pool) + sum(is(pool, hot) * volume)'],
        );
        $renamed = self::after($model, ['kind' => 'dimensions', 'dimensions' => [self::pools('2 hot ones', 'basin of water')]]);
        self::assertSame(
            'volume["2 hot ones"] + volume[basin of water: "2 hot ones"] + sum(volume, basin of water) + '.
                'sum(is(basin of water, "2 hot ones") * volume)',
            $renamed->formulaOf($renamed->elements['a']),
        );
        self::assertSame(self::columns($model)['a'], self::columns($renamed)['a']);
        $fewer = self::pools();
        $fewer['elements'] = array_slice((array) $fewer['elements'], 0, 2);
        $gone = self::after($model, ['kind' => 'dimensions', 'dimensions' => [$fewer]]);
        self::assertContains('element.unknown', self::codes($gone));
        self::assertFalse(Analyser::analyse($gone)->canCompute('a'));
    }

    /** @return iterable<string, array{array<string, mixed>, string}> */
    public static function refused(): iterable
    {
        $bay = ['id' => 'bay', 'name' => 'bay', 'elements' => [['id' => 'n', 'name' => 'north']]];
        $taken = ['id' => 'x', 'name' => 'volume'];
        yield 'a name that a thing has' => [['kind' => 'dimensions', 'dimensions' => [$taken]], 'called so already'];
        $part = ['id' => 'x', 'name' => 'x', 'partOf' => 'bay'];
        yield 'a part of nothing' => [['kind' => 'dimensions', 'dimensions' => [$part]], 'none such'];
        yield 'a part with more' => [
            ['kind' => 'dimensions', 'dimensions' => [$bay, ['id' => 'x', 'name' => 'x', 'partOf' => 'bay', 'elements' => ['south']]]],
            'can have only its elements',
        ];
        yield 'over what is gone' => [['kind' => 'extent', 'id' => 'v', 'dimensions' => ['bay']], 'gone meanwhile'];
        yield 'no list' => [['kind' => 'extent', 'id' => 'v', 'dimensions' => [1]], 'list of texts'];
    }

    /** @param  array<string, mixed>  $edit */
    #[DataProvider('refused')]
    public function test_edits_that_do_not_fit_are_refused_in_words(array $edit, string $words): void
    {
        $model = self::model([], [['id' => 'v', ...self::line('parameter', 'volume', '1')]]);
        $this->expectException(EditRefused::class);
        $this->expectExceptionMessageMatches('/'.preg_quote($words, '/').'/');
        self::after($model, $edit);
    }

    public function test_files_may_name_dimensions_and_elements_where_ids_are_kept(): void
    {
        $model = self::model(
            [['name' => 'Terrace', 'elements' => ['North one', 'South']], ['name' => 'bay', 'elements' => ['East side']]],
            [
                self::line('parameter', 'h', '2', 'terrace'),
                self::line('auxiliary', 's', 'sum(h, home bay)'),
                self::line('auxiliary', 'm', 'sum(h * (1 + s[home bay]))'),
            ],
            [
                'mappings' => [['id' => 'm', 'name' => 'home bay', 'from' => 'Terrace', 'to' => 'Bay',
                    'pairs' => [['north one', 'East side'], ['South', 'east side', 0.5]]]],
                'tables' => [['id' => 't', 'of' => 'h', 'values' => [[['North one'], 5]]]],
            ],
        );
        $start = self::start($model);
        self::assertSame([6.0, 49.0], [$start['s[East side]'], $start['m']]);
    }

    public function test_native_files_keep_dimensions_mappings_and_tables_to_the_byte(): void
    {
        $model = self::model(
            [
                self::$terraces,
                self::$ages,
                ['name' => 'outer', 'partOf' => 'terrace', 'elements' => ['south', 'north']],
                ['name' => 'other', 'sameAs' => 'terrace'],
            ],
            [
                self::line('parameter', 'x', '1', 'terrace', 'age'),
                self::line('auxiliary', 'y', 'sum(x[age: previous; else 0], age) + x[north, 2]'),
            ],
            [
                'mappings' => [
                    ['id' => 'm', 'name' => 'home', 'from' => 'terrace', 'to' => 'age', 'pairs' => [['north', '2', 0.5], ['south', '0']]],
                ],
                'tables' => [['id' => 't', 'of' => 'x', 'values' => [[['north', '2'], 3.5]]]],
            ],
        );
        $file = NativeFile::export($model);
        self::assertSame($file, NativeFile::export(NativeFile::import($file)->model));
        self::assertSame(self::columns($model), self::columns(NativeFile::import($file)->model));
        self::assertStringContainsString('sum(x[age: previous; else 0], age) + x[north, 2]', $file);
    }

    public function test_values_are_set_for_some_elements_and_the_others_stay(): void
    {
        $model = self::model([self::$terraces], [self::line('parameter', 'slope', '2', 'terrace'), self::line('auxiliary', 'other', '1')]);
        $id = (string) $model->idOf('slope');
        $one = ['kind' => 'values', 'id' => $id, 'values' => [[['south'], 7]]];
        $after = self::after($model, $one, ['kind' => 'values', 'id' => $id, 'values' => [[['north'], 5], [['middle'], 0.5]]]);
        self::assertSame(['slope[north]' => 5.0, 'slope[middle]' => 0.5, 'slope[south]' => 7.0, 'other' => 1.0], self::start($after));
        $fewer = self::after($after, ['kind' => 'values', 'id' => $id, 'values' => [[['north'], null]]]);
        self::assertSame(2.0, self::start($fewer)['slope[north]']);
        $none = self::after($fewer, ['kind' => 'values', 'id' => $id, 'values' => [[['middle'], null], [['south'], null]]]);
        self::assertSame(NativeFile::export($model), NativeFile::export($none));
        $wrong = [[$id, 'east', 'no element of the dimension'], [(string) $model->idOf('other'), 'north', 'only a parameter']];
        foreach ($wrong as [$of, $at, $words]) {
            try {
                self::after($model, ['kind' => 'values', 'id' => $of, 'values' => [[[$at], 1]]]);
                self::fail('refused');
            } catch (EditRefused $e) {
                self::assertStringContainsString($words, $e->getMessage());
            }
        }
    }

    public function test_copies_extend_over_the_same_and_keep_their_values_in_another_model_too(): void
    {
        $model = self::model(
            [self::pools(), ['name' => 'warm pools', 'partOf' => 'pool', 'elements' => ['hot']]],
            [
                self::line('parameter', 'volume', '80', 'pool'),
                self::line('auxiliary', 'need', 'volume * 2'),
                self::line('parameter', 'spare', '1', 'warm pools'),
            ],
            ['tables' => [['id' => 't', 'of' => 'volume', 'values' => [[['hot'], 12]]]]],
        );
        $text = Fragment::of($model, array_keys($model->elements));
        $paste = ['kind' => 'paste', 'id' => 'p1', 'text' => $text, 'at' => ['x' => 0, 'y' => 0], 'sheet' => 'sheet-1'];
        $read = static fn (string $t): Model => NativeFile::import($t)->model;
        $pasted = static fn (Model $into): Model => EditReader::read($paste, $read)->apply($into);
        $twice = self::start($pasted($model));
        self::assertSame([24.0, 24.0, 160.0], [$twice['need[hot]'], $twice['need 2[hot]'], $twice['need 2[children]']]);
        $elsewhere = $pasted(self::model([], [self::line('auxiliary', 'other', '1')]));
        self::assertSame(['pool', 'warm pools'], array_map(static fn ($d): string => $d->name, $elsewhere->dimensions));
        $start = self::start($elsewhere);
        self::assertSame([24.0, 160.0, 1.0], [$start['need[hot]'], $start['need[children]'], $start['spare[hot]']]);
    }
}
