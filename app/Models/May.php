<?php

declare(strict_types=1);

namespace App\Models;

/** What somebody may do with a study; each may do what those before it may. */
enum May: string
{
    case Nothing = 'nothing';
    case Read = 'read';
    case Comment = 'comment';
    case Edit = 'edit';
    case Own = 'own';

    /** What can be given to others. */
    public const GIVEN = ['read', 'comment', 'edit'];

    public function rank(): int
    {
        return (int) array_search($this, self::cases(), true);
    }

    public function includes(self $other): bool
    {
        return $this->rank() >= $other->rank();
    }

    /** @return string to stand behind a name that is let do it */
    public function act(): string
    {
        return match ($this) {
            self::Comment => 'comment on it',
            self::Edit => 'change it',
            default => 'read it',
        };
    }

    /** @return string to stand behind "may" */
    public function words(): string
    {
        return match ($this) {
            self::Nothing => 'not see it',
            self::Read => 'read it and try settings',
            self::Comment => 'read it and comment',
            self::Edit => 'change it',
            self::Own => 'do everything with it',
        };
    }
}
