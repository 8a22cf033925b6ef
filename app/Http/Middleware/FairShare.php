<?php

declare(strict_types=1);

namespace App\Http\Middleware;

use Closure;
use Illuminate\Http\Request;
use Illuminate\Support\Facades\Auth;
use Illuminate\Support\Facades\RateLimiter;
use Symfony\Component\HttpFoundation\Response;
use Symfony\Component\HttpKernel\Exception\TooManyRequestsHttpException;

/** So many requests of a kind in a minute for each person, or each address where nobody is signed in: `merry-orbit.per_minute`. */
final class FairShare
{
    private const SECONDS = 60;

    /** What a request makes, by the end of its route; all others that send something compute. */
    private const KINDS = [
        'edits' => 'edits',
        'undo' => 'edits',
        'redo' => 'edits',
        'restore' => 'edits',
        'studies' => 'studies',
        'import' => 'studies',
        'duplicate' => 'studies',
        'tables' => 'files',
        'areas' => 'files',
        '{station}' => 'files',
        'kept' => 'work',
        'batches' => 'work',
        'ensembles' => 'work',
        'fits' => 'work',
        'draws' => 'work',
        'room' => 'shown',
        'shown' => 'shown',
        'copies' => 'copies',
    ];

    public function handle(Request $request, Closure $next): Response
    {
        // Looking costs little, and what waits for a worker is looked at again and again.
        if (! $request->isMethod('POST')) {
            return $next($request);
        }
        $kind = self::KINDS[basename((string) $request->route()?->uri())] ?? 'runs';
        $key = "$kind of ".(Auth::id() ?? $request->ip());
        $most = config()->integer("merry-orbit.per_minute.$kind");
        // Where nothing can be counted, on a full disk, nobody is turned away.
        $wait = rescue(
            static fn (): int => RateLimiter::hit($key, self::SECONDS) > $most ? RateLimiter::availableIn($key) : 0,
            0,
            report: false,
        );
        if ($wait > 0) {
            throw new TooManyRequestsHttpException($wait);
        }

        return $next($request);
    }
}
