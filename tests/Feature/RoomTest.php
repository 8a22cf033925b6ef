<?php

declare(strict_types=1);

namespace Tests\Feature;

use App\Models\RoomVoice;
use App\Models\Study;
use App\Studies\StudyMaker;
use App\Tell\Phone;
use MerryOrbit\Core\Exchange\NativeFile;
use MerryOrbit\Core\Model\Model;
use MerryOrbit\Core\Model\Pair;

/** People in a workshop who take part by their phones, without an account. */
final class RoomTest extends AccountsCase
{
    private Study $silt;

    protected function setUp(): void
    {
        parent::setUp();
        $file = (string) file_get_contents(base_path('demo/why-the-harbour-silts-up.json'));
        $this->silt = StudyMaker::make($this->person(), NativeFile::import($file)->model)->load('model');
    }

    private function now(): Model
    {
        return $this->silt->model->refresh()->core();
    }

    /** @param  array<string, string>  $place */
    private function opened(array $place = ['step' => 'factors', 'about' => '']): string
    {
        return $this->signedIn($this->person())
            ->ask('POST', "/api/models/{$this->silt->model->id}/room", $place)
            ->assertCreated()
            ->json('code');
    }

    private function phone(string $code, int $number): Visitor
    {
        return $this->visitor([Phone::ROOM => $code, Phone::HEADER => str_pad(dechex($number), 32, '0')], "192.168.9.$number");
    }

    public function test_a_room_is_open_as_long_as_its_leader_keeps_it_open(): void
    {
        $path = "/api/models/{$this->silt->model->id}/room";
        $leader = $this->signedIn($this->person());
        $leader
            ->ask('GET', $path)
            ->assertOk()
            ->assertExactJson(['open' => false]);
        $code = $this->opened();
        self::assertMatchesRegularExpression('/^[a-hjkmnp-z2-9]{6}$/', $code);
        // Opened again, it is the same.
        self::assertSame($code, $this->opened());
        $shown = $this->phone($code, 1)->ask('GET', '/api/room')->assertOk()->json();
        self::assertSame(['factors', 'Why does the harbour silt up faster than we dredge it?'], [$shown['step'], $shown['question']]);
        $this->phone(strtoupper($code), 2)->ask('GET', '/api/room')->assertOk();
        self::assertSame(2, $leader->ask('GET', $path)->json('phones'));
        $leader->ask('PATCH', $path, ['step' => 'pairs'])->assertOk();
        self::assertSame('pairs', $this->phone($code, 1)->ask('GET', '/api/room')->json('step'));
        // A phone is nobody elsewhere.
        $this->phone($code, 1)->ask('GET', '/api/studies')->assertUnauthorized();
        $leader->ask('DELETE', $path)->assertOk();
        $this->phone($code, 1)->ask('GET', '/api/room')->assertNotFound();
        self::assertSame(0, RoomVoice::query()->count());
        $again = $this->opened();
        self::assertNotSame($code, $again);
        $this->travel(13)->hours();
        $this->phone($again, 1)->ask('GET', '/api/room')->assertNotFound();
    }

    public function test_what_phones_name_is_in_the_study_in_the_name_of_who_leads(): void
    {
        $code = $this->opened();
        $this->phone($code, 1)
            ->ask('POST', '/api/room', ['kind' => 'factor', 'text' => '  sand   banks '])
            ->assertOk()
            ->assertJsonPath('back', '');
        self::assertNotNull($this->now()->idOf('sand banks'));
        $this->phone($code, 2)
            ->ask('POST', '/api/room', ['kind' => 'factor', 'text' => 'Sand Banks'])
            ->assertOk()
            ->assertJsonPath('back', '“Sand Banks” is there already.');
        $history = $this->signedIn($this->person())
            ->ask('GET', "/api/models/{$this->silt->model->id}/history")
            ->json('entries.0');
        self::assertSame('Mara', $history['by']);
        $this->describedRequests = false;
        foreach (
            [
                ['kind' => 'factor', 'text' => ' '],
                ['kind' => 'factor', 'text' => str_repeat('x', 121)],
                ['kind' => 'factor'],
                ['kind' => 'edit', 'text' => 'x'],
                ['kind' => 'pair', 'one' => 'nothing', 'other' => 'at all'],
                ['kind' => 'link', 'link' => 'none', 'says' => 'agree'],
                ['kind' => 'link', 'link' => ['x'], 'says' => 'agree'],
            ] as $bad
        ) {
            $this->phone($code, 1)->ask('POST', '/api/room', $bad)->assertStatus(422);
        }
        $markup = '<b>mud</b>';
        $this->phone($code, 3)
            ->ask('POST', '/api/room', ['kind' => 'factor', 'text' => $markup])
            ->assertOk();
        self::assertContains($markup, array_map(static fn ($e): string => $e->name, $this->now()->elements));
    }

    public function test_a_phone_has_one_voice_for_each_pair_and_each_link(): void
    {
        $model = $this->now();
        $link = array_key_first($model->part('causalLinks'));
        self::assertIsString($link);
        $code = $this->opened(['step' => 'links', 'about' => $link]);
        [$one, $other] = [$model->idOf('wells'), $model->idOf('old breakwater')];
        self::assertNotNull($one);
        self::assertNotNull($other);
        $votes = function () use ($one, $other): ?int {
            foreach ($this->now()->part('pairs') as $pair) {
                if ($pair instanceof Pair && $pair->isOf($one, $other)) {
                    return $pair->votes;
                }
            }

            return null;
        };
        // Ids are made up: ever so many are good ones.
        for ($i = 4; $i < 34; $i++) {
            $this->phone($code, $i)
                ->ask('POST', '/api/room', ['kind' => 'factor', 'text' => "made up $i"])
                ->assertOk();
        }
        foreach ([[1, true, 1], [1, true, 1], [2, true, 2], [3, true, 3], [2, false, 2], [2, false, 2]] as [$phone, $isFor, $then]) {
            // In whichever order the two are named.
            [$a, $b] = $phone === 2 ? [$other, $one] : [$one, $other];
            $this->phone($code, $phone)
                ->ask('POST', '/api/room', ['kind' => 'pair', 'one' => $a, 'other' => $b, 'for' => $isFor])
                ->assertOk();
            self::assertSame($then, $votes());
        }
        foreach ([[1, 'agree'], [2, 'disagree'], [3, 'agree'], [1, 'disagree'], [3, 'nothing']] as [$phone, $says]) {
            $this->phone($code, $phone)
                ->ask('POST', '/api/room', ['kind' => 'link', 'link' => $link, 'says' => $says])
                ->assertOk();
        }
        $leader = $this->signedIn($this->person());
        self::assertSame(
            ['agree' => 0, 'disagree' => 2],
            $leader->ask('GET', "/api/models/{$this->silt->model->id}/room")->json("links.$link"),
        );
        $shown = $this->phone($code, 1)->ask('GET', '/api/room')->json('link');
        self::assertSame('disagree', $shown['mine']);
        self::assertCount(2, $shown['sentences']);
    }

    public function test_addresses_cannot_be_guessed_for_long_and_phones_do_not_say_without_end(): void
    {
        $code = $this->opened();
        $this->visitor([Phone::ROOM => $code])
            ->ask('GET', '/api/room')
            ->assertStatus(422);
        for ($i = 0; $i < 60; $i++) {
            $this->phone(sprintf('%06d', $i), 7)->ask('GET', '/api/room')->assertNotFound();
        }
        $this->phone($code, 7)->ask('GET', '/api/room')->assertStatus(429);
        $this->phone($code, 8)->ask('GET', '/api/room')->assertOk();
        for ($i = 0; $i < 41; $i++) {
            $answer = $this->phone($code, 8)->ask('POST', '/api/room', ['kind' => 'factor', 'text' => "factor number $i"]);
        }
        $answer->assertStatus(422);
        self::assertNotNull($this->now()->idOf('factor number 39'));
        self::assertNull($this->now()->idOf('factor number 40'));
        // Where its leader may not change the study any more, nobody does in their name.
        $this->silt->model->forceFill(['user_id' => $this->person('Odd')->id])->save();
        $this->silt->forceFill(['user_id' => $this->person('Odd')->id])->save();
        $this->phone($code, 8)->ask('GET', '/api/room')->assertNotFound();
    }
}
