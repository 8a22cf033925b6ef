<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use App\Models\ModelDocument;
use App\Models\User;
use App\Studies\ModelEditor;
use Illuminate\Container\Attributes\CurrentUser;
use Illuminate\Http\JsonResponse;
use Illuminate\Http\Request;

final class EditController
{
    public function store(Request $request, ModelDocument $model, #[CurrentUser] User $user): JsonResponse
    {
        $this->validate($request, ['edits' => ['required', 'list', 'max:100'], 'edits.*.id' => ['required', 'uuid'], 'edits.*.edit' => ['required', 'array']]);
        /** @var list<array{id: string, edit: mixed}> $edits */
        $edits = $request->array('edits');

        return new JsonResponse($this->editor($request, $model, $user)->apply($edits, $request->integer('base'), $request->boolean('quick')));
    }

    public function undo(Request $request, ModelDocument $model, #[CurrentUser] User $user): JsonResponse
    {
        return $this->step('undo', $request, $model, $user);
    }

    public function redo(Request $request, ModelDocument $model, #[CurrentUser] User $user): JsonResponse
    {
        return $this->step('redo', $request, $model, $user);
    }

    private function step(string $kind, Request $request, ModelDocument $model, User $user): JsonResponse
    {
        $this->validate($request, ['id' => ['required', 'uuid']]);

        return new JsonResponse($this->editor($request, $model, $user)->step($kind, $request->string('id')->toString(), $request->integer('base'), $request->boolean('quick')));
    }

    private function editor(Request $request, ModelDocument $model, User $user): ModelEditor
    {
        return new ModelEditor($model, $user, $request->string('window')->toString());
    }

    /** @param  array<string, list<string>>  $rules */
    private function validate(Request $request, array $rules): void
    {
        $request->validate(['base' => ['required', 'integer', 'min:0'], 'window' => ['required', 'string', 'max:40'], ...$rules], [
            'base.*' => 'An edit says on which revision it was made: `base`, a whole number.',
            'window.*' => 'An edit says which window it comes from: `window`, up to 40 characters.',
            'edits' => 'Send one to 100 edits in a list: `edits`.',
            'edits.*' => 'Send one to 100 edits in a list: `edits`.',
            'edits.*.id.*' => 'Each edit needs an `id` that is a UUID.',
            'edits.*.edit.*' => 'Each edit needs an `edit` that is an object.',
            'id.*' => 'An undo needs an `id` that is a UUID.',
        ]);
    }
}
