<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Simulate;

use MerryOrbit\Core\Problem\Remedy;

/** Something a run tells besides its numbers: a limit that acted, a curve that was left, an event between two steps. */
final readonly class Notice implements \JsonSerializable
{
    /** @param  float  $time  when first, in the study's unit */
    public function __construct(
        public string $code,
        public string $element,
        public float $time,
        public string $sentence,
        public ?Remedy $remedy = null,
    ) {
    }

    /** @return array{code: string, element: string, time: float, sentence: string, remedy: ?array{words: string, edits: non-empty-list<array<string, mixed>>}} */
    public function jsonSerialize(): array
    {
        return [
            'code' => $this->code,
            'element' => $this->element,
            'time' => $this->time,
            'sentence' => $this->sentence,
            'remedy' => $this->remedy?->jsonSerialize(),
        ];
    }
}
