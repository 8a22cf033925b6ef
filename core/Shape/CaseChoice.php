<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Shape;

use MerryOrbit\Core\Formula\Node\Cases;
use MerryOrbit\Core\Formula\Node\Node;
use MerryOrbit\Core\Model\Dimensions;

/** Which exception of a formula holds for an element: of those that fit it, the one whose elements all lie within the others'. */
final readonly class CaseChoice
{
    public function __construct(private Dimensions $dimensions)
    {
    }

    /** @param  array<string, string>  $place  ids of elements by dimension */
    public function of(Cases $cases, array $place): Node
    {
        $chosen = null;
        foreach ($cases->regions as $i => $region) {
            if ($this->fits($region, $place) && ($chosen === null || $this->within($region, $cases->regions[$chosen]))) {
                $chosen = $i;
            }
        }

        return $chosen === null ? $cases->main : $cases->exceptions[$chosen];
    }

    /**
     * Two exceptions that overlap without one lying within the other, so that it is unclear which holds.
     *
     * @param  list<array<string, list<string>>>  $regions
     * @return ?array{int, int}
     */
    public function clash(array $regions): ?array
    {
        foreach ($regions as $j => $b) {
            foreach (array_slice($regions, 0, $j) as $i => $a) {
                if ($this->meet($a, $b) && $this->within($a, $b) === $this->within($b, $a)) {
                    return [$i, $j];
                }
            }
        }

        return null;
    }

    /**
     * @param  array<string, list<string>>  $region
     * @param  array<string, string>  $place
     */
    private function fits(array $region, array $place): bool
    {
        foreach ($region as $dimension => $elements) {
            $present = null;
            foreach ($place as $other => $element) {
                $present = $this->dimensions->pair((string) $other, $dimension) ? $element : $present;
            }
            if ($present === null || ! in_array($present, $elements, true)) {
                return false;
            }
        }

        return true;
    }

    /**
     * @param  array<string, list<string>>  $a
     * @param  array<string, list<string>>  $b
     */
    private function within(array $a, array $b): bool
    {
        foreach ($b as $dimension => $elements) {
            $mine = $this->along($a, $dimension);
            if ($mine === null || array_diff($mine, $elements) !== []) {
                return false;
            }
        }

        return true;
    }

    /**
     * @param  array<string, list<string>>  $a
     * @param  array<string, list<string>>  $b
     */
    private function meet(array $a, array $b): bool
    {
        foreach ($b as $dimension => $elements) {
            $mine = $this->along($a, $dimension);
            if ($mine !== null && array_intersect($mine, $elements) === []) {
                return false;
            }
        }

        return true;
    }

    /**
     * @param  array<string, list<string>>  $region
     * @return ?list<string> null where it leaves this dimension open
     */
    private function along(array $region, string $dimension): ?array
    {
        foreach ($region as $other => $elements) {
            if ($this->dimensions->pair($other, $dimension)) {
                return $elements;
            }
        }

        return null;
    }
}
