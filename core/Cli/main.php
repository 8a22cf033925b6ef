<?php

declare(strict_types=1);

require __DIR__.'/../autoload.php';

/** @var list<string> $words */
$words = $_SERVER['argv'];

exit((new MerryOrbit\Core\Cli\Orbit(STDOUT, STDERR))->run(array_slice($words, 1)));
