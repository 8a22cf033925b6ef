<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Shape;

use MerryOrbit\Core\Formula\Node\Call;

/** A look along dimensions that was taken out of formulas, to be computed once for all who need it. */
final readonly class Lifted
{
    public function __construct(public string $key, public Call $node)
    {
    }
}
