<?php

declare(strict_types=1);

return [
    'default' => 'stack',
    'channels' => [
        // What cannot be written, on a full disk, is no reason to fail.
        'stack' => ['driver' => 'stack', 'channels' => ['daily'], 'ignore_exceptions' => true],
        'daily' => [
            'driver' => 'daily',
            'path' => storage_path('logs/laravel.log'),
            'level' => env('LOG_LEVEL', 'debug'),
            'days' => 7,
            'replace_placeholders' => true,
        ],
        'null' => ['driver' => 'monolog', 'handler' => Monolog\Handler\NullHandler::class],
    ],
];
