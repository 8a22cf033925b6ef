<?php

declare(strict_types=1);

namespace App\Http\Controllers\Account;

use App\Models\SignIn;
use App\Models\User;
use App\People\SignIns;
use Illuminate\Container\Attributes\CurrentUser;
use Illuminate\Http\JsonResponse;
use Illuminate\Http\Request;

/** Where one is signed in. */
final class SignInController
{
    public function index(Request $request, #[CurrentUser] User $user): JsonResponse
    {
        $here = SignIns::here($request)?->id;

        return new JsonResponse([
            'signIns' => $user
                ->signIns()
                ->where('until', '>', now())
                ->latest('seen_at')
                ->get()
                ->map(
                    static fn (SignIn $s): array => [
                        'id' => $s->id,
                        'browser' => $s->browser,
                        'address' => $s->address,
                        'since' => $s->created_at->toIso8601String(),
                        'seen' => $s->seen_at->toIso8601String(),
                        'until' => $s->until->toIso8601String(),
                        'here' => $s->id === $here,
                    ],
                )
                ->all(),
        ]);
    }

    public function destroy(#[CurrentUser] User $user, int $signIn): JsonResponse
    {
        $user->signIns()->findOrFail($signIn)->delete();

        return new JsonResponse(null, 204);
    }

    /** All others. */
    public function clear(Request $request, #[CurrentUser] User $user): JsonResponse
    {
        return new JsonResponse(['ended' => SignIns::endOthers($user, SignIns::here($request))]);
    }
}
