<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Model;

/** A causal link drawn before the formula uses it: it waits, said to be "not used yet". */
final readonly class Link implements Recorded
{
    public function __construct(public string $from, public string $to)
    {
    }

    /** @return array{from: string, to: string} */
    public function toRecord(): array
    {
        return ['from' => $this->from, 'to' => $this->to];
    }

    /** @param  array{from: string, to: string}  $record */
    public static function fromRecord(array $record): self
    {
        return new self($record['from'], $record['to']);
    }

    public function key(): string
    {
        return $this->from.'>'.$this->to;
    }
}
