<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Model;

use MerryOrbit\Core\Problem\NotUnderstood;

/** What can be read from a record that comes from outside, its id included. */
interface Readable
{
    /** @throws NotUnderstood with a sentence */
    public static function read(mixed $record): self;

    /** Why it cannot stand in this model; null if it can. */
    public function unfit(Model $model): ?string;
}
