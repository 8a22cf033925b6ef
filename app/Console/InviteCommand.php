<?php

declare(strict_types=1);

namespace App\Console;

use App\Models\Key;
use App\Models\User;
use App\People\Letters;
use Illuminate\Console\Command;

/** Prints an address by which an account can be made: the first one, or one for somebody. */
final class InviteCommand extends Command
{
    private const FIRST_HOURS = 24;

    protected $signature = 'orbit:invite {email? : of whom; left out, whoever opens the address says} {--first : only while nobody has an account}';

    protected $description = 'Print an address by which an account can be made';

    public function handle(): int
    {
        if ($this->option('first') === true) {
            if (User::query()->whereNotNull('password')->exists()) {
                return self::SUCCESS;
            }
            // The one before it is worth nothing any more.
            Key::query()->where('kind', Key::FIRST)->delete();
            $this->line(Letters::address('join', Key::cut(Key::FIRST, self::FIRST_HOURS)));

            return self::SUCCESS;
        }
        $given = $this->argument('email');
        $email = is_string($given) ? User::emailOf($given) : null;
        if ($email !== null && filter_var($email, FILTER_VALIDATE_EMAIL) === false) {
            $this->error("“{$email}” is not an address that letters can be sent to.");

            return self::FAILURE;
        }
        if ($email !== null && User::query()->where('email', $email)->exists()) {
            $this->error("$email has an account already.");

            return self::FAILURE;
        }
        $this->line(Letters::address('join', Key::cut(Key::INVITATION, Letters::INVITATION_HOURS, $email)));

        return self::SUCCESS;
    }
}
