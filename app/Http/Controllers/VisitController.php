<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use App\Models\ModelDocument;
use App\Models\User;
use App\Sharing\Sharing;
use App\Sharing\Visits;
use Illuminate\Container\Attributes\CurrentUser;
use Illuminate\Http\JsonResponse;

/** Somebody opens a study, and hears what others have done there since. */
final class VisitController
{
    public function store(ModelDocument $model, #[CurrentUser] User $user): JsonResponse
    {
        Sharing::opened($model->study, $user);

        return new JsonResponse(Visits::since($model, $user, Visits::begin($model, $user)));
    }
}
