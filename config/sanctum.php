<?php

declare(strict_types=1);

return [
    // A token stands for itself; who is signed in in a browser is asked apart from it.
    'guard' => [],
    'stateful' => [],
    'expiration' => null,
    'token_prefix' => 'mo_',
    // The route for pages of other origins, of which there are none.
    'routes' => false,
    // Written at most once a minute: App\People\Tokens.
    'last_used_at' => false,
];
