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
