<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Simulate;

/** Something a run tells besides its numbers: a limit that acted, a curve that was left, an event between two steps. */
final readonly class Notice implements \JsonSerializable
{
    /** @param  float  $time  when first, in the study's unit */
    public function __construct(public string $code, public string $element, public float $time, public string $sentence)
    {
    }

    /** @return array{code: string, element: string, time: float, sentence: string} */
    public function jsonSerialize(): array
    {
        return ['code' => $this->code, 'element' => $this->element, 'time' => $this->time, 'sentence' => $this->sentence];
    }
}
