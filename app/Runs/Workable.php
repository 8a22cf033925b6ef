<?php

declare(strict_types=1);

namespace App\Runs;

use App\Models\ModelDocument;
use MerryOrbit\Core\Problem\NotUnderstood;
use MerryOrbit\Core\Simulate\RunRefused;
use MerryOrbit\Core\Simulate\Simulator;

/** A question about a model whose answer is worked out in a request or by a worker; see Later. */
interface Workable
{
    /**
     * @param  array<string, mixed>  $asked  plain values; `run` says which run of which revision is meant
     *
     * @throws NotUnderstood|RunRefused
     */
    public static function read(ModelDocument $document, array $asked): self;

    /** Evaluations of an equation that it takes, about. */
    public function work(): float;

    /**
     * @return array<string, mixed>
     *
     * @throws NotUnderstood|RunRefused
     */
    public function made(Simulator $simulator): array;
}
