<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Cli;

/** Words on the command line that cannot be followed. */
final class UsageError extends \RuntimeException
{
}
