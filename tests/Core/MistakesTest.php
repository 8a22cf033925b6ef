<?php

declare(strict_types=1);

namespace Tests\Core;

use MerryOrbit\Core\Analysis\Analyser;
use MerryOrbit\Core\Edit\AddElement;
use MerryOrbit\Core\Edit\SetCurve;
use MerryOrbit\Core\Model\Between;
use MerryOrbit\Core\Model\Beyond;
use MerryOrbit\Core\Model\Kind;
use MerryOrbit\Core\Model\Model;
use MerryOrbit\Core\Model\TimeSettings;
use PHPUnit\Framework\Attributes\DataProvider;
use PHPUnit\Framework\TestCase;

/** For every mistake in a formula: the sentence, the element, and the characters it is about. */
final class MistakesTest extends TestCase
{
    private static function model(string $formula): Model
    {
        $model = Build::model(
            ['usual rain' => '0.3'],
            ['lens' => '40'],
            ['wells' => ['lens / 5', 'from' => 'lens']],
            [],
            new TimeSettings(0, 10, 0.5, 'week'),
        );
        foreach (
            [
                new AddElement('c', Kind::Curve, 'thinning'),
                new SetCurve('c', [[0.0, 1.0], [50.0, 0.0]], Between::Straight, Beyond::Held, ''),
                new AddElement('r', Kind::Series, 'rain gauge'),
                new SetCurve('r', [[0.0, 1.0], [5.0, 2.0]], Between::Straight, Beyond::Held, ''),
                new AddElement('v', Kind::Auxiliary, 'seeping', $formula),
            ] as $edit
        ) {
            $model = $edit->apply($model);
        }

        return $model;
    }

    /** @return iterable<string, array{string, string, string, string}> formula, code, the part it is about, words */
    public static function mistakes(): iterable
    {
        yield 'nothing of that name' => ['lens * nobody', 'name.unknown', 'nobody', 'Nothing is called `nobody`'];
        yield 'a slip in a name' => ['lens + usul rain', 'name.unknown', 'usul rain', 'Did you mean `usual rain`?'];
        yield 'a habit from elsewhere' => ['lens / dt', 'name.unknown', 'dt', 'the length of a step is `time step`'];
        yield 'an unknown function' => ['2 * wibble(lens)', 'function.unknown', 'wibble', 'no function or curve called `wibble`'];
        yield 'a slip in a function' => ['smoth(lens, 3)', 'function.unknown', 'smoth', 'no function or curve called `smoth`'];
        yield 'a missing operator before a bracket' => [
            'lens (2)',
            'function.unknown',
            'lens',
            'an operator is missing before the bracket',
        ];
        yield 'a function without arguments' => [
            '1 + smooth',
            'function.bare',
            'smooth',
            'needs its arguments: `smooth(x, over, [order], [first])`',
        ];
        yield 'too few arguments' => [
            'clamp(lens, 2)',
            'function.arguments',
            'clamp(lens, 2)',
            '`clamp` takes 3 arguments, and 2 are given',
        ];
        yield 'too many arguments' => ['abs(1, 2)', 'function.arguments', 'abs(1, 2)', '`abs` takes 1 argument'];
        yield 'no arguments' => ['max()', 'function.arguments', 'max()', 'at least 2 arguments, and 0 are given'];
        yield 'a curve without input' => ['lens * thinning', 'curve.bare', 'thinning', 'needs its input in brackets: `thinning(…)`'];
        yield 'a curve with two inputs' => ['thinning(1, 2)', 'function.unknown', 'thinning', 'A curve takes one argument'];
        yield 'a series that is called' => [
            'rain gauge(3)',
            'function.unknown',
            'rain gauge',
            '`at(rain gauge, …)` its value at another time',
        ];
        yield 'at without a series' => ['1 + at(lens, 3)', 'series.wanted', 'lens', 'the name of one'];
        yield 'an order that is none' => ['smooth(lens, 3, 2.5)', 'delay.order', '2.5', 'whole number from 1 to 12'];
        yield 'an order that may move' => ['delay(lens, 3, usual rain)', 'delay.order', 'usual rain', 'whole number from 1 to 12'];
        yield 'a bracket that stays open' => ['2 * (lens + 1', 'formula.bracket', '(', 'is not closed'];
        yield 'a bracket too many' => ['lens + 1)', 'formula.bracket', ')', 'was never opened'];
        yield 'a comma in a number' => ['1,5 * lens', 'formula.comma', ',', 'Numbers have a point'];
        yield 'a missing operator' => ['2 lens', 'formula.operator', 'lens', 'perhaps `2 * lens`'];
        yield 'a number behind a name' => ['lens 2.5', 'formula.character', '2.5', 'perhaps `lens * 2.5`'];
        yield 'two operators' => ['lens * / 2', 'formula.operand', '/', 'is missing before `/`'];
        yield 'an end too early' => ['lens *', 'formula.ends', '*', 'ends too early'];
        yield 'a chain of comparisons' => ['0 < lens < 5', 'formula.chain', '<', 'and'];
        yield 'not inside arithmetic' => ['1 + not lens', 'formula.operand', 'not', '`1 + (not a)`'];
        yield 'a sign of multiplication' => ['lens × 2', 'formula.character', '×', 'Multiply with `*`'];
        yield 'an open quote' => ['"lens * 2', 'formula.character', '"lens * 2', 'is not closed'];
        yield 'square brackets' => ['[lens]', 'formula.character', '[', 'Group with round brackets'];
        yield 'a pick from a single number' => ['lens[north]', 'element.unknown', 'north', 'which is a single number'];
        yield 'a number that is too large' => ['lens + 1e999', 'formula.character', '1e999', 'larger than the largest number'];
        yield 'a stray per cent' => ['lens %', 'formula.character', '%', 'right behind a number'];
        yield 'too deep' => [str_repeat('(', 101).'1'.str_repeat(')', 101), 'formula.deep', '1', 'Split the formula into auxiliaries'];
    }

    #[DataProvider('mistakes')]
    public function test_a_mistake_has_a_sentence_an_element_and_a_place(string $formula, string $code, string $part, string $words): void
    {
        $model = self::model($formula);
        $problems = Analyser::analyse($model)->problems;
        self::assertCount(1, $problems, (string) json_encode($problems));
        $problem = $problems[0];
        self::assertSame([$code, 'v', 'formula'], [$problem->code, $problem->element, $problem->field]);
        self::assertStringContainsString($words, $problem->sentence);
        self::assertNotNull($problem->from);
        self::assertSame($part, mb_substr($formula, $problem->from, $problem->length ?? 0));
        // While it is typed the editor hears the same.
        $typed = Analyser::check(self::model('1'), self::model('1')->elements['v'], $formula);
        self::assertSame([$problem->sentence, $problem->from], [$typed[0]->sentence, $typed[0]->from]);
        // What does not depend on it runs.
        $run = Build::run($model);
        self::assertTrue($run->has('lens') && ! $run->has('v'));
    }

    /** @return iterable<string, array{array<string, string>, string, string, string}> auxiliaries, code, element, words */
    public static function structures(): iterable
    {
        yield 'a circle of two' => [
            ['a' => 'b + 1', 'b' => 'a * 2'],
            'circle.now',
            'a',
            '`a` uses `b` uses `a`. Let one of them act through a stock.',
        ];
        yield 'a circle of one' => [['a' => 'a + 1'], 'circle.now', 'a', '`a` uses itself at the same moment'];
        yield 'a circle through a signal' => [
            ['a' => 'step(b, 3)', 'b' => 'a + 1'],
            'circle.now',
            'a',
            'need each other at the same moment',
        ];
        yield 'a circle through what holds' => [
            ['a' => 'hold(b, 3)', 'b' => 'a + 1'],
            'circle.now',
            'a',
            'need each other at the same moment',
        ];
        yield 'a circle at the start' => [
            ['a' => 'smooth(b, 3)', 'b' => 'a + 1'],
            'circle.start',
            'a',
            'a function with a memory its first value',
        ];
        yield 'no formula' => [['a' => ''], 'formula.missing', 'a', '`a` has no formula yet.'];
    }

    /** @param  array<string, string>  $auxiliaries */
    #[DataProvider('structures')]
    public function test_what_is_wrong_between_formulas_is_said(array $auxiliaries, string $code, string $element, string $words): void
    {
        $problems = Analyser::analyse(Build::model([], ['lens' => '1'], [], $auxiliaries))->problems;
        self::assertSame([$code, $element], [$problems[0]->code, $problems[0]->element]);
        self::assertStringContainsString($words, $problems[0]->sentence);
    }

    public function test_memory_breaks_circles(): void
    {
        foreach (['smooth(b, 3, 1, 2)', 'delay(b, 3, 2, 2)', 'previous(b, 2)', 'shift(b, 1, 2)', 'total(b)'] as $formula) {
            $model = Build::model([], ['lens' => '1'], [], ['a' => $formula, 'b' => '0.5 * a + 1'], new TimeSettings(0, 5, 0.5));
            self::assertSame([], Build::codes($model), $formula);
            self::assertNull(Build::run($model)->fault, $formula);
        }
    }

    /** @return iterable<string, array{string, string, float}> formula, words, time */
    public static function faults(): iterable
    {
        yield 'inside a delay' => ['smooth(ln(3 - time), 2)', 'logarithm', 3.0];
        yield 'a delay without time' => ['smooth(lens, 2 - time)', 'division by zero', 2.0];
        yield 'inside a shift' => ['shift(1 / (2 - time), 1)', 'division by zero', 2.0];
        yield 'inside previous' => ['previous(sqrt(4 - time), 0)', 'square root', 4.5];
        yield 'no time between looks' => ['hold(lens, 3 - time)', 'no time between its looks', 3.0];
        yield 'no time between pulses' => ['pulse(1, 0, 3 - time)', 'no time between them', 3.0];
        yield 'inside a curve' => ['thinning(1 / (4 - time))', 'division by zero', 4.0];
        yield 'inside a branch that is not chosen, of a memory' => ['if(time < 0, total(1 / (2.5 - time)), 0)', 'division by zero', 2.5];
        yield 'a remainder' => ['mod(lens, 2 - time)', '`mod` by zero', 2.0];
        yield 'an angle' => ['asin(time - 1)', 'outside -1 to 1', 2.5];
        yield 'zero to a negative power' => ['(3 - time) ^ -1', 'zero to a negative power', 3.0];
    }

    #[DataProvider('faults')]
    public function test_a_fault_is_found_wherever_it_hides(string $formula, string $words, float $time): void
    {
        foreach (Build::FIXED as $method) {
            $model = self::model($formula);
            $run = Build::run($model, [], new TimeSettings(0, 10, 0.5, 'week', $method));
            self::assertNotNull($run->fault, $formula);
            self::assertSame('v', $run->fault->element);
            self::assertStringContainsString($words, $run->fault->sentence());
            // Within a step Heun and Runge–Kutta look ahead.
            self::assertGreaterThanOrEqual($time - 0.5, $run->fault->time);
            self::assertLessThanOrEqual($time, $run->fault->time);
            self::assertSame((int) ceil($run->fault->time / 0.5), $run->length(), 'all that came before is kept');
        }
    }
}
