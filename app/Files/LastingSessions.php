<?php

declare(strict_types=1);

namespace App\Files;

use Illuminate\Filesystem\Filesystem;
use Illuminate\Session\FileSessionHandler;
use Illuminate\Support\Facades\RateLimiter;

/**
 * Sessions as files that a full disk neither empties nor makes requests fail: what is there stays until it can be replaced whole. Only
 * the page begins one, so requests without a cookie leave no files; and one that is never come back to lasts an hour.
 */
final class LastingSessions extends FileSessionHandler
{
    /** Seconds that a new session lasts unless it is used again. */
    private const NEW = 3600;

    /** On a request by which somebody signs in: its session is new by name only, and lasts. */
    public const SIGNS_IN = 'signs in';

    /** New sessions of one address in a minute. */
    private const MOST_NEW = 120;

    /**
     * @param  int  $minutes  that a session lasts after it was last used
     * @param  \Closure(): bool  $mayBegin  whether a session that is not there yet is kept
     */
    public function __construct(Filesystem $files, string $path, int $minutes, private readonly \Closure $mayBegin)
    {
        parent::__construct($files, $path, $minutes);
    }

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
        $isNew = ! $this->files->isFile($path);
        if ($isNew && ! ($this->mayBegin)()) {
            return true;
        }

        return rescue(
            function () use ($path, $data, $isNew): bool {
                $this->files->replace($path, $data, 0600);
                if ($isNew && ! request()->attributes->getBoolean(self::SIGNS_IN)) {
                    touch($path, time() - 60 * $this->minutes + self::NEW);
                }

                return true;
            },
            false,
            report: false,
        );
    }

    /** Whether the request at hand may begin a session: who signs in may, and the page, so many times a minute. */
    public static function pageBegins(): bool
    {
        $request = request();
        if ($request->attributes->getBoolean(self::SIGNS_IN)) {
            return true;
        }
        $few = static fn (): bool => RateLimiter::attempt("new session {$request->ip()}", self::MOST_NEW, static fn (): bool => true) !==
            false;

        return $request->routeIs('page') && rescue($few, true, report: false);
    }
}
