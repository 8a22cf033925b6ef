<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Exchange;

/** One thing of a file that was not carried over as it stood. */
final readonly class LogLine implements \JsonSerializable
{
    public function __construct(
        public string $where,
        public string $sentence,
        public ?string $element = null,
        public Grade $grade = Grade::Information,
    ) {
    }

    /** @return array{where: string, sentence: string, element: ?string, grade: string} */
    public function jsonSerialize(): array
    {
        return ['where' => $this->where, 'sentence' => $this->sentence, 'element' => $this->element, 'grade' => $this->grade->value];
    }
}
