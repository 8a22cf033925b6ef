<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use App\Models\Ensemble;
use App\Models\ModelDocument;
use App\Models\User;
use App\Sharing\Access;
use App\Uncertain\Ensembles;
use App\Uncertain\EnsembleView;
use App\Uncertain\MattersView;
use Illuminate\Container\Attributes\CurrentUser;
use Illuminate\Database\Eloquent\ModelNotFoundException;
use Illuminate\Http\JsonResponse;
use Illuminate\Http\Request;
use MerryOrbit\Core\Uncertain\Design;
use MerryOrbit\Core\Uncertain\EnsemblePlan;

/** Many runs under uncertainty, and what they come to. */
final class EnsembleController
{
    public function index(Request $request, ModelDocument $model, #[CurrentUser] User $user): JsonResponse
    {
        $purpose = $request->string('purpose', 'spread')->toString();
        /** @var \Illuminate\Support\Collection<int, Ensemble> $last */
        $last = $model
            ->ensembles()
            ->where('user_id', $user->id)
            ->where('purpose', $purpose)
            ->latest()
            ->orderByDesc('id')
            ->take(Ensembles::MOST_SCENARIOS)
            ->get();

        return new JsonResponse(['ensembles' => $last->map(static fn (Ensemble $e): array => (new EnsembleView($e))->state())->all()]);
    }

    public function store(Request $request, ModelDocument $model, #[CurrentUser] User $user): JsonResponse
    {
        $most = Ensembles::MOST_RUNS;
        /** @var array{runs?: int, sample?: value-of<Design::KINDS>, seed?: int, purpose?: value-of<EnsemblePlan::PURPOSES>, scenarios?: list<?string>} $given */
        $given = $request->validate(
            [
                'runs' => ['integer', 'min:1', "max:$most"],
                'sample' => ['string', 'in:'.implode(',', Design::KINDS)],
                'seed' => ['integer'],
                'purpose' => ['string', 'in:'.implode(',', EnsemblePlan::PURPOSES)],
                'scenarios' => ['list', 'min:1', 'max:'.Ensembles::MOST_SCENARIOS],
                'scenarios.*' => ['nullable', 'string', 'max:40'],
            ],
            [
                'runs.*' => 'Make 1 to '.number_format($most).' runs at once; the command line makes more.',
                'sample.*' => 'The draws are random, a latin hypercube, or a sobol sequence.',
                'purpose.*' => 'The runs are for the spread, for indices, or for morris.',
                'scenarios*' => 'Run up to '.Ensembles::MOST_SCENARIOS.' scenarios under the same draws.',
            ],
        );
        set_time_limit(config()->integer('merry-orbit.run.seconds'));
        $made = Ensembles::make(
            $model,
            $user,
            array_map(strval(...), $given['scenarios'] ?? ['']),
            $request->array('setting'),
            $given['sample'] ?? 'latin',
            $given['runs'] ?? 1_000,
            $given['seed'] ?? 1,
            $given['purpose'] ?? 'spread',
        );

        return new JsonResponse(['ensembles' => array_map(static fn (Ensemble $e): array => (new EnsembleView($e))->state(), $made)], 201);
    }

    public function show(ModelDocument $model, string $ensemble): JsonResponse
    {
        $row = self::row($model, $ensemble);
        Ensembles::help($row);

        return new JsonResponse((new EnsembleView($row))->state());
    }

    /** More runs, or those that were not made because it was stopped. */
    public function goOn(Request $request, ModelDocument $model, string $ensemble, #[CurrentUser] User $user): JsonResponse
    {
        $request->validate(
            ['runs' => ['integer', 'min:0', 'max:'.Ensembles::MOST_RUNS]],
            ['runs.*' => 'Say how many runs more, or 0 for those that are missing.'],
        );
        $row = Ensembles::goOn(self::begun($model, $ensemble, $user), $request->integer('runs'));

        return new JsonResponse((new EnsembleView($row))->state());
    }

    /** What is made already stays. */
    public function destroy(ModelDocument $model, string $ensemble, #[CurrentUser] User $user): JsonResponse
    {
        $row = self::begun($model, $ensemble, $user);
        Ensembles::stop($row);

        return new JsonResponse((new EnsembleView($row))->state());
    }

    public function bands(Request $request, ModelDocument $model, string $ensemble): JsonResponse
    {
        return new JsonResponse(self::of($model, $ensemble)->bands($request->string('of')->toString()));
    }

    public function moment(Request $request, ModelDocument $model, string $ensemble): JsonResponse
    {
        $number = static fn (string $field): ?float => is_numeric($request->query($field)) ? (float) $request->query($field) : null;

        return new JsonResponse(
            self::of($model, $ensemble)->moment(
                $request->string('of')->toString(),
                $number('time'),
                $request->string('outcome')->toString(),
                $number('above'),
            ),
        );
    }

    public function summary(ModelDocument $model, string $ensemble): JsonResponse
    {
        return new JsonResponse(['outcomes' => self::of($model, $ensemble)->summary()]);
    }

    public function draws(Request $request, ModelDocument $model, string $ensemble): JsonResponse
    {
        return new JsonResponse(
            self::of($model, $ensemble)->draws(
                $request->string('sort')->toString(),
                $request->boolean('down'),
                max(0, $request->integer('from')),
                min(500, max(1, $request->integer('count', 100))),
            ),
        );
    }

    public function matters(Request $request, ModelDocument $model, string $ensemble): JsonResponse
    {
        return new JsonResponse(
            self::matter($model, $ensemble)->followed($request->string('outcome')->toString(), $request->string('input')->toString()),
        );
    }

    public function indices(Request $request, ModelDocument $model, string $ensemble): JsonResponse
    {
        return new JsonResponse(self::matter($model, $ensemble)->indices($request->string('outcome')->toString()));
    }

    public function shares(Request $request, ModelDocument $model, string $ensemble): JsonResponse
    {
        return new JsonResponse(self::matter($model, $ensemble)->over($request->string('of')->toString()));
    }

    public function against(Request $request, ModelDocument $model, string $ensemble, string $other): JsonResponse
    {
        return new JsonResponse(self::of($model, $ensemble)->against(self::of($model, $other), $request->string('outcome')->toString()));
    }

    private static function of(ModelDocument $model, string $ensemble): EnsembleView
    {
        return new EnsembleView(self::row($model, $ensemble));
    }

    private static function matter(ModelDocument $model, string $ensemble): MattersView
    {
        return new MattersView(self::row($model, $ensemble));
    }

    /** One that somebody may stop, or go on with. */
    private static function begun(ModelDocument $model, string $ensemble, User $user): Ensemble
    {
        $row = self::row($model, $ensemble);
        Access::mayAct($user, $model, $row->user_id) || throw new ModelNotFoundException();

        return $row;
    }

    private static function row(ModelDocument $model, string $ensemble): Ensemble
    {
        /** @var Ensemble $row */
        $row = $model->ensembles()->findOrFail($ensemble);

        return $row;
    }
}
