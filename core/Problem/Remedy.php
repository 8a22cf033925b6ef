<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Problem;

/** What would mend something: words for a button, and the edits it makes, as records for EditReader. */
final readonly class Remedy implements \JsonSerializable
{
    /** @param  non-empty-list<array<string, mixed>>  $edits */
    public function __construct(public string $words, public array $edits)
    {
    }

    /** @return array{words: string, edits: non-empty-list<array<string, mixed>>} */
    public function jsonSerialize(): array
    {
        return ['words' => $this->words, 'edits' => $this->edits];
    }
}
