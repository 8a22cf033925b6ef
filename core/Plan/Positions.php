<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Plan;

use MerryOrbit\Core\Model\Flow;

/** Which keys of a plan stand for an element that extends over dimensions, and what each of its flows joins. */
final readonly class Positions
{
    /** So many elements of a thing are told where it is asked for as a whole. */
    public const MOST_TOLD = 12;

    /**
     * @param  array<string, list<string>>  $keys  by element id, in the order of its dimensions; only of those that have some
     * @param  array<string, array{from: ?string, to: ?string}>  $ends  keys of stocks by key of the flow
     */
    public function __construct(public array $keys = [], private array $ends = [])
    {
    }

    /** @return list<string> */
    public function of(string $element): array
    {
        return $this->keys[$element] ?? [$element];
    }

    /** @return array{from: ?string, to: ?string} */
    public function ends(Flow $flow, string $key): array
    {
        return $this->ends[$key] ?? ['from' => $flow->from, 'to' => $flow->to];
    }
}
