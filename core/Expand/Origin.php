<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Expand;

/** Where an element comes from that nobody made by itself: one of a part of the document. */
final readonly class Origin implements \JsonSerializable
{
    /** @param  string  $words  what it is called in sentences, such as "the toy “ball”" */
    public function __construct(public string $part, public string $id, public string $words)
    {
    }

    /** @return array{part: string, id: string, words: string} */
    public function jsonSerialize(): array
    {
        return ['part' => $this->part, 'id' => $this->id, 'words' => $this->words];
    }
}
