<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Exchange;

/** A file that cannot be taken in. The message is a sentence that says what, where and how to mend it. */
final class FileRefused extends \RuntimeException
{
    public static function because(string $sentence): self
    {
        return new self($sentence);
    }
}
