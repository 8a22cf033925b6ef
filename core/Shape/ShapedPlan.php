<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Shape;

use MerryOrbit\Core\Formula\Node\NameUse;
use MerryOrbit\Core\Formula\Node\Node;
use MerryOrbit\Core\Plan\Plan;
use MerryOrbit\Core\Roster\OpenRoster;

/**
 * What is computed, with one equation for all elements along dimensions: how a large model is run. Its formulas still pick and
 * gather; its keys are those of things as a whole.
 */
final readonly class ShapedPlan
{
    public function __construct(public Plan $plan, public Extents $extents)
    {
    }

    /** @return list<string> ids of the dimensions that a value extends over; a cell's own memory extends as the cell does */
    public function extent(string $key): array
    {
        $own = $this->extents->known[$key] ?? null;
        if ($own !== null || ! in_array($key[-1] ?? '', ['h', 'q'], true)) {
            return $own ?? [];
        }
        $cell = substr($key, 0, -1);

        return $this->plan->keys->isHidden($cell) ? $this->extents->known[$cell] ?? [] : [];
    }

    /** All that its program depends on, as text. */
    public function content(): string
    {
        $dimensions = [];
        foreach (array_unique(array_merge(...array_values($this->extents->known), ...[[]])) as $one) {
            $dimensions[$one] = $this->extents->dimensions->elements($one);
        }
        $parts = array_diff_key(get_object_vars($this->plan), ['keys' => true]);

        $rosters = array_map(static fn (OpenRoster $r): string => $r->content(), $this->extents->rosters->all);

        return serialize([
            ...array_values($rosters),
            $parts,
            $this->extents->known,
            $dimensions,
            $this->extents->dimensions->all(),
            $this->extents->mappings,
        ]);
    }

    /** @return list<array{string, Node}> all formulas with the keys over whose elements they are computed */
    public function formulas(): array
    {
        $all = [];
        foreach ($this->plan->equations as $key => $equation) {
            $all[] = [(string) $key, $equation->node];
        }
        foreach ($this->plan->starts as $key => $node) {
            $all[] = [(string) $key, $node];
        }
        foreach ($this->plan->cells as $key => $cell) {
            array_push($all, ...$cell->watched === null ? [] : [[(string) $key, $cell->watched]]);
        }

        return $all;
    }

    /** How many values it has. */
    public function sizeOf(string $key): int
    {
        return $this->sizeOver($this->extent($key));
    }

    /** @param  list<string>  $extent */
    public function sizeOver(array $extent): int
    {
        return (int) array_product(array_map($this->extents->dimensions->size(...), $extent));
    }

    /**
     * How many values that is, as code: over the members of a roster as many as there are now.
     *
     * @param  list<string>  $extent
     */
    public function sizeCode(array $extent): string
    {
        $roster = $this->extents->rosters->in($extent);
        if ($roster === null) {
            return (string) $this->sizeOver($extent);
        }
        $each = $this->sizeOver(array_values(array_diff($extent, [$roster->dimension])));

        return $each === 1 ? $roster->count() : "{$roster->count()} * $each";
    }

    /** The roster over whose members a value extends. */
    public function roster(string $key): ?OpenRoster
    {
        return $this->extents->rosters->isAny() ? $this->extents->rosters->in($this->extent($key)) : null;
    }

    /** @return array{int, int} how many equations and states there are with all their elements */
    public function counted(): array
    {
        $count = fn (array $all): int => array_sum(array_map(fn (int|string $k): int => $this->sizeOf((string) $k), array_keys($all)));

        return [$count($this->plan->equations), $count($this->plan->states)];
    }

    /** @return array<string, string> the place at an index from 0 of a value: ids of elements by dimension */
    public function place(string $key, int $index): array
    {
        return $this->placeOver($this->extent($key), $index);
    }

    /**
     * @param  list<string>  $extent
     * @return array<string, string>
     */
    public function placeOver(array $extent, int $index): array
    {
        $place = [];
        foreach (array_reverse($extent) as $dimension) {
            $elements = $this->extents->dimensions->elements($dimension);
            $place[$dimension] = $elements[$index % max(1, count($elements))];
            $index = intdiv($index, max(1, count($elements)));
        }

        return array_reverse($place, true);
    }

    /**
     * A formula for one element, as plain arithmetic on keys of elements.
     *
     * @param  array<string, string>  $place  ids of elements by dimension
     * @param  \Closure(Node): NameUse  $named  gives a value that is needed more than once a name of its own
     *
     * @throws ExtentError
     */
    public function at(Node $node, array $place, \Closure $named): Node
    {
        return (new Resolver($this->extents, $this->keyAt(...), $named))->at($node, $place);
    }

    /**
     * @param  array<string, string>  $place
     * @return ?string the key of one element; null where it has none there
     */
    public function keyAt(string $key, array $place): ?string
    {
        return (new ElementKeys($this->extents, $this->plan->keys))->at($key, $place);
    }

    /**
     * @param  list<string>  $at  ids of elements in the order of its dimensions
     * @return ?int the number of that element, from 0
     */
    public function index(string $key, array $at): ?int
    {
        $index = 0;
        foreach ($this->extent($key) as $i => $dimension) {
            $own = $this->extents->dimensions->place($dimension, $at[$i] ?? '');
            if ($own === null) {
                return null;
            }
            $index = $index * $this->extents->dimensions->size($dimension) + $own;
        }

        return $index;
    }
}
