<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use App\Models\ModelDocument;
use App\Models\User;
use App\Studies\ModelEditor;
use App\Studies\ModelView;
use App\Studies\Versions;
use Illuminate\Container\Attributes\CurrentUser;
use Illuminate\Http\JsonResponse;
use Illuminate\Http\Request;
use MerryOrbit\Core\Edit\EditRefused;
use MerryOrbit\Core\Structure\Comparison;

/** Old versions of a model: to look at, to compare, to bring back. */
final class HistoryController
{
    public function index(Request $request, ModelDocument $model): JsonResponse
    {
        return new JsonResponse((new Versions($model))->page($request->has('before') ? $request->integer('before') : null));
    }

    public function show(ModelDocument $model, int $revision): JsonResponse
    {
        return new JsonResponse(['revision' => $revision, 'model' => ModelView::of((new Versions($model))->at($revision))->toJson()]);
    }

    public function compare(Request $request, ModelDocument $model): JsonResponse
    {
        $history = new Versions($model);
        $from = $request->integer('from');
        $to = $request->integer('to', $model->revision);

        return new JsonResponse(['from' => $from, 'to' => $to, 'changes' => Comparison::between($history->at($from), $history->at($to))]);
    }

    public function restore(Request $request, ModelDocument $model, #[CurrentUser] User $user): JsonResponse
    {
        $request->validate(
            [
                'base' => ['required', 'integer', 'min:0'],
                'window' => ['required', 'string', 'max:40'],
                'id' => ['required', 'uuid'],
                'revision' => ['required', 'integer', 'min:0'],
                'ids' => ['sometimes', 'list', 'max:1000'],
                'ids.*' => ['string'],
            ],
            [
                'revision.*' => 'Say which revision to bring back: `revision`, a whole number.',
                'ids.*' => '`ids` is a list of the ids to bring back; leave it out for everything.',
                'base.*' => 'Say on which revision this was asked: `base`.',
                'window.*' => 'Say which window asks: `window`, up to 40 characters.',
                'id.*' => 'This needs an `id` that is a UUID.',
            ],
        );
        /** @var list<string>|null $ids */
        $ids = $request->has('ids') ? $request->array('ids') : null;
        $editor = new ModelEditor($model, $user, $request->string('window')->toString());

        return new JsonResponse(
            $editor->restore($request->integer('revision'), $ids, $request->string('id')->toString(), $request->integer('base')),
        );
    }

    /** Gives a revision a name, or another one. */
    public function name(Request $request, ModelDocument $model, int $revision, #[CurrentUser] User $user): JsonResponse
    {
        $request->validate(
            ['name' => ['required', 'string', 'max:120']],
            ['name.*' => 'A milestone needs a name of at most 120 characters.'],
        );
        if ($revision < 0 || $revision > $model->revision) {
            throw EditRefused::because('revision.unknown', "There is no revision $revision; the newest is $model->revision.");
        }
        $model
            ->milestones()
            ->updateOrCreate(['revision' => $revision], ['name' => $request->string('name')->trim()->toString(), 'user_id' => $user->id]);

        return new JsonResponse((new Versions($model))->page(null));
    }

    public function unname(ModelDocument $model, int $revision): JsonResponse
    {
        $model->milestones()->where('revision', $revision)->delete();

        return new JsonResponse((new Versions($model))->page(null));
    }
}
