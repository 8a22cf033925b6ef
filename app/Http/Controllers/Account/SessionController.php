<?php

declare(strict_types=1);

namespace App\Http\Controllers\Account;

use App\Http\Middleware\SignInDemoAnalyst;
use App\Http\Resources\MeResource;
use App\Http\Validation\Address;
use App\Models\Happening;
use App\Models\User;
use App\People\SecondFactor;
use App\People\SignIns;
use App\Problems\ProblemDocument;
use Illuminate\Container\Attributes\CurrentUser;
use Illuminate\Http\JsonResponse;
use Illuminate\Http\Request;

/** Signing in and out, and who is here. */
final class SessionController
{
    public function show(#[CurrentUser] User $user): MeResource
    {
        return MeResource::make($user);
    }

    public function store(Request $request): MeResource|JsonResponse
    {
        Address::tidy($request);
        $request->validate(
            [
                'email' => ['required', 'string', 'max:255'],
                'password' => ['required', 'string', 'max:1000'],
                'code' => ['sometimes', 'string', 'max:40'],
                'keep' => ['sometimes', 'boolean'],
            ],
            ['email.*' => 'Write your address.', 'password.*' => 'Write your password.', 'code.*' => 'A code has six digits.'],
        );
        $email = $request->string('email')->toString();
        $code = $request->string('code')->toString();
        $user = null;
        $asks = false;
        $isRight = SignIns::tried($email, $request, static function () use ($request, $email, $code, &$user, &$asks): bool {
            $user = SignIns::personOf($email, $request->string('password')->toString());
            $asks = $user !== null && SecondFactor::isOn($user);

            return $user !== null && (! $asks || ($code !== '' && SecondFactor::passes($user, $code)));
        });
        if (! $isRight || $user === null) {
            // Who knows the password is told that a code is needed; and that it was not the right one.
            if ($asks) {
                return ProblemDocument::response(
                    422,
                    'second-factor',
                    $code === ''
                        ? 'Type the six digits that your authenticator shows now, or one of your recovery codes.'
                        : 'This code is not right, or was used already. Type the one that shows now.',
                );
            }
            Happening::note(
                'refused',
                'could not sign in: address or password were not right',
                by: User::query()->where('email', $email)->first(),
            );

            return ProblemDocument::response(
                422,
                'sign-in',
                'Address and password do not go together. Look at both, or choose a new password.',
            );
        }
        SignIns::begin($user, $request, $request->boolean('keep'));

        return MeResource::make($user);
    }

    public function destroy(Request $request): JsonResponse
    {
        SignIns::end($request);

        return new JsonResponse(null, 204);
    }

    /** In demo mode, one is whom one wants to be. */
    public function be(Request $request, #[CurrentUser] User $user): MeResource|JsonResponse
    {
        if (! SignInDemoAnalyst::isDemo($user)) {
            return ProblemDocument::response(404, 'not-found', 'There is nobody else to be outside of demo mode.');
        }
        Address::tidy($request);
        $request->validate(
            ['email' => ['required', 'string', 'in:'.implode(',', [User::DEMO, ...array_keys(User::DEMO_OTHERS)])]],
            ['email.*' => 'Say who of the demo you want to be, by the address.'],
        );
        $request->session()->put(SignInDemoAnalyst::AS_PERSON, $request->string('email')->toString());

        return MeResource::make(
            User::query()
                ->where('email', $request->string('email')->toString())
                ->firstOrFail(),
        );
    }
}
