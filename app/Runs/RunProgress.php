<?php

declare(strict_types=1);

namespace App\Runs;

use App\Files\Spare;
use Illuminate\Support\Facades\Cache;
use MerryOrbit\Core\Library\RunWatcher;

/** How far a run in a request has come, for the page that asked for it, and its wish to stop. */
final class RunProgress
{
    private const SECONDS = 120;

    /** @param  string  $token  made by the page */
    public static function watch(string $token): RunWatcher
    {
        return new RunWatcher(static fn (float $share): bool => self::tell($token, $share));
    }

    /**
     * The same, for a request that computes only for a moment.
     *
     * @param  bool  $spent  becomes true when it was stopped because its time is spent
     */
    public static function watchFor(string $token, float $seconds, bool &$spent): RunWatcher
    {
        $until = hrtime(true) / 1e9 + $seconds;

        return new RunWatcher(static function (float $share) use ($token, $until, &$spent): bool {
            // What is nearly there is brought to its end.
            $spent = hrtime(true) / 1e9 > $until && $share < 0.8;

            return self::tell($token, $share) || $spent;
        }, $seconds / 4);
    }

    /** @return bool whether to stop */
    public static function tell(string $token, float $share): bool
    {
        Spare::keep("run $token", $share, self::SECONDS);

        return Cache::pull("stop $token") === true;
    }

    public static function share(string $token): ?float
    {
        $share = Cache::get("run $token");

        // Some caches give numbers back as text.
        return is_numeric($share) ? (float) $share : null;
    }

    public static function stop(string $token): void
    {
        Cache::put("stop $token", true, self::SECONDS);
    }

    public static function forget(string $token): void
    {
        Cache::forget("run $token");
        Cache::forget("stop $token");
    }
}
