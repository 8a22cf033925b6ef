<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Problem;

/**
 * What is missing or unsound in a model, as a value: where it is, and a sentence that says how to mend it.
 *
 * `from` and `length` count characters (code points) in the text of the field, `null` when the whole field is meant.
 */
final readonly class Problem implements \JsonSerializable
{
    public function __construct(
        public string $code,
        public string $sentence,
        public ?string $element = null,
        public ?string $field = null,
        public ?int $from = null,
        public ?int $length = null,
        public Severity $severity = Severity::Wrong,
        /** A formula that would mend it, ready to be taken. */
        public ?string $mend = null,
        public ?Remedy $remedy = null,
        /** Another way to mend it. */
        public ?Remedy $other = null,
        /** @var ?array{part: string, id: string, words: string} the one of a part of the document that its element was made of */
        public ?array $origin = null,
    ) {
    }

    public function at(string $element, string $field): self
    {
        return new self(
            $this->code,
            $this->sentence,
            $element,
            $field,
            $this->from,
            $this->length,
            $this->severity,
            $this->mend,
            $this->remedy,
            $this->other,
            $this->origin,
        );
    }

    public function withRemedy(?Remedy $remedy, ?Remedy $other = null): self
    {
        return new self(
            $this->code,
            $this->sentence,
            $this->element,
            $this->field,
            $this->from,
            $this->length,
            $this->severity,
            $this->mend,
            $remedy,
            $other,
            $this->origin,
        );
    }

    /** @param  array{part: string, id: string, words: string}  $origin */
    public function by(array $origin): self
    {
        return new self(
            $this->code,
            $this->sentence,
            $this->element,
            $this->field,
            $this->from,
            $this->length,
            $this->severity,
            $this->mend,
            $this->remedy,
            $this->other,
            $origin,
        );
    }

    /** @return array{code: string, sentence: string, element: ?string, field: ?string, from: ?int, length: ?int, severity: string, mend: ?string, remedy: ?array{words: string, edits: non-empty-list<array<string, mixed>>}, other: ?array{words: string, edits: non-empty-list<array<string, mixed>>}, origin?: array{part: string, id: string, words: string}} */
    public function jsonSerialize(): array
    {
        return [
            'code' => $this->code,
            'sentence' => $this->sentence,
            'element' => $this->element,
            'field' => $this->field,
            'from' => $this->from,
            'length' => $this->length,
            'severity' => $this->severity->value,
            'mend' => $this->mend,
            'remedy' => $this->remedy?->jsonSerialize(),
            'other' => $this->other?->jsonSerialize(),
            ...$this->origin === null ? [] : ['origin' => $this->origin],
        ];
    }
}
