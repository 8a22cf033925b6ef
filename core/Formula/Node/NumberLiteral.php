<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Formula\Node;

/** A number; `written` keeps the spelling, so that 5% stays 5%. */
final readonly class NumberLiteral extends Node
{
    public function __construct(public float $value, public string $written, int $from, int $length)
    {
        parent::__construct($from, $length);
    }

    /** A number that nobody typed. */
    public static function of(float $value): self
    {
        return new self($value, (string) $value, 0, 0);
    }
}
