<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use App\Models\Happening;
use App\Models\May;
use App\Models\ShownLink;
use App\Models\Study;
use App\Models\User;
use App\Problems\ProblemDocument;
use App\Sharing\Access;
use App\Studies\ModelEditor;
use App\Tell\Sent;
use Illuminate\Container\Attributes\CurrentUser;
use Illuminate\Http\JsonResponse;
use Illuminate\Http\Request;
use Illuminate\Support\Facades\Gate;
use Symfony\Component\HttpKernel\Exception\NotFoundHttpException;

/** A copy is sent back as a link: whoever works on the study it was made of sees what differs, and takes over single changes. */
final class BackController
{
    public function store(Study $study, #[CurrentUser] User $user): JsonResponse
    {
        if ($study->origin === null) {
            return ProblemDocument::response(
                422,
                'copy.none',
                'This study is no copy of another one, so there is nobody to send it back to.',
            );
        }
        $key = bin2hex(random_bytes(16));
        // One address at a time: the one before leads nowhere.
        ShownLink::query()->where('study_id', $study->id)->where('may', ShownLink::BACK)->delete();
        ShownLink::query()->create([
            'study_id' => $study->id,
            'showcase' => '',
            'name' => '',
            'secret' => hash('sha256', $key),
            'may' => ShownLink::BACK,
            'opened' => 0,
            'given_by' => $user->id,
        ]);
        Happening::note('link', 'made a link by which it is sent back', $study);

        return new JsonResponse(['key' => $key], 201);
    }

    public function show(Request $request, #[CurrentUser] User $user): JsonResponse
    {
        $sent = self::sent($request, $user);

        return new JsonResponse([
            'study' => $sent->original->id,
            'model' => $sent->original->model->id,
            'name' => $sent->original->name,
            'revision' => $sent->original->model->revision,
            'mayTake' => Access::of($user, $sent->original)->includes(May::Edit),
            'changes' => $sent->changes(),
        ]);
    }

    public function take(Request $request, #[CurrentUser] User $user): JsonResponse
    {
        $request->validate(
            [
                'change' => ['required', 'string', 'max:200'],
                'window' => ['required', 'string', 'max:40'],
                'id' => ['required', 'uuid'],
                'base' => ['required', 'integer', 'min:0'],
            ],
            [
                'change.*' => 'Say which change to take over, by its `key`.',
                'window.*' => 'Say which window asks: `window`, up to 40 characters.',
                'id.*' => 'This needs an `id` that is a UUID.',
                'base.*' => 'Say on which revision this was asked: `base`.',
            ],
        );
        $sent = self::sent($request, $user);
        Gate::authorize('update', $sent->original->model);
        (new ModelEditor($sent->original->model, $user, $request->string('window')->toString()))->takeOver(
            $sent->edit($request->string('change')->toString()),
            $request->string('id')->toString(),
            $request->integer('base'),
        );

        return $this->show($request, $user);
    }

    private static function sent(Request $request, User $user): Sent
    {
        $request->validate(
            ['key' => ['required', 'string', 'max:100']],
            ['key.*' => 'Open the address as it was sent to you, up to its end.'],
        );
        $link = ShownLink::open()
            ->where('may', ShownLink::BACK)
            ->where('secret', hash('sha256', $request->string('key')->toString()))
            ->first();
        $sent = $link?->study === null ? null : Sent::of($link->study->load('model'));

        return $sent !== null && Access::of($user, $sent->original) !== May::Nothing ? $sent : throw new NotFoundHttpException();
    }
}
