<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Cli;

/** A model with problems: nothing is computed of it. The message has one problem per line. */
final class ModelRefused extends \RuntimeException
{
    /** @param  non-empty-list<string>  $lines */
    public function __construct(array $lines)
    {
        parent::__construct(implode("\n", $lines));
    }
}
