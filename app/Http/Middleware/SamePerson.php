<?php

declare(strict_types=1);

namespace App\Http\Middleware;

use App\Problems\ProblemDocument;
use Closure;
use Illuminate\Http\Request;
use Illuminate\Support\Facades\Auth;
use Symfony\Component\HttpFoundation\Response;

/** Edits that waited in a page belong to the person who made them: a session of somebody else never sends them. */
final class SamePerson
{
    public function handle(Request $request, Closure $next): Response
    {
        $user = $request->input('user');
        if ($user !== null && $user !== Auth::id()) {
            return ProblemDocument::response(
                403,
                'other-person',
                'Somebody else is signed in by now. Sign in as before; what you did waits in the page and is saved then.',
            );
        }

        return $next($request);
    }
}
