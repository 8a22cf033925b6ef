<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Shape;

use MerryOrbit\Core\Model\Mapping;

/** Where a pick goes along one dimension of the picked value. */
final readonly class Move
{
    /**
     * @param  ?string  $over  the dimension from whose present element it goes; null for one element, whatever the present one
     * @param  ?string  $element  the id of that one
     */
    private function __construct(public ?string $over, public ?string $element, public int $by, public ?Mapping $mapping)
    {
    }

    public static function to(string $element): self
    {
        return new self(null, $element, 0, null);
    }

    public static function by(string $dimension, int $by): self
    {
        return new self($dimension, null, $by, null);
    }

    /** To the present element of another dimension. */
    public static function like(string $dimension): self
    {
        return new self($dimension, null, 0, null);
    }

    public static function through(Mapping $mapping, string $from): self
    {
        return new self($from, null, 0, $mapping);
    }
}
