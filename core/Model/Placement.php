<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Model;

/** Where a thing stands on a sheet: its middle; for a flow its gate, and its ends that are outside. */
final readonly class Placement
{
    public function __construct(public Point $at, public ?Point $source = null, public ?Point $target = null, public string $sheet = Sheet::FIRST)
    {
    }

    /** @return array<string, mixed> */
    public function toRecord(): array
    {
        return array_filter([
            'at' => $this->at->toRecord(),
            'source' => $this->source?->toRecord(),
            'target' => $this->target?->toRecord(),
            'sheet' => $this->sheet,
        ], static fn (mixed $value): bool => $value !== null);
    }

    /** @param  array{at: array{x: int|float, y: int|float}, source?: array{x: int|float, y: int|float}, target?: array{x: int|float, y: int|float}, sheet?: string}  $record */
    public static function fromRecord(array $record): self
    {
        return new self(
            Point::fromRecord($record['at']),
            isset($record['source']) ? Point::fromRecord($record['source']) : null,
            isset($record['target']) ? Point::fromRecord($record['target']) : null,
            $record['sheet'] ?? Sheet::FIRST,
        );
    }
}
