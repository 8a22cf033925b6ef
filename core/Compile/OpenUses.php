<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Compile;

use MerryOrbit\Core\Formula\Node\Binary;
use MerryOrbit\Core\Formula\Node\NameUse;
use MerryOrbit\Core\Formula\Node\Negative;
use MerryOrbit\Core\Formula\Node\Node;
use MerryOrbit\Core\Formula\Operator;

/**
 * Which names make a formula's value non-finite whenever theirs is: those reached through sums, products and numerators. A
 * denominator that is no number shows as well; one that is infinite does not, but changes the value by no more than its rounding.
 */
final class OpenUses
{
    /** @return list<string> keys of names */
    public static function keys(Node $node, bool $denominators = false): array
    {
        return match (true) {
            $node instanceof NameUse => [$node->key],
            $node instanceof Negative => self::keys($node->operand, $denominators),
            $node instanceof Binary && in_array($node->operator, [Operator::Add, Operator::Subtract, Operator::Multiply], true) => [
                ...self::keys($node->left, $denominators),
                ...self::keys($node->right, $denominators),
            ],
            $node instanceof Binary && $node->operator === Operator::Divide => [
                ...self::keys($node->left, $denominators),
                ...$denominators ? self::keys($node->right, true) : [],
            ],
            default => [],
        };
    }
}
