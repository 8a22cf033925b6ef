<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Formula;

use MerryOrbit\Core\Formula\Node\Node;
use MerryOrbit\Core\Formula\Node\NumberLiteral;

/** Reads the formulas of a model, whose mentions are references by id, into nodes that speak of ids. */
final class FormulaReader
{
    private const MOST_KNOWN = 2_000;

    /** @var array<array-key, list<Token>> */
    private static array $between = [];

    /**
     * What was read of a formula, with the names and ids it was read with: they may change while the formula stays.
     *
     * @var \WeakMap<FormulaText, array{list<string>, Node}>|null
     */
    private static ?\WeakMap $read = null;

    /**
     * The formula as nodes that speak of ids. A mention keeps its element by its id; only what waits for a name is looked up.
     *
     * @param  callable(string): ?string  $nameOf  from an id to the element's name
     * @param  callable(string): ?string  $idOf  from a name's key to an id
     *
     * @throws FormulaError with positions in text()
     */
    public static function node(FormulaText $formula, callable $nameOf, callable $idOf): Node
    {
        $pieces = $formula->pieces;
        if (count($pieces) === 1 && is_string($pieces[0]) && preg_match('/^\d{1,15}(?:\.\d{1,15})?$/D', $pieces[0]) === 1) {
            // Most parameters are just numbers.
            return new NumberLiteral((float) $pieces[0], $pieces[0], 0, strlen($pieces[0]));
        }
        $meant = [];
        foreach ($pieces as $piece) {
            if (is_string($piece)) {
                continue;
            }
            $name = $piece->id === null ? null : $nameOf($piece->id);
            if ($name === null) {
                $meant[] = $piece->written;
                $meant[] = $idOf($piece->key()) ?? '';
            } else {
                $meant[] = $piece->written[0] === '"' ? Name::quoted($name) : Name::written($name);
                $meant[] = (string) $piece->id;
            }
        }
        self::$read ??= new \WeakMap();
        $known = self::$read[$formula] ?? null;
        if ($known !== null && $known[0] === $meant) {
            return $known[1];
        }
        $node = self::parsed($pieces, $meant);
        self::$read[$formula] = [$meant, $node];

        return $node;
    }

    /**
     * @param  list<string|Reference>  $pieces
     * @param  list<string>  $meant  of each mention what is written for it, and its id
     *
     * @throws FormulaError
     */
    private static function parsed(array $pieces, array $meant): Node
    {
        $text = '';
        $tokens = [];
        $next = 0;
        foreach ($pieces as $i => $piece) {
            $at = strlen($text);
            if (is_string($piece)) {
                $text .= $piece;
                foreach (self::between($piece) as $token) {
                    $tokens[] =
                        $at === 0
                            ? $token
                            : new Token(
                                $token->kind,
                                $token->text,
                                $at + $token->from,
                                $token->length,
                                $token->value,
                                $token->sentence,
                                $token->called,
                            );
                }

                continue;
            }
            $written = $meant[$next];
            $text .= $written;
            $following = $pieces[$i + 1] ?? '';
            $called = is_string($following) && ($following[strspn($following, " \t\r\n_")] ?? '') === '(';
            $tokens[] =
                $written !== '' && $written[0] === '"'
                    ? new Token(
                        TokenKind::QuotedName,
                        str_replace('""', '"', substr($written, 1, -1)),
                        $at,
                        strlen($written),
                        0.0,
                        '',
                        $called,
                        $meant[$next + 1],
                    )
                    : new Token(TokenKind::Name, $written, $at, strlen($written), 0.0, '', $called, $meant[$next + 1]);
            $next += 2;
        }
        if (strlen($text) > Parser::LONGEST) {
            return Parser::parse($text);
        }
        $tokens[] = new Token(TokenKind::End, '', strlen($text), 0);

        return Parser::ofTokens($text, $tokens);
    }

    /**
     * What stands between mentions: a sign or two, mostly, and the same ones again and again.
     *
     * @return list<Token> without the end
     */
    private static function between(string $piece): array
    {
        $known = self::$between[$piece] ?? null;
        if ($known === null) {
            $known = array_slice(Lexer::tokens($piece), 0, -1);
            if (strlen($piece) < 12 && count(self::$between) < self::MOST_KNOWN) {
                self::$between[$piece] = $known;
            }
        }

        return $known;
    }
}
