<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Formula;

use MerryOrbit\Core\Problem\Nearest;

/** What a reader of formulas says of what it cannot read, and how to mend it. */
final class Sentences
{
    public const PICK = 'A pick names an element, or a dimension and where along it: `[north]`, `[terrace: north]`, `[age: previous; else 0]`.';

    /**
     * What to say where a name before a bracket is neither a function nor a curve.
     *
     * @param  list<string>  $curves
     */
    public static function unknown(string $written, array $curves = []): string
    {
        return "There is no function or curve called `$written`.".
            Nearest::question($written, [...array_keys(Catalogue::all()), ...$curves]).
            ' If `'.
            $written.
            '` is a name, an operator is missing before the bracket.';
    }

    public static function arguments(FunctionSpec $function, int $count): string
    {
        $wanted = match (true) {
            $function->repeats => 'at least '.$function->fewest(),
            $function->optional === 0 => (string) $function->fewest(),
            default => $function->fewest().' to '.$function->most(),
        };

        return "`{$function->name}` takes $wanted ".
            ($wanted === '1' ? 'argument' : 'arguments').
            ", and $count ".
            ($count === 1 ? 'is' : 'are').
            " given: `{$function->signature()}`.";
    }

    /**
     * @param  ?Token  $before  what stands before the token
     * @param  bool  $afterOperand  whether an operator was expected, rather than a number, a name or a bracket
     */
    public static function unexpected(string $text, Token $token, ?Token $before, bool $afterOperand = false): FormulaError
    {
        $error = static fn (string $code, string $sentence, Token $at): FormulaError => FormulaError::at(
            $code,
            $sentence,
            $text,
            $at->from,
            $at->length,
        );
        if ($token->kind === TokenKind::Stray) {
            return $error('formula.character', $token->sentence, $token);
        }
        $shown = substr($text, $token->from, $token->length);
        $other = match ($token->kind) {
            TokenKind::OpenSquare => '`[` picks elements of a thing with dimensions and stands right behind its name: `price[north]`. Group with round brackets: `( )`.',
            TokenKind::CloseSquare => 'This `]` closes a pick that was never opened. Delete it, or open it behind a name: `price[north]`.',
            TokenKind::Colon => 'Divide with `/` instead of `:`. Inside a pick `:` stands between a dimension and its element: `price[terrace: north]`.',
            TokenKind::Semicolon => 'Separate the arguments of a function with `,`. Inside a pick `;` stands before `else`: `oysters[age: previous; else 0]`.',
            default => null,
        };
        if ($other !== null) {
            return $error('formula.character', $other, $token);
        }
        if ($afterOperand) {
            return match (true) {
                $token->kind === TokenKind::Close => $error(
                    'formula.bracket',
                    'This `)` closes a bracket that was never opened. Delete it, or open the bracket before.',
                    $token,
                ),
                $token->kind === TokenKind::Comma => $error(
                    'formula.comma',
                    'A comma separates the arguments of a function; here is none. Numbers have a point, and no thousands separator: `1200.5`.',
                    $token,
                ),
                $token->kind === TokenKind::Word => $error(
                    'formula.operand',
                    "`$shown` inside arithmetic needs brackets around it: `1 + (not a)`.",
                    $token,
                ),
                $before !== null && $before->kind === TokenKind::Number && $token->kind === TokenKind::Name => $error(
                    'formula.operator',
                    "Between `{$before->text}` and `$shown` an operator is missing: perhaps `{$before->text} * $shown`. A name that starts with a digit stands in double quotes.",
                    $token,
                ),
                default => $error(
                    'formula.operator',
                    'Before `'.mb_substr($shown, 0, 40).'` an operator is missing, such as `+`, `*` or `<`.',
                    $token,
                ),
            };
        }
        if ($token->kind === TokenKind::End) {
            return $before === null
                ? $error('formula.empty', 'The formula is empty. Write what this is computed from.', $token)
                : $error(
                    'formula.ends',
                    'The formula ends too early: behind `'.
                        substr($text, $before->from, $before->length).
                        '` a number, a name or a bracket is missing.',
                    $before,
                );
        }
        if ($token->kind === TokenKind::Word && $token->text === 'not') {
            return $error('formula.operand', '`not` inside arithmetic needs brackets around it: `1 + (not a)`.', $token);
        }

        return $error('formula.operand', "A number, a name or an opening bracket is missing before `$shown`.", $token);
    }
}
