<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Formula;

use MerryOrbit\Core\Formula\Node\Along;
use MerryOrbit\Core\Formula\Node\Binary;
use MerryOrbit\Core\Formula\Node\Call;
use MerryOrbit\Core\Formula\Node\Cases;
use MerryOrbit\Core\Formula\Node\CurveCall;
use MerryOrbit\Core\Formula\Node\NameUse;
use MerryOrbit\Core\Formula\Node\Negative;
use MerryOrbit\Core\Formula\Node\Node;
use MerryOrbit\Core\Formula\Node\Not;
use MerryOrbit\Core\Formula\Node\NumberLiteral;
use MerryOrbit\Core\Formula\Node\Pick;
use MerryOrbit\Core\Formula\Node\PickStep;
use MerryOrbit\Core\Formula\Node\QuantityUse;

/** Writes nodes as mathematics in LaTeX. */
final readonly class Latex
{
    private const COMPARISONS = [
        '<' => '<',
        '<=' => '\\le',
        '>' => '>',
        '>=' => '\\ge',
        '=' => '=',
        '<>' => '\\ne',
        '!=' => '\\ne',
        'and' => '\\wedge',
        'or' => '\\vee',
    ];

    private const KNOWN = ['sin', 'cos', 'tan', 'sinh', 'cosh', 'tanh', 'ln', 'min', 'max'];

    /** @param  array<string, string>  $symbols  by the key that names have; what has none is written by its name */
    public function __construct(private array $symbols = [])
    {
    }

    public function print(Node $node): string
    {
        return match (true) {
            $node instanceof NumberLiteral => self::number($node->written),
            $node instanceof NameUse => $this->mention($node->key, $node->written),
            $node instanceof QuantityUse => match ($node->quantity) {
                Quantity::Time => 't',
                Quantity::TimeStep => '\\Delta t',
                Quantity::StartTime => 't_0',
                Quantity::EndTime => 't_1',
                Quantity::Pi => '\\pi',
            },
            $node instanceof Negative => '-'.$this->operand($node->operand, 7),
            $node instanceof Not => '\\neg '.$this->operand($node->operand, 7),
            $node instanceof CurveCall => $this->mention($node->key, $node->written).self::bracketed($this->print($node->argument)),
            $node instanceof Along => self::name($node->written),
            $node instanceof Cases => $this->cases($node),
            $node instanceof Pick => $this->pick($node),
            $node instanceof Binary => $this->binary($node),
            $node instanceof Call => $this->call($node),
            default => throw new \LogicException('No way to print '.$node::class),
        };
    }

    private function cases(Cases $node): string
    {
        $lines = [];
        foreach ($node->exceptions as $i => $exception) {
            $lines[] = $this->print($exception).' & '.self::name($node->words[$i]);
        }
        $lines[] = $this->print($node->main).' & '.self::name('else');

        return '\\begin{cases} '.implode(' \\\\ ', $lines).' \\end{cases}';
    }

    /** An element by its symbol, else by its name. */
    public function mention(string $key, string $name): string
    {
        return ($this->symbols[$key] ?? '') === '' ? self::name($name) : '{'.$this->symbols[$key].'}';
    }

    /** A name as upright text. */
    public static function name(string $name): string
    {
        return '\\text{'.
            strtr(trim($name, '"'), [
                '\\' => '\\textbackslash{}',
                '{' => '\\{',
                '}' => '\\}',
                '#' => '\\#',
                '$' => '\\$',
                '%' => '\\%',
                '&' => '\\&',
                '_' => '\\_',
                '~' => '\\textasciitilde{}',
                '^' => '\\textasciicircum{}',
            ]).
            '}';
    }

    private static function number(string $written): string
    {
        if (preg_match('/^([\d.]+)[eE]([+-]?\d+)$/D', $written, $m) === 1) {
            return "$m[1] \\cdot 10^{".(int) $m[2].'}';
        }

        return str_replace('%', '\\%', $written);
    }

    private static function bracketed(string $text): string
    {
        return "\\left($text\\right)";
    }

    /** What is picked stands below; what holds over the edge has no sign in mathematics and is written out. */
    private function pick(Pick $node): string
    {
        $steps = array_map(
            static fn (PickStep $s): string => self::name(
                ($s->dimension === null ? '' : "$s->dimension: ").$s->what.($s->isMove && $s->by !== 1 ? " $s->by" : ''),
            ),
            $node->steps,
        );
        $picked = $this->print($node->of).'_{'.implode(',\,', $steps).'}';

        return $node->otherwise === null ? $picked : "\\left($picked\\;\\text{else}\\;".$this->print($node->otherwise).'\\right)';
    }

    private function binary(Binary $node): string
    {
        $left = $node->left;
        $right = $node->right;
        $binding = $node->operator->binding();

        return match ($node->operator) {
            Operator::Divide => '\\frac{'.$this->print($left).'}{'.$this->print($right).'}',
            Operator::Power => ($left instanceof NumberLiteral || $left instanceof NameUse
                ? $this->print($left)
                : self::bracketed($this->print($left))).
                '^{'.
                $this->print($right).
                '}',
            Operator::Multiply => $this->operand($left, $binding).' \\cdot '.$this->operand($right, $binding),
            Operator::Add => $this->operand($left, $binding).' + '.$this->operand($right, $binding),
            Operator::Subtract => $this->operand($left, $binding).' - '.$this->operand($right, $binding + 1),
            default => $this->operand($left, $binding).
                ' '.
                self::COMPARISONS[$node->operator->value].
                ' '.
                $this->operand($right, $binding + 1),
        };
    }

    private function operand(Node $node, int $wanted): string
    {
        // A fraction and a power hold together by the way they are set.
        $apart =
            ($node instanceof Binary &&
                $node->operator !== Operator::Divide &&
                $node->operator !== Operator::Power &&
                $node->operator->binding() < $wanted) ||
            $node instanceof Negative;

        return $apart ? self::bracketed($this->print($node)) : $this->print($node);
    }

    private function call(Call $node): string
    {
        $name = $node->function->name;
        $parts = array_map($this->print(...), $node->arguments);

        return match (true) {
            $name === 'sqrt' => "\\sqrt{{$parts[0]}}",
            $name === 'abs' => "\\left|$parts[0]\\right|",
            $name === 'exp' => "e^{{$parts[0]}}",
            $name === 'if' => "\\begin{cases} $parts[1] & \\text{if } $parts[0] \\\\ $parts[2] & \\text{otherwise} \\end{cases}",
            in_array($name, self::KNOWN, true) => "\\$name".self::bracketed(implode(',\\, ', $parts)),
            default => '\\operatorname{'.$name.'}'.self::bracketed(implode(',\\, ', $parts)),
        };
    }
}
