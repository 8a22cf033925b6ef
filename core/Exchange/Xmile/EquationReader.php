<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Exchange\Xmile;

use MerryOrbit\Core\Formula\Catalogue;
use MerryOrbit\Core\Formula\FormulaError;
use MerryOrbit\Core\Formula\Name;
use MerryOrbit\Core\Formula\Node\Binary;
use MerryOrbit\Core\Formula\Node\Call;
use MerryOrbit\Core\Formula\Node\CurveCall;
use MerryOrbit\Core\Formula\Node\NameUse;
use MerryOrbit\Core\Formula\Node\Negative;
use MerryOrbit\Core\Formula\Node\Node;
use MerryOrbit\Core\Formula\Node\Not;
use MerryOrbit\Core\Formula\Node\NumberLiteral;
use MerryOrbit\Core\Formula\Node\QuantityUse;
use MerryOrbit\Core\Formula\Operator;
use MerryOrbit\Core\Formula\Parser;
use MerryOrbit\Core\Formula\Quantity;

/**
 * Reads an equation of the standard into nodes of the formula language. From the tightest: brackets, `^` from the right, signs
 * and NOT, `* / MOD`, `+ -`, comparisons, equality, AND, OR; `IF … THEN … ELSE …` reaches as far as it can.
 */
final class EquationReader
{
    private const DEEPEST = 100;

    private const KINDS = ['number', 'quoted', 'name', 'sign'];

    private const TOKEN = '/\G(?:\s+|((?:\d+\.?\d*|\.\d+)(?:[eE][+-]?\d+)?)|("(?:[^"\\\\]|\\\\.)*")|([\p{L}_\x{80}-\x{10FFFF}$][\p{L}\p{M}\p{N}_$\x{80}-\x{10FFFF}]*(?:\.[\p{L}_"][\p{L}\p{M}\p{N}_$"]*)*|\.[\p{L}_][\p{L}\p{M}\p{N}_$]*)|(<>|<=|>=|[-+*\/^()<>=,\[\]:]))/u';

    /** How tightly what joins two operands binds; all of them from the left. */
    private const BINDING = [
        'or' => 1,
        'and' => 2,
        '=' => 3,
        '<>' => 3,
        '<' => 4,
        '<=' => 4,
        '>' => 4,
        '>=' => 4,
        '+' => 5,
        '-' => 5,
        '*' => 6,
        '/' => 6,
        'mod' => 6,
    ];

    /** @var list<array{string, string}> kind and text */
    private array $tokens;

    private int $at = 0;

    private int $depth = 0;

    /** @var list<string> what could not be carried over exactly */
    public array $losses = [];

    /** @var list<string> what was carried over in another way */
    public array $remarks = [];

    /**
     * @param  \Closure(string): string  $resolve  from a name as it is written to the name it has in the model
     */
    public function __construct(
        string $text,
        private readonly \Closure $resolve,
        private readonly string $self,
        private readonly MacroExpansion $macros = new MacroExpansion([]),
        private readonly Arrays $arrays = new Arrays([], []),
    ) {
        $this->tokens = self::cut($text);
    }

    /** @throws EquationRefused */
    public function read(): Node
    {
        $node = $this->expression();
        if ($this->at < count($this->tokens)) {
            throw new EquationRefused("`{$this->tokens[$this->at][1]}` has no meaning where it stands");
        }
        if ($this->arrays->isLoose($node)) {
            throw new EquationRefused('a `*` stands in a subscript where no function goes over the elements');
        }

        return $node;
    }

    /** @return list<array{string, string}> */
    private static function cut(string $text): array
    {
        $text = (string) preg_replace('/\{[^}]*\}/', ' ', $text);
        preg_match_all(self::TOKEN, $text, $found, PREG_SET_ORDER);
        $tokens = [];
        $read = 0;
        foreach ($found as $m) {
            $read += strlen($m[0]);
            // Blanks have no group; the last group that is there tells the kind.
            if (count($m) > 1) {
                $tokens[] = [self::KINDS[count($m) - 2], end($m)];
            }
            if (count($tokens) > 4_000) {
                throw new EquationRefused('it has more parts than one formula may have');
            }
        }
        if ($read < strlen($text)) {
            throw new EquationRefused('`'.mb_substr(substr($text, $read), 0, 12).'` has no meaning in an equation of the standard');
        }

        return $tokens;
    }

    private function word(): string
    {
        [$kind, $text] = $this->tokens[$this->at] ?? ['end', ''];

        return $kind === 'name' || $kind === 'sign' ? strtolower($text) : '';
    }

    private function take(string ...$words): ?string
    {
        $word = $this->word();
        if ($word === '' || ! in_array($word, $words, true)) {
            return null;
        }
        $this->at++;

        return $word;
    }

    private function expect(string $word): void
    {
        if ($this->take($word) === null) {
            throw new EquationRefused(
                "`$word` is missing".($this->at < count($this->tokens) ? " before `{$this->tokens[$this->at][1]}`" : ' at the end'),
            );
        }
    }

    private function enter(): void
    {
        if (++$this->depth > self::DEEPEST) {
            throw new EquationRefused('brackets stand more than '.self::DEEPEST.' deep within each other');
        }
    }

    private function expression(): Node
    {
        $this->enter();
        $node = $this->joined(1);
        $this->depth--;

        return $node;
    }

    /** What is joined by signs that bind at least so tightly. */
    private function joined(int $least): Node
    {
        $left = $this->signed();
        while (($binding = self::BINDING[($sign = $this->word())] ?? 0) >= $least && $binding > 0) {
            $this->at++;
            $right = $this->joined($binding + 1);
            $left = $sign === 'mod' ? self::call('mod', [$left, $right]) : new Binary(Operator::from($sign), $left, $right);
        }

        return $left;
    }

    private function signed(): Node
    {
        $sign = $this->take('-', '+', 'not');
        if ($sign === null) {
            return $this->power();
        }
        $this->enter();
        $operand = $this->signed();
        $this->depth--;

        return match ($sign) {
            '-' => new Negative($operand, 0, 0),
            'not' => new Not($operand, 0, 0),
            default => $operand,
        };
    }

    private function power(): Node
    {
        $base = $this->primary();
        if ($this->take('^') === null) {
            return $base;
        }
        $this->enter();
        $exponent = $this->signed();
        $this->depth--;

        return new Binary(Operator::Power, $base, $exponent);
    }

    private function primary(): Node
    {
        if ($this->take('if') !== null) {
            $condition = $this->expression();
            $this->expect('then');
            $then = $this->expression();
            $this->expect('else');

            return self::call('if', [$condition, $then, $this->expression()]);
        }
        if ($this->take('(') !== null) {
            $node = $this->expression();
            $this->expect(')');

            return $node;
        }
        [$kind, $text] = $this->tokens[$this->at] ?? ['end', ''];
        $this->at++;

        return match ($kind) {
            'number' => new NumberLiteral((float) $text, is_finite((float) $text) ? $text : '1e308', 0, 0),
            'quoted' => $this->mention(substr($text, 1, -1), true),
            'name' => $this->mention($text, false),
            default => throw new EquationRefused($text === '' ? 'it ends too early' : "`$text` has no meaning where it stands"),
        };
    }

    private function mention(string $written, bool $quoted): Node
    {
        $key = strtolower($written);
        $subscripts = ($this->tokens[$this->at][1] ?? '') === '[' ? $this->subscripts() : null;
        if (($this->tokens[$this->at][1] ?? '') === '(') {
            return $this->function($quoted ? '"'.$written.'"' : $written, $key);
        }
        if (! $quoted && isset(Functions::QUANTITIES[$key])) {
            return new QuantityUse(Quantity::from(Functions::QUANTITIES[$key]), 0, 0);
        }
        if (! $quoted && $key === 'inf') {
            $this->remarks[] = 'infinity became 1e300';

            return new NumberLiteral(1e300, '1e300', 0, 0);
        }
        $name = ! $quoted && $key === 'self' ? $this->self : ($this->resolve)($quoted ? '"'.$written.'"' : $written);

        $use = new NameUse(Name::key($name), $name, 0, 0);

        if ($subscripts !== null && $this->arrays->over($use->key) === []) {
            $this->losses[] = "the subscript of `$written` was left out, as it has no dimensions";
        }

        return $subscripts === null || $this->arrays->over($use->key) === [] ? $use : $this->arrays->subscripted($use, $subscripts);
    }

    /** @return list<list<array{string, string}>> the tokens of each */
    private function subscripts(): array
    {
        $this->at++;
        $items = [[]];
        while (($text = $this->tokens[$this->at][1] ?? null) !== ']') {
            if ($text === null || $text === '[') {
                throw new EquationRefused('a bracket of subscripts is not closed');
            }
            if ($text === ',') {
                $items[] = [];
            } else {
                $items[count($items) - 1][] = $this->tokens[$this->at];
            }
            $this->at++;
        }
        $this->at++;

        return $items;
    }

    private function function(string $written, string $key): Node
    {
        $this->expect('(');
        $arguments = [];
        if (($this->tokens[$this->at][1] ?? '') !== ')') {
            do {
                $arguments[] = $this->expression();
            } while ($this->take(',') !== null);
        }
        $this->expect(')');
        $count = count($arguments);
        $macro = $this->macros->of($key);
        if ($macro !== null) {
            return $this->expanded($written, $key, $macro, $arguments);
        }
        $gathered = $key === 'size' || isset(Arrays::GATHERINGS[$key]) ? $this->arrays->gathered($key, $arguments) : null;
        if ($gathered !== null) {
            return $gathered;
        }
        if (($key === 'max' || $key === 'min') && $count >= 1) {
            return $count === 1 ? $arguments[0] : self::call($key, $arguments);
        }
        if ($key === 'lookup' && $count === 2 && $arguments[0] instanceof NameUse) {
            return new CurveCall($arguments[0]->key, $arguments[0]->written, 0, $arguments[1], 0, 0);
        }
        if ($key === 'pulse' && $count === 3 && $arguments[2] instanceof NumberLiteral) {
            // No interval is a single pulse.
            return self::call('pulse', $arguments[2]->value > 0.0 ? $arguments : array_slice($arguments, 0, 2));
        }
        if (isset(Functions::READ[$key])) {
            $template =
                Functions::READ[$key][$count] ?? throw new EquationRefused('`'.strtoupper($key)."` does not take $count arguments");
            if (in_array($key, Functions::CHANCE, true)) {
                $this->remarks[] =
                    '`'.
                    strtoupper($key).
                    '` draws other numbers here, of the same distribution'.
                    ($count > 2 || ($count === 2 && in_array($key, ['exprnd', 'poisson'], true))
                        ? '; its own seed was left out for the one of the run'
                        : '');
            }

            return self::filled($template, $arguments);
        }
        if ($count === 1) {
            $name = ($this->resolve)($written);

            return new CurveCall(Name::key($name), $name, 0, $arguments[0], 0, 0);
        }
        throw new EquationRefused("`$written` is no function of the standard");
    }

    /**
     * @param  array{list<string>, string}  $macro
     * @param  list<Node>  $arguments
     */
    private function expanded(string $written, string $key, array $macro, array $arguments): Node
    {
        [$parameters, $equation] = $macro;
        if (count($parameters) !== count($arguments)) {
            throw new EquationRefused("the macro `$written` takes ".count($parameters).' arguments');
        }
        $this->enter();
        [$body, $losses, $remarks] = $this->macros->body($key, $this->self, function (MacroExpansion $within) use ($equation): array {
            $inner = new self($equation, static fn (string $name): string => $name, $this->self, $within, $this->arrays);

            return [$inner->read(), $inner->losses, $inner->remarks];
        });
        $node = Rewriting::names(
            $body,
            array_combine(array_map(static fn (string $p): string => Name::key(XmileName::tidy($p)), $parameters), $arguments),
        );
        // Each once: a macro that is used twice by one that is used twice says the same four times.
        $this->losses = array_values(array_unique([...$this->losses, ...$losses]));
        $this->remarks = array_values(array_unique([...$this->remarks, ...$remarks]));
        $this->macros->spend($node);
        $this->depth--;

        return $node;
    }

    /** @param  list<Node>  $arguments */
    private static function filled(string $template, array $arguments): Node
    {
        try {
            $node = Parser::parse((string) preg_replace('/\$(\d)/', 'argument $1', $template));
        } catch (FormulaError $e) {
            throw new \LogicException($template.': '.$e->getMessage());
        }
        $named = [];
        foreach ($arguments as $i => $argument) {
            $named['argument '.($i + 1)] = $argument;
        }

        return Rewriting::names($node, $named);
    }

    /** @param  list<Node>  $arguments */
    private static function call(string $function, array $arguments): Call
    {
        return new Call(Catalogue::all()[$function], $arguments, 0, 0);
    }
}
