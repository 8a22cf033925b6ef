<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Compile;

use MerryOrbit\Core\Formula\Node\Binary;
use MerryOrbit\Core\Formula\Node\NameUse;
use MerryOrbit\Core\Formula\Node\Negative;
use MerryOrbit\Core\Formula\Node\Node;
use MerryOrbit\Core\Formula\Operator;

/** Which names make a formula's value non-finite whenever theirs is: those reached through sums, products and numerators. */
final class OpenUses
{
    /** @return list<string> keys of names */
    public static function keys(Node $node): array
    {
        return match (true) {
            $node instanceof NameUse => [$node->key],
            $node instanceof Negative => self::keys($node->operand),
            $node instanceof Binary && in_array($node->operator, [Operator::Add, Operator::Subtract, Operator::Multiply], true) => [...self::keys($node->left), ...self::keys($node->right)],
            $node instanceof Binary && $node->operator === Operator::Divide => self::keys($node->left),
            default => [],
        };
    }
}
