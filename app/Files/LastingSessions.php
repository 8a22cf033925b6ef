<?php

declare(strict_types=1);

namespace App\Files;

use Illuminate\Session\FileSessionHandler;

/** Sessions as files that a full disk neither empties nor makes requests fail: what is there stays until it can be replaced whole. */
final class LastingSessions extends FileSessionHandler
{
    /**
     * @param  string  $sessionId
     * @param  string  $data
     */
    public function write($sessionId, $data): bool
    {
        $path = "$this->path/$sessionId";
        if ($this->files->isFile($path) && $this->files->sharedGet($path) === $data) {
            return @touch($path);
        }

        return rescue(
            function () use ($path, $data): bool {
                $this->files->replace($path, $data);

                return true;
            },
            false,
            report: false,
        );
    }
}
