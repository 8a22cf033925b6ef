<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use App\Models\KeptRun;
use App\Models\ModelDocument;
use App\Models\User;
use App\Runs\Results;
use App\Runs\RunSource;
use App\Studies\Versions;
use Illuminate\Container\Attributes\CurrentUser;
use Illuminate\Http\JsonResponse;
use Illuminate\Http\Request;
use Illuminate\Http\Response;
use MerryOrbit\Core\Model\Meaning;
use MerryOrbit\Core\Problem\NotUnderstood;
use MerryOrbit\Core\Simulate\Simulator;

/** Runs that were frozen under a name. */
final class KeptRunController
{
    /** Removed runs of a study that can be brought back. */
    private const REMOVED = 20;

    public function index(ModelDocument $model): JsonResponse
    {
        return new JsonResponse(['kept' => self::list($model)]);
    }

    public function store(Request $request, ModelDocument $model, Simulator $simulator, #[CurrentUser] User $user): JsonResponse
    {
        $this->validate($request, ['name' => ['required', 'string', 'max:120'], 'run' => ['sometimes', 'array']]);
        $most = config()->integer('merry-orbit.quota.kept');
        if ($model->keptRuns()->count() >= $most) {
            throw NotUnderstood::because("A study keeps at most $most runs. Remove some first.");
        }
        set_time_limit(config()->integer('merry-orbit.run.seconds'));
        $source = RunSource::of($model, $request->array('run'));
        $run = $source->trajectory($simulator);
        if ((float) $run->length() * count($run->columns()) > config()->float('merry-orbit.run.most_kept_values')) {
            throw NotUnderstood::because(
                'This run has '.
                    number_format($run->length() * count($run->columns())).
                    ' values, more than is kept here. Save less often, or make a scenario of it, which is run again when it is shown.',
            );
        }
        $megabytes = config()->integer('merry-orbit.quota.kept_megabytes');
        if (KeptRun::withTrashed()->where('user_id', $user->id)->sum('bytes') > 1e6 * $megabytes) {
            throw NotUnderstood::because(
                'Your kept runs hold more than '.
                    number_format($megabytes).
                    ' MB, all that you may keep. Remove some; what was removed is gone for good after a day.',
            );
        }
        $used = $model->keptRuns()->pluck('colour')->all();
        $free = array_values(array_diff(range(0, KeptRun::COLOURS - 1), $used));
        // The numbers are there before the row that names them.
        $result = Results::freeze($run);
        $model->keptRuns()->create([
            'user_id' => $user->id,
            'revision' => $source->revision,
            'name' => $request->string('name')->trim()->toString(),
            'note' => $request->string('note')->toString(),
            'colour' => $request->has('colour') ? $request->integer('colour') : $free[0] ?? count($used) % KeptRun::COLOURS,
            'setting' => $source->setting->toRecord(),
            'meaning' => Meaning::of($source->model()),
            'result' => $result,
            'bytes' => Results::disk()->size($result),
        ]);

        return new JsonResponse(['kept' => self::list($model)], 201);
    }

    public function update(Request $request, ModelDocument $model, string $kept): JsonResponse
    {
        $this->validate($request, ['name' => ['sometimes', 'required', 'string', 'max:120']]);
        $row = $model->keptRuns()->findOrFail($kept);
        $row->update(array_intersect_key($request->all(), array_flip(['name', 'note', 'colour', 'hidden'])));

        return new JsonResponse(['kept' => self::list($model)]);
    }

    /** It can be restored for a day, unless many others are removed after it. */
    public function destroy(ModelDocument $model, string $kept): Response
    {
        $model->keptRuns()->findOrFail($kept)->delete();
        $removed = KeptRun::onlyTrashed()->where('model_id', $model->id)->orderByDesc('deleted_at')->orderByDesc('id')->pluck('id');
        KeptRun::onlyTrashed()->whereIn('id', $removed->slice(self::REMOVED))->forceDelete();

        return new Response(status: 204);
    }

    public function restore(ModelDocument $model, string $kept): JsonResponse
    {
        KeptRun::withTrashed()->where('model_id', $model->id)->findOrFail($kept)->restore();

        return new JsonResponse(['kept' => self::list($model)]);
    }

    /** @param  array<string, list<string>>  $rules */
    private function validate(Request $request, array $rules): void
    {
        $request->validate(
            [
                ...$rules,
                'note' => ['sometimes', 'string', 'max:4000'],
                'colour' => ['sometimes', 'integer', 'min:0', 'max:'.(KeptRun::COLOURS - 1)],
                'hidden' => ['sometimes', 'boolean'],
            ],
            [
                'name.*' => 'Give the run a name of at most 120 characters.',
                'note.*' => 'A note is text of at most 4,000 characters.',
                'colour.*' => 'The colour is a number from 0 to '.(KeptRun::COLOURS - 1).'.',
                'hidden.*' => '`hidden` is true or false.',
                'run.*' => '`run` is an object that says which run is meant.',
            ],
        );
    }

    /** Of runs that were kept before it was noted, it is worked out once. */
    private static function meaning(ModelDocument $model, KeptRun $kept): string
    {
        if ($kept->meaning === '') {
            $kept->meaning = Meaning::of((new Versions($model))->at($kept->revision));
            $kept->saveQuietly();
        }

        return $kept->meaning;
    }

    /** @return list<array<string, mixed>> oldest first */
    private static function list(ModelDocument $model): array
    {
        return array_values(
            $model
                ->keptRuns()
                ->oldest('id')
                ->get()
                ->map(
                    static fn (KeptRun $k): array => [
                        'id' => $k->id,
                        'name' => $k->name,
                        'note' => $k->note,
                        'colour' => $k->colour,
                        'hidden' => $k->hidden,
                        'revision' => $k->revision,
                        'setting' => (object) $k->setting,
                        'meaning' => self::meaning($model, $k),
                        'made' => $k->created_at->toIso8601String(),
                    ],
                )
                ->all(),
        );
    }
}
