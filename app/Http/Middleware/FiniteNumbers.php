<?php

declare(strict_types=1);

namespace App\Http\Middleware;

use Closure;
use Illuminate\Http\Request;
use MerryOrbit\Core\Problem\NotUnderstood;
use Symfony\Component\HttpFoundation\Response;

/** JSON can write numbers that no computer number holds, `1e999`: they are read as infinite, which nothing that follows expects. */
final class FiniteNumbers
{
    public function handle(Request $request, Closure $next): Response
    {
        if ($request->isJson()) {
            $sent = $request->json()->all();
            array_walk_recursive($sent, static function (mixed $value, int|string $key): void {
                if (is_float($value) && ! is_finite($value)) {
                    throw NotUnderstood::because("The number at `$key` is too large. Numbers reach to about 1.8e308.");
                }
            });
        }

        return $next($request);
    }
}
