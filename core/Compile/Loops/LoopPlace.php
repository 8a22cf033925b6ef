<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Compile\Loops;

use MerryOrbit\Core\Model\Dimensions;

/** Where code within loops stands: by dimension, the variable with the place of the present element, from 0. */
final readonly class LoopPlace
{
    /**
     * @param  array<string, string>  $at
     * @param  ?list<string>  $own  the dimensions over which `$n` counts through all elements; null within a gathering
     * @param  ?string  $inner  within a gathering, the variable of its innermost loop
     */
    public function __construct(public array $at, public ?array $own = null, public ?string $inner = null)
    {
    }

    /** With another present element of a dimension, of its parts and of its whole. */
    public function moved(Dimensions $dimensions, string $dimension, string $code): self
    {
        $at = array_filter($this->at, static fn (string $d): bool => ! $dimensions->pair($d, $dimension), ARRAY_FILTER_USE_KEY);

        return new self([...$at, $dimension => $code], null, $code);
    }

    /** The dimension whose present element stands for one of the given. */
    public function found(Dimensions $dimensions, string $dimension): ?string
    {
        if (isset($this->at[$dimension])) {
            return $dimension;
        }
        foreach (array_keys($this->at) as $one) {
            if ($dimensions->pair($one, $dimension)) {
                return $one;
            }
        }

        return null;
    }
}
