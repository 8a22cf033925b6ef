<?php

declare(strict_types=1);

namespace Tests\Feature;

use App\Models\ModelDocument;
use App\Models\User;
use App\Studies\StudyMaker;
use Illuminate\Testing\TestResponse;
use MerryOrbit\Core\Exchange\NativeFile;

/** Members of rosters by the API, and all else that is asked of a study that has some. */
final class MembersTest extends TestCase
{
    /** @return array{string, string} the study and its model */
    private function boats(): array
    {
        $this->actingAs(User::demoAnalyst());
        $model = NativeFile::import((string) file_get_contents(base_path('demo/new-boats-for-old.json')))->model;
        $study = StudyMaker::make(User::demoAnalyst(), $model)->load('model');

        return [$study->id, $study->model->id];
    }

    public function test_what_became_of_the_boats(): void
    {
        [, $model] = $this->boats();
        $muster = $this->postJson("/api/models/$model/members", ['roster' => 'boat'])
            ->assertOk()
            ->json();
        self::assertSame('soundness', $muster['of']);
        self::assertSame(60, $muster['count'][0]);
        self::assertSame(['built', 'length', 'age', 'soundness'], array_slice(array_column($muster['columns'], 'name'), 0, 4));
        self::assertSame('Slack Water', $muster['members'][0]['name']);
        $left = array_filter(array_column($muster['members'], 'why'));
        self::assertSame(count($left), array_sum($muster['left']));
        self::assertSame(count($muster['members']) - 60, array_sum($muster['came']));
        $last = count($muster['times']) - 1;
        self::assertSame(count($muster['members']) - count($left), $muster['count'][$last]);

        $now = $this->postJson("/api/models/$model/members", ['roster' => 'boat', 'at' => 2010.1])
            ->assertOk()
            ->json();
        self::assertEqualsWithDelta(2010.0, $now['time'], 0.13);
        $there = array_filter(
            $muster['members'],
            static fn (array $m): bool => ($m['from'] ?? 0) <= $now['time'] && ($m['to'] ?? 9999) > $now['time'],
        );
        self::assertSame(array_column($there, 'name'), array_column($now['rows'], 'name'));
        self::assertContains($now['rows'][0]['belongs']['home-harbour'], ['North cove', 'Lee', 'Quay']);

        $again = $this->postJson("/api/models/$model/members", ['roster' => 'boats', 'of' => 'profit', 'run' => ['scenario' => 'mend']]);
        self::assertSame('profit', $again->assertOk()->json('of'));
        self::assertNotSame($muster['count'], $again->json('count'));
        self::assertStringContainsString(
            'no roster called `ship`',
            (string) $this->postJson("/api/models/$model/members", ['roster' => 'ship'])
                ->assertStatus(422)
                ->json('detail'),
        );
        self::assertStringContainsString(
            'nothing of the id `price`',
            (string) $this->postJson("/api/models/$model/members", ['roster' => 'boat', 'of' => 'price'])
                ->assertStatus(422)
                ->json('detail'),
        );
    }

    public function test_where_members_are_comes_as_floats_by_moment(): void
    {
        $this->actingAs(User::demoAnalyst());
        $core = NativeFile::import((string) file_get_contents(base_path('demo/where-the-boats-fish.json')))->model;
        $model = StudyMaker::make(User::demoAnalyst(), $core)->load('model')->model->id;
        $told = $this->postJson("/api/models/$model/members/moving", ['roster' => 'boat', 'of' => ['across', 'catch']])
            ->assertOk()
            ->json();
        [$moments, $members] = [count($told['times']), count($told['names'])];
        self::assertSame(60, $members);
        self::assertSame(['across', 'catch'], array_keys($told['values']));
        $floats = array_values((array) unpack('g*', (string) base64_decode($told['values']['across'], true)));
        self::assertCount($moments * $members, $floats);
        // The same as a table of all members at that moment.
        $at = intdiv($moments, 2);
        $rows = $this->postJson("/api/models/$model/members", ['roster' => 'boat', 'at' => $told['times'][$at]])->json('rows');
        self::assertEqualsWithDelta(
            array_map(static fn (array $r): float => $r['values']['across'], $rows),
            array_slice($floats, $at * $members, $members),
            1e-5,
        );
        self::assertContains($told['belongs']['home-harbour'][0], ['North cove', 'Lee', 'Quay']);

        // Of those that come and go: not a number as long as one is not there.
        [, $boats] = $this->boats();
        $told = $this->postJson("/api/models/$boats/members/moving", ['roster' => 'boat', 'of' => ['soundness']])
            ->assertOk()
            ->json();
        $floats = array_values((array) unpack('g*', (string) base64_decode($told['values']['soundness'], true)));
        $members = count($told['names']);
        foreach ($told['times'] as $i => $time) {
            $there = array_filter(
                range(0, $members - 1),
                static fn (int $n): bool => ($told['from'][$n] ?? -INF) <= $time && ($told['to'][$n] ?? INF) > $time,
            );
            $known = array_keys(array_filter(array_slice($floats, $i * $members, $members), static fn (float $v): bool => ! is_nan($v)));
            self::assertSame(array_values($there), $known, "at $time");
        }
        $refused = fn (array $of): string => (string) $this->postJson("/api/models/$model/members/moving", [
            'roster' => 'boat',
            'of' => $of,
        ])
            ->assertStatus(422)
            ->getContent();
        self::assertStringContainsString('nothing of the id `nothing`', $refused(['across', 'nothing']));
        self::assertStringContainsString('one to four', $refused([]));
        self::assertStringContainsString('one to four', $refused(['a', 'b', 'c', 'd', 'e']));
    }

    public function test_a_file_that_cannot_hold_members_is_offered_with_them_taken_together(): void
    {
        [$study] = $this->boats();
        $said = fn (string $more): array => array_column(
            $this->getJson("/api/studies/$study/losses?format=xmile$more")->json('log'),
            'sentence',
        );
        self::assertStringContainsString('Members that come and go have no place', implode(' ', $said('')));
        self::assertStringNotContainsString('Members that come and go have no place', implode(' ', $said('&level=one')));
        // What is lost by taking them together is told with what the format loses.
        self::assertStringContainsString('Chance', implode(' ', $said('&level=one')));
        $text = (string) $this->get("/api/studies/$study/file?format=xmile&level=classes")
            ->assertOk()
            ->getContent();
        self::assertStringContainsString('number of boat', $text);
        $this->getJson("/api/studies/$study/file?format=xmile&level=few")
            ->assertStatus(422)
            ->assertJsonPath('errors.level.0', '`level` is one of members, classes, one.');
    }

    public function test_what_moves_the_catch_is_followed_to_all_boats_and_to_one(): void
    {
        [, $model] = $this->boats();
        $trail = fn (array $asked): TestResponse => $this->postJson("/api/models/$model/trail", ['time' => 2010, ...$asked]);
        $all = $trail(['element' => 'all-catch'])
            ->assertOk()
            ->json();
        self::assertSame('catch', $all['causes'][0]['cause']);
        self::assertStringContainsString('Members of `boat` come and go', $all['holds'][0]['sentence']);
        $catch = $trail(['element' => 'catch'])
            ->assertOk()
            ->json();
        self::assertEqualsWithDelta($all['value'], $catch['value'], 1e-9);
        self::assertGreaterThan(40, count($catch['causes']));
        $one = $catch['causes'][0]['cause'];
        $trail(['element' => $one])
            ->assertOk()
            ->assertJsonPath('element', $one);
        $trail(['element' => 'price', 'towards' => 'effects'])->assertOk();
        self::assertStringContainsString(
            'two runs have other members',
            (string) $trail(['element' => 'price', 'base' => ['scenario' => 'mend']])
                ->assertStatus(422)
                ->json('detail'),
        );
        $trail(['element' => 'catch[nobody]'])->assertStatus(422);
    }

    public function test_the_same_question_at_three_levels(): void
    {
        [, $model] = $this->boats();
        $told = $this->postJson("/api/models/$model/members/levels", ['roster' => 'boat'])
            ->assertOk()
            ->json();
        self::assertSame('boats', $told['of']);
        self::assertSame(['members', 'classes', 'one'], array_column($told['levels'], 'level'));
        foreach ($told['levels'] as $level) {
            self::assertNull($level['refusal']);
            self::assertCount(count($told['times']), $level['values']);
            self::assertEqualsWithDelta(60.0, $level['values'][0], 1e-9);
        }
        self::assertGreaterThan(3, $told['levels'][0]['runs']);
        self::assertIsFloat($told['parts']['one']);
        self::assertStringContainsString('The aggregate parts from single members at year', implode(' ', $told['sentences']));

        // One word in a scenario chooses the level.
        $setting = static fn (string $level): array => [
            'run' => ['setting' => ['levels' => ['boats' => $level]]],
            'points' => 50,
            'only' => ['boats'],
        ];
        $this->postJson("/api/models/$model/runs", $setting('one'))->assertOk();
        $this->postJson("/api/models/$model/runs", $setting('three'))->assertStatus(422);
    }

    public function test_a_table_becomes_a_roster(): void
    {
        $this->actingAs(User::demoAnalyst());
        $model = (string) $this->postJson('/api/studies', ['name' => 'Works'])
            ->assertCreated()
            ->json('data.model');
        $text = (string) file_get_contents(base_path('demo/files/boats.csv'));
        $read = $this->postJson("/api/models/$model/members/read", ['text' => $text, 'name' => 'boat', 'id' => 'n1'])
            ->assertOk()
            ->json();
        self::assertSame([60, ['built', 'length'], ['home harbour']], [count($read['members']), $read['attributes'], $read['places']]);
        $edit = ['kind' => 'together', 'words' => 'Made a roster of 60 boats', 'edits' => $read['edits']];
        $this->edit(ModelDocument::query()->findOrFail($model), $edit)->assertOk();
        $now = $this->postJson("/api/models/$model/members", ['roster' => 'boat', 'at' => 0])->json('rows');
        self::assertSame(['Slack Water', 60], [$now[0]['name'], count($now)]);
        $this->postJson("/api/models/$model/members/read", ['text' => $text, 'name' => 'boat', 'id' => 'n2'])->assertStatus(422);

        $other = "name,length\nKelpie,9\nNew Leaf,8\n";
        $again = $this->postJson("/api/models/$model/members/read", ['text' => $other, 'roster' => 'boat', 'id' => 'n3'])
            ->assertOk()
            ->json();
        self::assertSame([['Kelpie', 'New Leaf'], ['length']], [$again['members'], $again['attributes']]);
        $edits = ['kind' => 'together', 'words' => 'Another list', 'edits' => $again['edits']];
        $this->edit(ModelDocument::query()->findOrFail($model), $edits)->assertOk();
        $pairs = ['text' => "Kelpie,New Leaf\nIvy,Kelpie\n", 'name' => 'follows', 'roster' => 'boat', 'id' => 'n4'];
        $relation = $this->postJson("/api/models/$model/members/relation", $pairs)
            ->assertOk()
            ->json();
        self::assertSame([1, 1], [$relation['pairs'], count($relation['remarks'])]);
        $this->edit(ModelDocument::query()->findOrFail($model), $relation['edits'][0])->assertOk();
        self::assertSame(2, count($this->postJson("/api/models/$model/members", ['roster' => 'boat', 'at' => 0])->json('rows')));
    }

    /** Whatever the page asks of any study is answered of this one too: with numbers, or with a sentence. */
    public function test_all_else_can_be_asked_of_a_study_with_members(): void
    {
        [$study, $model] = $this->boats();
        $fine = static fn (TestResponse $r, string $what): bool => self::fineOrSaid($r, $what);
        $fine($this->getJson("/api/models/$model"), 'model');
        $run = $this->postJson("/api/models/$model/runs", ['run' => [], 'points' => 400]);
        $run->assertOk();
        foreach (
            [
                ['effects', ['run' => [], 'at' => 2010]],
                ['effects', ['run' => []]],
                ['loops', ['run' => []]],
                ['map', []],
                ['trail', ['element' => 'boats', 'time' => 2010]],
                ['trail', ['element' => 'soundness', 'time' => 2010]],
                ['trail', ['element' => 'price', 'time' => 2010, 'over' => 'time']],
                ['nudge', ['outcomes' => [['of' => 'boats', 'kind' => 'last']], 'by' => 0.1, 'runs' => 20]],
                ['health', ['run' => []]],
                ['comparison', ['runs' => [['run' => []], ['run' => ['scenario' => 'mend']]], 'of' => ['boats', 'soundness']]],
                ['candidates', ['of' => ['boats']]],
                ['ensembles', ['runs' => 20, 'outcomes' => []]],
                ['map/foresee', ['from' => 'boats', 'to' => 'price']],
                ['elements/soundness/visits', ['run' => []]],
                ['elements/soundness/ranked', ['run' => [], 'pick' => 'greatest']],
                ['formula', ['element' => 'price', 'text' => 'sum(soundness, boat) / count(boat, age > 3)']],
                ['formula', ['element' => 'price', 'text' => 'soundness[Tern]']],
                ['changes', ['run' => [], 'base' => ['scenario' => 'mend']]],
                ['table', ['runs' => [['name' => 'a', 'run' => []]], 'of' => ['boats', 'soundness'], 'times' => [2010]]],
                ['expectations', []],
                ['runs', ['run' => ['setting' => ['time' => ['method' => 'rk4']]]]],
                ['runs', ['run' => ['setting' => ['time' => ['method' => 'dopri5']]]]],
                ['runs', ['run' => ['setting' => ['grips' => ['boats' => ['signal' => 'constant', 'values' => ['value' => 3]]]]]]],
                ['runs', ['run' => ['setting' => ['grips' => ['soundness' => ['signal' => 'constant', 'values' => ['value' => 0.5]]]]]]],
                [
                    'runs',
                    [
                        'run' => [
                            'setting' => ['grips' => ['soundness[kelpie]' => ['signal' => 'constant', 'values' => ['value' => 0.5]]]],
                        ],
                    ],
                ],
                [
                    'runs',
                    [
                        'run' => [
                            'setting' => ['grips' => ['soundness[nobody]' => ['signal' => 'constant', 'values' => ['value' => 0.5]]]],
                        ],
                    ],
                ],
                [
                    'trail',
                    [
                        'element' => 'boats',
                        'time' => 2010,
                        'run' => ['setting' => ['grips' => ['wear[kelpie]' => ['signal' => 'constant', 'values' => ['value' => 0]]]]],
                    ],
                ],
                ['runs', ['run' => ['setting' => ['parameters' => ['length' => 9, 'built[kelpie]' => 1980]]]]],
                ['runs', ['run' => ['setting' => ['limits' => ['boat' => ['kelpie', 'tern']]]]]],
            ] as [$path, $body]
        ) {
            $fine($this->postJson("/api/models/$model/$path", $body), "$path ".json_encode($body));
        }
        $fine($this->get("/api/studies/$study/file?format=xmile"), 'xmile');
        $fine($this->getJson("/api/models/$model/elements/soundness/equation"), 'equation');
        $fine($this->getJson("/api/models/$model/books"), 'books');
        $fine($this->getJson("/api/models/$model/expectations/proposed"), 'proposed');
        $fine($this->getJson("/api/models/$model/report"), 'report');
        $fine($this->getJson("/api/studies/$study/thumbnail"), 'thumbnail');
    }

    /** @param  TestResponse<\Symfony\Component\HttpFoundation\Response>  $response */
    private static function fineOrSaid(TestResponse $response, string $what): bool
    {
        self::assertLessThan(500, $response->getStatusCode(), $what.' '.substr((string) $response->getContent(), 0, 600));
        if ($response->getStatusCode() >= 400 && $response->getStatusCode() !== 404 && $response->getStatusCode() !== 405) {
            self::assertNotSame('', (string) $response->json('detail'), $what);
        }

        return true;
    }
}
