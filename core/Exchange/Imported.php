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

    /** @return list<LogLine> what had to be guessed: with it the model may give other numbers than the file means */
    public function guesses(): array
    {
        return array_values(array_filter($this->log, static fn (LogLine $l): bool => $l->grade === Grade::Numbers));
    }
}
