<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Formula;

/**
 * Cuts formula text into tokens. It never fails: what has no meaning becomes a Stray token with a sentence,
 * so that the names around a typing slip are still known.
 */
final class Lexer
{
    private const WORD = '[\p{L}\p{M}\p{N}]+';

    private const NUMBER = '(?:\d+\.?\d*|\.\d+)(?:[eE][+-]?\d+)?';

    /** @return list<Token> the last one is End */
    public static function tokens(string $text): array
    {
        // A text that is known to be sound is not looked through again for each token.
        preg_match('//u', $text);
        $tokens = [];
        $token = null;
        $at = 0;
        $end = strlen($text);
        while (true) {
            $at += strspn($text, " \t\r\n_", $at);
            if ($at < $end && ord($text[$at]) >= 0x80 && preg_match('/\G[\s\p{Z}_]+/u', $text, $m, 0, $at) === 1) {
                $at += strlen($m[0]);

                continue;
            }
            if ($at >= $end) {
                $tokens[] = new Token(TokenKind::End, '', $end, 0);

                return $tokens;
            }
            // Only behind a semicolon is this a word; elsewhere something may be called so.
            $token =
                ($token->kind ?? null) === TokenKind::Semicolon && preg_match('/\Gelse(?![\p{L}\p{M}\p{N}])/iu', $text, $m, 0, $at) === 1
                    ? new Token(TokenKind::Word, 'else', $at, 4)
                    : self::next($text, $at);
            $tokens[] = $token;
            $at = $token->from + $token->length;
        }
    }

    private static function next(string $text, int $at): Token
    {
        $char = $text[$at];
        if (strpos('0123456789.', $char) !== false && preg_match('/\G'.self::NUMBER.'/', $text, $m, 0, $at) === 1) {
            return self::number($text, $at, $m[0]);
        }
        if ($char === '"') {
            return self::quoted($text, $at);
        }
        if (preg_match('/\G\p{L}[\p{L}\p{M}\p{N}]*/u', $text, $m, 0, $at) === 1) {
            return self::name($text, $at, $m[0]);
        }
        $two = substr($text, $at, 2);
        if ($two === '<>' || $two === '<=' || $two === '>=') {
            return new Token(TokenKind::Operator, $two, $at, 2);
        }

        return match ($char) {
            '+', '-', '*', '/', '^', '=', '<', '>' => new Token(TokenKind::Operator, $char, $at, 1),
            '(' => new Token(TokenKind::Open, $char, $at, 1),
            ')' => new Token(TokenKind::Close, $char, $at, 1),
            ',' => new Token(TokenKind::Comma, $char, $at, 1),
            '[' => new Token(TokenKind::OpenSquare, $char, $at, 1),
            ']' => new Token(TokenKind::CloseSquare, $char, $at, 1),
            ':' => new Token(TokenKind::Colon, $char, $at, 1),
            ';' => new Token(TokenKind::Semicolon, $char, $at, 1),
            default => self::stray($text, $at),
        };
    }

    private static function number(string $text, int $at, string $digits): Token
    {
        $length = strlen($digits);
        $value = (float) $digits;
        if (! is_finite($value)) {
            return new Token(
                TokenKind::Stray,
                $digits,
                $at,
                $length,
                sentence: "`$digits` is larger than the largest number that can be computed with, about 1.8e308.",
            );
        }
        if (($text[$at + $length] ?? '') === '%') {
            $value = self::perCent($digits);
            $length++;
        }

        return new Token(TokenKind::Number, substr($text, $at, $length), $at, $length, $value);
    }

    /** Moves the decimal point instead of dividing, so that 7% is the number nearest to 0.07. */
    private static function perCent(string $digits): float
    {
        [$mantissa, $exponent] = array_pad(explode('e', strtolower($digits)), 2, '0');

        return (float) ($mantissa.'e'.((int) $exponent - 2));
    }

    private static function quoted(string $text, int $at): Token
    {
        if (preg_match('/\G"((?:[^"]|"")*)"/', $text, $m, 0, $at) !== 1) {
            return new Token(
                TokenKind::Stray,
                '"',
                $at,
                strlen($text) - $at,
                sentence: 'The quote that opens here is not closed. Put a `"` behind the name.',
            );
        }

        $length = strlen($m[0]);

        return new Token(
            TokenKind::QuotedName,
            str_replace('""', '"', $m[1]),
            $at,
            $length,
            called: self::opensBracket($text, $at + $length),
        );
    }

    private static function name(string $text, int $at, string $first): Token
    {
        if (Name::isReserved($first)) {
            return new Token(TokenKind::Word, strtolower($first), $at, strlen($first));
        }
        $until = $at + strlen($first);
        if (preg_match('/\G[ _]*[+*\/,()<>=^\[\]:;-]|\G\s*$/D', $text, $m, 0, $until) === 1) {
            // No word more, which is the rule.
            return new Token(TokenKind::Name, $first, $at, strlen($first), called: self::opensBracket($text, $until));
        }
        if (
            preg_match('/\G(?:[ _]+(?:[A-Za-z]+|\d+(?![.\d\p{L}])))+(?=[ _]*(?:[+*\/,()<>=^\[\]:;-]|$))/Du', $text, $m, 0, $until) ===
                1 &&
            preg_match('/[ _](?:and|or|not)(?:[ _]|$)/Di', $m[0]) !== 1
        ) {
            // Words and whole numbers with single blanks, none of which means something by itself.
            $length = strlen($first) + strlen($m[0]);

            return new Token(
                TokenKind::Name,
                substr($text, $at, $length),
                $at,
                $length,
                called: self::opensBracket($text, $at + $length),
            );
        }
        while (preg_match('/\G[\s_\p{Z}]+('.self::WORD.')/u', $text, $m, 0, $until) === 1) {
            $wordAt = $until + strlen($m[0]) - strlen($m[1]);
            if (Name::isReserved($m[1])) {
                break;
            }
            if (preg_match('/\G'.self::NUMBER.'/', $text, $number, 0, $wordAt) === 1 && strpbrk($number[0], '.eE') !== false) {
                $name = substr($text, $at, $until - $at);

                return new Token(
                    TokenKind::Stray,
                    $number[0],
                    $wordAt,
                    strlen($number[0]),
                    sentence: "Between `$name` and `{$number[0]}` an operator is missing: perhaps `$name * {$number[0]}`.",
                );
            }
            $until += strlen($m[0]);
        }

        return new Token(TokenKind::Name, substr($text, $at, $until - $at), $at, $until - $at, called: self::opensBracket($text, $until));
    }

    private static function opensBracket(string $text, int $at): bool
    {
        return preg_match('/\G[\s_]*\(/', $text, $m, 0, $at) === 1;
    }

    private static function stray(string $text, int $at): Token
    {
        $char = preg_match('/\G./su', $text, $m, 0, $at) === 1 ? $m[0] : $text[$at];
        $sentence = match ($char) {
            '%' => '`%` belongs right behind a number, as in `5%`.',
            "'",
            '`',
            '“',
            '”',
            '‘',
            '’',
            '„',
            '«',
            '»' => "`$char` has no meaning in a formula. A name with unusual characters stands in double quotes: `\"R&D share\"`.",
            '{', '}' => "`$char` has no meaning here. Group with round brackets: `( )`.",
            '×', '·' => "Multiply with `*` instead of `$char`.",
            '÷' => "Divide with `/` instead of `$char`.",
            '−', '–' => "Subtract with `-` instead of `$char`.",
            '≤' => 'Write `<=` instead of `≤`.',
            '≥' => 'Write `>=` instead of `≥`.',
            '≠', '!' => 'Write `<>` for “is not equal to”, and `not` for “not”.',
            '&' => 'Write `and`; a name with `&` stands in double quotes.',
            '|' => 'Write `or`; a name with `|` stands in double quotes.',
            default => mb_check_encoding($char, 'UTF-8') && preg_match('/\p{C}/u', $char) !== 1
                ? "`$char` has no meaning in a formula. If it belongs to a name, put the name in double quotes."
                : 'There is a character here that cannot be shown. Delete it.',
        };

        return new Token(TokenKind::Stray, $char, $at, strlen($char), sentence: $sentence);
    }
}
