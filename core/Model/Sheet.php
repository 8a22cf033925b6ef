<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Model;

/** One drawing of the model. */
final readonly class Sheet
{
    public const FIRST = 'sheet-1';

    public function __construct(public string $id, public string $name)
    {
    }
}
