<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Formula;

use MerryOrbit\Core\Formula\Node\Along;
use MerryOrbit\Core\Formula\Node\Binary;
use MerryOrbit\Core\Formula\Node\Call;
use MerryOrbit\Core\Formula\Node\CurveCall;
use MerryOrbit\Core\Formula\Node\NameUse;
use MerryOrbit\Core\Formula\Node\Negative;
use MerryOrbit\Core\Formula\Node\Node;
use MerryOrbit\Core\Formula\Node\Not;
use MerryOrbit\Core\Formula\Node\NumberLiteral;
use MerryOrbit\Core\Formula\Node\Pick;
use MerryOrbit\Core\Formula\Node\PickStep;
use MerryOrbit\Core\Formula\Node\QuantityUse;

/** Reads formula text into nodes by recursive descent, one method for each level of binding. */
final class Parser
{
    public const LONGEST = 20_000;

    /** Brackets, calls and signs within each other. */
    private const DEEPEST = 100;

    /** Operators in a row; bounds the depth of the tree, which later phases walk recursively. */
    public const MOST_TOKENS = 4_000;

    /** How many formulas are remembered, so that an edit of one in a large model reads only that one again. */
    private const MOST_KNOWN = 6_000;

    private const ARITHMETIC = ['+' => 5, '-' => 5, '*' => 6, '/' => 6];

    private const COMPARISONS = ['=' => 1, '<>' => 1, '<' => 1, '<=' => 1, '>' => 1, '>=' => 1];

    /** @var array<string, Node> by text */
    private static array $known = [];

    private int $index = 0;

    private int $depth = 0;

    /** @param  list<Token>  $tokens */
    private function __construct(private readonly string $text, private readonly array $tokens)
    {
    }

    /** @throws FormulaError with a sentence and a position */
    public static function parse(string $text): Node
    {
        if (isset(self::$known[$text])) {
            return self::$known[$text];
        }
        if (strlen($text) > self::LONGEST) {
            throw FormulaError::at(
                'formula.long',
                'This formula has more than '.number_format(self::LONGEST).' characters. Split it into auxiliaries.',
                $text,
                0,
                1,
            );
        }
        $node = self::ofTokens($text, Lexer::tokens($text));
        if (count(self::$known) >= self::MOST_KNOWN) {
            self::$known = [];
        }

        return self::$known[$text] = $node;
    }

    /**
     * @param  list<Token>  $tokens  of the text; those that bring an id are read as mentions of it
     *
     * @throws FormulaError with a sentence and a position
     */
    public static function ofTokens(string $text, array $tokens): Node
    {
        if (count($tokens) > self::MOST_TOKENS) {
            throw FormulaError::at(
                'formula.long',
                'This formula has more than '.number_format(self::MOST_TOKENS).' parts. Split it into auxiliaries.',
                $text,
                0,
                1,
            );
        }
        $parser = new self($text, $tokens);
        $node = $parser->choice();
        $parser->expectEnd();

        return $node;
    }

    private function choice(): Node
    {
        $left = $this->both();
        while ($this->takeWord('or')) {
            $left = new Binary(Operator::Or, $left, $this->both());
        }

        return $left;
    }

    private function both(): Node
    {
        $left = $this->negation();
        while ($this->takeWord('and')) {
            $left = new Binary(Operator::And, $left, $this->negation());
        }

        return $left;
    }

    private function negation(): Node
    {
        $start = $this->token();
        if (! $this->takeWord('not')) {
            return $this->comparison();
        }
        $this->enter();
        $operand = $this->negation();
        $this->depth--;

        return new Not($operand, $start->from, $operand->from + $operand->length - $start->from);
    }

    private function comparison(): Node
    {
        $left = $this->arithmetic();
        $token = $this->tokens[$this->index];
        if ($token->kind !== TokenKind::Operator || ! isset(self::COMPARISONS[$token->text])) {
            return $left;
        }
        $this->index++;
        $node = new Binary(Operator::from($token->text), $left, $this->arithmetic());
        $next = $this->token();
        if ($next->kind === TokenKind::Operator && Operator::from($next->text)->isComparison()) {
            throw $this->error('formula.chain', 'Only two things can be compared at a time. Write `a < b and b < c`.', $next);
        }

        return $node;
    }

    /** Sums and products, from the left. */
    private function arithmetic(int $least = 5): Node
    {
        $left = $this->signed();
        while (true) {
            $token = $this->tokens[$this->index];
            $binding = $token->kind === TokenKind::Operator ? self::ARITHMETIC[$token->text] ?? 0 : 0;
            if ($binding < $least) {
                return $left;
            }
            $this->index++;
            $left = new Binary(Operator::from($token->text), $left, $binding === 6 ? $this->signed() : $this->arithmetic(6));
        }
    }

    private function signed(): Node
    {
        $start = $this->tokens[$this->index];
        if ($start->kind !== TokenKind::Operator || ($start->text !== '-' && $start->text !== '+')) {
            return $this->power();
        }
        $this->index++;
        $this->enter();
        $operand = $this->signed();
        $this->depth--;

        return $start->text === '+' ? $operand : new Negative($operand, $start->from, $operand->from + $operand->length - $start->from);
    }

    private function power(): Node
    {
        $base = $this->primary();
        $token = $this->tokens[$this->index];
        if ($token->kind !== TokenKind::Operator || $token->text !== '^') {
            return $base;
        }
        $this->index++;
        $this->enter();
        $exponent = $this->signed();
        $this->depth--;

        return new Binary(Operator::Power, $base, $exponent);
    }

    private function primary(): Node
    {
        $token = $this->token();
        switch ($token->kind) {
            case TokenKind::Number:
                $this->index++;

                return new NumberLiteral($token->value, $token->text, $token->from, $token->length);
            case TokenKind::Name:
            case TokenKind::QuotedName:
                return $token->called ? $this->call($token) : $this->picked($this->name($token));
            case TokenKind::Open:
                $this->index++;
                $this->enter();
                $inner = $this->choice();
                $this->depth--;
                $this->expectClose($token);

                return $inner;
            default:
                throw $this->unexpected($token);
        }
    }

    private function name(Token $token): Node
    {
        $this->index++;
        if ($token->id !== null) {
            return new NameUse($token->id, $token->text, $token->from, $token->length);
        }
        $key = Name::key($token->text);
        if ($token->kind === TokenKind::Name) {
            $quantity = Quantity::tryFrom($key);
            if ($quantity !== null) {
                return new QuantityUse($quantity, $token->from, $token->length);
            }
            if (Catalogue::isTaken($key) && ($function = Catalogue::find($key)) !== null) {
                throw $this->error(
                    'function.bare',
                    "`{$function->name}` is a function and needs its arguments: `{$function->signature()}`. A thing of the model with this name stands in double quotes.",
                    $token,
                );
            }
        }

        return new NameUse($key, $token->text, $token->from, $token->length);
    }

    /** What may stand behind a name in square brackets. */
    private function picked(Node $node): Node
    {
        $open = $this->token();
        if ($open->kind !== TokenKind::OpenSquare || ! ($node instanceof NameUse)) {
            return $node;
        }
        $this->index++;
        $this->enter();
        $steps = [];
        do {
            $steps[] = $this->step();
        } while ($this->takeComma());
        $otherwise = null;
        if ($this->token()->kind === TokenKind::Semicolon) {
            $this->index++;
            if (! $this->takeWord('else')) {
                throw $this->error('pick.else', 'Behind `;` stands what holds over the edge: `[age: previous; else 0]`.', $this->token());
            }
            $otherwise = $this->choice();
        }
        $this->depth--;
        $close = $this->token();
        if ($close->kind !== TokenKind::CloseSquare) {
            throw $close->kind === TokenKind::End
                ? $this->error('formula.bracket', 'The `[` that opens here is not closed. Put a `]` where the pick should end.', $open)
                : $this->error('pick.unreadable', Sentences::PICK, $close);
        }
        $this->index++;

        return new Pick($node, $steps, $otherwise, $node->from, $close->from + 1 - $node->from);
    }

    private function step(): PickStep
    {
        $first = $this->word();
        if ($this->token()->kind !== TokenKind::Colon) {
            return self::stepTo(null, $first, $first->from);
        }
        $this->index++;

        return self::stepTo(Name::key($first->text), $this->word(), $first->from);
    }

    /** Where one goes: a move along the order, else an element, a dimension or a mapping. */
    private static function stepTo(?string $dimension, Token $to, int $from): PickStep
    {
        $length = $to->from + $to->length - $from;
        $key = Name::key($to->text);
        if ($to->kind === TokenKind::Name && preg_match('/^(previous|next|first|last)(?: (\d{1,6}))?$/D', $key, $m) === 1) {
            $isFar = isset($m[2]) && ($m[1] === 'previous' || $m[1] === 'next');
            if ($isFar || ! isset($m[2])) {
                return new PickStep($dimension, $m[1], $to->text, true, $isFar ? (int) $m[2] : 1, $from, $length);
            }
        }

        return new PickStep($dimension, $key, $to->text, false, null, $from, $length);
    }

    /** A name or a number, as one of a pick. */
    private function word(): Token
    {
        $token = $this->token();
        if (in_array($token->kind, [TokenKind::Name, TokenKind::QuotedName, TokenKind::Number], true)) {
            $this->index++;

            return $token;
        }
        $next = $this->tokens[$this->index + 1] ?? $token;
        if ($token->kind === TokenKind::Operator && $token->text === '-' && $next->kind === TokenKind::Number) {
            $this->index += 2;

            return new Token(TokenKind::Number, "-$next->text", $token->from, $next->from + $next->length - $token->from, -$next->value);
        }
        throw $this->error('pick.unreadable', Sentences::PICK, $token);
    }

    /** A dimension, a mapping or an element as the argument of a function. */
    private function along(): Along
    {
        $token = $this->word();

        return new Along(Name::key($token->text), $token->text, $token->from, $token->length);
    }

    private function call(Token $token): Node
    {
        $function = $token->kind === TokenKind::Name && $token->id === null ? Catalogue::find(Name::key($token->text)) : null;
        $this->index++;
        $open = $this->token();
        $this->index++;
        $this->enter();
        $arguments = [];
        if ($this->token()->kind !== TokenKind::Close) {
            do {
                $arguments[] = $function?->takesDimension(count($arguments)) ? $this->along() : $this->choice();
            } while ($this->takeComma());
        }
        $this->depth--;
        $close = $this->expectClose($open);
        $count = count($arguments);
        if ($function === null) {
            // Whether the model has such a curve is not known here.
            if ($count !== 1) {
                throw FormulaError::at(
                    'function.unknown',
                    Sentences::unknown($token->text).' A curve takes one argument.',
                    $this->text,
                    $token->from,
                    $token->length,
                );
            }

            return new CurveCall(
                $token->id ?? Name::key($token->text),
                $token->text,
                $token->length,
                $arguments[0],
                $token->from,
                $close->from + 1 - $token->from,
            );
        }
        if ($count < $function->fewest() || $count > $function->most()) {
            throw FormulaError::at(
                'function.arguments',
                Sentences::arguments($function, $count),
                $this->text,
                $token->from,
                $close->from + 1 - $token->from,
            );
        }

        $length = $close->from + 1 - $token->from;
        if ($function->name === 'count' && $count === 2) {
            // How many it holds for is the sum of a 1 for each of them.
            [$known, $one, $none] = [Catalogue::all(), NumberLiteral::of(1.0), NumberLiteral::of(0.0)];
            $arguments = [new Call($known['if'], [$arguments[1], $one, $none], $token->from, $length), $arguments[0]];
            $function = $known['sum'];
        }

        return new Call($function, $arguments, $token->from, $length);
    }

    private function enter(): void
    {
        if (++$this->depth > self::DEEPEST) {
            throw $this->error(
                'formula.deep',
                'Brackets and signs stand more than '.
                    self::DEEPEST.
                    ' deep within each other here. Split the formula into auxiliaries.',
                $this->token(),
            );
        }
    }

    private function token(): Token
    {
        return $this->tokens[$this->index];
    }

    private function takeWord(string $word): bool
    {
        $token = $this->token();
        if ($token->kind !== TokenKind::Word || $token->text !== $word) {
            return false;
        }
        $this->index++;

        return true;
    }

    private function takeComma(): bool
    {
        if ($this->token()->kind !== TokenKind::Comma) {
            return false;
        }
        $this->index++;

        return true;
    }

    private function expectClose(Token $open): Token
    {
        $token = $this->token();
        if ($token->kind === TokenKind::Close) {
            $this->index++;

            return $token;
        }
        if ($token->kind === TokenKind::End) {
            throw $this->error('formula.bracket', 'The bracket that opens here is not closed. Put a `)` where it should end.', $open);
        }
        throw $this->unexpected($token, afterOperand: true);
    }

    private function expectEnd(): void
    {
        $token = $this->token();
        if ($token->kind !== TokenKind::End) {
            throw $this->unexpected($token, afterOperand: true);
        }
    }

    private function unexpected(Token $token, bool $afterOperand = false): FormulaError
    {
        return Sentences::unexpected($this->text, $token, $this->tokens[$this->index - 1] ?? null, $afterOperand);
    }

    private function error(string $code, string $sentence, Token $token): FormulaError
    {
        return FormulaError::at($code, $sentence, $this->text, $token->from, $token->length);
    }
}
