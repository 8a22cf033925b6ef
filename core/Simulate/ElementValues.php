<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Simulate;

use MerryOrbit\Core\Plan\Key;
use MerryOrbit\Core\Plan\Positions;

/** What a run gave of things that are kept with all their elements: for each saved moment one list. Columns are made when they are asked for. */
final readonly class ElementValues
{
    /**
     * @param  array<string, list<list<float>>>  $moving  by element id, at each saved moment the values of all elements
     * @param  array<string, list<float>>  $steady  by element id, the values of all elements, which stay the same
     */
    public function __construct(private Positions $positions, private array $moving, private array $steady)
    {
    }

    /** @return list<string> keys of what moves; of each thing at most so many */
    public function keys(int $most): array
    {
        return array_merge(
            ...array_map(fn (int|string $id): array => $this->positions->first((string) $id, $most), array_keys($this->moving)),
            ...[[]],
        );
    }

    /** @return array<string, float> by key, what stays the same; of each thing at most so many */
    public function steady(int $most): array
    {
        $all = [];
        foreach ($this->steady as $id => $values) {
            foreach ($this->positions->first((string) $id, $most) as $i => $key) {
                $all[$key] = $values[$i];
            }
        }

        return $all;
    }

    public function steadyOf(string $key): ?float
    {
        return $this->steady[Key::ownerOf($key)][$this->positions->place($key) ?? -1] ?? null;
    }

    public function has(string $key): bool
    {
        $owner = Key::ownerOf($key);

        return $owner !== $key && (isset($this->moving[$owner]) || isset($this->steady[$owner])) && $this->positions->place($key) !== null;
    }

    /** @return list<float>|null null if it does not move */
    public function column(string $key): ?array
    {
        $moments = $this->moving[Key::ownerOf($key)] ?? null;
        $place = $moments === null ? null : $this->positions->place($key);

        return $moments === null || $place === null ? null : array_column($moments, $place);
    }

    /** @return list<list<float>>|null of a thing that moves, at each saved moment the values of all elements */
    public function moments(string $id): ?array
    {
        return $this->moving[$id] ?? null;
    }

    public function value(string $key, int $moment): ?float
    {
        $owner = Key::ownerOf($key);

        return $owner === $key
            ? null
            : ($this->moving[$owner][$moment] ?? ($this->steady[$owner] ?? []))[$this->positions->place($key) ?? -1] ?? null;
    }
}
