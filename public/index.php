<?php

declare(strict_types=1);

use App\Http\TypedRequest;

define('LARAVEL_START', microtime(true));

header_remove('X-Powered-By');

require __DIR__.'/../vendor/autoload.php';

/** @var Illuminate\Foundation\Application $app */
$app = require __DIR__.'/../bootstrap/app.php';
$app->handleRequest(TypedRequest::capture());
