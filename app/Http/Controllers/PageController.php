<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use Illuminate\Contracts\View\View;

/** The page; all its places are one application in the browser. */
final class PageController
{
    public function __invoke(): View
    {
        return view('page');
    }
}
