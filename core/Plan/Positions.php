<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Plan;

use MerryOrbit\Core\Model\Dimensions;
use MerryOrbit\Core\Model\Flow;

/** Which keys stand for an element that extends over dimensions, and what each of its flows joins. */
final class Positions
{
    /** So many elements of a thing are told where it is asked for as a whole. */
    public const MOST_TOLD = 12;

    /** @var array<string, list<string>> made when they are asked for: a large model has very many */
    private array $made = [];

    /**
     * @param  array<string, list<string>>  $extents  by element id, ids of the dimensions it extends over; only of those that extend over some
     * @param  array<string, array{from: ?string, to: ?string}>  $ends  keys of stocks by key of the flow
     */
    public function __construct(
        private readonly array $extents = [],
        private readonly Dimensions $dimensions = new Dimensions([]),
        private readonly Keys $keys = new Keys(),
        private readonly array $ends = [],
    ) {
    }

    /** Whether anything extends over a dimension. */
    public function isAny(): bool
    {
        return $this->extents !== [];
    }

    public function isShaped(string $element): bool
    {
        return isset($this->extents[$element]);
    }

    /** @return list<string> in the order of its dimensions */
    public function of(string $element): array
    {
        return isset($this->extents[$element]) ? ($this->made[$element] ??= $this->made($element)) : [$element];
    }

    /** @return list<string> the first of them, at most so many */
    public function first(string $element, int $most): array
    {
        if (isset($this->made[$element]) || $this->count($element) <= $most) {
            return array_slice($this->of($element), 0, $most);
        }

        return array_map(fn (int $place): string => $this->at($element, $place), range(0, $most - 1));
    }

    /** The key at a place from 0, which there is. */
    public function at(string $element, int $place): string
    {
        $at = $names = [];
        foreach (array_reverse($this->extents[$element] ?? []) as $dimension) {
            $elements = $this->dimensions->elements($dimension);
            $one = $elements[$place % count($elements)];
            $place = intdiv($place, count($elements));
            array_unshift($at, $one);
            array_unshift($names, $this->dimensions->elementName($dimension, $one));
        }

        return $at === [] ? $element : $this->keys->enter(new Key($element, '', $at, '['.implode(', ', $names).']'));
    }

    /** What a key is called behind the name of its element: `[north, old]`. */
    public function shown(string $key): string
    {
        $place = $this->place($key);

        return $place === null ? '' : $this->keys->of($this->at(Key::ownerOf($key), $place))->shown;
    }

    public function count(string $element): int
    {
        return (int) array_product(array_map($this->dimensions->size(...), $this->extents[$element] ?? []));
    }

    /** @return list<string> the element of each dimension that a key says, whether or not there are such */
    public function elements(string $key): array
    {
        $owner = Key::ownerOf($key);

        return $owner === $key ? [] : explode(',', substr($key, strlen($owner) + 1, -1));
    }

    /** The place of a key among those of its element, from 0; null where there is none. */
    public function place(string $key): ?int
    {
        $extent = $this->extents[Key::ownerOf($key)] ?? [];
        $at = $this->elements($key);
        if (count($at) !== count($extent)) {
            return null;
        }
        $place = 0;
        foreach ($extent as $i => $dimension) {
            $own = $this->dimensions->place($dimension, $at[$i]);
            if ($own === null) {
                return null;
            }
            $place = $place * $this->dimensions->size($dimension) + $own;
        }

        return $place;
    }

    /** @return list<string> */
    private function made(string $element): array
    {
        $places = [[[], []]];
        foreach ($this->extents[$element] as $dimension) {
            $next = [];
            foreach ($places as [$at, $names]) {
                foreach ($this->dimensions->elements($dimension) as $one) {
                    $next[] = [[...$at, $one], [...$names, $this->dimensions->elementName($dimension, $one)]];
                }
            }
            $places = $next;
        }

        return array_map(
            fn (array $p): string => $this->keys->enter(new Key($element, '', $p[0], '['.implode(', ', $p[1]).']')),
            $places,
        );
    }

    /** @return array{from: ?string, to: ?string} */
    public function ends(Flow $flow, string $key): array
    {
        return $this->ends[$key] ?? ['from' => $flow->from, 'to' => $flow->to];
    }
}
