<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use App\Models\Batch;
use App\Models\ModelDocument;
use App\Models\User;
use App\Runs\Batches;
use App\Sharing\Access;
use Illuminate\Container\Attributes\CurrentUser;
use Illuminate\Database\Eloquent\ModelNotFoundException;
use Illuminate\Http\JsonResponse;
use Illuminate\Http\Request;

/** Many runs at once: scenarios, and what else is tried in numbers. */
final class BatchController
{
    public function store(Request $request, ModelDocument $model, #[CurrentUser] User $user): JsonResponse
    {
        $request->validate(['runs' => ['required', 'list']], ['runs.*' => 'Say which runs to make: `runs`, a list.']);

        return new JsonResponse(Batches::state(Batches::make($model, $user, array_values($request->array('runs')))), 201);
    }

    public function show(ModelDocument $model, string $batch): JsonResponse
    {
        return new JsonResponse(Batches::state($model->batches()->findOrFail($batch)));
    }

    /** What is made already stays. */
    public function destroy(ModelDocument $model, string $batch, #[CurrentUser] User $user): JsonResponse
    {
        /** @var Batch $row */
        $row = $model->batches()->findOrFail($batch);
        Access::mayAct($user, $model, $row->user_id) || throw new ModelNotFoundException();
        $row->cancel();
        $row->runs()
            ->where('state', 'waiting')
            ->update(['state' => 'stopped']);

        return new JsonResponse(Batches::state($row));
    }
}
