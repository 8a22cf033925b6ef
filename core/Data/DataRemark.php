<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Data;

/** What was noticed in a table, and where: rows and columns count from 1; null where it is about all of them. */
final readonly class DataRemark implements \JsonSerializable
{
    public function __construct(public ?int $row, public ?int $column, public string $sentence)
    {
    }

    /** @return array{row: ?int, column: ?int, sentence: string} */
    public function jsonSerialize(): array
    {
        return ['row' => $this->row, 'column' => $this->column, 'sentence' => $this->sentence];
    }
}
