<?php

declare(strict_types=1);

namespace App\Http\Middleware;

use App\Problems\ProblemDocument;
use Closure;
use Illuminate\Http\Request;
use Symfony\Component\HttpFoundation\Response;

/** Answers only under the names it is meant to have, so that no other page can reach it through a name of its own. */
final class CheckHost
{
    public const LOOPBACK = ['127.0.0.1', 'localhost', '[::1]'];

    public function handle(Request $request, Closure $next): Response
    {
        $host = self::hostOf((string) $request->headers->get('Host'));
        $known = [...self::LOOPBACK, parse_url(config()->string('app.url'), PHP_URL_HOST), ...config()->array('merry-orbit.hosts')];
        if (! in_array($host, $known, true)) {
            return ProblemDocument::response(
                421,
                'host.unknown',
                'Merry Orbit does not answer under this name. Open it by the address it printed at its start, or add the name to MERRY_ORBIT_HOSTS.',
            );
        }
        $origin = $request->headers->get('Origin');
        if (
            $origin !== null &&
            ! $request->isMethodSafe() &&
            parse_url($origin, PHP_URL_HOST).self::port($origin) !==
                trim($host, '[]').self::port('http://'.$request->headers->get('Host'))
        ) {
            return ProblemDocument::response(403, 'origin.foreign', 'This request comes from another page and was not followed.');
        }

        return $next($request);
    }

    /** @param  string  $header  perhaps with a port */
    public static function hostOf(string $header): string
    {
        return strtolower((string) preg_replace('/:\d+$/D', '', $header));
    }

    private static function port(string $url): string
    {
        return ':'.(parse_url($url, PHP_URL_PORT) ?? '');
    }
}
