<?php

declare(strict_types=1);

namespace Tests\Feature;

use App\Models\Grant;
use App\Models\May;
use App\Models\Study;
use App\Models\User;
use App\Studies\StudyMaker;
use App\Tell\Phone;
use App\Tell\Reader;
use Illuminate\Support\Facades\Artisan;
use Illuminate\Support\Facades\DB;
use Illuminate\Support\Facades\Route;
use Illuminate\Support\Str;
use MerryOrbit\Core\Exchange\NativeFile;

/** Pages in frames and under readable addresses, and copies that readers take, with an account or without. */
final class CopiesTest extends AccountsCase
{
    private function ferry(User $owner): Study
    {
        $file = (string) file_get_contents(base_path('demo/ferry-season.json'));

        return StudyMaker::make($owner, NativeFile::import($file)->model)->load('model');
    }

    /**
     * @param  array<string, mixed>  $more
     * @return array<string, mixed> as it was told when it was made
     */
    private function link(Study $study, User $owner, array $more = []): array
    {
        return $this->signedIn($owner)
            ->ask('POST', "/api/studies/$study->id/links", ['showcase' => 'guests', 'may' => 'copy', ...$more])
            ->assertCreated()
            ->json();
    }

    private function policyOf(string $path): string
    {
        preg_match(
            '/frame-ancestors ([^;]+)/',
            (string) $this->visitor()->ask('GET', $path)->assertOk()->headers->get('Content-Security-Policy'),
            $of,
        );

        return $of[1] ?? '';
    }

    public function test_a_page_may_stand_only_in_pages_that_its_owner_names(): void
    {
        $mara = $this->person();
        $study = $this->ferry($mara);
        $link = $this->link($study, $mara, ['may' => 'try', 'hosts' => ['https://School.example/', 'http://127.0.0.1:9100']]);
        self::assertSame(['https://school.example', 'http://127.0.0.1:9100'], $link['hosts']);
        self::assertSame('https://school.example http://127.0.0.1:9100', $this->policyOf("/embed/{$link['id']}"));
        // Nothing else of Merry Orbit stands in a frame, nor does a link that does not exist.
        foreach (['/', '/see', "/embed/{$link['id']}/x", '/embed/'.Str::lower((string) Str::ulid()), "/studies/$study->id"] as $path) {
            self::assertSame("'none'", $this->policyOf($path));
        }
        $owner = $this->signedIn($mara);
        $bad = [
            'https://school.example/page',
            '*',
            "https://x.example; script-src 'unsafe-inline'",
            'school.example',
            "https://a\nb",
            '',
        ];
        foreach ($bad as $host) {
            $owner->ask('PATCH', "/api/studies/$study->id/links/{$link['id']}", ['hosts' => [$host]])->assertStatus(422);
        }
        $owner
            ->ask('PATCH', "/api/studies/$study->id/links/{$link['id']}", ['hosts' => []])
            ->assertOk()
            ->assertJsonPath('hosts', []);
        self::assertSame("'none'", $this->policyOf("/embed/{$link['id']}"));
        $owner->ask('PATCH', "/api/studies/$study->id/links/{$link['id']}", ['hosts' => ['https://school.example']])->assertOk();
        self::assertSame('https://school.example', $this->policyOf("/embed/{$link['id']}"));
        $owner->ask('DELETE', "/api/studies/$study->id/links/{$link['id']}")->assertNoContent();
        self::assertSame("'none'", $this->policyOf("/embed/{$link['id']}"));
        // In a frame there are no cookies: the key in the header is enough to try the page.
        $again = $this->link($study, $mara, ['may' => 'try']);
        $this->visitor([Reader::HEADER => $again['key']])
            ->ask('POST', '/api/shown', ['step' => 'boat'])
            ->assertOk();
    }

    public function test_a_page_is_published_under_a_readable_address(): void
    {
        $mara = $this->person();
        $study = $this->ferry($mara);
        $link = $this->link($study, $mara, ['may' => 'try', 'address' => 'ferry-guests']);
        self::assertSame('ferry-guests', $link['address']);
        $this->visitor([Reader::HEADER => 'ferry-guests'])
            ->ask('GET', '/api/shown')
            ->assertOk();
        $owner = $this->signedIn($mara);
        $wanted = fn (string $address) => $owner->ask('POST', "/api/studies/$study->id/links", [
            'showcase' => 'guests',
            'may' => 'look',
            'address' => $address,
        ]);
        $wanted('ferry-guests')
            ->assertStatus(422)
            ->assertJsonPath('errors.address.0', 'Another page has this address. Choose another one.');
        foreach (['ab', 'Ferry', 'a--b', '-a-b', 'a/b', '../etc', str_repeat('a', 61), str_repeat('0', 32)] as $bad) {
            $wanted($bad)->assertStatus(422);
        }
        $owner->ask('DELETE', "/api/studies/$study->id/links/{$link['id']}")->assertNoContent();
        $this->visitor([Reader::HEADER => 'ferry-guests'])
            ->ask('GET', '/api/shown')
            ->assertNotFound();
        $wanted('ferry-guests')->assertCreated();
    }

    public function test_a_link_may_go_on_showing_the_version_of_its_day(): void
    {
        $mara = $this->person();
        $study = $this->ferry($mara);
        $stays = $this->link($study, $mara, ['may' => 'try', 'stays' => true]);
        $newest = $this->link($study, $mara, ['may' => 'try']);
        self::assertSame([0, null], [$stays['version'], $newest['version']]);
        $most = fn (array $link): mixed => $this->visitor([Reader::HEADER => $link['key']])
            ->ask('POST', '/api/shown', ['step' => 'word'])
            ->assertOk()
            ->json('blocks.says.numbers.most.value');
        $before = $most($stays);
        $this->signedIn($mara)
            ->ask('POST', "/api/models/{$study->model->id}/edits", [
                'window' => 'w',
                'base' => 0,
                'edits' => [
                    ['id' => (string) Str::uuid(), 'edit' => ['kind' => 'formula', 'id' => 'e3a973d2fc31', 'text' => '2']],
                    [
                        'id' => (string) Str::uuid(),
                        'edit' => ['kind' => 'put', 'part' => 'showcases', 'id' => 'guests', 'fields' => ['title' => 'Anew']],
                    ],
                ],
            ])
            ->assertOk();
        self::assertSame($before, $most($stays));
        self::assertNotSame($before, $most($newest));
        $titles = array_map(
            fn (array $l): mixed => $this->visitor([Reader::HEADER => $l['key']])
                ->ask('GET', '/api/shown')
                ->json('title'),
            [$stays, $newest],
        );
        self::assertSame(['How many guests can the island bear?', 'Anew'], $titles);
        // What was written since is not to be had by a copy either.
        $copies = $this->link($study, $mara, ['stays' => true]);
        $this->signedIn($mara)
            ->ask('POST', "/api/models/{$study->model->id}/edits", [
                'window' => 'w',
                'base' => 2,
                'edits' => [
                    [
                        'id' => (string) Str::uuid(),
                        'edit' => ['kind' => 'note', 'id' => 'e3a973d2fc31', 'text' => 'Not for readers yet.'],
                    ],
                ],
            ])
            ->assertOk();
        $taken = $this->signedIn($this->person('Odd'))
            ->carrying([Reader::HEADER => $copies['key']])
            ->ask('POST', '/api/shown/copies');
        $copy = Study::query()
            ->with('model')
            ->where('id', $taken->assertCreated()->json('study'))
            ->firstOrFail();
        self::assertStringNotContainsString('Not for readers yet.', $copy->model->document);
        self::assertSame(2, $copy->origin['revision'] ?? null);
    }

    public function test_whoever_has_no_account_takes_a_copy_that_is_kept_for_a_month(): void
    {
        $mara = $this->person();
        $study = $this->ferry($mara);
        $before = $study->model->document;
        $key = $this->link($study, $mara)['key'];
        $taken = $this->visitor([Reader::HEADER => $key])
            ->ask('POST', '/api/shown/copies')
            ->assertCreated()
            ->json();
        self::assertNull($taken['study']);
        self::assertSame(0, DB::table('users')->where('guest_key', $taken['key'])->count(), 'The key itself is kept nowhere.');
        $guest = $this->visitor()->open();
        $told = $guest
            ->ask('POST', '/api/copies/key', ['key' => $taken['key']])
            ->assertOk()
            ->json();
        self::assertSame(['Ferry season', 'Ferry season', null], [$told['name'], $told['from'], $told['signedIn']]);
        $copy = $guest
            ->ask('POST', '/api/copies/open', ['key' => $taken['key']])
            ->assertOk()
            ->json('study');
        self::assertNotSame($study->id, $copy);
        $list = $guest->ask('GET', '/api/studies')->assertOk()->json('data');
        self::assertSame([$copy], array_column($list, 'id'));
        self::assertEquals(['name' => 'Ferry season', 'revision' => 0], $list[0]['origin']);
        self::assertNotNull($guest->ask('GET', '/api/me')->assertOk()->json('data.guest'));
        // It is worked on as any study, and the original stays as it is.
        $guest
            ->ask('POST', "/api/models/{$list[0]['model']}/edits", [
                'window' => 'w',
                'base' => 0,
                'edits' => [['id' => (string) Str::uuid(), 'edit' => ['kind' => 'title', 'name' => 'My ferry']]],
            ])
            ->assertOk();
        self::assertSame($before, $study->model->refresh()->document);
        // A guest has that and nothing else.
        $guest->ask('GET', "/api/studies/$study->id")->assertNotFound();
        $guest->ask('POST', '/api/studies', [])->assertForbidden()->assertJsonPath('code', 'guest');
        $guest->ask('POST', "/api/studies/$copy/duplicate")->assertForbidden();
        $guest->ask('POST', "/api/studies/$copy/sharing", ['email' => 'x@y.example', 'may' => 'read'])->assertForbidden();
        $guest->ask('POST', "/api/studies/$copy/links", ['showcase' => 'guests', 'may' => 'try'])->assertForbidden();
        foreach (['account/sign-ins', 'account/tokens', 'account/export', 'letters'] as $path) {
            $guest->ask('GET', "/api/$path")->assertForbidden();
        }
        $this->travel(31)->days();
        $this->visitor()
            ->open()
            ->ask('POST', '/api/copies/open', ['key' => $taken['key']])
            ->assertNotFound();
        $this->travelBack();
        User::query()
            ->whereNotNull('guest_until')
            ->update(['guest_until' => now()->subDay()]);
        self::assertSame(0, Artisan::call('orbit:tidy'));
        self::assertSame(0, Study::withTrashed()->whereKey($copy)->count());
        self::assertSame(0, User::query()->whereNotNull('guest_until')->count());
        self::assertSame(1, Study::query()->count());
    }

    public function test_who_signs_in_keeps_the_copy_and_its_address_leads_nowhere_then(): void
    {
        $mara = $this->person();
        $key = $this->link($this->ferry($mara), $mara)['key'];
        $taken = $this->visitor([Reader::HEADER => $key])
            ->ask('POST', '/api/shown/copies')
            ->assertCreated()
            ->json('key');
        $guest = $this->visitor()->open();
        $copy = $guest
            ->ask('POST', '/api/copies/open', ['key' => $taken])
            ->assertOk()
            ->json('study');
        $model = $guest->ask('GET', "/api/studies/$copy")->json('data.model');
        $guest
            ->ask('POST', "/api/models/$model/edits", [
                'window' => 'w',
                'base' => 0,
                'edits' => [['id' => (string) Str::uuid(), 'edit' => ['kind' => 'title', 'name' => 'My ferry']]],
            ])
            ->assertOk();
        $guest->ask('POST', '/api/copies/keep', ['key' => $taken])->assertForbidden();
        $odd = $this->person('Odd');
        $this->visitor()
            ->open()
            ->ask('POST', '/api/copies/keep', ['key' => $taken])
            ->assertUnauthorized();
        $by = $this->signedIn($odd);
        self::assertSame('Odd', $by->ask('POST', '/api/copies/key', ['key' => $taken])->json('signedIn'));
        $by->ask('POST', '/api/copies/keep', ['key' => $taken])
            ->assertOk()
            ->assertJsonPath('data.id', $copy);
        self::assertSame([$copy], array_column($by->ask('GET', '/api/studies')->json('data'), 'id'));
        $history = $by
            ->ask('GET', "/api/models/$model/history")
            ->assertOk()
            ->json('entries');
        self::assertSame(['Odd'], array_values(array_unique(array_column($history, 'by'))));
        $by->ask('POST', "/api/models/$model/undo", ['window' => 'w', 'base' => 1, 'id' => (string) Str::uuid()])->assertOk();
        $guest->ask('GET', "/api/studies/$copy")->assertUnauthorized();
        $this->visitor()
            ->open()
            ->ask('POST', '/api/copies/open', ['key' => $taken])
            ->assertNotFound();
        // Whoever is signed in from the start has it among their studies at once.
        $id = $by
            ->carrying([Reader::HEADER => $key])
            ->ask('POST', '/api/shown/copies')
            ->assertCreated()
            ->json('study');
        self::assertContains($id, $odd->studies()->pluck('id')->all());
    }

    public function test_only_a_link_that_says_so_gives_copies_and_not_without_end(): void
    {
        $mara = $this->person();
        $study = $this->ferry($mara);
        $tries = $this->link($study, $mara, ['may' => 'try'])['key'];
        $this->visitor([Reader::HEADER => $tries])
            ->ask('POST', '/api/shown/copies')
            ->assertForbidden();
        $locked = $this->link($study, $mara, ['password' => 'driftwood'])['key'];
        $this->visitor([Reader::HEADER => $locked])
            ->ask('POST', '/api/shown/copies')
            ->assertForbidden()
            ->assertJsonPath('code', 'locked');
        $key = $this->link($study, $mara)['key'];
        config(['merry-orbit.quota.guests' => 2]);
        foreach ([201, 201, 429] as $status) {
            $this->visitor([Reader::HEADER => $key])
                ->ask('POST', '/api/shown/copies')
                ->assertStatus($status);
        }
        config(['merry-orbit.quota.guests' => 100, 'merry-orbit.per_minute.copies' => 2]);
        $this->visitor([Reader::HEADER => $key])
            ->ask('POST', '/api/shown/copies')
            ->assertStatus(429);
    }

    public function test_a_copy_is_sent_back_and_single_changes_of_it_are_taken_over(): void
    {
        $mara = $this->person();
        $odd = $this->person('Odd');
        $study = $this->ferry($mara);
        $copy = $this->signedIn($odd)
            ->carrying([Reader::HEADER => $this->link($study, $mara)['key']])
            ->ask('POST', '/api/shown/copies')
            ->json('study');
        $by = $this->signedIn($odd);
        $model = $by->ask('GET', "/api/studies/$copy")->json('data.model');
        $edit = static fn (array $edit): array => ['id' => (string) Str::uuid(), 'edit' => $edit];
        $by->ask('POST', "/api/models/$model/edits", [
            'window' => 'w',
            'base' => 0,
            'edits' => [
                $edit(['kind' => 'formula', 'id' => 'e3a973d2fc31', 'text' => '3']),
                $edit(['kind' => 'note', 'id' => 'efe9919df44c', 'text' => 'Counted at the pier.']),
                $edit(['kind' => 'title', 'name' => 'Mine']),
            ],
        ])->assertOk();
        $key = $by
            ->ask('POST', "/api/studies/$copy/back")
            ->assertCreated()
            ->json('key');
        // A study that is no copy goes nowhere.
        $this->signedIn($mara)
            ->ask('POST', "/api/studies/$study->id/back")
            ->assertStatus(422);
        // It shows nothing to readers, and nothing to who may not see the original.
        $this->visitor([Reader::HEADER => $key])
            ->ask('GET', '/api/shown')
            ->assertNotFound();
        $this->visitor()
            ->open()
            ->ask('POST', '/api/back', ['key' => $key])
            ->assertUnauthorized();
        $by->ask('POST', '/api/back', ['key' => $key])->assertNotFound();
        $author = $this->signedIn($mara);
        $sent = $author
            ->ask('POST', '/api/back', ['key' => $key])
            ->assertOk()
            ->json();
        self::assertEquals(
            ['elements/e3a973d2fc31' => false, 'elements/efe9919df44c' => false],
            array_column($sent['changes'], 'taken', 'key'),
        );
        $take = static fn (Visitor $who, string $change) => $who->ask('POST', '/api/back/take', [
            'key' => $key,
            'change' => $change,
            'window' => 'w',
            'id' => (string) Str::uuid(),
            'base' => 0,
        ]);
        $after = $take($author, 'elements/e3a973d2fc31')->assertOk()->json();
        self::assertEquals(
            ['elements/e3a973d2fc31' => true, 'elements/efe9919df44c' => false],
            array_column($after['changes'], 'taken', 'key'),
        );
        $now = $study->model->refresh()->core();
        self::assertSame('3', $now->elements['e3a973d2fc31']->formulas()['formula']->text($now->nameOf(...)));
        self::assertSame('Ferry season', $now->name);
        self::assertNotSame('Counted at the pier.', $now->elements['efe9919df44c']->note);
        $history = $author->ask('GET', "/api/models/{$study->model->id}/history")->json('entries.0');
        self::assertSame(['Took over `boats` from a copy', 'Mara'], [$history['words'], $history['by']]);
        $take($author, 'elements/nothing')->assertStatus(422);
        // Readers of the original see what differs and take nothing.
        $ilse = $this->person('Ilse');
        Grant::query()->create([
            'study_id' => $study->id,
            'kind' => Grant::PERSON,
            'user_id' => $ilse->id,
            'email' => $ilse->email,
            'may' => May::Read,
        ]);
        $reader = $this->signedIn($ilse);
        $reader
            ->ask('POST', '/api/back', ['key' => $key])
            ->assertOk()
            ->assertJsonPath('mayTake', false);
        $take($reader, 'elements/efe9919df44c')->assertForbidden();
        // Another address ends this one.
        $by->ask('POST', "/api/studies/$copy/back")->assertCreated();
        $author->ask('POST', '/api/back', ['key' => $key])->assertNotFound();
    }

    public function test_a_whole_study_is_shown_by_a_link_to_who_has_no_account_as_long_as_it_leads_there(): void
    {
        $mara = $this->person();
        $study = $this->ferry($mara);
        $made = $this->signedIn($mara)
            ->ask('POST', "/api/studies/$study->id/links", ['showcase' => '', 'may' => 'try', 'name' => 'The class'])
            ->assertCreated()
            ->json();
        $by = fn (): Visitor => $this->visitor([Reader::HEADER => $made['key']])->open();
        $by()->ask('GET', '/api/shown')->assertStatus(409)->assertJsonPath('name', 'Ferry season');
        $guest = $by();
        self::assertSame($study->id, $guest->ask('POST', '/api/shown/study')->assertOk()->json('study'));
        $model = $study->model->id;
        $guest->ask('GET', "/api/models/$model")->assertOk();
        $guest->ask('POST', "/api/models/$model/runs", ['run' => ['setting' => ['parameters' => ['e3a973d2fc31' => 2]]]])->assertOk();
        // Twice is once, and reading is all.
        $guest->ask('POST', '/api/shown/study')->assertOk();
        self::assertSame(1, User::query()->whereNotNull('guest_until')->count());
        $guest->ask('POST', "/api/models/$model/comments", ['text' => 'Hello'])->assertForbidden();
        $guest->ask('POST', "/api/models/$model/edits", ['window' => 'w', 'base' => 0, 'edits' => []])->assertForbidden();
        $guest->ask('GET', "/api/studies/$study->id/links")->assertForbidden();
        // A guest is nobody who has an account: what is shared with those is not theirs.
        $other = $this->ferry($mara);
        Grant::query()->create(['study_id' => $other->id, 'kind' => Grant::EVERYONE, 'may' => May::Edit]);
        $guest->ask('GET', "/api/models/{$other->model->id}")->assertNotFound();
        self::assertSame([$study->id], array_column($guest->ask('GET', '/api/studies')->json('data'), 'id'));
        $odd = $this->person('Odd');
        $this->signedIn($odd)
            ->ask('GET', "/api/models/{$other->model->id}")
            ->assertOk();
        // Whoever has an account has it among their studies; who may more goes on doing so.
        $ilse = $this->person('Ilse');
        Grant::query()->create([
            'study_id' => $study->id,
            'kind' => Grant::PERSON,
            'user_id' => $ilse->id,
            'email' => $ilse->email,
            'may' => May::Edit,
        ]);
        foreach ([$odd, $ilse, $mara] as $person) {
            $this->signedIn($person)
                ->carrying([Reader::HEADER => $made['key']])
                ->ask('POST', '/api/shown/study')
                ->assertOk();
        }
        self::assertSame(
            'edit',
            $this->signedIn($ilse)
                ->ask('GET', "/api/studies/$study->id/sharing")
                ->json('may'),
        );
        self::assertContains($study->id, array_column($this->signedIn($odd)->ask('GET', '/api/studies')->json('data'), 'id'));
        // The owner sees how often it was opened, and not a list of guests.
        $owner = $this->signedIn($mara);
        self::assertSame(2, $owner->ask('GET', "/api/studies/$study->id/links")->json('links.0.opened'));
        self::assertSame([$ilse->email], array_column($owner->ask('GET', "/api/studies/$study->id/sharing")->json('grants'), 'email'));
        // Taken back, it lets nobody stay who came by it.
        $owner->ask('DELETE', "/api/studies/$study->id/links/{$made['id']}")->assertNoContent();
        $guest->ask('GET', "/api/models/$model")->assertNotFound();
        $this->signedIn($odd)
            ->ask('GET', "/api/models/$model")
            ->assertNotFound();
        $this->signedIn($ilse)
            ->ask('GET', "/api/models/$model")
            ->assertOk();
        $by()->ask('POST', '/api/shown/study')->assertNotFound();
        // Nor does a link to a page lead to a study.
        $page = $this->link($study, $mara, ['may' => 'try'])['key'];
        $this->visitor([Reader::HEADER => $page])
            ->ask('POST', '/api/shown/study')
            ->assertNotFound();
    }

    /** The page, and what belongs to it; all else is for who is signed in, whatever key is brought along. */
    public function test_a_key_of_any_kind_opens_nothing_but_what_it_is_for(): void
    {
        $this->describedRequests = false;
        $mara = $this->person();
        $study = $this->ferry($mara);
        $model = $study->model->id;
        $keys = array_map(fn (string $may): string => $this->link($study, $mara, ['may' => $may])['key'], ['look', 'try', 'copy']);
        $code = $this->signedIn($mara)
            ->ask('POST', "/api/models/$model/room", ['step' => 'factors'])
            ->json('code');
        $visitors = array_map(fn (string $key): Visitor => $this->visitor([Reader::HEADER => $key]), $keys);
        $visitors[] = $this->visitor([Phone::ROOM => $code, Phone::HEADER => str_repeat('a', 32)]);
        $visitors[] = $this->visitor([Phone::ROOM => $code, Phone::HEADER => str_repeat('a', 32), Reader::HEADER => $keys[2]]);
        $wrong = [];
        $asked = 0;
        foreach (Route::getRoutes()->getRoutes() as $route) {
            if (! str_starts_with($route->uri(), 'api/') || ! in_array('auth:sanctum,web', $route->gatherMiddleware(), true)) {
                continue;
            }
            $path = self::pathOf($route, $study);
            foreach ($visitors as $at => $visitor) {
                $status = $visitor->ask($route->methods()[0], "/$path")->status();
                $asked++;
                // What no cookie shows to come from our page is turned away as well.
                if (! in_array($status, [401, 419], true)) {
                    $wrong[] = "$at: {$route->methods()[0]} $path gives $status";
                }
            }
        }
        self::assertSame([], $wrong);
        self::assertGreaterThan(400, $asked);
    }
}
