<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Simulate;

use MerryOrbit\Core\Problem\Problem;

/** A run that cannot be made. The message is a sentence for the modeller. */
final class RunRefused extends \RuntimeException
{
    private function __construct(public readonly Problem $problem)
    {
        parent::__construct($problem->sentence);
    }

    public static function because(Problem $problem): self
    {
        return new self($problem);
    }

    public static function tooMuch(string $sentence): self
    {
        return new self(new Problem('run.limit', $sentence, null, 'time'));
    }
}
