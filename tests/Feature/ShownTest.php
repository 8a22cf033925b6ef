<?php

declare(strict_types=1);

namespace Tests\Feature;

use App\Models\ShownLink;
use App\Models\Study;
use App\Models\User;
use App\Studies\StudyMaker;
use App\Tell\Reader;
use Illuminate\Support\Facades\DB;
use MerryOrbit\Core\Exchange\NativeFile;
use Tests\Core\Pace;

/** Pages for readers, by links and without an account. */
final class ShownTest extends AccountsCase
{
    private function ferry(User $owner): Study
    {
        return StudyMaker::make($owner, NativeFile::import((string) file_get_contents(base_path('demo/ferry-season.json')))->model)->load(
            'model',
        );
    }

    /**
     * @param  array<string, mixed>  $more
     * @return array{string, string} the key and the id of a link
     */
    private function link(Study $study, User $owner, array $more = []): array
    {
        $made = $this->signedIn($owner)
            ->ask('POST', "/api/studies/$study->id/links", ['showcase' => 'guests', 'may' => 'try', 'name' => 'The council', ...$more])
            ->assertCreated();

        return [$made->json('key'), $made->json('id')];
    }

    private function reader(string $key, string $pass = ''): Visitor
    {
        return $this->visitor([Reader::HEADER => $key, ...$pass === '' ? [] : [Reader::PASS => $pass]]);
    }

    public function test_whoever_has_a_link_sees_the_page_and_nothing_else_of_the_study(): void
    {
        $mara = $this->person();
        $study = $this->ferry($mara);
        [$key, $id] = $this->link($study, $mara);
        self::assertMatchesRegularExpression('/^[0-9a-f]{32}$/', $key);
        self::assertSame(0, DB::table('links')->where('secret', $key)->count(), 'The key itself is kept nowhere.');
        $reader = $this->reader($key);
        $page = $reader->ask('GET', '/api/shown')->assertOk()->json();
        self::assertSame('How many guests can the island bear?', $page['title']);
        self::assertSame(
            ['The word goes round', 'A second boat, and then?', 'What the water allows', 'Your season'],
            array_column($page['steps'], 'title'),
        );
        $shown = $reader
            ->ask('POST', '/api/shown', ['step' => 'boat', 'inputs' => ['price' => 60, 'boat' => 1]])
            ->assertOk()
            ->json();
        self::assertEquals(['price' => 60, 'boat' => 1], $shown['inputs']);
        self::assertEquals(['price' => 30, 'boat' => 2], $shown['author']);
        self::assertSame(2400, (int) $shown['blocks']['guests']['marks'][0]['value']);
        // Neither of the study nor of its model, nor a list of anything.
        foreach (["studies/$study->id", "models/{$study->model->id}", "studies/$study->id/file", 'studies'] as $path) {
            $reader->ask('GET', "/api/$path")->assertUnauthorized();
        }
        $all = json_encode([$page, $shown], JSON_THROW_ON_ERROR);
        foreach (['word of mouth', 'keen people', $study->id, $study->model->id, 'mara@'] as $secret) {
            self::assertStringNotContainsString($secret, $all);
        }
        $links = $this->signedIn($mara)
            ->ask('GET', "/api/studies/$study->id/links")
            ->assertOk()
            ->json('links');
        self::assertSame(
            [[$id, 1, 'The council']],
            array_map(static fn (array $l): array => [$l['id'], $l['opened'], $l['name']], $links),
        );
        self::assertSame([], glob("$this->sessions/*.reader"));
    }

    public function test_nobody_asks_for_more_than_the_page_allows(): void
    {
        $mara = $this->person();
        $study = $this->ferry($mara);
        $reader = $this->reader($this->link($study, $mara)[0]);
        // Further than the dial goes, between its steps.
        self::assertEquals(
            90,
            $reader
                ->ask('POST', '/api/shown', ['step' => 'boat', 'inputs' => ['price' => 1e9]])
                ->assertOk()
                ->json('inputs.price'),
        );
        self::assertEquals(
            35,
            $reader
                ->ask('POST', '/api/shown', ['step' => 'boat', 'inputs' => ['price' => 33.1]])
                ->assertOk()
                ->json('inputs.price'),
        );
        foreach (['trips' => 3, 'full' => 1500, 'price' => 'much', 'x' => [1]] as $input => $value) {
            $reader->ask('POST', '/api/shown', ['step' => 'boat', 'inputs' => [$input => $value]])->assertStatus(422);
        }
        $this->describedRequests = false;
        $same = $reader
            ->ask('POST', '/api/shown', ['step' => 'nowhere', 'only' => ['reputation'], 'run' => ['setting' => ['grips' => ['x' => 1]]]])
            ->assertOk();
        self::assertSame(['says', 'guests'], array_keys($same->json('blocks')));
        // Who may only look moves nothing.
        $looks = $this->reader($this->link($study, $mara, ['may' => 'look'])[0]);
        self::assertEquals(
            30,
            $looks
                ->ask('POST', '/api/shown', ['step' => 'boat', 'inputs' => ['price' => 60]])
                ->assertOk()
                ->json('inputs.price'),
        );
    }

    public function test_readers_see_one_version_for_some_seconds_while_its_author_works(): void
    {
        self::ownTime();
        $mara = $this->person();
        $study = $this->ferry($mara);
        $reader = $this->reader($this->link($study, $mara)[0]);
        $price = static fn (): float => (float) $reader
            ->ask('POST', '/api/shown', ['step' => 'word'])
            ->assertOk()
            ->json('author.price');
        $version = static fn (): mixed => $reader->ask('GET', '/api/shown')->assertOk()->json('version');
        $was = $price();
        $before = $version();
        $this->edited($mara, $study->model, ['kind' => 'formula', 'id' => 'e89331e5407d', 'text' => '47']);
        // Whoever works on it sees what was changed, readers a little later, also what was not asked for before.
        $this->signedIn($mara)
            ->ask('POST', "/api/models/{$study->model->id}/showcases/guests", ['step' => 'word'])
            ->assertOk()
            ->assertJsonPath('shown.author.price', 47);
        self::assertSame([$was, $before], [$price(), $version()]);
        $reader->ask('POST', '/api/shown', ['step' => 'word', 'inputs' => ['price' => 61]])->assertJsonPath('author.price', (int) $was);
        $this->travel(9)->seconds();
        self::assertSame([47.0, $study->model->refresh()->revision], [$price(), $version()]);
    }

    public function test_links_that_lead_nowhere_are_not_told_apart(): void
    {
        $mara = $this->person();
        $study = $this->ferry($mara);
        [$back, $id] = $this->link($study, $mara);
        [$late] = $this->link($study, $mara, ['until' => now()->addDay()->toDateString()]);
        [$good] = $this->link($study, $mara);
        $this->signedIn($mara)
            ->ask('DELETE', "/api/studies/$study->id/links/$id")
            ->assertNoContent();
        $this->travel(3)->days();
        $said = [];
        foreach (['never' => str_repeat('0', 32), 'taken back' => $back, 'over' => $late, 'none' => ''] as $why => $key) {
            $said[$why] = $this->reader($key)->ask('GET', '/api/shown')->assertNotFound()->getContent();
            $this->reader($key)->ask('POST', '/api/shown', [])->assertNotFound();
        }
        self::assertCount(1, array_unique($said));
        $this->reader($good)->ask('GET', '/api/shown')->assertOk();
        // With the study, or its page, they are gone.
        $this->signedIn($mara)
            ->ask('DELETE', "/api/studies/$study->id")
            ->assertNoContent();
        $this->reader($good)->ask('GET', '/api/shown')->assertNotFound();
    }

    public function test_a_password_is_asked_for_and_cannot_be_tried_for_long(): void
    {
        $mara = $this->person();
        $study = $this->ferry($mara);
        [$key, $id] = $this->link($study, $mara, ['password' => 'driftwood']);
        $reader = $this->reader($key);
        foreach (['GET', 'POST'] as $method) {
            $reader->ask($method, '/api/shown')->assertForbidden()->assertJsonPath('code', 'locked');
        }
        $reader->ask('POST', '/api/shown/pass', ['password' => 'flotsam'])->assertStatus(422);
        $pass = $reader
            ->ask('POST', '/api/shown/pass', ['password' => 'driftwood'])
            ->assertOk()
            ->json('pass');
        $this->reader($key, $pass)->ask('GET', '/api/shown')->assertOk();
        // It opens this link alone, and for a while.
        [$other] = $this->link($study, $mara, ['password' => 'driftwood']);
        $this->reader($other, $pass)->ask('GET', '/api/shown')->assertForbidden();
        $this->reader($key, strrev($pass))->ask('GET', '/api/shown')->assertForbidden();
        for ($i = 0; $i < 10; $i++) {
            $reader->ask('POST', '/api/shown/pass', ['password' => "wrong $i"]);
        }
        $reader->ask('POST', '/api/shown/pass', ['password' => 'driftwood'])->assertStatus(429);
        self::assertNotSame('driftwood', ShownLink::query()->findOrFail($id)->password);
    }

    public function test_only_the_owner_makes_links_and_only_to_pages_that_are_there(): void
    {
        $mara = $this->person();
        $study = $this->ferry($mara);
        $here = $this->signedIn($mara);
        $here->ask('POST', "/api/studies/$study->id/links", ['showcase' => 'none', 'may' => 'try'])->assertStatus(422);
        $here->ask('POST', "/api/studies/$study->id/links", ['showcase' => 'guests', 'may' => 'edit'])->assertStatus(422);
        // Whoever works on it sees the page as it is written.
        $this->signedIn($mara)
            ->ask('POST', "/api/models/{$study->model->id}/showcases/guests", ['step' => 'word', 'inputs' => ['price' => 50]])
            ->assertOk()
            ->assertJsonPath('page.may', 'try')
            ->assertJsonPath('shown.inputs.price', 50);
        $this->signedIn($mara)
            ->ask('POST', "/api/models/{$study->model->id}/showcases/none", [])
            ->assertNotFound();
    }

    public function test_many_who_ask_alike_are_answered_from_one_run_and_too_many_wait(): void
    {
        $mara = $this->person();
        $study = $this->ferry($mara);
        $reader = $this->reader($this->link($study, $mara)[0]);
        $first = $reader
            ->ask('POST', '/api/shown', ['step' => 'water'])
            ->assertOk()
            ->getContent();
        $took = Pace::seconds(static function () use ($reader, $first): void {
            for ($i = 0; $i < 20; $i++) {
                self::assertSame($first, $reader->ask('POST', '/api/shown', ['step' => 'water'])->getContent());
            }
        });
        self::assertLessThan(4.0, $took);
        config(['merry-orbit.per_minute.shown_by_link' => 5]);
        $reader->ask('GET', '/api/shown')->assertStatus(429)->assertHeader('Retry-After');
    }
}
