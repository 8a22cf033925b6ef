<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use App\Models\ModelDocument;
use App\Models\User;
use App\Runs\RunRequest;
use App\Studies\ModelEditor;
use Illuminate\Container\Attributes\CurrentUser;
use Illuminate\Http\JsonResponse;
use Illuminate\Http\Request;
use Illuminate\Http\Response;
use MerryOrbit\Core\Problem\NotUnderstood;
use MerryOrbit\Core\Simulate\RunRefused;
use MerryOrbit\Core\Simulate\Simulator;

final class EditController
{
    public function __construct(private readonly Simulator $simulator)
    {
    }

    public function store(Request $request, ModelDocument $model, #[CurrentUser] User $user): JsonResponse|Response
    {
        $this->validate($request, [
            'edits' => ['required', 'list', 'max:100'],
            'edits.*.id' => ['required', 'uuid'],
            'edits.*.edit' => ['required', 'array'],
        ]);
        /** @var list<array{id: string, edit: mixed}> $edits */
        $edits = $request->array('edits');

        return $this->answer(
            $request,
            $model,
            $user,
            static fn (ModelEditor $editor, int $base, bool $quick): array => $editor->apply($edits, $base, $quick),
        );
    }

    public function undo(Request $request, ModelDocument $model, #[CurrentUser] User $user): JsonResponse|Response
    {
        return $this->step('undo', $request, $model, $user);
    }

    public function redo(Request $request, ModelDocument $model, #[CurrentUser] User $user): JsonResponse|Response
    {
        return $this->step('redo', $request, $model, $user);
    }

    /** @param  'undo'|'redo'  $kind */
    private function step(string $kind, Request $request, ModelDocument $model, User $user): JsonResponse|Response
    {
        $this->validate($request, ['id' => ['required', 'uuid']]);

        $id = $request->string('id')->toString();

        return $this->answer(
            $request,
            $model,
            $user,
            static fn (ModelEditor $editor, int $base, bool $quick): array => $editor->step($kind, $id, $base, $quick),
        );
    }

    /**
     * Changes the model, and if a run is wished for with `then`, makes it of what is in hand already: that saves a large model
     * one reading. What changed comes along only if that is wished for, too (`changed`). When it cannot be run that is no reason to refuse the edit; who asks for the run is told why.
     *
     * @param  callable(ModelEditor, int, bool): array<string, mixed>  $change
     */
    private function answer(Request $request, ModelDocument $model, User $user, callable $change): JsonResponse|Response
    {
        $wish = $request->has('then') ? RunRequest::read($request->array('then')) : null;
        $editor = new ModelEditor($model, $user, $request->string('window')->toString());
        $quick = $wish !== null && ! $request->boolean('changed');
        $news = $change($editor, $request->integer('base'), $quick);
        try {
            return $wish?->answer($editor->document(), $user, $this->simulator, ['edit' => $news]) ?? new JsonResponse($news);
        } catch (RunRefused|NotUnderstood) {
            return new JsonResponse($news);
        }
    }

    /** @param  array<string, list<string>>  $rules */
    private function validate(Request $request, array $rules): void
    {
        $request->validate(
            ['base' => ['required', 'integer', 'min:0'], 'window' => ['required', 'string', 'max:40'], ...$rules],
            [
                'base.*' => 'An edit says on which revision it was made: `base`, a whole number.',
                'window.*' => 'An edit says which window it comes from: `window`, up to 40 characters.',
                'edits' => 'Send one to 100 edits in a list: `edits`.',
                'edits.*' => 'Send one to 100 edits in a list: `edits`.',
                'edits.*.id.*' => 'Each edit needs an `id` that is a UUID.',
                'edits.*.edit.*' => 'Each edit needs an `edit` that is an object.',
                'id.*' => 'An undo needs an `id` that is a UUID.',
            ],
        );
    }
}
