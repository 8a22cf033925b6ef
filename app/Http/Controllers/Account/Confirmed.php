<?php

declare(strict_types=1);

namespace App\Http\Controllers\Account;

use App\Http\Middleware\SignInDemoAnalyst;
use App\Models\User;
use App\People\Passwords;
use App\People\SignIns;
use Illuminate\Http\Request;
use Illuminate\Support\Facades\Hash;
use Illuminate\Validation\ValidationException;

/** What changes an account, or who gets into it, wants the password once more: a browser left open is not enough. */
final class Confirmed
{
    /** @throws ValidationException */
    public static function byPassword(Request $request, User $user): void
    {
        if ($user->password === null) {
            // Persons of the demo have none, and are on this machine.
            SignInDemoAnalyst::isDemo($user) || throw ValidationException::withMessages(['password' => 'This account has no password.']);

            return;
        }
        $request->validate(['password' => ['required', 'string', 'max:1000']], ['password.*' => 'Write your password once more.']);
        $isRight = SignIns::tried(
            $user->email,
            $request,
            static fn (): bool => Hash::check($request->string('password')->toString(), (string) $user->password),
        );
        $isRight || throw ValidationException::withMessages(['password' => 'This is not your password of today.']);
    }

    /** @throws ValidationException */
    public static function isGood(string $field, string $password, string $name, string $email): void
    {
        $refusal = Passwords::refusal($password, $name, $email);
        $refusal === null || throw ValidationException::withMessages([$field => $refusal]);
    }
}
