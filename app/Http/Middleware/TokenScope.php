<?php

declare(strict_types=1);

namespace App\Http\Middleware;

use App\Models\User;
use App\People\Tokens;
use App\Problems\ProblemDocument;
use Closure;
use Illuminate\Auth\Middleware\Authorize;
use Illuminate\Http\Request;
use Laravel\Sanctum\PersonalAccessToken;
use Symfony\Component\HttpFoundation\Response;

/** What a program may do with its token: what the policy of the route is about says which scope is needed; accounts are for people. */
final class TokenScope
{
    private const SCOPES = [
        'viewAny' => Tokens::READ,
        'view' => Tokens::READ,
        'comment' => Tokens::EDIT,
        'update' => Tokens::EDIT,
        'create' => Tokens::EDIT,
        'delete' => Tokens::EDIT,
    ];

    public function handle(Request $request, Closure $next): Response
    {
        $user = $request->user();
        $token = $user instanceof User ? $user->currentAccessToken() : null;
        if (! ($token instanceof PersonalAccessToken)) {
            return $next($request);
        }
        foreach ($request->route()?->gatherMiddleware() ?? [] as $middleware) {
            if (
                ! is_string($middleware) ||
                preg_match('/^(?:can|'.preg_quote(Authorize::class, '/').'):(\w+)/', $middleware, $can) !== 1
            ) {
                continue;
            }
            $scope = self::SCOPES[$can[1]] ?? null;
            if ($scope === null) {
                return ProblemDocument::response(403, 'token.people', 'A token does not do this: sign in in a browser.');
            }
            if (! $token->can($scope)) {
                return ProblemDocument::response(
                    403,
                    'token.scope',
                    "This token lacks the scope `$scope`. Make one that has it, on the page of your account.",
                );
            }
        }

        return $next($request);
    }
}
