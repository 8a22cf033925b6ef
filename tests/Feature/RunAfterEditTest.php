<?php

declare(strict_types=1);

namespace Tests\Feature;

use App\Models\ModelDocument;
use Illuminate\Support\Str;
use Illuminate\Testing\TestResponse;

/** An edit that comes with a wish for the run after it. */
final class RunAfterEditTest extends TestCase
{
    /**
     * @param  array<string, mixed>  $body
     * @return TestResponse<\Illuminate\Http\Response>
     */
    private function change(ModelDocument $model, string $way, array $body): TestResponse
    {
        return $this->postJson("/api/models/$model->id/$way", ['base' => $model->refresh()->revision, 'window' => 'window-1', ...$body]);
    }

    /** @return array<string, mixed> */
    private static function formula(string $id, string $text): array
    {
        return ['edits' => [['id' => (string) Str::uuid(), 'edit' => ['kind' => 'formula', 'id' => $id, 'text' => $text]]]];
    }

    /** @return array{array<string, mixed>, string} header and numbers */
    private static function parts(string $message): array
    {
        /** @var array{1: int} $size */
        $size = unpack('V', $message);
        /** @var array<string, mixed> $header */
        $header = json_decode(substr($message, 4, $size[1]), true, flags: JSON_THROW_ON_ERROR);

        return [$header, substr($message, 4 + $size[1])];
    }

    public function test_what_changed_comes_along_if_that_is_wished_for(): void
    {
        $model = $this->study()->model;
        $wish = [...self::formula('usual-rainfall', '650'), 'then' => ['only' => ['fresh-water']], 'changed' => true];
        [$header] = self::parts((string) $this->change($model, 'edits', $wish)->assertOk()->getContent());
        self::assertArrayNotHasKey('quick', $header['edit']);
        self::assertSame('650', $header['edit']['changed']['elements']['usual-rainfall']['formula']);
        self::assertCount(1, $header['edit']['done']);
        self::assertSame(1, $header['revision']);
    }

    public function test_it_answers_with_the_run_of_the_changed_model(): void
    {
        $model = $this->study()->model;
        $answer = $this->change($model, 'edits', [
            ...self::formula('usual-rainfall', '650'),
            'then' => ['only' => ['fresh-water']],
        ])->assertOk();
        [$header, $numbers] = self::parts((string) $answer->getContent());
        self::assertSame(1, $header['revision']);
        self::assertSame(
            [
                'revision' => 1,
                'since' => 0,
                'quick' => true,
                'done' => [],
                'undo' => '`usual rainfall`: 0.0175 → 650 m/week',
                'redo' => null,
            ],
            $header['edit'],
        );

        [$again, $same] = self::parts((string) $this->postJson("/api/models/$model->id/runs", ['only' => ['fresh-water']])->getContent());
        self::assertArrayNotHasKey('edit', $again);
        self::assertSame(bin2hex($same), bin2hex($numbers));
        $this->getJson("/api/models/$model->id/news?since=0")
            ->assertOk()
            ->assertJsonPath('changed.elements.usual-rainfall.formula', '650');
    }

    public function test_undo_and_redo_answer_with_the_run_too(): void
    {
        $model = $this->study()->model;
        $wish = ['then' => ['only' => ['fresh-water']]];
        $numbers = fn (string $way, array $body): string => bin2hex(
            self::parts(
                (string) $this->change($model, $way, [...$body, ...$wish])
                    ->assertOk()
                    ->getContent(),
            )[1],
        );
        $first = bin2hex(self::parts((string) $this->postJson("/api/models/$model->id/runs", $wish['then'])->getContent())[1]);
        $second = $numbers('edits', self::formula('usual-rainfall', '650'));
        self::assertNotSame($first, $second);
        self::assertSame($first, $numbers('undo', ['id' => (string) Str::uuid()]));
        self::assertSame($second, $numbers('redo', ['id' => (string) Str::uuid()]));
        self::assertSame(3, $model->refresh()->revision);
    }

    public function test_what_cannot_be_run_is_written_all_the_same(): void
    {
        $model = $this->study()->model;
        foreach (
            [['setting' => ['curves' => ['usual-rainfall' => 'gone'], 'time' => ['start' => 5, 'end' => 1]]], ['kept' => 'gone']] as $run
        ) {
            $revision = $model->refresh()->revision;
            $this->change($model, 'edits', [...self::formula('usual-rainfall', (string) (600 + $revision)), 'then' => ['run' => $run]])
                ->assertOk()
                ->assertHeader('Content-Type', 'application/json')
                ->assertJsonPath('revision', $revision + 1)
                ->assertJsonPath('quick', true);
        }
        $this->postJson("/api/models/$model->id/runs")->assertOk();
    }

    public function test_a_wish_that_makes_no_sense_is_refused_before_anything_is_written(): void
    {
        $model = $this->study()->model;
        $this->change($model, 'edits', [...self::formula('usual-rainfall', '650'), 'then' => ['points' => 1]])
            ->assertStatus(422)
            ->assertJsonPath('detail', '`points` is a whole number from 2 to 100,000: at most so many moments of each column.');
        self::assertSame(0, $model->refresh()->revision);
    }

    public function test_sent_twice_it_is_written_once_and_run_again(): void
    {
        $model = $this->study()->model;
        $body = [...self::formula('usual-rainfall', '650'), 'then' => ['only' => ['fresh-water']], 'base' => 0];
        [$header, $numbers] = self::parts((string) $this->change($model, 'edits', $body)->getContent());
        [$again, $same] = self::parts((string) $this->change($model, 'edits', $body)->getContent());
        self::assertSame([1, 1], [$header['revision'], $again['revision']]);
        self::assertSame($numbers, $same);
    }
}
