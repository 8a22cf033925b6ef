<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use App\Models\ModelDocument;
use App\Models\RunRow;
use App\Models\User;
use App\Runs\ColumnsMessage;
use App\Runs\RunLog;
use App\Runs\RunProgress;
use App\Runs\RunRequest;
use App\Runs\RunSource;
use Illuminate\Container\Attributes\CurrentUser;
use Illuminate\Http\JsonResponse;
use Illuminate\Http\Request;
use Illuminate\Http\Response;
use MerryOrbit\Core\Simulate\Health;
use MerryOrbit\Core\Simulate\Simulator;

final class RunController
{
    /** Makes the run that is meant, or looks it up, and answers with columns: for the page as numbers, for other programs as a table. */
    public function store(Request $request, ModelDocument $model, Simulator $simulator, #[CurrentUser] User $user): Response|JsonResponse
    {
        $wish = RunRequest::read($request->all());

        return $request->prefers([ColumnsMessage::TYPE, 'text/csv']) === 'text/csv'
            ? $wish->table($model, $user, $simulator)
            : $wish->answer($model, $user, $simulator);
    }

    public function progress(ModelDocument $model, string $token): JsonResponse
    {
        return new JsonResponse(['share' => RunProgress::share($token)]);
    }

    /** Stops a run under way; it answers its own request with what it has. */
    public function stop(ModelDocument $model, string $token): Response
    {
        RunProgress::stop($token);

        return new Response(status: 204);
    }

    /** How far the run depends on its time step. */
    public function health(Request $request, ModelDocument $model, Simulator $simulator): JsonResponse
    {
        set_time_limit(config()->integer('merry-orbit.run.seconds'));
        $trial = RunSource::of($model, $request->array('run'))->trial();

        return new JsonResponse(Health::check($simulator, $trial->model(), $trial->settings));
    }

    public function index(Request $request, ModelDocument $model, #[CurrentUser] User $user): JsonResponse|Response
    {
        return $request->query('format') === 'csv'
            ? new Response(RunLog::csv($model, $user), 200, [
                'Content-Type' => 'text/csv; charset=utf-8',
                'Content-Disposition' => 'attachment; filename="logbook.csv"',
            ])
            : new JsonResponse(['runs' => RunLog::of($model, $user)]);
    }

    /** Gives a run of the logbook a star or a comment. */
    public function update(Request $request, ModelDocument $model, int $run, #[CurrentUser] User $user): JsonResponse
    {
        $request->validate(
            ['starred' => ['sometimes', 'boolean'], 'comment' => ['sometimes', 'string', 'max:500']],
            ['starred.*' => '`starred` is true or false.', 'comment.*' => 'A comment is text of at most 500 characters.'],
        );
        /** @var RunRow $row */
        $row = $model->runs()->where('user_id', $user->id)->findOrFail($run);
        $row->update([
            ...$request->has('starred') ? ['starred' => $request->boolean('starred')] : [],
            ...$request->has('comment') ? ['comment' => $request->string('comment')->trim()->toString()] : [],
        ]);

        return new JsonResponse(['runs' => RunLog::of($model, $user)]);
    }
}
