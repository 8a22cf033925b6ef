<?php

declare(strict_types=1);

namespace App\Http\Middleware;

use Closure;
use Illuminate\Http\Request;
use Symfony\Component\HttpFoundation\BinaryFileResponse;
use Symfony\Component\HttpFoundation\Response;
use Symfony\Component\HttpFoundation\StreamedResponse;

final class SecurityHeaders
{
    /**
     * Components set styles on the fly, hence unsafe-inline for styles; scripts come from here alone, and so does what a script of
     * ours hands to a worker: spreadsheets are packed in one.
     */
    private const POLICY = "default-src 'self'; script-src 'self'; style-src 'self' 'unsafe-inline'; img-src 'self' data: blob:; font-src 'self' data:; connect-src 'self'; worker-src 'self' blob:; object-src 'none'; base-uri 'none'; form-action 'self'; frame-ancestors ";

    /** Of a request: which pages may show the answer in a frame. None may where nothing is said. */
    public const FRAMES = 'frames';

    public function handle(Request $request, Closure $next): Response
    {
        /** @var Response $response */
        $response = $next($request);
        $frames = $request->attributes->get(self::FRAMES);
        $response->headers->set('Content-Security-Policy', self::POLICY.(is_string($frames) && $frames !== '' ? $frames : "'none'"));
        $response->headers->set('X-Content-Type-Options', 'nosniff');
        $response->headers->set('Referrer-Policy', 'same-origin');
        $response->headers->set('Permissions-Policy', 'camera=(), geolocation=(), microphone=()');
        $response->headers->set('Cross-Origin-Opener-Policy', 'same-origin');
        $response->headers->set('Cross-Origin-Resource-Policy', 'same-origin');
        if ($request->isSecure()) {
            $response->headers->set('Strict-Transport-Security', 'max-age=31536000');
        }
        // What is somebody's stays in no cache on the way, and in none of a machine that others use after them.
        $response->headers->set('Cache-Control', 'no-store, private');
        $response->headers->remove('X-Powered-By');
        // An answer that breaks off, as its process was killed, is noticed.
        $content = $response instanceof StreamedResponse || $response instanceof BinaryFileResponse ? false : $response->getContent();
        if ($content !== false && ! $response->isEmpty()) {
            $response->headers->set('Content-Length', (string) strlen($content));
        }

        return $response;
    }
}
