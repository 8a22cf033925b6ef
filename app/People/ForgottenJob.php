<?php

declare(strict_types=1);

namespace App\People;

use App\Models\User;
use Illuminate\Bus\Queueable;
use Illuminate\Contracts\Queue\ShouldBeEncrypted;
use Illuminate\Contracts\Queue\ShouldQueue;
use Illuminate\Foundation\Bus\Dispatchable;
use Illuminate\Support\Facades\Password;

/** Looks whether somebody has the address, and writes to them. */
final class ForgottenJob implements ShouldBeEncrypted, ShouldQueue
{
    use Dispatchable;
    use Queueable;

    public function __construct(private readonly string $email)
    {
        $this->onConnection(Letters::queue());
    }

    public function handle(): void
    {
        Password::broker()->sendResetLink(['email' => $this->email, 'left_at' => null], static function (
            User $user,
            string $token,
        ): void {
            // Persons of the demo have no password to forget.
            if ($user->password !== null) {
                Letters::newPassword($user, $token);
            }
        });
    }
}
