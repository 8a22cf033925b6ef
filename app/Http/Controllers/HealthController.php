<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use App\Runs\Health;
use App\Runs\Metrics;
use Illuminate\Http\JsonResponse;
use Illuminate\Http\Response;

/** How things are: for people and scripts as JSON, for a monitor as figures. Neither needs a session. */
final class HealthController
{
    public function __invoke(): JsonResponse
    {
        $state = Health::state();

        return new JsonResponse($state, $state['well'] ? 200 : 503);
    }

    public function metrics(): Response
    {
        return new Response(Metrics::text(Health::state()), 200, ['Content-Type' => Metrics::TYPE]);
    }
}
