<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use App\Models\ModelDocument;
use App\Models\User;
use App\Studies\ModelEditor;
use App\Studies\ViewShelf;
use Illuminate\Container\Attributes\CurrentUser;
use Illuminate\Http\JsonResponse;
use Illuminate\Http\Request;

final class ModelController
{
    public function show(ModelDocument $model, #[CurrentUser] User $user): JsonResponse
    {
        return new JsonResponse([
            'id' => $model->id,
            'study' => $model->study_id,
            'revision' => $model->revision,
            'model' => (new ViewShelf($model->id))->view($model->revision, $model->core(...))->toJson(),
            ...(new ModelEditor($model, $user, ''))->steps(),
        ]);
    }

    /** What happened since a revision; asked once a second by every open window, so nothing new is answered quickly. */
    public function news(Request $request, ModelDocument $model, #[CurrentUser] User $user): JsonResponse
    {
        $since = $request->integer('since');

        return new JsonResponse($since === $model->revision ? ['revision' => $since, 'since' => $since, 'done' => []] : (new ModelEditor($model, $user, ''))->news(max(0, $since)));
    }
}
