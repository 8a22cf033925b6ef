<?php

declare(strict_types=1);

namespace App\Retention;

/** Keeps files from being removed while a backup copies them. It is let go with the object, or with its process. */
final class Hold
{
    /** @param  resource  $file */
    private function __construct(private $file)
    {
    }

    /** Nothing is removed; waits while something is. */
    public static function shared(): ?self
    {
        return self::take(LOCK_SH);
    }

    /** To remove; null while somebody else does, or a backup is made. */
    public static function alone(): ?self
    {
        return self::take(LOCK_EX | LOCK_NB);
    }

    /** @param  int<0, 7>  $how */
    private static function take(int $how): ?self
    {
        $file = @fopen(storage_path('framework/tidy.lock'), 'c');

        return $file !== false && flock($file, $how) ? new self($file) : null;
    }

    public function __destruct()
    {
        fclose($this->file);
    }
}
