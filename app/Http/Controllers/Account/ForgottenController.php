<?php

declare(strict_types=1);

namespace App\Http\Controllers\Account;

use App\Http\Validation\Address;
use App\Models\Happening;
use App\Models\User;
use App\People\ForgottenJob;
use App\People\SignIns;
use App\Problems\ProblemDocument;
use Illuminate\Http\JsonResponse;
use Illuminate\Http\Request;
use Illuminate\Support\Facades\Password;
use Illuminate\Support\Facades\RateLimiter;

/** A password that was forgotten: a letter, and a new one. */
final class ForgottenController
{
    /** Letters that may be asked for from one address in an hour. */
    private const MOST = 10;

    public function store(Request $request): JsonResponse
    {
        Address::tidy($request);
        $request->validate(['email' => ['required', 'string', 'max:255']], ['email.*' => 'Write your address.']);
        if (RateLimiter::hit("forgotten from {$request->ip()}", 3600) > self::MOST) {
            throw SignIns::tooOften("forgotten from {$request->ip()}");
        }
        // The same is said, and as soon, whether there is such an account or not: a worker looks.
        ForgottenJob::dispatch($request->string('email')->toString());

        return new JsonResponse(null, 204);
    }

    public function update(Request $request): JsonResponse
    {
        Address::tidy($request);
        $request->validate(
            [
                'email' => ['required', 'string', 'max:255'],
                'token' => ['required', 'string', 'max:100'],
                'password' => ['required', 'string', 'max:1000'],
            ],
            [
                'email.*' => 'Open the address as it was sent to you, up to its end.',
                'token.*' => 'Open the address as it was sent to you, up to its end.',
                'password.*' => 'Choose a password.',
            ],
        );
        $email = $request->string('email')->toString();
        $password = $request->string('password')->toString();
        Confirmed::isGood('password', $password, '', $email);
        $status = null;
        SignIns::tried("forgotten $email", $request, static function () use ($request, $email, $password, &$status): bool {
            $status = Password::broker()->reset(
                ['email' => $email, 'token' => $request->string('token')->toString(), 'password' => $password],
                static function (User $user) use ($password): void {
                    $user->forceFill(['password' => $password])->save();
                    // Whoever was in before is not any more; a second factor stays.
                    SignIns::endOthers($user, null);
                    Happening::note('password', 'chose a new password by a letter', by: $user);
                },
            );

            return $status === Password::PASSWORD_RESET;
        });

        return $status === Password::PASSWORD_RESET
            ? new JsonResponse(null, 204)
            : ProblemDocument::response(422, 'key', 'This address was used already, or is too old. Ask for another letter.');
    }
}
