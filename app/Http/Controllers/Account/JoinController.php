<?php

declare(strict_types=1);

namespace App\Http\Controllers\Account;

use App\Http\Resources\MeResource;
use App\Http\Validation\Address;
use App\Models\Happening;
use App\Models\Key;
use App\Models\User;
use App\People\Letters;
use App\People\SignIns;
use App\Problems\ProblemDocument;
use App\Sharing\Sharing;
use Illuminate\Container\Attributes\CurrentUser;
use Illuminate\Http\JsonResponse;
use Illuminate\Http\Request;
use Illuminate\Support\Facades\DB;
use Illuminate\Validation\ValidationException;

/** Accounts are made by who has a key: the first one's is printed where Merry Orbit is started, others' come in a letter. */
final class JoinController
{
    /** What a key is for. */
    public function look(Request $request): JsonResponse
    {
        $key = self::keyOf($request);

        return $key === null
            ? self::spent()
            : new JsonResponse([
                'kind' => $key->kind,
                'email' => $key->email,
                'by' => $key->kind === Key::ADDRESS ? null : $key->user?->name,
            ]);
    }

    public function join(Request $request): MeResource|JsonResponse
    {
        $key = self::keyOf($request);
        if ($key === null || $key->kind === Key::ADDRESS) {
            return self::spent();
        }
        Address::tidy($request);
        $request->validate(
            [
                'name' => ['required', 'string', 'max:80', 'regex:/\S/'],
                'email' => [$key->email === null ? 'required' : 'prohibited', 'string', 'email', 'max:255'],
                'password' => ['required', 'string', 'max:1000'],
            ],
            [
                'name.*' => 'Say what you are called, in up to 80 characters.',
                'email.*' => 'Write an address that letters can be sent to.',
                'password.*' => 'Choose a password.',
            ],
        );
        $name = Letters::line($request->string('name')->toString());
        $email = $key->email ?? $request->string('email')->toString();
        $password = $request->string('password')->toString();
        Confirmed::isGood('password', $password, $name, $email);
        $user = DB::transaction(static function () use ($key, $name, $email, $password): ?User {
            if (! $key->use()) {
                return null;
            }
            if (User::query()->where('email', $email)->exists()) {
                throw ValidationException::withMessages([
                    'email' => 'This address has an account already. Sign in with it, or choose a new password.',
                ]);
            }
            $user = User::query()->create(['name' => $name, 'email' => $email, 'password' => $password]);
            if ($key->email !== null) {
                // Whoever reads the letters of an address gets what was shared with it.
                Sharing::claim($user);
            }

            return $user;
        });
        if ($user === null) {
            return self::spent();
        }
        Happening::note('joined', 'made an account', by: $user);
        SignIns::begin($user, $request, false);

        return MeResource::make($user);
    }

    /** The address of an account becomes the one that the letter was sent to. */
    public function address(Request $request): JsonResponse
    {
        $key = self::keyOf($request);
        if ($key === null || $key->kind !== Key::ADDRESS || $key->user === null) {
            return self::spent();
        }
        $user = $key->user;
        $before = $user->email;
        DB::transaction(static function () use ($key, $user): void {
            if (! $key->use() || User::query()->where('email', $key->email)->exists()) {
                throw ValidationException::withMessages(['email' => 'This address has an account already.']);
            }
            $user->forceFill(['email' => $key->email])->save();
            Sharing::claim($user);
        });
        Happening::note('address', 'changed the address', by: $user);
        Letters::changed($before, 'Your account has another address now.');

        return new JsonResponse(null, 204);
    }

    public function invite(Request $request, #[CurrentUser] User $user): JsonResponse
    {
        if (! config()->boolean('merry-orbit.invite')) {
            return ProblemDocument::response(403, 'invite', 'Here, only who runs Merry Orbit invites people.');
        }
        Address::tidy($request);
        $request->validate(
            ['email' => ['required', 'string', 'email', 'max:255']],
            ['email.*' => 'Write an address that letters can be sent to.'],
        );
        Letters::mustBeFew($user);
        Sharing::write($request->string('email')->toString(), $user, null, null);
        Happening::note('invited', 'invited somebody');

        return new JsonResponse(null, 204);
    }

    private static function keyOf(Request $request): ?Key
    {
        $request->validate(
            ['key' => ['required', 'string', 'max:100']],
            ['key.*' => 'Open the address as it was sent to you, up to its end.'],
        );

        return Key::find($request->string('key')->toString());
    }

    private static function spent(): JsonResponse
    {
        return ProblemDocument::response(404, 'key', 'This address was used already, or is too old. Ask for another.');
    }
}
