<?php

declare(strict_types=1);

namespace Tests\Core;

use MerryOrbit\Core\Formula\Catalogue;
use MerryOrbit\Core\Formula\FormulaError;
use MerryOrbit\Core\Formula\Lexer;
use MerryOrbit\Core\Formula\Name;
use MerryOrbit\Core\Formula\Parser;
use MerryOrbit\Core\Formula\Printer;
use MerryOrbit\Core\Formula\TokenKind;
use MerryOrbit\Core\Library\Evaluator;
use MerryOrbit\Core\Library\Moment;
use MerryOrbit\Core\Model\TimeSettings;
use PHPUnit\Framework\Attributes\DataProvider;
use PHPUnit\Framework\TestCase;

final class FormulaTest extends TestCase
{
    private static function value(string $text): float
    {
        return (new Evaluator(['a' => 2.0, 'b' => 3.0, 'c' => 5.0], new Moment(new TimeSettings())))->value(Parser::parse($text));
    }

    /** @return iterable<string, array{string, float}> */
    public static function values(): iterable
    {
        foreach (
            [
                '1 + 2 * 3' => 7,
                '(1 + 2) * 3' => 9,
                '8 / 4 / 2' => 1,
                '8 - 4 - 2' => 2,
                '2^3^2' => 512,
                '-2^2' => -4,
                '2^-1' => 0.5,
                '(-2)^2' => 4,
                '--3' => 3,
                '+3' => 3,
                '2 * -3' => -6,
                '5%' => 0.05,
                '7%' => 0.07,
                '.5' => 0.5,
                '1e-3' => 0.001,
                '2.' => 2,
                '1.5E2' => 150,
                '1 < 2' => 1,
                '2 <= 1' => 0,
                '2 <> 2' => 0,
                '2 = 2' => 1,
                '1 > 2 or 3 > 2' => 1,
                'not 1 = 2' => 1,
                'not 0 and 0' => 0,
                '1 or 0 and 0' => 1,
                'NOT 0' => 1,
                'a * b + c' => 11,
                'A*B' => 6,
                '"a"+1' => 3,
                'time step' => 0.25,
                'PI - pi' => 0,
                'end time - start time' => 100,
            ] as $text => $value
        ) {
            yield $text => [$text, (float) $value];
        }
    }

    #[DataProvider('values')]
    public function test_operators_bind_as_the_language_says(string $text, float $value): void
    {
        self::assertSame($value, self::value($text));
    }

    #[DataProvider('values')]
    public function test_the_printer_gives_text_that_reads_back_the_same(string $text, float $value): void
    {
        $printed = Printer::print(Parser::parse($text));
        self::assertSame($value, self::value($printed));
        self::assertSame($printed, Printer::print(Parser::parse($printed)));
    }

    public function test_printing_keeps_needed_brackets_and_drops_the_others(): void
    {
        foreach (
            [
                '(a + b) * c',
                'a - (b - c)',
                '(a ^ b) ^ c' => '(a^b)^c',
                'a ^ (b ^ c)' => 'a^b^c',
                '(a * b) + c' => 'a * b + c',
                '-(a + b)',
                '(-a)^2',
                'not (a and b)',
                '(a < b) = c',
                'max((a), b)' => 'max(a, b)',
                '"2nd wave" + "R&D ""x"""',
                '"step" * 2',
            ] as $from => $to
        ) {
            self::assertSame($to, Printer::print(Parser::parse(is_int($from) ? $to : $from)));
        }
    }

    /** Every example of the catalogue that says what it gives is right. */
    public function test_the_examples_of_the_catalogue_hold(): void
    {
        $checked = 0;
        foreach (Catalogue::all() as $function) {
            [$call, $result] = array_pad(explode(' = ', $function->example), 2, null);
            self::assertStringStartsWith($function->name.'(', (string) $call);
            if ($result !== null) {
                self::assertEqualsWithDelta((float) $result, self::value((string) $call), 1e-12, $function->example);
                $checked++;
            }
        }
        self::assertGreaterThan(25, $checked);
    }

    public function test_words_joined_in_any_way_are_one_name(): void
    {
        foreach (['a  b', 'A_b', "a\tb", "a\nB", 'a _ b', "a\u{00a0}b"] as $spelling) {
            $tokens = Lexer::tokens($spelling);
            self::assertCount(2, $tokens, $spelling);
            self::assertSame('a b', Name::key($tokens[0]->text));
        }
        // The same letter composed and in parts.
        self::assertSame(Name::key("caf\u{00e9}"), Name::key("cafe\u{0301}"));
        self::assertSame(Name::key('STRASSE'), Name::key('straße'));
    }

    public function test_a_number_after_a_name_belongs_to_it_unless_it_has_a_point(): void
    {
        self::assertSame('oysters on terrace 2', Lexer::tokens('oysters on terrace 2 * 3')[0]->text);
        $tokens = Lexer::tokens('rain 2.5');
        self::assertSame(TokenKind::Stray, $tokens[0]->kind === TokenKind::Stray ? $tokens[0]->kind : $tokens[1]->kind);
        self::assertStringContainsString('rain * 2.5', self::refusal('rain 2.5')->getMessage());
        self::assertStringContainsString('rain * 1e3', self::refusal('rain 1e3')->getMessage());
    }

    private static function refusal(string $text): FormulaError
    {
        try {
            Parser::parse($text);
        } catch (FormulaError $e) {
            return $e;
        }
        self::fail("`$text` was read without complaint");
    }

    /** @return iterable<string, array{string, string, int}> */
    public static function slips(): iterable
    {
        yield 'nothing' => ['', 'is empty', 0];
        yield 'ends early' => ['a * ', 'ends too early', 2];
        yield 'operator missing' => ['(a) b', 'operator is missing', 4];
        yield 'number before name' => ['2 a', '2 * a', 2];
        yield 'open bracket' => ['a * (b + c', 'not closed', 4];
        yield 'closed too often' => ['a)', 'never opened', 1];
        yield 'chain' => ['a < b < c', 'two things', 6];
        yield 'not in a sum' => ['1 + not a', 'brackets', 4];
        yield 'thousands' => ['1,000', 'no thousands', 1];
        yield 'unknown function' => ['maxx(a, b)', 'Did you mean `max`', 0];
        yield 'too few arguments' => ['if(a, b)', 'takes 3 arguments, and 2 are given', 0];
        yield 'too many arguments' => ['abs(a, b)', 'takes 1 argument, and 2 are given', 0];
        yield 'bare function' => ['a + step', 'needs its arguments', 4];
        yield 'open quote' => ['"a', 'not closed', 0];
        yield 'percent alone' => ['a %', 'behind a number', 2];
        yield 'times sign' => ['a × b', '`*`', 2];
        yield 'shell' => ["system('id')", 'no meaning', 7];
        yield 'unknown function of two' => ['system(1, 2)', 'no function or curve called `system`', 0];
        yield 'backtick' => ['`id`', 'no meaning', 0];
        yield 'dollar' => ['${x}', 'no meaning', 0];
        yield 'php tag' => ['<?php echo 1;', 'missing before `<`', 0];
        yield 'too large a number' => ['1e999', 'largest number', 0];
        yield 'position counts characters' => ['"ö" + §', 'no meaning', 6];
    }

    #[DataProvider('slips')]
    public function test_a_slip_gets_a_sentence_and_a_place(string $text, string $words, int $from): void
    {
        $error = self::refusal($text);
        self::assertStringContainsString($words, $error->getMessage());
        self::assertSame($from, $error->from);
    }

    public function test_no_text_breaks_the_reader(): void
    {
        foreach (
            [
                str_repeat('(', 10_000),
                str_repeat('-', 10_000).'1',
                str_repeat('not ', 4_000).'1',
                str_repeat('abs(', 3_000),
                str_repeat('2^', 5_000).'2',
                str_repeat('1+', 9_000).'1',
                str_repeat('x', 30_000),
                "\xff\xfe",
                "a\x00b",
                '"'.str_repeat('""', 500),
            ] as $text
        ) {
            self::assertNotSame('', self::refusal($text)->getMessage());
        }
    }

    /** Random texts from pieces of the language either parse and print stably, or are refused with a sentence. */
    public function test_random_texts_are_read_or_refused(): void
    {
        mt_srand(7);
        $pieces = [
            'a',
            'b c',
            '"d"',
            '1',
            '2.5',
            '5%',
            '+',
            '-',
            '*',
            '/',
            '^',
            '(',
            ')',
            ',',
            '<',
            '=',
            'and',
            'or',
            'not',
            'if(',
            'max(',
            'time',
            '%',
            '$',
            "'",
            ' ',
            '[',
            ']',
            ':',
            ';',
            'else',
            'previous',
            'sum(',
            'b c[age: next; else',
        ];
        $read = 0;
        for ($i = 0; $i < 4_000; $i++) {
            $text = '';
            for ($k = mt_rand(1, 9); $k > 0; $k--) {
                $text .= $pieces[mt_rand(0, count($pieces) - 1)].' ';
            }
            try {
                $printed = Printer::print(Parser::parse($text));
                self::assertSame($printed, Printer::print(Parser::parse($printed)), $text);
                $read++;
            } catch (FormulaError $e) {
                self::assertNotSame('', $e->getMessage());
                self::assertLessThanOrEqual(mb_strlen($text), $e->from);
            }
        }
        self::assertGreaterThan(100, $read);
    }

    /** Reading what was printed gives the same tree, for random formulas of all functions. */
    public function test_printing_and_reading_are_inverse(): void
    {
        mt_srand(17);
        $bare = static function (\MerryOrbit\Core\Formula\Node\Node $node) use (&$bare): string {
            $own = match (true) {
                $node instanceof \MerryOrbit\Core\Formula\Node\NumberLiteral => (string) $node->value,
                $node instanceof \MerryOrbit\Core\Formula\Node\NameUse => "name $node->key",
                $node instanceof \MerryOrbit\Core\Formula\Node\CurveCall => "curve $node->key",
                $node instanceof \MerryOrbit\Core\Formula\Node\Binary => $node->operator->value,
                $node instanceof \MerryOrbit\Core\Formula\Node\Call => $node->function->name,
                $node instanceof \MerryOrbit\Core\Formula\Node\QuantityUse => $node->quantity->value,
                $node instanceof \MerryOrbit\Core\Formula\Node\Along => "along $node->key",
                $node instanceof \MerryOrbit\Core\Formula\Node\Pick => implode(
                    ',',
                    array_map(static fn ($s): string => "$s->dimension:$s->what $s->by", $node->steps),
                ),
                default => $node::class,
            };

            return $own.'['.implode(' ', array_map($bare, $node->parts())).']';
        };
        for ($i = 0; $i < 1500; $i++) {
            $text = RandomFormula::text(5);
            $text = $i % 3 === 0 ? (string) preg_replace('/\bq\b/', 'my curve(q)', $text) : $text;
            $pick = ['s[north]', 's[age: previous 2; else (p + 1)]', 's["else", age: first]', 'sum(s[origin: destination], age)'][$i % 4];
            $text = $i % 2 === 0 ? (string) preg_replace('/\bs\b(?!\[)/', $pick, $text) : $text;
            $node = Parser::parse($text);
            self::assertSame($bare($node), $bare(Parser::parse(Printer::print($node))), $text);
        }
    }
}
