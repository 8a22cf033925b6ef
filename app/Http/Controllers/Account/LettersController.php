<?php

declare(strict_types=1);

namespace App\Http\Controllers\Account;

use App\People\PostOffice;
use Illuminate\Http\JsonResponse;

/** What the simulated post office would have sent, on one's own machine. */
final class LettersController
{
    public function __invoke(): JsonResponse
    {
        return new JsonResponse(['letters' => PostOffice::letters()]);
    }
}
