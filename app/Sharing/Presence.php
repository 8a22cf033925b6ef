<?php

declare(strict_types=1);

namespace App\Sharing;

use App\Models\ModelDocument;
use App\Models\User;
use Illuminate\Support\Facades\Cache;

/** Who has a model before them at the moment, and what they look at. Kept in the cache for some seconds: nothing of it is worth a disk. */
final class Presence
{
    /** Without a sign for so long, in seconds, somebody is gone; a quiet window gives one every five. */
    private const SECONDS = 15;

    private const MOST = 100;

    /** @param  string  $thing  what is selected there, by its id */
    public static function note(ModelDocument $model, User $user, string $window, string $thing): void
    {
        rescue(static function () use ($model, $user, $window, $thing): void {
            $windows = self::windows($model);
            if (! in_array($window, $windows, true)) {
                // Two at once may lose one; it comes again with its next sign.
                Cache::put(self::list($model), array_slice([$window, ...$windows], 0, self::MOST), 3600);
            }
            Cache::put(self::one($model, $window), ['id' => $user->id, 'name' => $user->name, 'thing' => $thing], self::SECONDS);
        }, report: false);
    }

    /** @return list<array{name: string, thing: string}> others, each person once */
    public static function others(ModelDocument $model, User $user): array
    {
        $here = [];
        $gone = [];
        foreach (rescue(static fn (): array => self::windows($model), [], report: false) as $window) {
            $one = Cache::get(self::one($model, $window));
            if (! is_array($one)) {
                $gone[] = $window;
            } elseif ($one['id'] !== $user->id) {
                $here[$one['id']] ??= ['name' => (string) $one['name'], 'thing' => (string) $one['thing']];
            }
        }
        if (count($gone) > self::MOST / 2) {
            Cache::put(self::list($model), array_values(array_diff(self::windows($model), $gone)), 3600);
        }

        return array_values($here);
    }

    /** @return list<string> */
    private static function windows(ModelDocument $model): array
    {
        $windows = Cache::get(self::list($model));

        return is_array($windows) ? array_values(array_filter($windows, is_string(...))) : [];
    }

    private static function list(ModelDocument $model): string
    {
        return "windows of $model->id";
    }

    private static function one(ModelDocument $model, string $window): string
    {
        return "window $window of $model->id";
    }
}
