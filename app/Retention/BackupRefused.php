<?php

declare(strict_types=1);

namespace App\Retention;

/** A backup that cannot be made or read; the message is for people. */
final class BackupRefused extends \RuntimeException
{
    public static function because(string $sentence): self
    {
        return new self($sentence);
    }
}
