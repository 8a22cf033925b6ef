<?php

declare(strict_types=1);

namespace App\Http\Validation;

use App\Models\User;
use Illuminate\Http\Request;

/** An address as people type it: with room around it, in capitals. */
final class Address
{
    /** What a request holds becomes what is kept and compared. */
    public static function tidy(Request $request): void
    {
        if (is_string($request->input('email'))) {
            $request->merge(['email' => User::emailOf($request->input('email'))]);
        }
    }
}
