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
use MerryOrbit\Core\Simulate\RunSettings;
use MerryOrbit\Core\Simulate\Simulator;

final class RunController
{
    /** Runs the model as it is, with other parameter values if wished, and answers with columns. */
    public function store(Request $request, ModelDocument $model, Simulator $simulator, #[CurrentUser] User $user): Response
    {
        $request->validate(['set' => ['sometimes', 'array'], 'set.*' => ['numeric'], 'remember' => ['sometimes', 'boolean']], [
            'set.*' => 'A parameter’s value must be a number.',
            'remember.*' => '`remember` is true or false.',
        ]);
        set_time_limit(config()->integer('merry-orbit.run.seconds'));
        $begun = hrtime(true);
        $core = $model->core();
        $settings = new RunSettings(array_map(static fn (mixed $v): float => is_numeric($v) ? (float) $v : 0.0, array_intersect_key($request->array('set'), $core->elements)));
        $analysis = Analyser::analyse($core);
        $run = $simulator->run($analysis, $settings);
        if ($request->boolean('remember')) {
            RunLog::remember($model, $user, $settings);
        }

        JitBuffer::askForMoreWhenLow();

        return ColumnsMessage::of($analysis, $run, $model->revision, (hrtime(true) - $begun) / 1e6);
    }

    public function index(ModelDocument $model, #[CurrentUser] User $user): JsonResponse
    {
        return new JsonResponse(['runs' => RunLog::of($model, $user)]);
    }
}
