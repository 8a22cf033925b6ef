<?php

declare(strict_types=1);

namespace App\People;

use Laravel\Sanctum\PersonalAccessToken;

/** Tokens that programs bring instead of signing in. */
final class Tokens
{
    public const READ = 'read';

    public const EDIT = 'edit';

    /** What each scope lets a program do. */
    public const SCOPES = [
        self::READ => 'read your studies and those shared with you, run them, fetch results',
        self::EDIT => 'make, change and delete them as you may',
    ];

    public const MOST = 50;

    public const MOST_DAYS = 366;

    private const SEEN_EVERY = 60;

    /** When it was used is written at most once a minute: looking at something is no change of it. */
    public static function isTaken(PersonalAccessToken $token, bool $isValid): bool
    {
        if ($isValid && ($token->last_used_at === null || $token->last_used_at->lt(now()->subSeconds(self::SEEN_EVERY)))) {
            rescue(static fn (): bool => $token->forceFill(['last_used_at' => now()])->save(), report: false);
        }

        return $isValid;
    }
}
