<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Formula;

use MerryOrbit\Core\Formula\Node\Binary;
use MerryOrbit\Core\Formula\Node\Call;
use MerryOrbit\Core\Formula\Node\CurveCall;
use MerryOrbit\Core\Formula\Node\NameUse;
use MerryOrbit\Core\Formula\Node\Negative;
use MerryOrbit\Core\Formula\Node\Node;
use MerryOrbit\Core\Formula\Node\Not;
use MerryOrbit\Core\Formula\Node\NumberLiteral;
use MerryOrbit\Core\Formula\Node\QuantityUse;

/** Writes nodes as mathematics in LaTeX. */
final class Latex
{
    private const COMPARISONS = ['<' => '<', '<=' => '\\le', '>' => '>', '>=' => '\\ge', '=' => '=', '<>' => '\\ne', '!=' => '\\ne', 'and' => '\\wedge', 'or' => '\\vee'];

    private const KNOWN = ['sin', 'cos', 'tan', 'sinh', 'cosh', 'tanh', 'ln', 'min', 'max'];

    public static function print(Node $node): string
    {
        return match (true) {
            $node instanceof NumberLiteral => self::number($node->written),
            $node instanceof NameUse => self::name($node->written),
            $node instanceof QuantityUse => match ($node->quantity) {
                Quantity::Time => 't',
                Quantity::TimeStep => '\\Delta t',
                Quantity::StartTime => 't_0',
                Quantity::EndTime => 't_1',
                Quantity::Pi => '\\pi',
            },
            $node instanceof Negative => '-'.self::operand($node->operand, 7),
            $node instanceof Not => '\\neg '.self::operand($node->operand, 7),
            $node instanceof CurveCall => self::name($node->written).self::bracketed(self::print($node->argument)),
            $node instanceof Binary => self::binary($node),
            $node instanceof Call => self::call($node),
            default => throw new \LogicException('No way to print '.$node::class),
        };
    }

    /** A name as upright text. */
    public static function name(string $name): string
    {
        return '\\text{'.strtr(trim($name, '"'), ['\\' => '\\textbackslash{}', '{' => '\\{', '}' => '\\}', '#' => '\\#', '$' => '\\$', '%' => '\\%', '&' => '\\&', '_' => '\\_', '~' => '\\textasciitilde{}', '^' => '\\textasciicircum{}']).'}';
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

    private static function binary(Binary $node): string
    {
        $left = $node->left;
        $right = $node->right;
        $binding = $node->operator->binding();

        return match ($node->operator) {
            Operator::Divide => '\\frac{'.self::print($left).'}{'.self::print($right).'}',
            Operator::Power => ($left instanceof NumberLiteral || $left instanceof NameUse ? self::print($left) : self::bracketed(self::print($left))).'^{'.self::print($right).'}',
            Operator::Multiply => self::operand($left, $binding).' \\cdot '.self::operand($right, $binding),
            Operator::Add => self::operand($left, $binding).' + '.self::operand($right, $binding),
            Operator::Subtract => self::operand($left, $binding).' - '.self::operand($right, $binding + 1),
            default => self::operand($left, $binding).' '.self::COMPARISONS[$node->operator->value].' '.self::operand($right, $binding + 1),
        };
    }

    private static function operand(Node $node, int $wanted): string
    {
        // A fraction and a power hold together by the way they are set.
        $apart = ($node instanceof Binary && $node->operator !== Operator::Divide && $node->operator !== Operator::Power && $node->operator->binding() < $wanted) || $node instanceof Negative;

        return $apart ? self::bracketed(self::print($node)) : self::print($node);
    }

    private static function call(Call $node): string
    {
        $name = $node->function->name;
        $parts = array_map(self::print(...), $node->arguments);

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
