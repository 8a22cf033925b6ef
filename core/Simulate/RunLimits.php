<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Simulate;

/** How much one run may take, so that a runaway model hurts nobody else. */
final readonly class RunLimits
{
    public function __construct(
        /** Steps times variables, times four under Runge–Kutta. */
        public float $mostEvaluations = 2e10,
        /** Saved moments times variables; each takes 16 bytes. */
        public float $mostValues = 3e7,
        /** Seconds of a method that chooses its own steps. */
        public float $mostSeconds = 20.0,
    ) {
    }
}
