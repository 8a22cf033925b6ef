<?php

declare(strict_types=1);

namespace App\Http\Middleware;

use App\Models\User;
use Closure;
use Illuminate\Http\Request;
use Illuminate\Support\Facades\Auth;
use Symfony\Component\HttpFoundation\IpUtils;
use Symfony\Component\HttpFoundation\Response;

/** In demo mode, a browser on this very machine is the demo analyst. */
final class SignInDemoAnalyst
{
    public function handle(Request $request, Closure $next): Response
    {
        // The address of the connection itself: what a header claims does not count.
        $address = $request->server->getString('REMOTE_ADDR');
        if (! Auth::check() && config()->boolean('merry-orbit.demo') && IpUtils::checkIp($address, ['127.0.0.0/8', '::1'])) {
            Auth::login(User::demoAnalyst());
        }

        return $next($request);
    }
}
