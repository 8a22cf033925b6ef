<?php

declare(strict_types=1);

namespace Tests\Core;

use MerryOrbit\Core\Formula\FormulaText;
use MerryOrbit\Core\Formula\Name;
use MerryOrbit\Core\Problem\Nearest;
use PHPUnit\Framework\Attributes\DataProvider;
use PHPUnit\Framework\TestCase;

final class NamesTest extends TestCase
{
    /** @return iterable<string, array{string, string}> */
    public static function written(): iterable
    {
        foreach (
            [
                'rain' => 'rain',
                'oysters on terrace 2' => 'oysters on terrace 2',
                'café au lait' => 'café au lait',
                'Ωmega' => 'Ωmega',
                'R&D share' => '"R&D share"',
                '2nd wave' => '"2nd wave"',
                'a "b"' => '"a ""b"""',
                'supply and demand' => '"supply and demand"',
                'Time' => '"Time"',
                'max' => '"max"',
                'time to leave' => 'time to leave',
                'rain 2.5' => '"rain 2.5"',
                'rain 1e3' => '"rain 1e3"',
                'x-y' => '"x-y"',
            ] as $name => $text
        ) {
            yield $name => [$name, $text];
        }
    }

    #[DataProvider('written')]
    public function test_a_name_stands_in_quotes_only_where_it_must(string $name, string $text): void
    {
        self::assertSame($text, Name::written($name));
        // Written so, it is found again, whatever stands around it.
        $formula = FormulaText::typed("2 * $text + 1", static fn (string $key): ?string => $key === Name::key($name) ? 'id' : null);
        self::assertTrue($formula->mentions('id'));
        self::assertSame("2 * $text + 1", $formula->text(static fn (): string => $name));
    }

    public function test_a_draft_keeps_every_character(): void
    {
        foreach (['2 * (rain', 'rain +', '§ rain ` $', 'a"b', "two\nlines * rain", 'rain 2.5 + rain'] as $text) {
            self::assertSame(
                $text,
                FormulaText::typed($text, static fn (string $key): ?string => $key === 'rain' ? 'r' : null)->text(
                    static fn (): string => 'rain',
                ),
            );
        }
    }

    public function test_calls_and_built_in_quantities_are_no_mentions(): void
    {
        $formula = FormulaText::typed('max(time, max) + "time" + step', static fn (string $key): string => "the $key");
        self::assertSame(
            [false, true, false],
            [$formula->mentions('the max'), $formula->mentions('the time'), $formula->mentions('the step')],
        );
        self::assertSame('max(time, max) + "time" + step', $formula->text(static fn (string $id): string => substr($id, 4)));
    }

    public function test_the_record_of_a_formula_gives_it_back(): void
    {
        $formula = FormulaText::typed('rain * "R&D" + nobody', static fn (string $key): ?string => $key === 'nobody' ? null : 'e1');
        self::assertEquals($formula, FormulaText::fromRecord($formula->toRecord()));
        self::assertSame(
            [['name' => 'rain', 'id' => 'e1'], ' * ', ['name' => '"R&D"', 'id' => 'e1'], ' + ', ['name' => 'nobody']],
            $formula->toRecord(),
        );
    }

    /** @return iterable<string, array{string, list<string>}> */
    public static function meant(): iterable
    {
        yield 'a letter missing' => ['rainfal', ['rainfall']];
        yield 'letters swapped' => ['rianfall', ['rainfall']];
        yield 'other case' => ['RAINFALL', ['rainfall']];
        yield 'a part' => ['rain', ['rainfall', 'rain barrels']];
        yield 'nothing near' => ['otters', []];
        yield 'too short to guess' => ['xy', []];
    }

    /** @param  list<string>  $names */
    #[DataProvider('meant')]
    public function test_the_nearest_names_are_offered(string $typed, array $names): void
    {
        self::assertEqualsCanonicalizing($names, Nearest::names($typed, ['rainfall', 'rain barrels', 'wells', 'lens']));
        self::assertSame(
            $names === []
                ? ''
                : ' Did you mean `'.implode('` or `', Nearest::names($typed, ['rainfall', 'rain barrels', 'wells', 'lens'])).'`?',
            Nearest::question($typed, ['rainfall', 'rain barrels', 'wells', 'lens']),
        );
    }
}
