<?php

declare(strict_types=1);

namespace Tests\Feature;

use App\Models\ModelDocument;

final class MapTest extends TestCase
{
    /** Rain washes silt, silt takes depth, depth brings ships, ships dredge the silt away. */
    private function map(): ModelDocument
    {
        $model = $this->study()->model;
        foreach (
            [['rain', '+', 'silt'], ['silt', '-', 'depth'], ['depth', '+', 'ships'], ['ships', '-', 'silt']] as $n => [$from, $sign, $to]
        ) {
            $this->edit($model, [
                'kind' => 'say',
                'id' => "l$n",
                'from' => $from,
                'fromId' => "a$n",
                'to' => $to,
                'toId' => "b$n",
                'sign' => $sign,
            ])->assertOk();
        }

        return $model;
    }

    public function test_a_map_is_read_and_played(): void
    {
        $model = $this->map();
        $answer = $this->postJson("/api/models/$model->id/map", ['pushes' => [['factor' => 'a0', 'by' => 1, 'from' => 2]], 'beats' => 20])
            ->assertOk()
            ->assertJsonPath('complete', true)
            ->assertJsonPath('loops', [['name' => 'R1', 'polarity' => '+', 'delayed' => false, 'path' => ['b1', 'b2', 'b0']]])
            ->assertJsonPath('sentences.l0.1', 'With less `rain`, less `silt` than there otherwise would be.')
            ->assertJsonPath('told.0.beat', 3)
            ->assertJsonPath('told.3.loop', 'R1')
            ->assertJsonCount(81, 'times')
            ->assertJsonCount(81, 'heights.b1');
        $depth = $answer->json('heights.b1');
        self::assertIsArray($depth);
        self::assertLessThan(-0.5, $depth[80]);
        // What rests on nothing rests.
        $this->postJson("/api/models/$model->id/map")
            ->assertOk()
            ->assertJsonPath('heights.b1.160', 0);
        $this->postJson("/api/models/$model->id/map", ['starts' => ['b1' => 1]])
            ->assertOk()
            ->assertJsonPath('heights.b1.0', 1);
    }

    public function test_a_loop_is_told_as_long_as_it_is_closed(): void
    {
        $model = $this->map();
        $story = $this->postJson("/api/models/$model->id/map/story", ['path' => ['b0', 'b1', 'b2']])
            ->assertOk()
            ->json('story');
        self::assertSame(
            [
                'Begin with more `silt`.',
                'That makes for less `depth` than there otherwise would be.',
                'That makes for less `ships` than there otherwise would be.',
                'That makes for more `silt` than there otherwise would be.',
                'This adds to what began it: the loop is reinforcing.',
            ],
            $story,
        );
        $this->postJson("/api/models/$model->id/map/story", ['path' => ['b0', 'b2']])->assertStatus(422);
        $this->postJson("/api/models/$model->id/map/story", [])->assertStatus(422);
    }

    public function test_what_a_link_would_say_and_close_is_known_before_it_is_there(): void
    {
        $model = $this->map();
        $ask = fn (array $link) => $this->postJson("/api/models/$model->id/map/foresee", $link)->assertOk();
        $ask(['from' => 'Depth', 'to' => 'silt', 'sign' => '+'])
            ->assertJsonPath('closes', 1)
            ->assertJsonPath('sentence', 'With more `depth`, more `silt` than there otherwise would be.');
        $ask(['from' => 'gulls', 'to' => 'silt', 'sign' => '-', 'late' => true])
            ->assertJsonPath('closes', 0)
            ->assertJsonPath('sentence', 'With more `gulls`, after a while, less `silt` than there otherwise would be.');
        $ask(['from' => 'silt', 'to' => 'depth', 'sign' => '-'])->assertJsonPath('closes', 0);
        $ask(['from' => '', 'to' => 'depth'])->assertJsonPath('sentence', '');
        $ask(['from' => 'ferry', 'to' => 'ferry'])->assertJsonPath('closes', 1);
    }

    public function test_hands_that_make_no_sense_are_refused_with_a_sentence(): void
    {
        $model = $this->map();
        $hand = ['factor' => 'a0', 'by' => 1];
        foreach ([[['factor' => 'a0', 'by' => 7]], [[...$hand, 'from' => -1]], array_fill(0, 61, $hand), [7]] as $pushes) {
            $this->postJson("/api/models/$model->id/map", ['pushes' => $pushes])->assertStatus(422);
        }
        $this->postJson("/api/models/$model->id/map", ['pushes' => [['factor' => 'gone', 'by' => 1]], 'beats' => 400])
            ->assertOk()
            ->assertJsonPath('told', [])
            ->assertJsonCount(1601, 'times');
    }

    public function test_the_record_is_handed_out_as_markdown(): void
    {
        $model = $this->map();
        $record = $this->get("/api/models/$model->id/map/record")->assertOk()->assertHeader('Content-Type', 'text/markdown; charset=UTF-8');
        self::assertStringContainsString('## 4 links', (string) $record->getContent());
    }

    public function test_two_who_say_the_same_at_once_lose_nothing(): void
    {
        $model = $this->map();
        $say = ['kind' => 'say', 'from' => 'gulls', 'to' => 'fish', 'sign' => '-'];
        $this->edit($model, [...$say, 'id' => 'p', 'fromId' => 'p1', 'toId' => 'p2'])->assertOk();
        $this->edit($model, [...$say, 'id' => 'q', 'fromId' => 'q1', 'toId' => 'q2', 'late' => true])->assertOk();
        $links = $model->fresh()?->core()->part('causalLinks') ?? [];
        self::assertSame(['l0', 'l1', 'l2', 'l3', 'p'], array_keys($links));
    }
}
