<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Shape;

use MerryOrbit\Core\Formula\Catalogue;
use MerryOrbit\Core\Formula\Nature;
use MerryOrbit\Core\Formula\Node\Along;
use MerryOrbit\Core\Formula\Node\Binary;
use MerryOrbit\Core\Formula\Node\Call;
use MerryOrbit\Core\Formula\Node\Cases;
use MerryOrbit\Core\Formula\Node\CurveCall;
use MerryOrbit\Core\Formula\Node\NameUse;
use MerryOrbit\Core\Formula\Node\Node;
use MerryOrbit\Core\Formula\Node\Pick;
use MerryOrbit\Core\Formula\Operator;

/**
 * Takes gatherings out of formulas: `x / sum(x, pool)` over all pools needs its sum once, not once for each of them. What lies in a
 * branch that may not be taken stays there if it could meet a fault.
 */
final class Lifting
{
    /** What gives a value for every element along the dimension, looking at all of them. */
    private const AMONG = ['rank', 'cumulate', 'allocate'];

    /** What cannot fail, whatever its arguments are. */
    private const SAFE = [
        'min',
        'max',
        'abs',
        'sign',
        'if',
        'clamp',
        'between',
        'sum',
        'product',
        'any',
        'all',
        'rank',
        'cumulate',
        'count',
        'position',
        'number',
        'is',
    ];

    /** @var array<string, Lifted> by key, each after those that it needs */
    public array $lifted = [];

    /** @param  Extents  $extents  gets to know over what the lifted ones extend */
    public function __construct(private readonly Extents $extents)
    {
    }

    /** Whether it looks along dimensions for every one of their elements, so that it is never computed in place. */
    public static function isAmong(Call $node): bool
    {
        return in_array($node->function->name, self::AMONG, true);
    }

    /**
     * What can be said of no element without looking whether a branch is taken: a look among all elements that could fail there.
     *
     * @param  list<string>  $extent
     */
    public static function refuses(Extents $extents, Node $node, array $extent): bool
    {
        $lifting = new self(clone $extents);
        $lifting->of($node, $extent);

        return $lifting->isRefused;
    }

    private bool $isRefused = false;

    /**
     * The formula with names for what was lifted.
     *
     * @param  list<string>  $extent  over what the formula is computed
     */
    public function of(Node $node, array $extent): Node
    {
        return $this->lift($node, $extent, false, false);
    }

    /**
     * @param  list<string>  $extent
     * @param  bool  $lazy  whether it may not be computed
     * @param  bool  $chosen  whether it lies in a `choose`
     */
    private function lift(Node $node, array $extent, bool $lazy, bool $chosen): Node
    {
        if ($node instanceof Call && $node->function->nature === Nature::Along) {
            return $this->along($node, $extent, $lazy, $chosen);
        }
        $parts = [];
        foreach ($node->parts() as $i => $part) {
            $isBranch = match (true) {
                $node instanceof Cases => true,
                $node instanceof Pick => $i > 0,
                $node instanceof Call => match ($node->function->name) {
                    'if', 'choose' => $i > 0,
                    'divide' => $i !== 1,
                    default => false,
                },
                $node instanceof Binary => $i > 0 && in_array($node->operator, [Operator::And, Operator::Or], true),
                default => false,
            };
            $isChosen = $chosen || ($isBranch && $node instanceof Call && $node->function->name === 'choose');
            $parts[] = $this->lift($part, $extent, $lazy || $isBranch, $isChosen);
        }

        return $parts === $node->parts() ? $node : $node->with($parts);
    }

    /** @param  list<string>  $extent */
    private function along(Call $node, array $extent, bool $lazy, bool $chosen): Node
    {
        $values = array_values(array_filter($node->arguments, static fn (Node $a): bool => ! ($a instanceof Along)));
        if ($values === []) {
            return $node;
        }
        if ($node->function->name === 'share') {
            $sum = new Call(Catalogue::all()['sum'], $this->named($node), $node->from, $node->length);

            return $this->lift(new Binary(Operator::Divide, $values[0], $sum), $extent, $lazy, $chosen);
        }
        $own = $this->extents->of($node);
        $base = [];
        foreach ($values as $value) {
            $base = $this->extents->union($base, $this->extents->of($value), $node);
        }
        $isExact = ! $lazy && array_diff($own, $extent) === [];
        $parts = array_map(fn (Node $p): Node => $this->lift($p, $base, ! $isExact, $chosen), $node->arguments);
        $node = new Call($node->function, $parts, $node->from, $node->length);
        $isSafe = $isExact || self::isSafe($node);
        if (! $isSafe && ! self::isAmong($node) && ! $chosen) {
            return $node;
        }
        $this->isRefused = $this->isRefused || ! $isSafe;
        $key = 'along '.hash('xxh128', serialize($node));
        $this->lifted[$key] ??= new Lifted($key, $node);
        $this->extents->known[$key] = $own;

        return new NameUse($key, $key, $node->from, $node->length);
    }

    /**
     * The arguments with the dimension named, which a sum would otherwise take all of.
     *
     * @return list<Node>
     */
    private function named(Call $node): array
    {
        $base = $this->extents->of($node->arguments[0]);
        $bound = $this->extents->bound($node, $base);

        return [$node->arguments[0], new Along($bound[0]->dimension, $bound[0]->dimension, $node->from, $node->length)];
    }

    private static function isSafe(Node $node): bool
    {
        foreach ($node->all() as $part) {
            if (
                ($part instanceof Pick && $part->otherwise === null) ||
                $part instanceof CurveCall ||
                $part instanceof Cases ||
                ($part instanceof Call && ! in_array($part->function->name, self::SAFE, true)) ||
                ($part instanceof Binary && in_array($part->operator, [Operator::Divide, Operator::Power], true))
            ) {
                return false;
            }
        }

        return true;
    }
}
