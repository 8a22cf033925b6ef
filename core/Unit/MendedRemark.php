<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Unit;

/** A remark on a formula's unit, and the formula that would mend it if one was found. */
final readonly class MendedRemark
{
    public function __construct(public string $code, public string $sentence, public ?string $formula)
    {
    }
}
