<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Exchange\Xmile;

use MerryOrbit\Core\Formula\Name;
use MerryOrbit\Core\Formula\Node\Binary;
use MerryOrbit\Core\Formula\Node\Call;
use MerryOrbit\Core\Formula\Node\Cases;
use MerryOrbit\Core\Formula\Node\CurveCall;
use MerryOrbit\Core\Formula\Node\NameUse;
use MerryOrbit\Core\Formula\Node\Negative;
use MerryOrbit\Core\Formula\Node\Node;
use MerryOrbit\Core\Formula\Node\Not;
use MerryOrbit\Core\Formula\Node\Pick;
use MerryOrbit\Core\Formula\Operator;

/** Puts other things in the place of names in a formula. */
final class Rewriting
{
    /** @param  array<string, Node>  $by  nodes that take the place of names, by key */
    public static function names(Node $node, array $by): Node
    {
        return self::all($node, $by, []);
    }

    /** @param  array<string, string>  $by  new names of curves, by key */
    public static function curves(Node $node, array $by): Node
    {
        return self::all($node, [], $by);
    }

    /** @param  non-empty-list<Node>  $factors */
    public static function product(array $factors): Node
    {
        $product = array_shift($factors);
        foreach ($factors as $factor) {
            $product = new Binary(Operator::Multiply, $product, $factor);
        }

        return $product;
    }

    /**
     * @param  array<string, Node>  $names
     * @param  array<string, string>  $curves
     */
    private static function all(Node $node, array $names, array $curves): Node
    {
        $again = static fn (Node $n): Node => self::all($n, $names, $curves);

        return match (true) {
            $node instanceof NameUse => $names[$node->key] ?? $node,
            $node instanceof Negative => new Negative($again($node->operand), 0, 0),
            $node instanceof Not => new Not($again($node->operand), 0, 0),
            $node instanceof Binary => new Binary($node->operator, $again($node->left), $again($node->right)),
            $node instanceof CurveCall => new CurveCall(
                Name::key($curves[$node->key] ?? $node->key),
                $curves[$node->key] ?? $node->written,
                0,
                $again($node->argument),
                0,
                0,
            ),
            $node instanceof Cases => new Cases($again($node->main), array_map($again, $node->exceptions), $node->regions, $node->words),
            $node instanceof Pick => new Pick(
                $again($node->of) instanceof NameUse ? $again($node->of) : $node->of,
                $node->steps,
                $node->otherwise === null ? null : $again($node->otherwise),
                0,
                0,
            ),
            $node instanceof Call => new Call($node->function, array_map($again, $node->arguments), 0, 0),
            default => $node,
        };
    }
}
