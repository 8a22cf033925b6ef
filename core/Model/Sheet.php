<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Model;

/** One drawing of the model. */
final readonly class Sheet implements Recorded
{
    public const FIRST = 'sheet-1';

    public function __construct(public string $id, public string $name)
    {
    }

    /** @return array{id: string, name: string} */
    public function toRecord(): array
    {
        return ['id' => $this->id, 'name' => $this->name];
    }

    /** @param  array{id: string, name: string}  $record */
    public static function fromRecord(array $record): self
    {
        return new self($record['id'], $record['name']);
    }
}
