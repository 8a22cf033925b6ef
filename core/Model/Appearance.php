<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Model;

/** An echo: a second appearance of an element, on the same or another sheet. */
final readonly class Appearance implements Recorded
{
    public function __construct(public string $element, public Point $at, public string $sheet = Sheet::FIRST)
    {
    }

    /** @return array{element: string, at: array{x: float, y: float}, sheet: string} */
    public function toRecord(): array
    {
        return ['element' => $this->element, 'at' => $this->at->toRecord(), 'sheet' => $this->sheet];
    }

    /** @param  array{element: string, at: array{x: int|float, y: int|float}, sheet: string}  $record */
    public static function fromRecord(array $record): self
    {
        return new self($record['element'], Point::fromRecord($record['at']), $record['sheet']);
    }
}
