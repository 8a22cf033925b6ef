<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Data\Steps;

use MerryOrbit\Core\Data\DataTable;

/** The table after a step, and what the step did; where it could not, why, and then the table is as before. */
final readonly class StepState
{
    public function __construct(public DataTable $table, public string $said, public ?string $refusal = null)
    {
    }
}
