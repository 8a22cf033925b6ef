<?php

declare(strict_types=1);

// The engine runs without Composer: the command line needs nothing but PHP.
spl_autoload_register(static function (string $class): void {
    $prefix = 'MerryOrbit\\Core\\';
    if (str_starts_with($class, $prefix)) {
        $file = __DIR__.'/'.str_replace('\\', '/', substr($class, strlen($prefix))).'.php';
        if (is_file($file)) {
            require $file;
        }
    }
});

// Spreadsheets are read, and the Markdown of reports set, by packages; without them all else still works.
if (! class_exists('PhpOffice\\PhpSpreadsheet\\Spreadsheet', false) && is_file(__DIR__.'/../vendor/autoload.php')) {
    spl_autoload_register(static function (string $class): void {
        if (str_starts_with($class, 'PhpOffice\\') || str_starts_with($class, 'League\\CommonMark\\')) {
            // The packages' own loader takes over from here on; PHP asks nobody twice for one class.
            /** @var Composer\Autoload\ClassLoader $loader */
            $loader = require __DIR__.'/../vendor/autoload.php';
            $loader->loadClass($class);
        }
    });
}
