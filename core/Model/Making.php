<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Model;

/** What is no element itself, but makes elements that formulas can mention: they are known by name before they are made. */
interface Making
{
    /** @return array<string, string> names of what it makes, by id */
    public function makes(): array;
}
