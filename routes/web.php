<?php

declare(strict_types=1);

use App\Http\Controllers\PageController;
use Illuminate\Support\Facades\Route;

Route::get('/{path?}', PageController::class)->where('path', '^(?!api/|build/).*')->name('page');
