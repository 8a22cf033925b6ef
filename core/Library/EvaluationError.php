<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Library;

/** What arithmetic cannot do; the message says which, without a full stop. */
final class EvaluationError extends \RuntimeException
{
}
