<?php

declare(strict_types=1);

namespace App\Runs;

use App\Models\ModelDocument;
use Illuminate\Contracts\Queue\ShouldBeUnique;
use Illuminate\Contracts\Queue\ShouldQueue;
use Illuminate\Foundation\Queue\Queueable;
use MerryOrbit\Core\Problem\NotUnderstood;
use MerryOrbit\Core\Simulate\RunRefused;

/** Works out one answer for all who ask the same; doing it twice does no harm. */
final class AnswerJob implements ShouldBeUnique, ShouldQueue
{
    use Queueable;

    public int $tries = 2;

    public int $timeout = 160;

    /** Seconds; afterwards it is asked for anew, should a worker have been killed. */
    public int $uniqueFor = 180;

    /**
     * @param  class-string<Workable>  $question
     * @param  array<string, mixed>  $asked
     */
    public function __construct(public readonly string $question, public readonly string $model, public readonly array $asked)
    {
        // Behind single runs.
        $this->onQueue('long');
    }

    /** Where the answer is kept. */
    public function uniqueId(): string
    {
        $asked = json_encode($this->asked, JSON_THROW_ON_ERROR | JSON_PRESERVE_ZERO_FRACTION);
        $hash = hash('sha256', implode("\n", [Results::EDITION, $this->question, $this->model, $asked]));

        return 'answers/'.substr($hash, 0, 2)."/$hash.json";
    }

    public function handle(): void
    {
        $document = ModelDocument::query()->find($this->model);
        if ($document === null || Results::disk()->exists($this->uniqueId())) {
            return;
        }
        try {
            $answer = $this->question::read($document, $this->asked)->made(Engine::inWorker());
        } catch (NotUnderstood|RunRefused $e) {
            $answer = ['refused' => $e->getMessage()];
        }
        $this->keep($answer);
    }

    /** Out of time or memory: whoever asks again is told. */
    public function failed(): void
    {
        $this->keep(['refused' => 'A worker did not come to an end with this. Ask for less of it, or use the command line.']);
    }

    /** @param  array<string, mixed>  $answer */
    private function keep(array $answer): void
    {
        Results::write($this->uniqueId(), json_encode($answer, JSON_THROW_ON_ERROR));
    }
}
