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
            $node instanceof CurveCall => (Catalogue::find(Name::key($node->written)) === null
                ? Name::written($node->written)
                : Name::quoted($node->written)).'('.self::print($node->argument).')',
            $node instanceof Along => self::word($node->written),
            $node instanceof Cases => self::print($node->main),
            $node instanceof Pick => self::pick($node),
            $node instanceof Not => 'not '.self::operand($node->operand, self::NOT),
            $node instanceof Negative => '-'.self::operand($node->operand, self::SIGN),
            $node instanceof Binary => self::binary($node),
            default => throw new \LogicException('No way to print '.$node::class),
        };
    }

    private static function pick(Pick $node): string
    {
        $steps = array_map(self::step(...), $node->steps);
        $otherwise = $node->otherwise === null ? '' : '; else '.self::print($node->otherwise);

        return self::print($node->of).'['.implode(', ', $steps).$otherwise.']';
    }

    /** One pick as it stands in its bracket. */
    public static function step(PickStep $step): string
    {
        // An element that is called like a move stands in quotes.
        $looksLikeMove = preg_match('/^(?:previous|next|first|last)(?: \d+)?$/D', $step->what) === 1;
        $what = match (true) {
            $step->isMove => $step->what.($step->by === 1 ? '' : " $step->by"),
            $looksLikeMove => Name::quoted($step->written),
            default => self::word($step->written),
        };

        return $step->dimension === null ? $what : self::word($step->dimension).": $what";
    }

    /** A dimension or an element: also one that is a number. */
    private static function word(string $written): string
    {
        return preg_match('/^-?\d+(?:\.\d+)?$/D', $written) === 1 ? $written : Name::written($written);
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
