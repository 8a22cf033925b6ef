<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Model;

/** A measured or given course over time. Its name is its value now; `at(series, when)` looks elsewhere. */
final readonly class Series extends Relation
{
    public function kind(): Kind
    {
        return Kind::Series;
    }
}
