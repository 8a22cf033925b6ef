<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Exchange\Xmile;

use MerryOrbit\Core\Formula\Name;
use MerryOrbit\Core\Formula\Node\Binary;
use MerryOrbit\Core\Formula\Node\Call;
use MerryOrbit\Core\Formula\Node\CurveCall;
use MerryOrbit\Core\Formula\Node\Negative;
use MerryOrbit\Core\Formula\Node\Node;
use MerryOrbit\Core\Formula\Node\Not;

/** Gives curves in a formula other names. */
final class CurveNames
{
    /** @param  array<string, string>  $by  new names by key */
    public static function replaced(Node $node, array $by): Node
    {
        $all = static fn (Node $n): Node => self::replaced($n, $by);

        return match (true) {
            $node instanceof Negative => new Negative($all($node->operand), 0, 0),
            $node instanceof Not => new Not($all($node->operand), 0, 0),
            $node instanceof Binary => new Binary($node->operator, $all($node->left), $all($node->right)),
            $node instanceof CurveCall => new CurveCall(Name::key($by[$node->key] ?? $node->key), $by[$node->key] ?? $node->written, 0, $all($node->argument), 0, 0),
            $node instanceof Call => new Call($node->function, array_map($all, $node->arguments), 0, 0),
            default => $node,
        };
    }
}
