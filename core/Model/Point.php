<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Model;

/** A place on a sheet, in pixels at full zoom; y grows downward. */
final readonly class Point implements Recorded
{
    public const FARTHEST = 1_000_000.0;

    public function __construct(public float $x, public float $y)
    {
    }

    /** @return array{x: float, y: float} */
    public function toRecord(): array
    {
        return ['x' => $this->x, 'y' => $this->y];
    }

    /** @param  array{x: int|float, y: int|float}  $record */
    public static function fromRecord(array $record): self
    {
        return new self((float) $record['x'], (float) $record['y']);
    }
}
