<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Cli;

use MerryOrbit\Core\Model\Model;
use MerryOrbit\Core\Simulate\Simulator;

/** A command that tells what a run, or many, come to: as one document, and in lines for people. */
interface Reporting
{
    /** @return array<string, mixed> as docs/command-line.md says */
    public function document(Simulator $simulator, Model $model): array;

    /**
     * @param  array<string, mixed>  $document
     * @return iterable<string>
     */
    public function lines(array $document): iterable;

    /** Whether not one of the runs came to an end. */
    public function isFailed(): bool;
}
