<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Model;

use MerryOrbit\Core\Formula\Name;

/** The dimensions of a model, what elements they come to have, and how they stand to each other. */
final class Dimensions
{
    /** @var array<string, Dimension> by id */
    private readonly array $all;

    /** @var array<string, string> ids by key of the name */
    private readonly array $ids;

    /** @var array<string, list<string>> */
    private array $elements = [];

    /** @var array<string, array<array-key, string>> */
    private array $names = [];

    /** @var array<string, array<array-key, int>> */
    private array $places = [];

    /** @var array<string, array<array-key, string>> by dimension, ids by id and by key of the name */
    private array $found = [];

    /** @var array<string, Dimension> what two parts of one whole share, by id */
    private array $shared = [];

    /** @param  list<Dimension>  $all */
    public function __construct(array $all)
    {
        $byId = $ids = [];
        foreach ($all as $dimension) {
            $byId[$dimension->id] = $dimension;
            $ids[Name::key($dimension->name)] = $dimension->id;
        }
        $this->all = $byId;
        $this->ids = $ids;
    }

    /** @return array<string, Dimension> by id */
    public function all(): array
    {
        return $this->all;
    }

    /** @param  string  $called  an id, or a name */
    public function find(string $called): ?Dimension
    {
        return $this->all[$called] ?? ($this->shared[$called] ?? ($this->all[$this->ids[Name::key($called)] ?? ''] ?? null));
    }

    public function nameOf(string $dimension): string
    {
        return $this->find($dimension)->name ?? $dimension;
    }

    /** The dimension that says which elements there are: of a part its whole, of one that has the same elements the other. */
    public function root(string $dimension): string
    {
        $known = $this->find($dimension);
        for ($depth = 0; $known !== null && $depth < Dimension::MOST; $depth++) {
            $next = $known->partOf ?? $known->sameAs;
            if ($next === null || ($found = $this->find($next)) === null) {
                return $known->id;
            }
            $known = $found;
        }

        return $dimension;
    }

    /** @return list<string> ids of the elements that it is not limited away from, in order */
    public function elements(string $dimension): array
    {
        $known = $this->find($dimension);
        if ($known === null) {
            return [];
        }
        if (! isset($this->elements[$known->id])) {
            $all = $this->allElements($known->id);
            $limit = ($this->all[$this->root($known->id)] ?? $known)->limit;
            $this->elements[$known->id] = $limit === null ? $all : array_values(array_intersect($all, $limit));
        }

        return $this->elements[$known->id];
    }

    /** @return list<string> ids of all its elements, in order, whatever it is limited to */
    public function allElements(string $dimension): array
    {
        $known = $this->find($dimension);
        if ($known === null) {
            return [];
        }

        return $known->ids === [] && $known->sameAs !== null && $this->root($known->id) !== $known->id
            ? $this->allElements($known->sameAs)
            : $known->ids;
    }

    /** Whether this is an element of it, be it limited away or not. */
    public function has(string $dimension, string $element): bool
    {
        $this->elementOf($dimension, $element);

        return isset($this->found[$dimension][$element]);
    }

    public function isLimited(string $dimension): bool
    {
        return count($this->elements($dimension)) < count($this->allElements($dimension));
    }

    public function size(string $dimension): int
    {
        return count($this->elements($dimension));
    }

    /** The place of an element among those there are, from 0; null if it is none of this dimension, or limited away. */
    public function place(string $dimension, string $element): ?int
    {
        return ($this->places[$dimension] ??= array_flip($this->elements($dimension)))[$element] ?? null;
    }

    public function elementName(string $dimension, string $element): string
    {
        $root = $this->root($dimension);
        $this->names[$root] ??= array_combine($this->all[$root]->ids ?? [], $this->all[$root]->names ?? []);

        return $this->names[$root][$element] ?? $element;
    }

    /**
     * @param  string  $called  an id, or a name
     * @return ?string the id of an element of this dimension, also of one it is limited away from
     */
    public function elementOf(string $dimension, string $called): ?string
    {
        if (! isset($this->found[$dimension])) {
            $found = [];
            foreach ($this->allElements($dimension) as $id) {
                $found[$id] = $id;
            }
            foreach ($this->allElements($dimension) as $id) {
                $found[Name::key($this->elementName($dimension, $id))] = $id;
            }
            $this->found[$dimension] = $found;
        }

        return $this->found[$dimension][$called] ?? ($this->found[$dimension][Name::key($called)] ?? null);
    }

    public function isPartOf(string $part, string $whole): bool
    {
        for ($at = $this->find($part), $i = 0; $at?->partOf !== null && $i < Dimension::MOST; $i++) {
            $at = $this->find($at->partOf);
            if ($at?->id === $whole) {
                return true;
            }
        }

        return false;
    }

    /** Whether two dimensions are one, or parts of one: then values over them pair. */
    public function pair(string $a, string $b): bool
    {
        return $a === $b || $this->whole($a) === $this->whole($b);
    }

    /** The whole that a dimension is a part of, or itself. */
    public function whole(string $dimension): string
    {
        for ($at = $this->find($dimension), $i = 0; $at?->partOf !== null && $i < Dimension::MOST; $i++) {
            $at = $this->find($at->partOf) ?? $at;
        }

        return $at->id ?? $dimension;
    }

    /** Over what a value extends where two that pair meet: the part, or what two parts share. Null where they share nothing. */
    public function meet(string $a, string $b): ?string
    {
        if ($a === $b || $this->isPartOf($a, $b)) {
            return $a;
        }
        if ($this->isPartOf($b, $a)) {
            return $b;
        }
        $both = array_values(array_intersect($this->elements($a), $this->elements($b)));
        if ($both === []) {
            return null;
        }
        foreach ([$a, $b] as $one) {
            if (count($both) === $this->size($one)) {
                return $one;
            }
        }
        $id = "$a&$b";
        $this->shared[$id] ??= new Dimension($id, $this->nameOf($a).' and '.$this->nameOf($b), $both, partOf: $this->whole($a));

        return $id;
    }
}
