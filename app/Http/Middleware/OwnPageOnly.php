<?php

declare(strict_types=1);

namespace App\Http\Middleware;

use App\Tell\Phone;
use App\Tell\Reader;
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
        // A page in a frame has no cookies; its link stands in a header that no other page can set.
        return ($request->hasHeader(Reader::HEADER) && $request->is('api/shown', 'api/shown/*')) ||
            // As is what a phone in a workshop brings.
            ($request->hasHeader(Phone::ROOM) && $request->is('api/room')) ||
            ($request->bearerToken() !== null && ! $request->hasCookie(config()->string('session.cookie'))) ||
            parent::inExceptArray($request);
    }
}
