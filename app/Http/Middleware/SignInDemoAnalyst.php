<?php

declare(strict_types=1);

namespace App\Http\Middleware;

use App\Models\User;
use Closure;
use Illuminate\Http\Request;
use Illuminate\Support\Facades\Auth;
use Symfony\Component\HttpFoundation\IpUtils;
use Symfony\Component\HttpFoundation\RedirectResponse;
use Symfony\Component\HttpFoundation\Response;

/**
 * In demo mode, a browser on this very machine is the demo analyst; one on another machine is when it was opened once by an address with
 * a key. Neither holds behind a proxy, which would let in everybody who reaches it. Nothing of this is kept in a session but which host
 * a key was used at, so a session from here is worth nothing elsewhere.
 */
final class SignInDemoAnalyst
{
    /** What something in between puts into a request. */
    private const FORWARDING = ['Forwarded', 'Via', 'X-Real-IP', 'X-Client-IP', 'True-Client-IP', 'CF-Connecting-IP', 'X-ProxyUser-Ip'];

    private const LET_IN = 'let in at';

    public const AS_PERSON = 'demo as';

    public function handle(Request $request, Closure $next): Response
    {
        // Only the server that bin/start starts can be in demo mode, whatever a file of settings says.
        $isPossible = config()->boolean('merry-orbit.demo') && in_array(PHP_SAPI, ['cli-server', 'cli'], true);
        if ($isPossible && $request->bearerToken() === null && ! Auth::check() && ! self::isForwarded($request)) {
            if ($request->routeIs('page')) {
                // The page is the same for all; it opens also where the database cannot be read.
                return $request->query('key') === null ? $next($request) : self::useKey($request);
            }
            if (
                self::isOfThisMachine($request) ||
                ($request->hasSession() && $request->session()->get(self::LET_IN) === $request->getHttpHost())
            ) {
                Auth::setUser(self::person($request));
            }
        }

        return $next($request);
    }

    /** The analyst, or who else of the demo this browser wants to be: that means nothing outside of demo mode. */
    private static function person(Request $request): User
    {
        $email = $request->hasSession() ? $request->session()->get(self::AS_PERSON) : null;
        $other = is_string($email) && isset(User::DEMO_OTHERS[$email]) ? User::query()->where('email', $email)->first() : null;

        return $other ?? User::demoAnalyst();
    }

    /** Whether somebody is here by demo mode, and not by an account. */
    public static function isDemo(?User $user): bool
    {
        return $user !== null &&
            ($user->email === User::DEMO || isset(User::DEMO_OTHERS[$user->email])) &&
            config()->boolean('merry-orbit.demo');
    }

    /** A key lets in once; it is the name of a file that is gone when it was used. */
    private static function useKey(Request $request): Response
    {
        $key = $request->query('key');
        $folder = config()->string('merry-orbit.keys');
        if (is_string($key) && $folder !== '' && @unlink($folder.'/'.hash('sha256', $key))) {
            $request->session()->regenerate();
            $request->session()->put(self::LET_IN, $request->getHttpHost());
        }

        return new RedirectResponse('/');
    }

    /** Such a request came from elsewhere, wherever the connection comes from. A proxy that says nothing speaks as no browser does. */
    private static function isForwarded(Request $request): bool
    {
        foreach ($request->headers->keys() as $name) {
            if (str_starts_with($name, 'x-forwarded')) {
                return true;
            }
        }
        foreach (self::FORWARDING as $name) {
            if ($request->headers->has($name)) {
                return true;
            }
        }

        return $request->server->get('SERVER_PROTOCOL') === 'HTTP/1.0';
    }

    private static function isOfThisMachine(Request $request): bool
    {
        // The address of the connection itself: what a header claims does not count.
        if (! IpUtils::checkIp($request->server->getString('REMOTE_ADDR'), ['127.0.0.0/8', '::1'])) {
            return false;
        }
        $hosts = [CheckHost::hostOf((string) $request->headers->get('Host'))];
        foreach (['Referer', 'Origin'] as $header) {
            // The page's own address is told by the browser, also where a proxy has changed the host.
            $host = parse_url((string) $request->headers->get($header), PHP_URL_HOST);
            if (is_string($host)) {
                $hosts[] = $host;
            }
        }

        return array_diff($hosts, CheckHost::LOOPBACK) === [];
    }
}
