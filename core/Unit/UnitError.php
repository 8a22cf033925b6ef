<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Unit;

/** Text that is no unit. The message says why. */
final class UnitError extends \RuntimeException
{
}
