<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Exchange\Xmile;

/** An equation that cannot be read. The message says why, as the end of a sentence. */
final class EquationRefused extends \RuntimeException
{
}
