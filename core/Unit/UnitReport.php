<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Unit;

use MerryOrbit\Core\Problem\Problem;

/** The units of a model's elements, and what does not fit together. */
final readonly class UnitReport
{
    /**
     * @param  array<string, Unit>  $units  by element id, as given or inferred; those that are unknown are missing
     * @param  array<string, true>  $inferred  ids of those that were inferred
     * @param  list<Problem>  $remarks
     */
    public function __construct(public array $units, public array $inferred, public array $remarks)
    {
    }
}
