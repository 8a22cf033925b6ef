<?php

declare(strict_types=1);

namespace App\Http\Controllers\Account;

use App\Models\Happening;
use App\Models\User;
use App\People\Letters;
use App\People\SecondFactor;
use App\People\SignIns;
use App\People\Totp;
use App\Problems\ProblemDocument;
use Illuminate\Container\Attributes\CurrentUser;
use Illuminate\Http\JsonResponse;
use Illuminate\Http\Request;

/** Codes of an authenticator besides the password. */
final class SecondFactorController
{
    public function store(Request $request, #[CurrentUser] User $user): JsonResponse
    {
        Confirmed::byPassword($request, $user);
        if ($user->password === null || SecondFactor::isOn($user)) {
            return ProblemDocument::response(
                422,
                'second-factor',
                'A second factor is there already, or there is no password for it to stand beside.',
            );
        }
        $secret = SecondFactor::begin($user);

        return new JsonResponse(['secret' => $secret, 'address' => Totp::address($secret, $user->email)]);
    }

    public function confirm(Request $request, #[CurrentUser] User $user): JsonResponse
    {
        $request->validate(['code' => ['required', 'string', 'max:40']], ['code.*' => 'Type the six digits that show now.']);
        $codes = null;
        $isRight =
            ! SecondFactor::isOn($user) &&
            SignIns::tried($user->email, $request, static function () use ($request, $user, &$codes): bool {
                $codes = SecondFactor::confirm($user, $request->string('code')->toString());

                return $codes !== null;
            });
        if (! $isRight) {
            return ProblemDocument::response(
                422,
                'second-factor',
                'This code is not right. Look whether the clock of your authenticator is, and type the code that shows now.',
            );
        }
        Happening::note('second-factor', 'set up a second factor');
        Letters::changed($user->email, 'A second factor was set up for your account.');

        return new JsonResponse(['codes' => $codes]);
    }

    public function destroy(Request $request, #[CurrentUser] User $user): JsonResponse
    {
        Confirmed::byPassword($request, $user);
        SecondFactor::end($user);
        Happening::note('second-factor', 'took the second factor away');
        Letters::changed($user->email, 'The second factor of your account was taken away.');

        return new JsonResponse(null, 204);
    }
}
