<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Problem;

/** A record from outside that describes nothing. The message is a sentence for the reader. */
final class NotUnderstood extends \RuntimeException
{
    public static function because(string $sentence): self
    {
        return new self($sentence);
    }
}
