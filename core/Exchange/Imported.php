<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Exchange;

use MerryOrbit\Core\Model\Model;

/** What a file gave, and what of it could not be carried over. */
final readonly class Imported
{
    /** @param  list<LogLine>  $log */
    public function __construct(public Model $model, public array $log)
    {
    }
}
