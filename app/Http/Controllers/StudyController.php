<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use App\Http\Resources\StudyResource;
use App\Models\Grant;
use App\Models\Study;
use App\Models\User;
use App\Runs\Thumbnail;
use App\Studies\StudyMaker;
use Illuminate\Container\Attributes\CurrentUser;
use Illuminate\Http\JsonResponse;
use Illuminate\Http\Request;
use Illuminate\Http\Resources\Json\AnonymousResourceCollection;
use MerryOrbit\Core\Edit\SetTitle;
use MerryOrbit\Core\Model\Model;

final class StudyController
{
    public function index(#[CurrentUser] User $user): AnonymousResourceCollection
    {
        $shared = Grant::of($user)->select('study_id');
        $studies = Study::query()
            ->where(static fn ($q) => $q->where('user_id', $user->id)->orWhereIn('id', $shared))
            // Without the documents of their models, which are large.
            ->with(['model:id,study_id,revision', 'owner:id,name']);

        return StudyResource::collection($studies->orderByDesc('updated_at')->orderBy('id')->get());
    }

    public function store(Request $request, #[CurrentUser] User $user): JsonResponse
    {
        $request->validate(
            ['name' => ['sometimes', 'string', 'max:120']],
            ['name.*' => 'A study’s name is text of at most 120 characters.'],
        );
        $name = trim($request->string('name')->toString());
        $model = (new SetTitle(StudyMaker::freeName($user, $name === '' ? 'New study' : $name)))->apply(new Model(''));

        return StudyResource::make(StudyMaker::make($user, $model)->load('model'))
            ->response()
            ->setStatusCode(201);
    }

    public function show(Study $study): StudyResource
    {
        return StudyResource::make($study->load('model'));
    }

    public function destroy(Study $study): JsonResponse
    {
        $study->delete();

        return new JsonResponse(null, 204);
    }

    public function restore(Study $study): StudyResource
    {
        $study->restore();

        return StudyResource::make($study->load('model'));
    }

    public function duplicate(Study $study, #[CurrentUser] User $user): JsonResponse
    {
        $model = $study->load('model')->model->core();
        $copy = StudyMaker::make($user, $model->with(['name' => StudyMaker::freeName($user, $model->name)]));

        return StudyResource::make($copy->load('model'))->response()->setStatusCode(201);
    }

    public function thumbnail(Study $study, Thumbnail $thumbnail): JsonResponse
    {
        return new JsonResponse($thumbnail->of($study->load('model')->model));
    }
}
