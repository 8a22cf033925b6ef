<?php

declare(strict_types=1);

namespace App\Http\Middleware;

use App\People\SignIns;
use Closure;
use Illuminate\Http\Request;
use Illuminate\Support\Facades\Auth;
use Symfony\Component\HttpFoundation\Response;

/** A session is somebody's only as long as its sign-in is there: it runs out, is ended from elsewhere, or goes with the password. */
final class KnownSignIn
{
    public function handle(Request $request, Closure $next): Response
    {
        $guard = Auth::guard('web');
        // The page itself is the same for all, and opens also where the database cannot be read.
        if ($request->hasSession() && ! $request->routeIs('page')) {
            $id = $request->session()->get($guard->getName());
            if ($id !== null && SignIns::here($request)?->user_id !== $id) {
                $guard->logoutCurrentDevice();
            }
        }

        return $next($request);
    }
}
