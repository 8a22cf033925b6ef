<?php

declare(strict_types=1);

namespace App\Http\Controllers\Account;

use App\Models\Happening;
use App\Models\User;
use App\People\Letters;
use App\People\Tokens;
use Illuminate\Container\Attributes\CurrentUser;
use Illuminate\Http\JsonResponse;
use Illuminate\Http\Request;
use Illuminate\Validation\ValidationException;
use Laravel\Sanctum\PersonalAccessToken;

/** Tokens for programs. */
final class TokenController
{
    public function index(#[CurrentUser] User $user): JsonResponse
    {
        return new JsonResponse([
            'scopes' => Tokens::SCOPES,
            'tokens' => $user->tokens()->latest('id')->get()->map(self::told(...))->all(),
        ]);
    }

    public function store(Request $request, #[CurrentUser] User $user): JsonResponse
    {
        Confirmed::byPassword($request, $user);
        $request->validate(
            [
                'name' => ['required', 'string', 'max:80', 'regex:/\S/'],
                'scopes' => ['required', 'list', 'min:1'],
                'scopes.*' => ['string', 'in:'.implode(',', array_keys(Tokens::SCOPES))],
                'days' => ['required', 'integer', 'min:1', 'max:'.Tokens::MOST_DAYS],
            ],
            [
                'name.*' => 'Say what the token is for, in up to 80 characters.',
                'scopes*' => 'Say what it may do: `read`, `edit`, or both.',
                'days.*' => 'Say for how many days, up to '.Tokens::MOST_DAYS.'.',
            ],
        );
        if ($user->tokens()->count() >= Tokens::MOST) {
            throw ValidationException::withMessages(['name' => 'You have '.Tokens::MOST.' tokens. Take one away first.']);
        }
        /** @var list<string> $scopes */
        $scopes = $request->array('scopes');
        $made = $user->createToken(
            Letters::line($request->string('name')->toString()),
            $scopes,
            now()->addDays($request->integer('days')),
        );
        Happening::note('token', 'made a token for a program');

        return new JsonResponse(['token' => $made->plainTextToken, ...self::told($made->accessToken)], 201);
    }

    public function destroy(#[CurrentUser] User $user, int $token): JsonResponse
    {
        $user->tokens()->findOrFail($token)->delete();
        Happening::note('token', 'took a token away');

        return new JsonResponse(null, 204);
    }

    /** @return array<string, mixed> */
    private static function told(PersonalAccessToken $token): array
    {
        return [
            'id' => $token->getKey(),
            'name' => $token->name,
            'scopes' => $token->abilities,
            'made' => $token->created_at?->toIso8601String(),
            'used' => $token->last_used_at?->toIso8601String(),
            'until' => $token->expires_at?->toIso8601String(),
        ];
    }
}
