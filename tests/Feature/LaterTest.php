<?php

declare(strict_types=1);

namespace Tests\Feature;

use App\Models\ModelDocument;
use App\Runs\AnswerJob;
use App\Runs\Results;
use App\Uncertain\NudgeAnswer;

/** What takes long is worked out by a worker, and asked for again. */
final class LaterTest extends TestCase
{
    use MakesManyRuns;

    private const NUDGE = ['run' => [], 'by' => 0.1, 'kinds' => ['parameter']];

    private function patient(): void
    {
        config(['merry-orbit.run.workers' => true, 'merry-orbit.run.most_at_once' => 0.0, 'queue.default' => self::queue()]);
    }

    public function test_a_worker_comes_to_the_answer_that_a_request_comes_to(): void
    {
        $model = $this->tank();
        $this->say($model, 'candidates', 'c1', ['of' => 'rate', 'values' => [1, 2], 'ticked' => [1, 2]]);
        $this->say($model, 'expectations', 'x1', ['of' => 'tank', 'shape' => 'never-below', 'value' => 7, 'runs' => 200]);
        $asked = fn (): array => [
            fn () => $this->postJson("/api/models/$model->id/nudge", self::NUDGE),
            fn () => $this->postJson("/api/models/$model->id/candidates", ['run' => []]),
            fn () => $this->getJson("/api/models/$model->id/expectations"),
        ];
        $at_once = array_map(static fn (\Closure $ask): mixed => $ask()->assertOk()->json(), $asked());
        $this->patient();
        foreach ($asked() as $ask) {
            $ask()
                ->assertStatus(202)
                ->assertExactJson(['working' => true]);
            // Asking again meanwhile is no more work.
            $ask()->assertStatus(202);
        }
        self::assertSame(3, self::waiting());
        $this->work();
        foreach ($asked() as $i => $ask) {
            self::assertSame($at_once[$i], $ask()->assertOk()->json());
        }
        // Half of the tanks that drain at 1 ± 0.2 for four years are above 6, and six in a thousand and some above 7.
        self::assertFalse($at_once[2]['expectations'][0]['holds']);
        self::assertStringContainsString('of 200 runs; at the worst, with rate', $at_once[2]['expectations'][0]['sentence']);
        self::assertArrayHasKey('rate', $at_once[2]['expectations'][0]['setting']['parameters']);
    }

    public function test_an_edit_meanwhile_changes_nothing_of_what_was_asked(): void
    {
        $model = $this->tank();
        $before = $this->postJson("/api/models/$model->id/nudge", self::NUDGE)->json('base');
        $this->patient();
        $this->postJson("/api/models/$model->id/nudge", self::NUDGE)->assertStatus(202);
        $old = ['revision' => $model->fresh()?->revision];
        $this->edit($model, ['kind' => 'formula', 'id' => 'rate', 'text' => '2'])->assertOk();
        $this->work();
        self::assertSame($before, $this->postJson("/api/models/$model->id/nudge", [...self::NUDGE, 'run' => $old])->json('base'));
        $this->postJson("/api/models/$model->id/nudge", self::NUDGE)->assertStatus(202);
    }

    public function test_what_a_worker_cannot_do_is_told_once_and_may_be_asked_again(): void
    {
        $model = $this->tank();
        $this->patient();
        $asked = [
            'run' => ['revision' => ModelDocument::query()->findOrFail($model->id)->revision],
            'by' => 0.1,
            'kinds' => ['parameter'],
            'of' => '',
        ];
        $job = new AnswerJob(NudgeAnswer::class, $model->id, $asked);
        $job->failed();
        self::assertTrue(Results::disk()->exists($job->uniqueId()));
        $this->postJson("/api/models/$model->id/nudge", self::NUDGE)
            ->assertStatus(422)
            ->assertSee('did not come to an end');
        $this->postJson("/api/models/$model->id/nudge", self::NUDGE)->assertStatus(202);
        // What is wrong is said at once, whoever would have made it.
        $this->postJson("/api/models/$model->id/nudge", [...self::NUDGE, 'of' => 'nothing'])->assertStatus(422);
    }
}
