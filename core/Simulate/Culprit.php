<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Simulate;

/** Ends a diagnosis as soon as the fault is found. */
final class Culprit extends \RuntimeException
{
    public function __construct(public readonly NumericFault $fault)
    {
        parent::__construct($fault->reason);
    }
}
