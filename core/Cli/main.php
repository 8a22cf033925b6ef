<?php

declare(strict_types=1);

require __DIR__.'/../autoload.php';

exit((new MerryOrbit\Core\Cli\Orbit(STDOUT, STDERR))->run(array_slice($_SERVER['argv'], 1)));
