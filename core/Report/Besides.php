<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Report;

/**
 * What belongs in a report and stands in no model file: who keeps studies tells it.
 *
 * @phpstan-type Found array{name: string, at: string, found: list<array{name: string, value: float, unit: string}>, words: string}
 */
final readonly class Besides
{
    /**
     * @param  list<array{at: string, by: string, words: string, version: int}>  $history  newest first
     * @param  list<Found>  $fits
     */
    public function __construct(public string $of = '', public array $history = [], public array $fits = [])
    {
    }
}
