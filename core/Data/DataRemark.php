<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Data;

/** What was noticed in a table, and where: rows and columns count from 1; null where it is about all of them. */
final readonly class DataRemark implements \JsonSerializable
{
    /** A cell that counts as a gap, a line that is left out, or anything else. */
    public const ABOUT = [self::GAP, self::LEFT_OUT, self::NOTE];

    public const GAP = 'gap';

    public const LEFT_OUT = 'left out';

    public const NOTE = 'note';

    /** @param  value-of<self::ABOUT>  $about */
    public function __construct(public ?int $row, public ?int $column, public string $sentence, public string $about = self::NOTE)
    {
    }

    /** @return array{row: ?int, column: ?int, sentence: string, about: string} */
    public function jsonSerialize(): array
    {
        return ['row' => $this->row, 'column' => $this->column, 'sentence' => $this->sentence, 'about' => $this->about];
    }
}
