<?php

declare(strict_types=1);

// Makes a token of somebody on the server of the browser tests with accounts, and prints it: php tests/Browser/token.php EMAIL

use App\Models\User;
use Illuminate\Contracts\Console\Kernel;

require dirname(__DIR__, 2).'/vendor/autoload.php';
/** @var Illuminate\Foundation\Application $app */
$app = require dirname(__DIR__, 2).'/bootstrap/app.php';
$app->make(Kernel::class)->bootstrap();
$user = User::query()->firstOrCreate(['email' => $argv[1] ?? 'program@quillhaven.example'], ['name' => 'A program']);
echo $user->createToken('a program', ['read', 'edit'], now()->addDay())->plainTextToken;
