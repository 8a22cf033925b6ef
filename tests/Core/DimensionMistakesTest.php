<?php

declare(strict_types=1);

namespace Tests\Core;

use MerryOrbit\Core\Analysis\Analyser;
use MerryOrbit\Core\Exchange\FileRefused;
use MerryOrbit\Core\Exchange\NativeFile;
use PHPUnit\Framework\Attributes\DataProvider;
use PHPUnit\Framework\TestCase;

/** What does not fit dimensions, in formulas and files, is said where it stands. */
final class DimensionMistakesTest extends TestCase
{
    use ShapedModels;

    /** @return iterable<string, array{string, string, string, string}> formula, code, what is marked, words of the sentence */
    public static function mistakes(): iterable
    {
        yield 'an element that is none' => ['x[terrace: west]', 'element.unknown', 'terrace: west', '`west` is no element of'];
        yield 'an element of no dimension' => ['1 + x[west]', 'element.unknown', 'west', 'which extends over `terrace`'];
        yield 'an element of two dimensions' => ['trips[a]', 'element.shared', 'a', 'an element of both `origin` and `destination`'];
        yield 'a dimension that is none' => ['x[terace: north]', 'dimension.unknown', 'terace: north', 'Did you mean `terrace`?'];
        yield 'a dimension it does not have' => ['2 * x[age: 1]', 'dimension.not', 'age: 1', '`x` does not extend over `age`'];
        yield 'a single number' => ['single[north]', 'element.unknown', 'north', 'which is a single number'];
        yield 'over the edge' => ['y[age: previous]', 'pick.edge', 'y[age: previous]', 'Along `age` nothing is there for the pick of `0`'];
        yield 'twice' => ['x[north, south]', 'pick.twice', 'south', 'picked twice'];
        yield 'others as elements' => ['x[terrace: age]', 'dimension.others', 'terrace: age', 'do not have the same elements'];
        yield 'a gathering over what is not there' => ['sum(x, age)', 'dimension.not', 'age', 'does not extend over `age`'];
        yield 'a gathering over nothing' => ['sum(x, harbour)', 'dimension.unknown', 'harbour', 'no dimension called `harbour`'];
        yield 'a number of what is listed' => ['number(terrace)', 'dimension.listed', 'terrace', 'are no numbers'];
        yield 'is of no element' => ['is(terrace, 3)', 'element.unknown', '3', 'no element of the dimension `terrace`'];
        yield 'parts that share nothing' => ['left + right', 'dimension.apart', 'left + right', 'share no element'];
        yield 'a pick that does not end' => ['x[north', 'formula.bracket', '[', 'is not closed'];
        yield 'a pick of nothing' => ['x[]', 'pick.unreadable', ']', 'A pick names an element'];
        yield 'a pick of a sum' => ['x[north + 1]', 'pick.unreadable', '+', 'A pick names an element'];
        yield 'no else' => ['y[age: next; 0]', 'pick.else', '0', 'Behind `;` stands'];
        yield 'a pick that closes alone' => ['x + north]', 'formula.character', ']', 'never opened'];
        yield 'a pick from a bracket' => ['(x + 1)[north]', 'formula.character', '[', 'right behind its name'];
        yield 'a colon' => ['x : 2', 'formula.character', ':', 'Divide with `/`'];
        yield 'a semicolon' => ['max(1; 2)', 'formula.character', ';', 'Separate the arguments'];
    }

    #[DataProvider('mistakes')]
    public function test_every_mistake_gets_a_sentence_at_its_place(string $formula, string $code, string $marked, string $words): void
    {
        $model = self::model(
            [
                self::$terraces,
                self::$ages,
                ['name' => 'bay', 'elements' => ['a', 'b']],
                ['name' => 'origin', 'sameAs' => 'bay'],
                ['name' => 'destination', 'sameAs' => 'bay'],
                ['name' => 'one', 'partOf' => 'terrace', 'elements' => ['north']],
                ['name' => 'other', 'partOf' => 'terrace', 'elements' => ['south']],
            ],
            [
                self::line('parameter', 'x', '1', 'terrace'),
                self::line('parameter', 'y', '1', 'age'),
                self::line('parameter', 'trips', '1', 'origin', 'destination'),
                self::line('parameter', 'left', '1', 'one'),
                self::line('parameter', 'right', '1', 'other'),
                self::line('parameter', 'single', '1'),
                self::line('auxiliary', 'wrong', $formula),
                self::line('auxiliary', 'user', 'wrong * 2'),
            ],
        );
        $analysis = Analyser::analyse($model);
        $problems = array_values(array_filter($analysis->problems, static fn ($p): bool => $p->element === $model->idOf('wrong')));
        self::assertNotSame([], $problems);
        self::assertSame($code, $problems[0]->code, $problems[0]->sentence);
        self::assertStringContainsString($words, $problems[0]->sentence);
        self::assertSame($marked, mb_substr($formula, (int) $problems[0]->from, (int) $problems[0]->length));
        // What uses it waits; all else runs.
        self::assertFalse($analysis->canCompute((string) $model->idOf('user')));
        self::assertNull(Build::simulator()->run($analysis, new \MerryOrbit\Core\Simulate\RunOptions())->fault);
    }

    public function test_what_is_wider_than_its_stock_or_between_stocks_narrower_is_said(): void
    {
        $stocks = [
            self::line('parameter', 'x', '1', 'terrace'),
            self::line('stock', 'oysters', '1', 'terrace'),
            self::line('stock', 'market', '0'),
        ];
        $wider = self::model([self::$terraces, self::$ages], [...$stocks, self::line('auxiliary', 'two', 'x', 'age')]);
        self::assertContains('extent.wider', self::codes($wider));
        $between = self::model([self::$terraces], [
            ...$stocks,
            ['kind' => 'flow', 'name' => 'harvest', 'formula' => '1', 'from' => 'oysters', 'to' => 'market'],
        ]);
        self::assertContains('flow.narrower', self::codes($between));
        $good = self::model([self::$terraces], [
            ...$stocks,
            ['kind' => 'flow', 'name' => 'harvest', 'formula' => 'oysters / 2', 'from' => 'oysters', 'to' => 'market'],
        ]);
        $columns = self::columns($good);
        $all = $columns['oysters[north]'][8] + $columns['oysters[middle]'][8] + $columns['oysters[south]'][8];
        self::assertEqualsWithDelta(3.0, $all + $columns['market'][8], 1e-12, 'nothing is lost or made');
    }

    public function test_what_is_too_large_is_said(): void
    {
        $counted = static fn (string $name, int $to): array => ['name' => $name, 'from' => 1, 'to' => $to];
        $dimensions = [$counted('a', 20_000), $counted('b', 20_000), $counted('c', 3_000)];
        $wide = self::model($dimensions, [
            self::line('parameter', 'x', '1', 'a'),
            self::line('parameter', 'y', '2', 'b'),
            self::line('auxiliary', 'both', 'x * y'),
            self::line('auxiliary', 'plain', '3'),
        ]);
        self::assertContains('extent.large', self::codes($wide));
        self::assertTrue(Analyser::analyse($wide)->canCompute((string) $wide->idOf('plain')));
        // What would have nine million terms written out is a matter of a loop.
        $long = self::model($dimensions, [self::line('parameter', 'z', '1', 'c'), self::line('auxiliary', 'places', 'rank(z, c)')]);
        self::assertSame(3_000.0, self::start($long)['places[3000]']);
    }

    /** @return iterable<string, array{array<string, mixed>, string}> */
    public static function files(): iterable
    {
        yield 'elements twice' => [['dimensions' => [['name' => 'bay', 'elements' => ['a', 'A']]]], 'Two elements of the dimension `bay`'];
        $many = array_map(static fn (int $i): array => ['name' => "d $i", 'from' => 1, 'to' => 19_999], range(1, 8));
        yield 'more elements than fit' => [['dimensions' => $many], '100,000 elements in all'];
        yield 'downward' => [['dimensions' => [['name' => 'age', 'from' => 5, 'to' => 1]]], 'count upward'];
        $part = ['name' => 'outer', 'partOf' => 'bay', 'elements' => ['a']];
        yield 'a whole that is none' => [['dimensions' => [$part]], 'no other dimension'];
        yield 'parts of each other' => [
            ['dimensions' => [['name' => 'p', 'partOf' => 'q', 'elements' => []], ['name' => 'q', 'partOf' => 'p', 'elements' => []]]],
            'no other dimension',
        ];
        yield 'an element that the whole lacks' => [
            ['dimensions' => [['name' => 'bay', 'elements' => ['a']], ['name' => 'outer', 'partOf' => 'bay', 'elements' => ['z']]]],
            'names `z`',
        ];
        yield 'a name twice' => [['dimensions' => [['name' => 'bay'], ['name' => 'Bay']]], 'Two dimensions'];
        yield 'over what is not there' => [
            ['elements' => [['kind' => 'parameter', 'name' => 'x', 'formula' => '1', 'dimensions' => ['bay']]]],
            'no dimension of that name',
        ];
    }

    /** @param  array<string, mixed>  $part */
    #[DataProvider('files')]
    public function test_a_file_whose_dimensions_do_not_fit_is_refused_in_words(array $part, string $words): void
    {
        $this->expectException(FileRefused::class);
        $this->expectExceptionMessageMatches('/'.preg_quote($words, '/').'/');
        NativeFile::import(json_encode(['format' => NativeFile::FORMAT, 'version' => NativeFile::VERSION, ...$part], JSON_THROW_ON_ERROR));
    }

    /** Taking the formula that is offered leaves every number as it is, and the remark is gone. */
    public function test_what_is_remarked_of_flows_is_mended_by_the_formula_that_is_offered(): void
    {
        $model = self::model(
            [self::$terraces],
            [
                self::line('stock', 'all oysters', '0'),
                self::line('stock', 'seed', '5', 'terrace'),
                self::line('parameter', 'rate', '2', 'terrace'),
                ['kind' => 'flow', 'name' => 'laid', 'formula' => 'rate * 3', 'to' => 'all oysters'],
                ['kind' => 'flow', 'name' => 'shared', 'formula' => '6 + 3', 'to' => 'seed'],
            ],
        );
        $mends = [];
        foreach (Analyser::analyse($model)->problems as $problem) {
            $mends[(string) $model->nameOf((string) $problem->element)] = $problem->mend;
        }
        self::assertSame(['laid' => 'sum(rate * 3, terrace)', 'shared' => '(6 + 3) / (count(terrace))'], $mends);
        $after = $model;
        foreach ($mends as $name => $text) {
            $after = self::after($after, ['kind' => 'formula', 'id' => $model->idOf((string) $name), 'text' => $text]);
        }
        self::assertSame([], self::codes($after));
        self::assertSame(self::columns($model)['all oysters'], self::columns($after)['all oysters']);
        self::assertSame(5.0 + 4.0 * 3.0, self::columns($after)['seed[north]'][8]);
    }
}
