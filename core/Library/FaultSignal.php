<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Library;

/** Leaves compiled code at a number it cannot go on with and that nothing would show otherwise. */
final class FaultSignal extends \ArithmeticError
{
    public static function raise(): never
    {
        throw new self();
    }
}
