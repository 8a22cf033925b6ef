<?php

declare(strict_types=1);

// For PHP's built-in server: files of public/ as they are, everything else through the application.
$path = rawurldecode((string) parse_url((string) $_SERVER['REQUEST_URI'], PHP_URL_PATH));
// A file name holds no zero byte.
$file = str_contains($path, "\0") ? false : realpath(__DIR__.'/../public'.$path);
$public = (string) realpath(__DIR__.'/../public');
if ($file !== false && is_file($file) && str_starts_with($file, $public.'/') && ! str_ends_with($file, '.php')) {
    $types = [
        'js' => 'text/javascript',
        'css' => 'text/css',
        'svg' => 'image/svg+xml',
        'woff2' => 'font/woff2',
        'woff' => 'font/woff',
        'json' => 'application/json',
        'png' => 'image/png',
    ];
    header('Content-Type: '.($types[pathinfo($file, PATHINFO_EXTENSION)] ?? 'application/octet-stream'));
    header('X-Content-Type-Options: nosniff');
    // Built files carry a hash of their content in their name.
    header(str_starts_with($path, '/build/assets/') ? 'Cache-Control: public, max-age=31536000, immutable' : 'Cache-Control: no-cache');
    header('Content-Length: '.filesize($file));
    readfile($file);

    return true;
}
// bin/serve lets requests end before it starts the server anew. The lock is let go when the request is over, or its process dead.
$serving = getenv('MERRY_ORBIT_SERVING');
$lock = is_string($serving) ? @fopen($serving, 'c') : false;
if ($lock !== false) {
    flock($lock, LOCK_SH);
}
$_SERVER['SCRIPT_NAME'] = '/index.php';
require __DIR__.'/../public/index.php';

return true;
