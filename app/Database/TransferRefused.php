<?php

declare(strict_types=1);

namespace App\Database;

/** Why a database is not copied, as a sentence. */
final class TransferRefused extends \RuntimeException
{
    public static function because(string $sentence): self
    {
        return new self($sentence);
    }
}
