<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Shape;

use MerryOrbit\Core\Plan\Key;
use MerryOrbit\Core\Plan\Keys;

/** The keys of the elements of values that extend over dimensions. A place is the id of an element by dimension. */
final class ElementKeys
{
    /** @var array<string, array<string, string>> by key and place, the key of one element */
    private array $known = [];

    public function __construct(private readonly Extents $extents, private readonly Keys $keys)
    {
    }

    /**
     * The key of one element of a value; null where a part has none there.
     *
     * @param  array<string, string>  $place
     */
    public function at(string $key, array $place): ?string
    {
        $extent = $this->extents->known[$key] ?? null;
        if ($extent === null && ! isset($this->extents->known[$key])) {
            // A cell's own memory is its key with a letter.
            $cell = substr($key, 0, -1);
            $letter = substr($key, -1);
            if (($letter === 'h' || $letter === 'q') && $this->keys->isHidden($cell) && ($this->extents->known[$cell] ?? []) !== []) {
                return $this->at($cell, $place).$letter;
            }
        }
        if ($extent === null || $extent === []) {
            return $key;
        }
        $at = [];
        foreach ($extent as $dimension) {
            $element = $place[$dimension] ?? $this->paired($dimension, $place);
            if ($element === null || $this->extents->dimensions->place($dimension, $element) === null) {
                return null;
            }
            $at[] = $element;
        }
        $text = implode(',', $at);

        return $this->known[$key][$text] ??= $this->enter($key, $extent, $at);
    }

    /**
     * @param  list<string>  $extent
     * @param  list<string>  $at
     */
    private function enter(string $key, array $extent, array $at): string
    {
        $names = array_map($this->extents->dimensions->elementName(...), $extent, $at);

        return $this->keys->enter(new Key($this->keys->owner($key), $this->keys->of($key)->part, $at, '['.implode(', ', $names).']'));
    }

    /**
     * The element of a place along a dimension that pairs with one of the place's.
     *
     * @param  array<string, string>  $place
     */
    public function paired(string $dimension, array $place): ?string
    {
        foreach ($place as $other => $element) {
            if ($this->extents->dimensions->pair((string) $other, $dimension)) {
                return $element;
            }
        }

        return null;
    }
}
