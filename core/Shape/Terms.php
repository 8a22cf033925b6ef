<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Shape;

use MerryOrbit\Core\Formula\Catalogue;
use MerryOrbit\Core\Formula\Node\Binary;
use MerryOrbit\Core\Formula\Node\Call;
use MerryOrbit\Core\Formula\Node\NameUse;
use MerryOrbit\Core\Formula\Node\Node;
use MerryOrbit\Core\Formula\Node\NumberLiteral;
use MerryOrbit\Core\Formula\Operator;

/** What functions along dimensions come to, as plain arithmetic on the values of the elements, in their order. */
final class Terms
{
    /** As many arguments as one call of `min` or `max` takes. */
    private const MOST_ARGUMENTS = 100;

    /**
     * @param  list<array{Node, float}>  $terms  values and weights
     * @param  \Closure(Node): NameUse  $named  gives a value that is needed more than once a name of its own
     */
    public static function gathered(string $name, array $terms, \Closure $named): Node
    {
        $values = array_column($terms, 0);
        $n = self::number((float) count($terms));
        if ($values === [] && ! in_array($name, ['sum', 'product', 'any', 'all'], true)) {
            // Of nothing there is none: the run stops there.
            return self::over(self::number(0.0), self::number(0.0));
        }

        return match ($name) {
            'sum' => $terms === [] ? self::number(0.0) : self::weighted($terms),
            'mean' => self::mean($terms),
            'product' => $values === [] ? self::number(1.0) : self::chain(Operator::Multiply, $values),
            'least' => self::extreme('min', $values),
            'greatest' => self::extreme('max', $values),
            'any' => $values === [] ? self::number(0.0) : self::chain(Operator::Or, self::held($values)),
            'all' => $values === [] ? self::number(1.0) : self::chain(Operator::And, self::held($values)),
            default => self::deviation($values, $n, $named),
        };
    }

    /**
     * @param  list<Node>  $values
     * @param  \Closure(Node): NameUse  $named
     */
    private static function deviation(array $values, Node $n, \Closure $named): Node
    {
        $values = array_map($named, $values);
        $mean = $named(self::over(self::chain(Operator::Add, $values), $n));
        $squares = array_map(
            static fn (Node $x): Node => new Binary(Operator::Power, new Binary(Operator::Subtract, $x, $mean), self::number(2.0)),
            $values,
        );

        return self::call('sqrt', self::over(self::chain(Operator::Add, $squares), $n));
    }

    /** @param  list<Node>  $x */
    public static function rank(array $x, int $own): Node
    {
        $before = [self::number(1.0)];
        foreach ($x as $i => $other) {
            if ($i !== $own) {
                $before[] = new Binary($i < $own ? Operator::AtLeast : Operator::Greater, $other, $x[$own]);
            }
        }

        return self::chain(Operator::Add, $before);
    }

    /**
     * Higher priorities first, equals in proportion to what they want.
     *
     * @param  list<Node>  $wanted
     * @param  list<Node>  $priorities
     * @param  \Closure(Node): NameUse  $named
     */
    public static function allotted(Node $supply, array $wanted, array $priorities, int $own, \Closure $named): Node
    {
        $wanted = array_map(static fn (Node $d): Node => $named(self::call('max', $d, self::number(0.0))), $wanted);
        $before = $equal = [];
        foreach ($wanted as $i => $demand) {
            $equal[] = $i === $own ? $demand : self::when(Operator::Equal, $priorities[$i], $priorities[$own], $demand);
            if ($i !== $own) {
                $before[] = self::when(Operator::Greater, $priorities[$i], $priorities[$own], $demand);
            }
        }
        $left = $before === [] ? $supply : new Binary(Operator::Subtract, $supply, self::chain(Operator::Add, $before));
        $left = $named(self::call('max', $left, self::number(0.0)));
        $all = $named(self::chain(Operator::Add, $equal));

        return self::call(
            'if',
            new Binary(Operator::AtMost, $all, $left),
            $wanted[$own],
            self::over(new Binary(Operator::Multiply, $left, $wanted[$own]), $all),
        );
    }

    private static function when(Operator $how, Node $a, Node $b, Node $then): Call
    {
        return self::call('if', new Binary($how, $a, $b), $then, self::number(0.0));
    }

    /**
     * @param  list<Node>  $values
     * @return list<Node> as conditions
     */
    private static function held(array $values): array
    {
        return array_map(static fn (Node $x): Node => new Binary(Operator::Unequal, $x, self::number(0.0)), $values);
    }

    /** @param  list<array{Node, float}>  $terms */
    public static function mean(array $terms): Node
    {
        return self::over(self::weighted($terms), self::number(array_sum(array_column($terms, 1))));
    }

    /** @param  list<array{Node, float}>  $terms */
    private static function weighted(array $terms): Node
    {
        return self::chain(
            Operator::Add,
            array_map(
                static fn (array $t): Node => $t[1] === 1.0 ? $t[0] : new Binary(Operator::Multiply, self::number($t[1]), $t[0]),
                $terms,
            ),
        );
    }

    /** @param  list<Node>  $nodes  none are 0 */
    public static function chain(Operator $operator, array $nodes): Node
    {
        $chain = null;
        foreach ($nodes as $node) {
            $chain = $chain === null ? $node : new Binary($operator, $chain, $node);
        }

        return $chain ?? self::number(0.0);
    }

    /** @param  list<Node>  $values  at least one */
    private static function extreme(string $function, array $values): Node
    {
        if (count($values) === 1) {
            return $values[0];
        }
        $first = self::call($function, ...array_slice($values, 0, self::MOST_ARGUMENTS));
        $rest = array_slice($values, self::MOST_ARGUMENTS);

        return $rest === [] ? $first : self::extreme($function, [$first, ...$rest]);
    }

    public static function over(Node $a, Node $b): Binary
    {
        return new Binary(Operator::Divide, $a, $b);
    }

    public static function number(float $value): NumberLiteral
    {
        return NumberLiteral::of($value);
    }

    private static function call(string $function, Node ...$arguments): Call
    {
        return new Call(Catalogue::all()[$function], array_values($arguments), 0, 0);
    }
}
