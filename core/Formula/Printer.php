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

/** Writes nodes as formula text with as few brackets as the meaning allows. */
final class Printer
{
    private const NOT = 3;

    private const SIGN = 7;

    private const TIGHTEST = 10;

    public static function print(Node $node): string
    {
        return match (true) {
            $node instanceof NumberLiteral => $node->written,
            $node instanceof NameUse => Name::written($node->written),
            $node instanceof QuantityUse => $node->quantity->value,
            $node instanceof Call => $node->function->name.'('.implode(', ', array_map(self::print(...), $node->arguments)).')',
            $node instanceof CurveCall => Name::written($node->written).'('.self::print($node->argument).')',
            $node instanceof Not => 'not '.self::operand($node->operand, self::NOT),
            $node instanceof Negative => '-'.self::operand($node->operand, self::SIGN),
            $node instanceof Binary => self::binary($node),
            default => throw new \LogicException('No way to print '.$node::class),
        };
    }

    private static function binary(Binary $node): string
    {
        $binding = $node->operator->binding();
        $power = $node->operator === Operator::Power;
        // The power binds to the right and its exponent may carry a sign; comparisons bind to neither side.
        $left = self::operand($node->left, $power || $node->operator->isComparison() ? $binding + 1 : $binding);
        $right = self::operand($node->right, $power ? self::SIGN : $binding + 1);

        return $power ? "$left^$right" : "$left {$node->operator->value} $right";
    }

    private static function operand(Node $node, int $wanted): string
    {
        $text = self::print($node);

        return self::binding($node) < $wanted ? "($text)" : $text;
    }

    private static function binding(Node $node): int
    {
        return match (true) {
            $node instanceof Binary => $node->operator->binding(),
            $node instanceof Not => self::NOT,
            $node instanceof Negative => self::SIGN,
            default => self::TIGHTEST,
        };
    }
}
