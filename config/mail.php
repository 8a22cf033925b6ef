<?php

declare(strict_types=1);

return [
    // Where nothing else is said, letters lie in the simulated post office: docs/people.md.
    'default' => env('MAIL_MAILER', 'post-office'),
    'mailers' => [
        'post-office' => ['transport' => 'post-office'],
        'smtp' => [
            'transport' => 'smtp',
            'scheme' => env('MAIL_SCHEME'),
            'host' => env('MAIL_HOST', '127.0.0.1'),
            'port' => (int) env('MAIL_PORT', 587),
            'username' => env('MAIL_USERNAME'),
            'password' => env('MAIL_PASSWORD'),
            'timeout' => 20,
        ],
        'sendmail' => ['transport' => 'sendmail', 'path' => env('MAIL_SENDMAIL_PATH', '/usr/sbin/sendmail -bs -i')],
        'array' => ['transport' => 'array'],
    ],
    'from' => ['address' => env('MAIL_FROM_ADDRESS', 'merry-orbit@localhost.localdomain'), 'name' => 'Merry Orbit'],
];
