<?php

declare(strict_types=1);

return [
    'driver' => env('SESSION_DRIVER', 'lasting'),
    'lifetime' => 60 * 24 * 14,
    'expire_on_close' => false,
    'encrypt' => false,
    'files' => storage_path('framework/sessions'),
    // Old ones are removed by orbit:tidy.
    'lottery' => [0, 100],
    'cookie' => env('SESSION_SECURE_COOKIE', false) ? '__Host-merry_orbit_session' : 'merry_orbit_session',
    'path' => '/',
    'domain' => null,
    'secure' => (bool) env('SESSION_SECURE_COOKIE', false),
    'http_only' => true,
    'same_site' => 'strict',
    'partitioned' => false,
];
