<?php

declare(strict_types=1);

namespace Tests\Core;

use MerryOrbit\Core\Edit\PutPart;
use MerryOrbit\Core\Edit\RenameElement;
use MerryOrbit\Core\Exchange\NativeFile;
use MerryOrbit\Core\Model\Method;
use MerryOrbit\Core\Model\Model;
use MerryOrbit\Core\Model\Parts;
use MerryOrbit\Core\Model\Showcase;
use MerryOrbit\Core\Model\TimeSettings;
use MerryOrbit\Core\Problem\NotUnderstood;
use MerryOrbit\Core\Tell\Showing;
use PHPUnit\Framework\Attributes\DataProvider;
use PHPUnit\Framework\TestCase;

/** Pages for readers: what they show, and that nothing else can be asked of them. */
final class ShowingTest extends TestCase
{
    private const PAGE = [
        'id' => 'page',
        'title' => 'How soon is it empty?',
        'inputs' => [
            ['id' => 'rate', 'of' => 'rate', 'words' => 'It drains by', 'low' => 0.0, 'high' => 1.0, 'step' => 0.25],
            ['id' => 'pump', 'of' => 'pumps', 'kind' => 'switch', 'words' => 'A pump', 'low' => 0, 'high' => 2],
            [
                'id' => 'full',
                'of' => 'fill',
                'kind' => 'list',
                'words' => 'It begins',
                'choices' => [['words' => 'full', 'value' => 100], ['words' => 'half full', 'value' => 50]],
            ],
        ],
        'steps' => [
            ['id' => 'one', 'title' => 'As it is', 'inputs' => ['rate']],
            ['id' => 'two', 'title' => 'With a pump', 'parameters' => ['pumps' => 2, 'rate' => 0.5]],
        ],
        'blocks' => [
            [
                'id' => 'says',
                'kind' => 'text',
                'words' => '{most} at first, {end} at last, {when} at two.',
                'numbers' => [
                    ['id' => 'most', 'of' => 'level', 'kind' => 'max'],
                    ['id' => 'end', 'of' => 'level'],
                    ['id' => 'when', 'of' => 'level', 'kind' => 'at', 'time' => 2],
                ],
            ],
            [
                'id' => 'plot',
                'kind' => 'plot',
                'step' => 'two',
                'of' => ['level'],
                'marks' => [['words' => 'dry', 'number' => 1], ['words' => 'full', 'of' => 'fill']],
            ],
        ],
    ];

    /** A tank that empties by itself and by pumps, the level being `fill` e^(-rate t) while there are none. */
    private static function tank(): Model
    {
        return Build::model(
            ['rate' => '0.25', 'pumps' => '0', 'fill' => '100'],
            ['level' => 'fill'],
            ['drain' => ['level * rate + pumps', 'from' => 'level']],
            time: new TimeSettings(0, 4, 1 / 64, 'hour', Method::RungeKutta4),
        );
    }

    private static function showing(): Showing
    {
        return new Showing(Build::simulator(), self::tank(), Showcase::read(self::PAGE));
    }

    /**
     * @param  array{blocks: array<string, array<string, mixed>>, ...}  $shown
     * @return array{values: list<float>, author: ?list<float>}
     */
    private static function lineOf(array $shown): array
    {
        /** @var list<array{values: list<float>, author: ?list<float>}> $lines */
        $lines = $shown['blocks']['plot']['lines'];

        return $lines[0];
    }

    public function test_it_shows_the_run_that_its_inputs_make_beside_the_authors(): void
    {
        $shown = self::showing()->of('one', ['rate' => 0.5]);
        self::assertSame(['rate' => 0.5], $shown['inputs']);
        self::assertSame(['rate' => 0.25], $shown['author']);
        // The step has one of two blocks.
        self::assertSame(['says'], array_keys($shown['blocks']));
        $said = static fn (array $numbers): array => array_map(static fn (mixed $n): mixed => ((array) $n)['value'], (array) $numbers);
        foreach (['numbers' => 0.5, 'author' => 0.25] as $whose => $rate) {
            $values = $said((array) $shown['blocks']['says'][$whose]);
            self::assertSame(100.0, $values['most']);
            self::assertEqualsWithDelta(100 * exp(-4 * $rate), $values['end'], 1e-6);
            self::assertEqualsWithDelta(100 * exp(-2 * $rate), $values['when'], 1e-6);
        }
    }

    public function test_a_step_has_a_setting_that_its_inputs_are_on_top_of(): void
    {
        $shown = self::showing()->of('two', ['pump' => 0.0]);
        self::assertSame(['rate' => 0.5, 'pump' => 2.0, 'full' => 100.0], $shown['author']);
        $line = self::lineOf($shown);
        // y' = -ry - p from y(0) = 100: with two pumps (100 + p/r) e^(-rt) - p/r.
        $last = count($shown['times']) - 1;
        self::assertEqualsWithDelta(100 * exp(-2), $line['values'][$last], 1e-6);
        self::assertEqualsWithDelta(104 * exp(-2) - 4, ($line['author'] ?? [])[$last], 1e-6);
        /** @var list<array{words: string, value: float, values: ?list<float>}> $marks */
        $marks = $shown['blocks']['plot']['marks'];
        self::assertSame([['dry', 1.0], ['full', 100.0]], array_map(static fn (array $m): array => [$m['words'], $m['value']], $marks));
        self::assertNull($marks[0]['values']);
        self::assertSame(array_fill(0, count($shown['times']), 100.0), $marks[1]['values']);
        // At the author's setting there is nothing to hold it against.
        $same = self::showing()->of('two', [])['blocks'];
        self::assertNull(self::lineOf(['blocks' => $same])['author']);
        self::assertNull($same['says']['author']);
    }

    /** @return iterable<string, array{string, array<string, mixed>, array<string, float>}> */
    public static function asked(): iterable
    {
        $usual = ['rate' => 0.5, 'pump' => 2.0, 'full' => 100.0];
        yield 'beyond its bounds' => ['two', ['rate' => 1e9], ['rate' => 1.0] + $usual];
        yield 'below them' => ['two', ['rate' => -3], ['rate' => 0.0] + $usual];
        yield 'between its steps' => ['two', ['rate' => 0.6], ['rate' => 0.5] + $usual];
        yield 'half on' => ['two', ['pump' => 0.9], ['pump' => 0.0] + $usual];
        yield 'no choice' => ['two', ['full' => 80], ['full' => 100.0] + $usual];
        yield 'a choice' => ['two', ['full' => 50], ['full' => 50.0] + $usual];
        yield 'no step' => ['nowhere', [], ['rate' => 0.25, 'pump' => 0.0, 'full' => 100.0]];
    }

    /**
     * @param  array<string, mixed>  $asked
     * @param  array<string, float>  $allowed
     */
    #[DataProvider('asked')]
    public function test_nothing_goes_further_than_the_page_lets_it(string $step, array $asked, array $allowed): void
    {
        $own = Showing::within(Showcase::read(self::PAGE), $step, $asked);
        self::assertEquals($allowed, array_replace(self::showing()->authors($step), $own));
        self::assertEquals($allowed, self::showing()->of($step, $asked)['inputs']);
    }

    /** @return iterable<string, array{string, array<string, mixed>}> */
    public static function refused(): iterable
    {
        yield 'a parameter that is no input' => ['two', ['fill' => 3]];
        yield 'an input of another step' => ['one', ['pump' => 2]];
        yield 'no number' => ['two', ['rate' => 'many']];
        yield 'an endless number' => ['two', ['rate' => INF]];
        yield 'a list' => ['two', ['rate' => [1]]];
    }

    /** @param  array<string, mixed>  $asked */
    #[DataProvider('refused')]
    public function test_what_the_page_does_not_have_is_refused_with_a_sentence(string $step, array $asked): void
    {
        $this->expectException(NotUnderstood::class);
        self::showing()->of($step, $asked);
    }

    public function test_it_stands_in_files_by_names_and_follows_a_new_one(): void
    {
        $part = Parts::find('showcases');
        self::assertNotNull($part);
        $model = (new PutPart($part, 'page', array_diff_key(self::PAGE, ['id' => 1])))->apply(self::tank());
        $model = (new RenameElement('level', 'water in the tank'))->apply($model);
        $file = NativeFile::export($model);
        self::assertStringContainsString('"of":"water in the tank"', $file);
        $again = NativeFile::import($file)->model;
        self::assertEquals($model->part('showcases'), $again->part('showcases'));
        self::assertSame($file, NativeFile::export($again));
    }

    /** @return iterable<string, array{array<string, mixed>, string}> */
    public static function wrong(): iterable
    {
        $with = static fn (string $field, array $one): array => [...self::PAGE, $field => [$one]];
        yield 'no title' => [[...self::PAGE, 'title' => ' '], 'needs `title`'];
        yield 'an input that goes nowhere' => [
            $with('inputs', ['id' => 'a', 'of' => 'rate', 'words' => 'x', 'low' => 1, 'high' => 1]),
            'lower number',
        ];
        yield 'a list without choices' => [
            $with('inputs', ['id' => 'a', 'of' => 'rate', 'words' => 'x', 'kind' => 'list']),
            'at least one choice',
        ];
        yield 'a block of another kind' => [$with('blocks', ['id' => 'a', 'kind' => 'script']), 'one of text, plot, table'];
        yield 'a setting that is no number' => [
            $with('steps', ['id' => 'a', 'title' => 'x', 'parameters' => ['rate' => 'much']]),
            'to a number',
        ];
        yield 'one id twice' => [
            [...self::PAGE, 'steps' => [['id' => 'a', 'title' => 'x'], ['id' => 'a', 'title' => 'y']]],
            'have one `id`',
        ];
        yield 'too many blocks' => [[...self::PAGE, 'blocks' => array_fill(0, 61, ['id' => 'a', 'kind' => 'text'])], 'at most 60 blocks'];
    }

    /** @param  array<string, mixed>  $record */
    #[DataProvider('wrong')]
    public function test_what_is_no_page_is_refused_with_a_sentence(array $record, string $said): void
    {
        $this->expectException(NotUnderstood::class);
        $this->expectExceptionMessage($said);
        Showcase::read($record);
    }

    public function test_readers_move_parameters_only(): void
    {
        $page = Showcase::read([...self::PAGE, 'inputs' => [['id' => 'a', 'of' => 'drain', 'words' => 'x', 'low' => 0, 'high' => 1]]]);
        self::assertStringContainsString('computes `drain`', (string) $page->unfit(self::tank()));
    }
}
