<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use App\Models\ModelDocument;
use App\Models\RunRow;
use App\Models\User;
use App\Runs\RunProgress;
use App\Runs\RunSource;
use App\Studies\ColumnsMessage;
use App\Studies\JitBuffer;
use App\Studies\RunLog;
use Illuminate\Container\Attributes\CurrentUser;
use Illuminate\Http\JsonResponse;
use Illuminate\Http\Request;
use Illuminate\Http\Response;
use MerryOrbit\Core\Experiment\Alignment;
use MerryOrbit\Core\Simulate\Health;
use MerryOrbit\Core\Simulate\Simulator;
use MerryOrbit\Core\Simulate\Trajectory;

final class RunController
{
    /** Makes the run that is meant, or looks it up, and answers with columns. */
    public function store(Request $request, ModelDocument $model, Simulator $simulator, #[CurrentUser] User $user): Response
    {
        $request->validate([
            'run' => ['sometimes', 'array'], 'against' => ['sometimes', 'array'], 'measure' => ['sometimes', 'in:difference,difference-percent'], 'remember' => ['sometimes', 'boolean'],
            'only' => ['sometimes', 'list'], 'only.*' => ['string'], 'points' => ['sometimes', 'integer', 'min:2', 'max:100000'], 'token' => ['sometimes', 'uuid'],
            'from' => ['sometimes', 'numeric'], 'until' => ['sometimes', 'numeric'], 'at' => ['sometimes', 'numeric'],
        ], [
            'run.*' => '`run` is an object that says which run is meant.',
            'against.*' => '`against` is an object that says which run is the base.',
            'measure.*' => '`measure` is difference or difference-percent.',
            'remember.*' => '`remember` is true or false.',
            'only' => '`only` is a list of ids: the columns to send.',
            'only.*' => '`only` is a list of ids: the columns to send.',
            'points.*' => '`points` is a whole number from 2 to 100,000: at most so many moments of each column.',
            'token.*' => '`token` is a UUID under which the run can be followed and stopped.',
            'from.*' => '`from`, `until` and `at` are times, as numbers.', 'until.*' => '`from`, `until` and `at` are times, as numbers.', 'at.*' => '`from`, `until` and `at` are times, as numbers.',
        ]);
        /** @var list<string>|null $only */
        $only = $request->has('only') ? $request->array('only') : null;
        set_time_limit(config()->integer('merry-orbit.run.seconds'));
        $begun = hrtime(true);
        $source = RunSource::of($model, $request->array('run'));
        $token = $request->string('token')->toString();
        try {
            $run = $source->trajectory($simulator, $token === '' ? null : RunProgress::watch($token));
        } finally {
            // What took no time was never told of.
            if ($token !== '' && hrtime(true) - $begun > 1e8) {
                RunProgress::forget($token);
            }
        }
        if ($request->boolean('remember') && $source->revision === $model->revision) {
            RunLog::remember($model, $user, $source->setting, $request->has('run.scenario') ? $source->name : '');
        }
        if ($request->has('against')) {
            $run = self::against($run, RunSource::of($model, $request->array('against'))->trajectory($simulator), $request->input('measure') === 'difference-percent', $only);
        }
        JitBuffer::askForMoreWhenLow();
        $time = static fn (string $key): ?float => $request->has($key) ? $request->float($key) : null;
        $message = new ColumnsMessage($only, $request->has('points') ? $request->integer('points') : null, $time('from'), $time('until'), $time('at'));

        return $message->of($run, $source->timeUnit(), $source->revision, (hrtime(true) - $begun) / 1e6);
    }

    /**
     * The run as its difference from a base, on the times of the base.
     *
     * @param  ?list<string>  $only
     */
    private static function against(Trajectory $run, Trajectory $base, bool $percent, ?array $only): Trajectory
    {
        $columns = [];
        $ids = array_unique([...$base->columns, ...$run->columns, ...array_keys($base->steady), ...array_keys($run->steady)]);
        foreach (array_filter($ids, static fn (string $id): bool => ($only === null || in_array($id, $only, true)) && $base->has($id) && $run->has($id)) as $id) {
            $there = Alignment::at($run->times(), $run->column($id), $base->times());
            $columns[$id] = $percent ? Alignment::percent($there, $base->column($id)) : Alignment::difference($there, $base->column($id));
        }
        $rows = [];
        for ($i = 0; $i < $base->length(); $i++) {
            $rows[] = array_column($columns, $i);
        }

        return new Trajectory($rows, array_map(strval(...), array_keys($columns)), [], $base->times(), $run->fault, $run->evaluations, $run->method);
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
            ? new Response(RunLog::csv($model, $user), 200, ['Content-Type' => 'text/csv; charset=utf-8', 'Content-Disposition' => 'attachment; filename="logbook.csv"'])
            : new JsonResponse(['runs' => RunLog::of($model, $user)]);
    }

    /** Gives a run of the logbook a star or a comment. */
    public function update(Request $request, ModelDocument $model, int $run, #[CurrentUser] User $user): JsonResponse
    {
        $request->validate(['starred' => ['sometimes', 'boolean'], 'comment' => ['sometimes', 'string', 'max:500']], ['starred.*' => '`starred` is true or false.', 'comment.*' => 'A comment is text of at most 500 characters.']);
        /** @var RunRow $row */
        $row = $model->runs()->where('user_id', $user->id)->findOrFail($run);
        $row->update([...($request->has('starred') ? ['starred' => $request->boolean('starred')] : []), ...($request->has('comment') ? ['comment' => $request->string('comment')->trim()->toString()] : [])]);

        return new JsonResponse(['runs' => RunLog::of($model, $user)]);
    }
}
