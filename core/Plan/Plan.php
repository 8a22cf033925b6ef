<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Plan;

use MerryOrbit\Core\Formula\Node\NameUse;
use MerryOrbit\Core\Formula\Node\Node;
use MerryOrbit\Core\Model\Relation;

/**
 * What a run computes, in order. Functions with a memory have become hidden states, equations and cells, so that every
 * formula left is a plain expression; names in them are keys: an element's id, or that with a number for a hidden part.
 */
final readonly class Plan
{
    /**
     * @param  list<string>  $parameters  ids, and keys of the numbers of grips
     * @param  array<string, State>  $states  stocks first
     * @param  array<string, Equation>  $equations  each after what it uses; constant ones too
     * @param  array<string, Cell>  $cells
     * @param  array<string, Node>  $starts  what has to be known at the start, each after what it uses
     * @param  array<string, true>  $constants  keys of the equations that stay the same during a run
     * @param  array<string, Relation>  $curves  by id
     * @param  array<string, int>  $limited  stocks that never go below zero, transit stocks among them, upstream ones first; those of one circle share a number
     * @param  array<string, Transit>  $transits  by stock
     * @param  list<array{string, Node, int}>  $delays  of each delay the element, its time and its order
     * @param  array<string, true>  $drives  keys of the equations that move the states; the others only show, and are looked at once a step
     * @param  array<string, array{from: ?string, to: ?string, oneWay: bool}>  $flows  by id; ends that can be computed
     * @param  Keys  $keys  what the texts above stand for
     */
    public function __construct(
        public array $parameters,
        public array $states,
        public array $equations,
        public array $cells,
        public array $starts,
        public array $constants,
        public array $curves,
        public array $limited,
        public array $transits,
        public array $flows,
        public ?Node $endWhen,
        public array $delays = [],
        public array $drives = [],
        public Keys $keys = new Keys(),
    ) {
    }

    /**
     * The keys a formula mentions.
     *
     * @return list<string>
     */
    public static function keys(Node $node): array
    {
        return self::keysOf($node->all());
    }

    /**
     * @param  list<Node>  $all
     * @return list<string>
     */
    public static function keysOf(array $all): array
    {
        $keys = [];
        foreach ($all as $part) {
            if ($part instanceof NameUse) {
                $keys[$part->key] = true;
            }
        }

        return array_map(strval(...), array_keys($keys));
    }

    /** Whether a flow leaves a limited stock, or may leave one backward. */
    public function isLimited(string $flow): bool
    {
        $ends = $this->flows[$flow] ?? null;

        return $ends !== null && (isset($this->limited[$ends['from'] ?? '']) || isset($this->limited[$ends['to'] ?? '']));
    }
}
