<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Model;

/** What a model keeps by key and can be stored one by one. */
interface Recorded
{
    /** @return array<string, mixed> */
    public function toRecord(): array;
}
