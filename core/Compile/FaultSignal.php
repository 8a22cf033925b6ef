<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Compile;

/** Leaves compiled code at a number it cannot go on with and that nothing would show otherwise. */
final class FaultSignal extends \ArithmeticError
{
    private function __construct(public readonly int $step)
    {
        parent::__construct();
    }

    /** @param  int  $step -1 for before the first */
    public static function raise(int $step): never
    {
        throw new self($step);
    }
}
