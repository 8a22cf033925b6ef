<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Data;

/** A file that cannot be taken as a table of data. The message is a sentence that says what, where and how to mend it. */
final class TableRefused extends \RuntimeException
{
    public static function because(string $sentence): self
    {
        return new self($sentence);
    }
}
