<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use App\Models\ModelDocument;
use App\Models\User;
use App\Studies\ColumnsMessage;
use App\Studies\JitBuffer;
use App\Studies\RunLog;
use Illuminate\Container\Attributes\CurrentUser;
use Illuminate\Http\JsonResponse;
use Illuminate\Http\Request;
use Illuminate\Http\Response;
use MerryOrbit\Core\Compile\Analyser;
use MerryOrbit\Core\Model\Model;
use MerryOrbit\Core\Simulate\Health;
use MerryOrbit\Core\Simulate\RunSettings;
use MerryOrbit\Core\Simulate\Simulator;

final class RunController
{
    /** Runs the model as it is, with other parameter values if wished, and answers with columns. */
    public function store(Request $request, ModelDocument $model, Simulator $simulator, #[CurrentUser] User $user): Response
    {
        $request->validate(['remember' => ['sometimes', 'boolean'], 'only' => ['sometimes', 'list'], 'only.*' => ['string']], [
            'remember.*' => '`remember` is true or false.',
            'only' => '`only` is a list of ids: the columns to send.',
            'only.*' => '`only` is a list of ids: the columns to send.',
        ]);
        /** @var list<string>|null $only */
        $only = $request->has('only') ? $request->array('only') : null;
        set_time_limit(config()->integer('merry-orbit.run.seconds'));
        $begun = hrtime(true);
        $core = $model->core();
        $settings = self::settings($request, $core);
        $analysis = Analyser::analyse($core);
        $run = $simulator->run($analysis, $settings);
        if ($request->boolean('remember')) {
            RunLog::remember($model, $user, $settings);
        }

        JitBuffer::askForMoreWhenLow();

        return ColumnsMessage::of($analysis, $run, $model->revision, (hrtime(true) - $begun) / 1e6, $only);
    }

    /** How far the run depends on its time step. */
    public function health(Request $request, ModelDocument $model, Simulator $simulator): JsonResponse
    {
        set_time_limit(config()->integer('merry-orbit.run.seconds'));
        $core = $model->core();

        return new JsonResponse(Health::check($simulator, $core, self::settings($request, $core)));
    }

    /** The parameters and the seed that a request asks for. */
    public static function settings(Request $request, Model $model): RunSettings
    {
        $request->validate(['set' => ['sometimes', 'array'], 'set.*' => ['numeric'], 'seed' => ['sometimes', 'integer']], [
            'set.*' => 'A parameter’s value must be a number.',
            'seed.*' => 'The seed is a whole number.',
        ]);
        $values = array_map(static fn (mixed $v): float => is_numeric($v) ? (float) $v : 0.0, array_intersect_key($request->array('set'), $model->elements));

        return new RunSettings($values, seed: $request->integer('seed', 1));
    }

    public function index(ModelDocument $model, #[CurrentUser] User $user): JsonResponse
    {
        return new JsonResponse(['runs' => RunLog::of($model, $user)]);
    }
}
