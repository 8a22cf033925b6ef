<?php

declare(strict_types=1);

namespace App\Files;

use Illuminate\Support\Facades\Cache;

/** What is kept because it may come in handy: where there is no room for it, nothing fails. */
final class Spare
{
    public static function keep(string $key, mixed $value, int $seconds): void
    {
        rescue(static fn (): bool => Cache::put($key, $value, $seconds), report: false);
    }
}
