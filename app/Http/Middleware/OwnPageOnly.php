<?php

declare(strict_types=1);

namespace App\Http\Middleware;

use Illuminate\Foundation\Http\Middleware\ValidateCsrfToken;
use Illuminate\Http\Request;

/**
 * What changes something comes from our own page, which shows it by a token; or from a program that brings a token of an account in a
 * header no other page can set, and no cookie.
 */
final class OwnPageOnly extends ValidateCsrfToken
{
    /** @param  Request  $request */
    protected function inExceptArray($request): bool
    {
        return ($request->bearerToken() !== null && ! $request->hasCookie(config()->string('session.cookie'))) ||
            parent::inExceptArray($request);
    }
}
