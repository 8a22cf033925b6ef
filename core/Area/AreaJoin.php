<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Area;

use MerryOrbit\Core\Data\Matching;
use MerryOrbit\Core\Model\Dimensions;

/** Which area is which element of a dimension: by a property, whatever case and order of the words, or by hand. */
final readonly class AreaJoin
{
    /**
     * @param  string  $property  empty where none matches
     * @param  list<?string>  $elements  ids, one for each area; null where it is none of them
     * @param  list<string>  $missing  names of elements that no area is of
     * @param  list<string>  $strange  values of the property that are no element
     */
    private function __construct(
        public string $dimension,
        public string $property,
        public array $elements,
        public array $missing,
        public array $strange,
    ) {
    }

    /**
     * @param  string  $property  empty: the one that matches most
     * @param  array<string, string>  $pairs  by hand: ids of elements by value of the property; empty for none
     */
    public static function of(AreaFile $file, Dimensions $dimensions, string $dimension, string $property = '', array $pairs = []): self
    {
        $tries = array_map(
            static fn (string $p): self => self::by($file, $dimensions, $dimension, $p, $pairs),
            $property === '' ? $file->named() : [$property],
        );
        // Of several that match as many elements the one with fewer strange values.
        usort(
            $tries,
            static fn (self $a, self $b): int => [count($a->missing), count($a->strange)] <=> [count($b->missing), count($b->strange)],
        );
        $best = $tries[0] ?? null;
        $isNone = $best === null || ($property === '' && array_filter($best->elements, is_string(...)) === []);

        return $isNone ? self::by($file, $dimensions, $dimension, '', []) : $best;
    }

    /** @param  array<string, string>  $pairs */
    private static function by(AreaFile $file, Dimensions $dimensions, string $dimension, string $property, array $pairs): self
    {
        $alike = [];
        foreach ($dimensions->elements($dimension) as $id) {
            $alike[Matching::likeness($dimensions->elementName($dimension, $id))] ??= $id;
        }
        $elements = $strange = [];
        foreach ($file->areas as $area) {
            $value = $area->properties[$property] ?? '';
            $found = array_key_exists($value, $pairs)
                ? ($pairs[$value] === ''
                    ? null
                    : $pairs[$value])
                : ($value === ''
                    ? null
                    : $dimensions->elementOf($dimension, $value) ?? ($alike[Matching::likeness($value)] ?? null));
            $elements[] = $found;
            if ($found === null && $value !== '') {
                $strange[$value] = true;
            }
        }
        $used = array_fill_keys(array_filter($elements, is_string(...)), true);
        $missing = [];
        foreach ($dimensions->elements($dimension) as $id) {
            if (! isset($used[$id])) {
                $missing[] = $dimensions->elementName($dimension, $id);
            }
        }

        return new self($dimension, $property, $elements, $missing, array_map(strval(...), array_keys($strange)));
    }

    /** @return array{dimension: string, property: string, elements: list<?string>, missing: list<string>, strange: list<string>} */
    public function toRecord(): array
    {
        return [
            'dimension' => $this->dimension,
            'property' => $this->property,
            'elements' => $this->elements,
            'missing' => $this->missing,
            'strange' => $this->strange,
        ];
    }
}
