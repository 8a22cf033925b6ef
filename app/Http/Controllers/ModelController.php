<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use App\Models\ModelDocument;
use App\Models\User;
use App\Problems\ProblemDocument;
use App\Sharing\Access;
use App\Sharing\Presence;
use App\Sharing\Visits;
use App\Studies\ModelEditor;
use App\Studies\ViewCache;
use Illuminate\Container\Attributes\CurrentUser;
use Illuminate\Http\JsonResponse;
use Illuminate\Http\Request;
use MerryOrbit\Core\Model\Calendar;

final class ModelController
{
    public function show(ModelDocument $model, #[CurrentUser] User $user): JsonResponse
    {
        $beside = [
            'id' => $model->id,
            'study' => $model->study_id,
            'user' => $user->id,
            'may' => Access::ofModel($user, $model)->value,
            'revision' => $model->revision,
            ...(new ModelEditor($model, $user, ''))->steps(),
        ];
        try {
            return new JsonResponse([
                ...$beside,
                'model' => (new ViewCache($model->id))->view($model->revision, $model->core(...))->toJson(),
            ]);
        } catch (\Throwable $e) {
            // It can still be listed, exported and undone.
            report($e);

            return ProblemDocument::response(
                422,
                'model.unopened',
                'This version of the study cannot be shown. Nothing of it is lost: undo its last edit, or download it as a file.',
                $beside,
            );
        }
    }

    /** What happened since a revision; asked once a second by every open window, so nothing new is answered quickly. */
    public function news(Request $request, ModelDocument $model, #[CurrentUser] User $user): JsonResponse
    {
        $since = $request->integer('since');
        $window = mb_substr($request->string('window')->toString(), 0, 40);
        $beside = [];
        if ($window !== '' && Access::isShared($model)) {
            Presence::note($model, $user, $window, mb_substr($request->string('thing')->toString(), 0, 60));
            Visits::stay($model, $user);
            $beside = [
                'here' => Presence::others($model, $user),
                'said' => Visits::lastSaid($model),
                'may' => Access::ofModel($user, $model)->value,
            ];
        }

        return new JsonResponse(
            $beside +
                ($since === $model->revision
                    ? ['revision' => $since, 'since' => $since, 'done' => []]
                    : (new ModelEditor($model, $user, ''))->news(max(0, $since))),
        );
    }

    /** Where a calendar has marks between two times of the study. */
    public function calendar(Request $request, ModelDocument $model): JsonResponse
    {
        $request->validate(
            [
                'from' => ['required', 'numeric'],
                'until' => ['required', 'numeric', 'gt:from'],
                'most' => ['sometimes', 'integer', 'min:1', 'max:200'],
            ],
            [
                'from.*' => '`from` is a time, as a number.',
                'until.*' => '`until` is a time after `from`, as a number.',
                'most.*' => '`most` is a whole number from 1 to 200: at most so many marks.',
            ],
        );
        $calendar = Calendar::of($model->core()->time);
        $marks = $calendar?->marks($request->float('from'), $request->float('until'), $request->integer('most', 12));

        return new JsonResponse($marks ?? ['every' => '', 'count' => 0, 'marks' => []]);
    }
}
