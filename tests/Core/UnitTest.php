<?php

declare(strict_types=1);

namespace Tests\Core;

use MerryOrbit\Core\Analysis\Analyser;
use MerryOrbit\Core\Formula\Catalogue;
use MerryOrbit\Core\Model\Model;
use MerryOrbit\Core\Unit\UnitBook;
use MerryOrbit\Core\Unit\UnitChecker;
use MerryOrbit\Core\Unit\UnitError;
use MerryOrbit\Core\Unit\UnitReport;
use PHPUnit\Framework\Attributes\DataProvider;
use PHPUnit\Framework\TestCase;

final class UnitTest extends TestCase
{
    /** @param  array<string, string>  $units  by element name */
    private static function report(Model $model, array $units): UnitReport
    {
        foreach ($units as $name => $unit) {
            $element = $model->elements[Build::id($name)];
            $model = $model->withElement($element->with(['unit' => $unit]));
        }

        return UnitChecker::check($model, Analyser::analyse($model)->nodes);
    }

    /** @return iterable<string, array{string, string}> */
    public static function sameUnits(): iterable
    {
        yield 'spelling' => ['people/years', 'people per yr'];
        yield 'order' => ['kg*m/s^2', 'm*kg/(s*s)'];
        yield 'plural' => ['boats/week', 'boat/weeks'];
        yield 'case' => ['Person', 'person'];
        yield 'case of a short word of time' => ['Day', 'day'];
        yield 'case of a longer word' => ['PEOPLE per Year', 'people/year'];
        yield 'underscore' => ['oyster_bag', 'oyster bag'];
        yield 'signs' => ['kg·m²', 'kg*m^2'];
        yield 'plain' => ['1', 'dmnl'];
        yield 'cancelled' => ['person/person', 'dimensionless'];
        yield 'study' => ['islander', 'people'];
        yield 'study, plural' => ['islanders', 'person'];
        yield 'inverse' => ['1/day', 'days^-1'];
    }

    #[DataProvider('sameUnits')]
    public function test_units_that_mean_the_same(string $a, string $b): void
    {
        $book = new UnitBook(['person = people = islander']);
        self::assertSame($book->parse($a)?->text(), $book->parse($b)?->text());
    }

    public function test_units_that_differ(): void
    {
        $book = new UnitBook();
        foreach (
            [
                ['year', 'month'],
                ['mW', 'MW'],
                ['Mm3', 'mm3'],
                ['kWh', 'KWH'],
                ['GtC', 'gtc'],
                ['person', 'people'],
                ['m', 'm^2'],
                ['gas', 'ga'],
            ] as [$a, $b]
        ) {
            self::assertNotSame($book->parse($a)?->text(), $book->parse($b)?->text(), "$a, $b");
        }
        self::assertNull($book->parse('  '));
        foreach (['/year', 'kg*', 'm^x', '(m', '7 people', 'a)'] as $text) {
            try {
                $book->parse($text);
                self::fail("$text was taken for a unit");
            } catch (UnitError $e) {
                self::assertNotSame('', $e->getMessage());
            }
        }
    }

    /** @return iterable<string, array{array<string, string>, array<string, string>, string, string, ?string}> formulas, units, code, words, mend */
    public static function clashes(): iterable
    {
        $people = ['islanders' => 'people', 'deaths' => 'people/year'];
        yield 'a duration for a rate' => [
            ['deaths' => 'islanders * lifespan', 'lifespan' => '70'],
            [...$people, 'lifespan' => 'years'],
            'unit.duration',
            'Divide by `lifespan`',
            'islanders / lifespan',
        ];
        yield 'a rate for a duration' => [
            ['deaths' => 'islanders / death rate', 'death rate' => '0.01'],
            [...$people, 'death rate' => '1/year'],
            'unit.rate',
            'is a rate, not a duration. Multiply',
            'islanders * death rate',
        ];
        yield 'months against years' => [
            ['deaths' => 'islanders * monthly rate', 'monthly rate' => '0.01'],
            [...$people, 'monthly rate' => '1/month'],
            'unit.time',
            'there are 12 months in a year. Multiply by 12',
            'islanders * monthly rate * 12',
        ];
        yield 'a probability for a rate' => [
            ['deaths' => 'islanders * chance of dying', 'chance of dying' => '0.01'],
            [...$people, 'chance of dying' => '1'],
            'unit.probability',
            'a flow needs a rate',
            null,
        ];
        yield 'a sum' => [
            ['deaths' => 'islanders + lifespan', 'lifespan' => '70'],
            [...$people, 'lifespan' => 'years'],
            'unit.unequal',
            '`islanders` is people and `lifespan` is year: only equal units can be added',
            null,
        ];
        yield 'a comparison' => [
            ['deaths' => 'if(islanders > lifespan, 1, 2)', 'lifespan' => '70'],
            [...$people, 'lifespan' => 'years'],
            'unit.unequal',
            'can be compared',
            null,
        ];
        yield 'an exponential' => [
            ['deaths' => 'exp(lifespan) * 1', 'lifespan' => '70'],
            ['lifespan' => 'years'],
            'unit.plain',
            'but the x of `exp` is a plain number',
            null,
        ];
        yield 'an exponent' => [
            ['deaths' => '2 ^ lifespan', 'lifespan' => '70'],
            ['lifespan' => 'years'],
            'unit.plain',
            'an exponent is a plain number',
            null,
        ];
        yield 'a time of a delay' => [
            ['deaths' => 'smooth(islanders / year, weight)', 'weight' => '70', 'year' => '1'],
            [...$people, 'weight' => 'kg', 'year' => 'year'],
            'unit.argument',
            'but the over of `smooth` is a time, in years',
            null,
        ];
        yield 'parts of a minimum' => [
            ['deaths' => 'min(islanders, lifespan)', 'lifespan' => '70'],
            [...$people, 'lifespan' => 'years'],
            'unit.unequal',
            'used together in `min`',
            null,
        ];
        yield 'a flow that is not per time' => [
            ['deaths' => '3'],
            ['islanders' => 'people', 'deaths' => 'people'],
            'unit.flow',
            "a flow has its stock's unit per year, here people per year",
            null,
        ];
        yield 'no unit' => [['deaths' => '3'], ['deaths' => '7 people'], 'unit.unreadable', 'is no unit', null];
    }

    /**
     * @param  array<string, string>  $formulas
     * @param  array<string, string>  $units
     */
    #[DataProvider('clashes')]
    public function test_a_clash_gets_a_sentence_and_a_mend(
        array $formulas,
        array $units,
        string $code,
        string $words,
        ?string $mend,
    ): void {
        $model = Build::model(
            array_diff_key($formulas, ['deaths' => 0]),
            ['islanders' => '4200'],
            ['deaths' => [$formulas['deaths'], 'from' => 'islanders']],
        );
        $remarks = self::report($model, $units)->remarks;
        self::assertCount(1, $remarks, (string) json_encode($remarks));
        self::assertSame([$code, $mend, 'deaths'], [$remarks[0]->code, $remarks[0]->mend, $remarks[0]->element]);
        self::assertStringContainsString($words, $remarks[0]->sentence);
        if ($mend !== null) {
            $formulas['deaths'] = $mend;
            $mended = Build::model(
                array_diff_key($formulas, ['deaths' => 0]),
                ['islanders' => '4200'],
                ['deaths' => [$mend, 'from' => 'islanders']],
            );
            self::assertSame([], $code === 'unit.time' ? [] : self::report($mended, $units)->remarks, 'the mend mends it');
        }
    }

    public function test_what_was_left_empty_is_inferred_both_ways(): void
    {
        $model = Build::model(
            ['lifespan' => '70', 'half' => '0.5', 'per head' => '2', 'start' => '10'],
            ['islanders' => 'start'],
            ['deaths' => ['islanders / lifespan', 'from' => 'islanders'], 'arrivals' => ['smooth(wish, 3)', 'to' => 'islanders']],
            ['water' => 'islanders * per head', 'wish' => 'half * deaths', 'late' => 'max(water, 3)'],
        );
        $report = self::report($model, ['islanders' => 'people', 'water' => 'litres']);
        $texts = array_map(static fn ($u): string => $u->text(), $report->units);
        self::assertSame(
            ['people', 'year', 'people/year', 'people/year', 'litre/people', 'people/year', 'people', 'litre', '1'],
            array_map(static fn (string $id): ?string => $texts[$id] ?? null, [
                'islanders',
                'lifespan',
                'deaths',
                'arrivals',
                'per-head',
                'wish',
                'start',
                'late',
                'half',
            ]),
        );
        self::assertSame([], $report->remarks);
        self::assertArrayNotHasKey('islanders', $report->inferred);
        self::assertArrayHasKey('deaths', $report->inferred);
    }

    public function test_a_sound_model_has_no_remarks_and_every_function_has_a_rule(): void
    {
        $model = Build::model(
            ['a' => '3', 'b' => '4', 'when' => '2'],
            [],
            [],
            [
                'shed' => 'sqrt(a * b)',
                'one' => 'a / b + exp(a / b) + sin(time / when)',
                'blend' => 'clamp(a, 0, b) + forecast(a, when, 3) + shift(a, 2)',
                'speed' => 'trend(a, when) * a',
                'bought' => 'total(a)',
                'train' => 'pulse(a, 3, when)',
                'share' => 'divide(a, b, 0)',
                'slope' => 'ramp(a, 1, 5)',
                'luck' => 'gaussian(a, b) + drift(a, 1, when)',
            ],
        );
        $report = self::report($model, [
            'a' => 'kg',
            'b' => 'kg',
            'when' => 'year',
            'shed' => 'kg',
            'speed' => 'kg/year',
            'bought' => 'kg*year',
            'train' => 'kg/year',
            'share' => '1',
            'slope' => 'kg*year',
            'luck' => 'kg',
        ]);
        self::assertSame([], array_map(static fn ($p): string => $p->sentence, $report->remarks));
        foreach (Catalogue::all() as $function) {
            $letters = implode('', $function->unitRules);
            self::assertMatchesRegularExpression('/^([uvt1*\/]*[de]*|d\*)$/', $letters, $function->name);
            self::assertGreaterThanOrEqual(1, count($function->unitRules), $function->name);
            self::assertTrue($function->repeats || count($function->unitRules) === count($function->parameters), $function->name);
        }
    }
}
