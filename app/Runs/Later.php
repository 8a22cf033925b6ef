<?php

declare(strict_types=1);

namespace App\Runs;

use App\Models\ModelDocument;
use Illuminate\Http\JsonResponse;
use MerryOrbit\Core\Problem\NotUnderstood;
use MerryOrbit\Core\Simulate\RunRefused;

/**
 * Answers that may take longer than others should wait behind: what is soon done is done at once; all else a worker makes, keeps as a
 * blob that is named by the question, and whoever asked asks again until it is there.
 */
final class Later
{
    /** What a worker makes within its time: two minutes, about. */
    private const MOST = 2.4e9;

    /**
     * @param  class-string<Workable>  $question
     * @param  array<string, mixed>  $asked
     *
     * @throws NotUnderstood|RunRefused
     */
    public static function answer(string $question, ModelDocument $document, array $asked): JsonResponse
    {
        set_time_limit(config()->integer('merry-orbit.run.seconds'));
        // The model may become another before a worker looks at it.
        $asked['run'] = ['revision' => $document->revision, ...is_array($asked['run'] ?? null) ? $asked['run'] : []];
        $work = $question::read($document, $asked);
        $size = $work->work();
        if ($size <= config()->float('merry-orbit.run.most_at_once') || ! config()->boolean('merry-orbit.run.workers')) {
            return new JsonResponse($work->made(Engine::inRequest()));
        }
        if ($size > self::MOST) {
            throw NotUnderstood::because(
                'This would take a worker more than two minutes. '.
                    'Ask for less of it, choose a longer time step, or use the command line, which takes all the time it needs.',
            );
        }
        $job = new AnswerJob($question, $document->id, $asked);
        $kept = Results::disk()->exists($job->uniqueId()) ? (string) Results::disk()->get($job->uniqueId()) : '';
        if ($kept === '') {
            dispatch($job);

            return new JsonResponse(['working' => true], 202);
        }
        $answer = json_decode($kept, true);
        if (is_array($answer) && is_string($answer['refused'] ?? null)) {
            Results::disk()->delete($job->uniqueId());
            throw NotUnderstood::because($answer['refused']);
        }

        return JsonResponse::fromJsonString($kept);
    }
}
