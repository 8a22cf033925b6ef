<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Model;

/** A causal link drawn before the formula uses it: it waits, said to be "not used yet". */
final readonly class Link
{
    public function __construct(public string $from, public string $to)
    {
    }

    public function key(): string
    {
        return $this->from.'>'.$this->to;
    }
}
