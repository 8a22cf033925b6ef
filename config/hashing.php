<?php

declare(strict_types=1);

return [
    'driver' => 'argon2id',
    // OWASP's password storage cheat sheet asks for 19 MB and two passes at least; on a small machine this takes a tenth of a second.
    'argon' => ['memory' => (int) env('HASH_MEMORY', 47_104), 'threads' => 1, 'time' => (int) env('HASH_TIME', 3), 'verify' => true],
    'rehash_on_login' => true,
];
