<?php

declare(strict_types=1);

return [
    'default' => env('DB_CONNECTION', 'sqlite'),
    'connections' => [
        'sqlite' => [
            'driver' => 'sqlite',
            'database' => env('DB_DATABASE', database_path('merry-orbit.sqlite')),
            'prefix' => '',
            'foreign_key_constraints' => true,
            // Whoever waits longer is told to come again: waiting holds one of few processes.
            'busy_timeout' => 2000,
            // An edit that was acknowledged is on disk, whatever happens to the machine.
            'journal_mode' => 'WAL',
            'synchronous' => 'FULL',
        ],
    ],
    'migrations' => ['table' => 'migrations', 'update_date_on_publish' => true],
];
