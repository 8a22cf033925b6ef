<?php

declare(strict_types=1);

namespace Tests\Feature;

use App\Models\Comment;
use App\Models\Grant;
use App\Models\May;
use App\Models\Study;
use App\Models\User;
use Illuminate\Routing\Route as OneRoute;
use Illuminate\Support\Facades\Route;
use Illuminate\Support\Str;
use Random\Engine\Xoshiro256StarStar;
use Random\Randomizer;

/** Studies that others may read, comment or change. */
final class SharingTest extends AccountsCase
{
    private function grant(Study $study, ?User $to, May $may, ?string $until = null): Grant
    {
        return Grant::query()->create([
            'study_id' => $study->id,
            'kind' => $to === null ? Grant::EVERYONE : Grant::PERSON,
            'user_id' => $to?->id,
            'email' => $to?->email,
            'may' => $may,
            'until' => $until,
        ]);
    }

    /** @return array<string, mixed> */
    private static function rename(string $name): array
    {
        return [
            'base' => 0,
            'window' => 'w',
            'edits' => [['id' => (string) Str::uuid(), 'edit' => ['kind' => 'rename', 'id' => 'wells', 'name' => $name]]],
        ];
    }

    /** What each policy on a route asks for. */
    private const NEEDS = [
        'view' => 'read',
        'comment' => 'comment',
        'update' => 'edit',
        'delete' => 'own',
        'share' => 'own',
        'sendBack' => 'own',
    ];

    public function test_every_route_gives_everybody_exactly_what_they_may(): void
    {
        $this->describedRequests = false;
        // What is deleted by one of them is there for the next: each route is asked on data of its own.
        $owner = $this->person('Mara');
        $persons = [
            'guest' => null,
            'stranger' => $this->person('Stranger'),
            'reader' => $this->person('Reader'),
            'commenter' => $this->person('Commenter'),
            'editor' => $this->person('Editor'),
            'over' => $this->person('Over'),
            'taken back' => $this->person('Taken'),
            'owner' => $owner,
        ];
        $may = ['reader' => May::Read, 'commenter' => May::Comment, 'editor' => May::Edit, 'owner' => May::Own];
        $wrong = [];
        $asked = 0;
        foreach (Route::getRoutes()->getRoutes() as $route) {
            $need = self::needOf($route);
            if ($need === null) {
                continue;
            }
            $study = $this->study($owner);
            $this->grant($study, $persons['reader'], May::Read);
            $this->grant($study, $persons['commenter'], May::Comment);
            $this->grant($study, $persons['editor'], May::Edit);
            $this->grant($study, $persons['over'], May::Edit, now()->subMinute()->toDateTimeString());
            $this->grant($study, $persons['taken back'], May::Edit)->delete();
            foreach ($persons as $who => $person) {
                $method = $route->methods()[0];
                $path = self::pathOf($route, $study);
                $status = $this->by($person)
                    ->ask($method, "/$path")
                    ->status();
                $asked++;
                $has = $may[$who] ?? May::Nothing;
                $is = match (true) {
                    $who === 'guest' => $status === 401,
                    $has === May::Nothing => $status === 404,
                    ! $has->includes(May::from($need)) => $status === 403,
                    // It came through: what it then says is the route's own matter.
                    default => ! in_array($status, [401, 403], true) && $status < 500,
                };
                if (! $is) {
                    $wrong[] = "$who: $method $path gives $status";
                }
            }
        }
        self::assertSame([], $wrong);
        self::assertGreaterThan(600, $asked);
    }

    /** @var array<int, Visitor> */
    private array $browsers = [];

    /** Each has one browser. */
    private function by(?User $person): Visitor
    {
        return $person === null ? $this->visitor() : ($this->browsers[$person->id] ??= $this->signedIn($person));
    }

    private static function needOf(OneRoute $route): ?string
    {
        foreach ($route->gatherMiddleware() as $middleware) {
            if (is_string($middleware) && preg_match('/:(\w+),(?:study|model)$/', $middleware, $can) === 1) {
                return self::NEEDS[$can[1]];
            }
        }

        return null;
    }

    public function test_a_study_is_shared_by_an_address_and_tells_nothing_of_who_has_an_account(): void
    {
        $mara = $this->person('Mara');
        $ilse = $this->person('Ilse');
        $study = $this->study($mara);
        $here = $this->by($mara);
        $known = $here
            ->ask('POST', "/api/studies/$study->id/sharing", ['email' => ' Ilse@quillhaven.example', 'may' => 'comment'])
            ->assertCreated();
        $unknown = $here
            ->ask('POST', "/api/studies/$study->id/sharing", ['email' => 'odile@quillhaven.example', 'may' => 'comment'])
            ->assertCreated();
        $plain = static fn (array $told): array => ['id' => 1, 'email' => 1] + $told;
        self::assertSame($plain($known->json()), $plain($unknown->json()));
        self::assertCount(2, $this->letters());
        // She sees it among hers, with whose it is; and is named once she has opened it.
        $hers = $this->by($ilse)->ask('GET', '/api/studies')->assertOk()->json('data');
        self::assertSame([[$study->id, 'Mara']], array_map(static fn (array $s): array => [$s['id'], $s['owner']], $hers));
        self::assertNull($here->ask('GET', "/api/studies/$study->id/sharing")->json('grants.0.name'));
        $this->by($ilse)
            ->ask('POST', "/api/models/{$study->model->id}/visits")
            ->assertOk();
        self::assertSame('Ilse', $here->ask('GET', "/api/studies/$study->id/sharing")->json('grants.0.name'));
        // Others see who is there, and no addresses.
        $seen = $this->by($ilse)
            ->ask('GET', "/api/studies/$study->id/sharing")
            ->assertOk()
            ->json();
        self::assertSame([['Ilse', null]], array_map(static fn (array $g): array => [$g['name'], $g['email']], $seen['grants']));
        self::assertSame('comment', $seen['may']);
    }

    public function test_who_makes_an_account_with_an_invitation_finds_what_was_shared_with_the_address(): void
    {
        $mara = $this->person('Mara');
        $study = $this->study($mara);
        $this->by($mara)
            ->ask('POST', "/api/studies/$study->id/sharing", ['email' => 'odile@quillhaven.example', 'may' => 'edit'])
            ->assertCreated();
        $key = $this->keyInLetter('join');
        $odile = $this->visitor()->open();
        $odile->ask('POST', '/api/join', ['key' => $key, 'name' => 'Odile', 'password' => self::GOOD])->assertCreated();
        $odile->ask('POST', "/api/models/{$study->model->id}/edits", self::rename('springs'))->assertOk();
    }

    public function test_what_was_given_is_changed_taken_back_runs_out_and_is_given_back(): void
    {
        $mara = $this->person('Mara');
        $ilse = $this->person('Ilse');
        $study = $this->study($mara);
        $model = "/api/models/{$study->model->id}";
        $here = $this->by($mara);
        $hers = $this->by($ilse);
        $hers->ask('GET', $model)->assertNotFound();
        $id = $here->ask('POST', "/api/studies/$study->id/sharing", ['email' => $ilse->email, 'may' => 'read'])->json('id');
        $hers->ask('GET', $model)->assertOk()->assertJsonPath('may', 'read');
        $hers
            ->ask('POST', "$model/edits", self::rename('springs'))
            ->assertForbidden()
            ->assertJsonPath('code', 'may-not');
        $here
            ->ask('PATCH', "/api/studies/$study->id/sharing/$id", ['may' => 'edit', 'until' => now()->addDay()->toDateString()])
            ->assertOk();
        $hers->ask('POST', "$model/edits", self::rename('springs'))->assertOk();
        $this->travel(3)->days();
        $this->browsers = [];
        [$here, $hers] = [$this->by($mara), $this->by($ilse)];
        $hers->ask('GET', $model)->assertNotFound();
        $here->ask('PATCH', "/api/studies/$study->id/sharing/$id", ['may' => 'edit'])->assertOk();
        $hers->ask('GET', $model)->assertOk();
        $here->ask('DELETE', "/api/studies/$study->id/sharing/$id")->assertNoContent();
        $hers->ask('GET', $model)->assertNotFound();
        $here->ask('POST', "/api/studies/$study->id/sharing", ['everyone' => true, 'may' => 'read'])->assertCreated();
        $hers->ask('GET', $model)->assertOk();
        $here->ask('POST', "/api/studies/$study->id/sharing", ['email' => $ilse->email, 'may' => 'edit'])->assertCreated();
        $hers->ask('GET', $model)->assertOk()->assertJsonPath('may', 'edit');
        $hers->ask('DELETE', "/api/studies/$study->id/sharing")->assertNoContent();
        $hers->ask('GET', $model)->assertOk()->assertJsonPath('may', 'read');
        $record = $here
            ->ask('GET', "/api/studies/$study->id/sharing/record")
            ->assertOk()
            ->json('record');
        self::assertSame(
            ['left it', 'let ilse@quillhaven.example change it', 'let everyone with an account read it'],
            array_column(array_slice($record, 0, 3), 'words'),
        );
        self::assertSame(['Ilse', 'Mara', 'Mara'], array_column(array_slice($record, 0, 3), 'who'));
    }

    public function test_a_study_is_handed_over_to_somebody_who_has_opened_it(): void
    {
        $mara = $this->person('Mara');
        $ilse = $this->person('Ilse');
        $study = $this->study($mara);
        $id = $this->by($mara)
            ->ask('POST', "/api/studies/$study->id/sharing", ['email' => $ilse->email, 'may' => 'read'])
            ->json('id');
        $this->by($mara)
            ->ask('POST', "/api/studies/$study->id/sharing/$id/owner")
            ->assertStatus(422);
        $this->by($ilse)
            ->ask('POST', "/api/studies/$study->id/sharing/$id/owner")
            ->assertForbidden();
        $this->by($ilse)
            ->ask('POST', "/api/models/{$study->model->id}/visits")
            ->assertOk();
        $this->by($mara)
            ->ask('POST', "/api/studies/$study->id/sharing/$id/owner")
            ->assertOk();
        $this->by($ilse)
            ->ask('GET', "/api/models/{$study->model->id}")
            ->assertOk()
            ->assertJsonPath('may', 'own');
        $this->by($mara)
            ->ask('GET', "/api/models/{$study->model->id}")
            ->assertOk()
            ->assertJsonPath('may', 'edit');
        $this->by($mara)
            ->ask('DELETE', "/api/studies/$study->id")
            ->assertForbidden();
        $this->by($ilse)
            ->ask('DELETE', "/api/studies/$study->id")
            ->assertNoContent();
    }

    public function test_nobody_writes_to_everybody(): void
    {
        $mara = $this->person('Mara');
        $study = $this->study($mara);
        $here = $this->by($mara);
        for ($i = 0; $i < 60; $i++) {
            $here
                ->ask('POST', "/api/studies/$study->id/sharing", ['email' => "guest$i@elsewhere.example", 'may' => 'read'])
                ->assertCreated();
        }
        $here
            ->ask('POST', "/api/studies/$study->id/sharing", ['email' => 'one@elsewhere.example', 'may' => 'read'])
            ->assertStatus(429)
            ->assertHeader('Retry-After');
        $here->ask('POST', '/api/invitations', ['email' => 'one@elsewhere.example'])->assertStatus(429);
        self::assertCount(60, $this->letters());
    }

    public function test_comments_are_answered_settled_changed_and_taken_away(): void
    {
        $mara = $this->person('Mara');
        $ilse = $this->person('Ilse');
        $reader = $this->person('Reader');
        $study = $this->study($mara);
        $this->grant($study, $ilse, May::Comment);
        $this->grant($study, $reader, May::Read);
        $at = "/api/models/{$study->model->id}/comments";
        $first = $this->by($ilse)
            ->ask('POST', $at, ['about' => 'moment', 'subject' => 'fresh-water', 'time' => 3.5, 'text' => ' Is this the dry year? '])
            ->assertCreated()
            ->json('comments.0');
        self::assertSame(
            ['Is this the dry year?', 'fresh-water', 3.5, true],
            [$first['text'], $first['subject'], $first['time'], $first['you']],
        );
        $this->by($reader)->ask('GET', $at)->assertOk()->assertJsonPath('comments.0.who', 'Ilse');
        $this->by($reader)
            ->ask('POST', $at, ['about' => 'study', 'text' => 'me too'])
            ->assertForbidden();
        $answer = $this->by($mara)
            ->ask('POST', $at, ['answers' => $first['id'], 'text' => 'It is.'])
            ->assertCreated()
            ->json('comments.1');
        self::assertSame([$first['id'], 'moment', 'fresh-water'], [$answer['answers'], $answer['about'], $answer['subject']]);
        $deeper = $this->by($ilse)
            ->ask('POST', $at, ['answers' => $answer['id'], 'text' => 'Thanks.'])
            ->json('comments.2');
        self::assertSame($first['id'], $deeper['answers']);
        $this->by($ilse)
            ->ask('PATCH', "$at/{$first['id']}", ['settled' => true])
            ->assertOk()
            ->assertJsonPath('comments.0.settled.who', 'Ilse');
        // Whoever answers has not settled it.
        $this->by($mara)
            ->ask('POST', $at, ['answers' => $first['id'], 'text' => 'Wait.'])
            ->assertJsonPath('comments.0.settled', null);
        $this->by($mara)
            ->ask('PATCH', "$at/{$first['id']}", ['text' => 'other words'])
            ->assertForbidden();
        $this->by($ilse)
            ->ask('PATCH', "$at/{$first['id']}", ['text' => 'Is this the driest year?'])
            ->assertOk();
        $this->by($ilse)
            ->ask('DELETE', "$at/{$answer['id']}")
            ->assertForbidden();
        $this->by($mara)
            ->ask('DELETE', "$at/{$deeper['id']}")
            ->assertOk();
        $this->by($ilse)
            ->ask('DELETE', "$at/{$first['id']}")
            ->assertOk()
            ->assertJsonPath('comments.0.text', '');
        $this->by($mara)
            ->ask('DELETE', "$at/{$answer['id']}")
            ->assertOk();
        self::assertSame(2, Comment::query()->count());
        // Those of another study are not there.
        $other = $this->study($mara);
        $this->by($mara)
            ->ask('POST', "/api/models/{$other->model->id}/comments", ['answers' => $first['id'], 'text' => 'x'])
            ->assertNotFound();
    }

    public function test_who_comes_back_hears_what_others_did_meanwhile_and_who_is_there(): void
    {
        self::ownTime();
        $mara = $this->person('Mara');
        $ilse = $this->person('Ilse');
        $study = $this->study($mara);
        $this->grant($study, $ilse, May::Edit);
        $model = "/api/models/{$study->model->id}";
        $this->by($mara)
            ->ask('POST', "$model/visits")
            ->assertOk()
            ->assertJsonPath('before', null);
        $this->by($mara)
            ->ask('POST', "$model/edits", self::rename('wells of old'))
            ->assertOk();
        $this->by($mara)
            ->ask('GET', "$model/news?since=1&window=a")
            ->assertOk();
        $this->travel(20)->minutes();
        $hers = $this->by($ilse);
        $hers->ask('POST', "$model/edits", ['base' => 1] + self::rename('springs'))->assertOk();
        $hers->ask('POST', "$model/edits", ['base' => 2] + self::rename('old springs'))->assertOk();
        $hers->ask('POST', "$model/comments", ['about' => 'thing', 'subject' => 'wells', 'text' => 'Renamed.'])->assertCreated();
        $since = $this->by($mara)
            ->ask('POST', "$model/visits")
            ->assertOk()
            ->json();
        self::assertSame([1, 1], [$since['revision'], $since['comments']]);
        self::assertSame([['Ilse', 2]], array_map(static fn (array $c): array => [$c['name'], $c['count']], $since['changes']));
        self::assertStringContainsString('springs', $since['changes'][0]['words'][0]);
        // Soon again: it is the same visit.
        self::assertSame(
            $since,
            $this->by($mara)
                ->ask('POST', "$model/visits")
                ->json(),
        );

        $hers
            ->ask('GET', "$model/news?since=3&window=b&thing=wells")
            ->assertOk()
            ->assertJsonPath('here', []);
        $this->by($mara)
            ->ask('GET', "$model/news?since=3&window=a&thing=")
            ->assertOk()
            ->assertJsonPath('here', [['name' => 'Ilse', 'thing' => 'wells']]);
        $this->travel(16)->seconds();
        $news = $this->by($mara)
            ->ask('GET', "$model/news?since=1&window=a")
            ->assertOk()
            ->assertJsonPath('here', []);
        self::assertSame(['Ilse', 'Ilse'], array_column($news->json('done'), 'by'));
        // Whoever is alone with a study is told of nobody.
        $own = $this->study($mara);
        self::assertArrayNotHasKey(
            'here',
            $this->by($mara)
                ->ask('GET', "/api/models/{$own->model->id}/news?since=0&window=a")
                ->json(),
        );
    }

    public function test_two_editors_and_a_commenter_lose_nothing_in_a_thousand_acts_and_see_the_same(): void
    {
        $random = new Randomizer(new Xoshiro256StarStar(hash('sha256', 'two editors', true)));
        $mara = $this->person('Mara');
        [$ilse, $odile] = [$this->person('Ilse'), $this->person('Odile')];
        $study = $this->study($mara);
        $this->grant($study, $ilse, May::Edit);
        $this->grant($study, $odile, May::Comment);
        $model = "/api/models/{$study->model->id}";
        config(['merry-orbit.per_minute.edits' => 5000, 'merry-orbit.per_minute.runs' => 5000]);
        $known = ['Mara' => 0, 'Ilse' => 0, 'Odile' => 0];
        $acknowledged = [];
        $said = 0;
        for ($i = 0; $i < 1000; $i++) {
            $who = $random->pickArrayKeys($known, 1)[0];
            $browser = $this->by($this->person((string) $who));
            if ($who === 'Odile') {
                $random->getInt(0, 3) === 0
                    ? $browser->ask('POST', "$model/edits", ['base' => $known[$who]] + self::rename("not hers $i"))->assertForbidden()
                    : $browser
                        ->ask('POST', "$model/comments", ['about' => 'thing', 'subject' => 'wells', 'text' => "Comment $i"])
                        ->assertCreated();
                $said = Comment::query()->count();

                continue;
            }
            // From what they last saw, which others may have changed since.
            $act = $random->getInt(0, 5);
            if ($act === 0) {
                $known[$who] = $browser
                    ->ask('GET', "$model/news?since=$known[$who]&window=$who")
                    ->assertOk()
                    ->json('revision');

                continue;
            }
            $id = (string) Str::uuid();
            $edit =
                $act === 1 && $i % 4 === 0
                    ? ['kind' => 'add', 'id' => "thing$i", 'element' => 'auxiliary', 'name' => "Thing $i"]
                    : ['kind' => 'note', 'id' => $random->getInt(0, 1) === 0 ? 'wells' : 'fresh-water', 'text' => "$who says $i"];
            $answer = $browser->ask('POST', "$model/edits", [
                'base' => $known[$who],
                'window' => (string) $who,
                'edits' => [['id' => $id, 'edit' => $edit]],
            ]);
            if ($answer->status() === 200) {
                $known[$who] = $answer->json('revision');
                $acknowledged[] = $id;
            } else {
                self::assertSame(409, $answer->status(), (string) $answer->getContent());
                $known[$who] = $browser->ask('GET', "$model/news?since=$known[$who]&window=$who")->json('revision');
            }
        }
        self::assertGreaterThan(300, count($acknowledged));
        self::assertGreaterThan(100, $said);
        $rows = $study->model->edits()->orderBy('revision')->get();
        self::assertSame($acknowledged, $rows->pluck('client_id')->all());
        self::assertSame(range(1, count($acknowledged)), $rows->pluck('revision')->all());
        $seen = array_map(fn (User $u): mixed => $this->by($u)->ask('GET', $model)->assertOk()->json('model'), [$mara, $ilse, $odile]);
        self::assertSame($seen[0], $seen[1]);
        self::assertSame($seen[0], $seen[2]);
    }
}
