<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use App\Fit\FitPicture;
use App\Fit\FitSpec;
use App\Fit\FitView;
use App\Fit\Searches;
use App\Models\Fit;
use App\Models\ModelDocument;
use App\Models\User;
use App\Runs\Engine;
use Illuminate\Container\Attributes\CurrentUser;
use Illuminate\Http\JsonResponse;
use Illuminate\Http\Request;
use MerryOrbit\Core\Fit\PlannedFit;
use MerryOrbit\Core\Model\Setting;
use MerryOrbit\Core\Problem\NotUnderstood;

/** Calibrations of a study: what is about to be fitted, how far it is, what it came to. */
final class FitController
{
    /** The last one of each calibration. */
    public function index(ModelDocument $model): JsonResponse
    {
        $last = [];
        foreach ($model->fits()->latest()->orderByDesc('id')->take(200)->get() as $fit) {
            $last[$fit->plan] ??= (new FitView($fit))->state();
        }

        return new JsonResponse(['fits' => array_values($last)]);
    }

    /** What is about to be fitted, as it would be counted now. */
    public function foreseen(Request $request, ModelDocument $model): JsonResponse
    {
        if ($request->has('policy')) {
            $policy = Searches::policy($model, $request->string('policy')->toString());

            return new JsonResponse([
                ...Searches::policySpec($model->core(), $policy)->told,
                'picture' => ['series' => [], 'runs' => []],
            ]);
        }
        $plan = Searches::plan($model, $request->string('plan')->toString());

        $simulator = Engine::inRequest();
        $planned = PlannedFit::of($simulator, $model->core(), new Setting(), $plan);
        $told = Searches::told($planned);
        $before = ['kind' => 'before', 'distance' => $told['before'], 'point' => array_column($told['numbers'], 'value')];

        return new JsonResponse([...$told, 'picture' => FitPicture::of($simulator, $planned, [$before])]);
    }

    public function store(Request $request, ModelDocument $model, #[CurrentUser] User $user): JsonResponse
    {
        $request->validate(
            ['plan' => ['required_without:policy', 'string', 'max:40'], 'policy' => ['string', 'max:40']],
            ['plan.*' => 'Say which of the study’s calibrations or policies is meant.'],
        );
        set_time_limit(config()->integer('merry-orbit.run.seconds'));

        $fit = $request->has('policy')
            ? Searches::seek($model, $user, $request->string('policy')->toString())
            : Searches::begin($model, $user, $request->string('plan')->toString());

        return new JsonResponse((new FitView($fit))->state(), 201);
    }

    public function show(ModelDocument $model, string $fit): JsonResponse
    {
        $row = self::row($model, $fit);
        Searches::help($row);

        return new JsonResponse((new FitView($row))->state());
    }

    public function goOn(ModelDocument $model, string $fit): JsonResponse
    {
        $row = self::row($model, $fit);
        Searches::goOn($row);

        return new JsonResponse((new FitView($row))->state());
    }

    /** Stopped; how far it came stays. */
    public function destroy(ModelDocument $model, string $fit): JsonResponse
    {
        $row = self::row($model, $fit);
        Searches::stop($row);

        return new JsonResponse((new FitView($row))->state());
    }

    /** Draws of what the data leave open. */
    public function draw(Request $request, ModelDocument $model, string $fit): JsonResponse
    {
        $request->validate(
            ['draws' => ['integer', 'min:200', 'max:100000'], 'chains' => ['integer', 'min:1', 'max:16']],
            ['draws.*' => 'Take 200 to 100,000 draws.', 'chains.*' => 'Take 1 to 16 chains.'],
        );
        $row = self::row($model, $fit);
        Searches::draw($row, $request->integer('draws', 4_000), $request->integer('chains', 4));

        return new JsonResponse((new FitView($row))->state());
    }

    public function draws(ModelDocument $model, string $fit): JsonResponse
    {
        return new JsonResponse((new FitView(self::row($model, $fit)))->draws());
    }

    /** What a policy came to beside something else, under the same draws: another policy, a runner-up, a scenario. */
    public function beside(Request $request, ModelDocument $model, string $fit): JsonResponse
    {
        $request->validate(
            ['values' => ['required', 'array', 'max:200'], 'values.*' => ['numeric']],
            ['values.*' => 'Say which values of which parameters it is held against, as plain numbers.'],
        );
        set_time_limit(config()->integer('merry-orbit.run.seconds'));
        $values = array_map(floatval(...), $request->array('values'));

        return new JsonResponse(Searches::beside(self::row($model, $fit), $values));
    }

    public function picture(ModelDocument $model, string $fit): JsonResponse
    {
        $row = self::row($model, $fit);
        if (FitSpec::read($row->spec)->isPolicy()) {
            throw NotUnderstood::because('A policy is held against no data: its courses come with what is found.');
        }

        return new JsonResponse((new FitView($row))->picture());
    }

    private static function row(ModelDocument $model, string $fit): Fit
    {
        /** @var Fit $row */
        $row = $model->fits()->findOrFail($fit);

        return $row;
    }
}
