<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use App\Http\Middleware\SecurityHeaders;
use App\Models\ShownLink;
use Illuminate\Contracts\View\View;
use Illuminate\Http\Request;

/** The page; all its places are one application in the browser. One address of it is for frames of the pages that a link names. */
final class PageController
{
    public function __invoke(Request $request): View
    {
        if (preg_match('#^/embed/([0-9a-z]{26})$#', $request->getPathInfo(), $of) === 1) {
            // Where the database cannot be read, nothing is shown in frames.
            $hosts = rescue(static fn (): mixed => ShownLink::open()->find($of[1])?->hosts, report: false);
            $request->attributes->set(
                SecurityHeaders::FRAMES,
                implode(' ', is_array($hosts) ? array_filter($hosts, is_string(...)) : []),
            );
        }

        return view('page');
    }
}
