<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Simulate;

/** A trial step met a number that does not exist; a shorter one may not. */
final class NotFinite extends \RuntimeException
{
}
