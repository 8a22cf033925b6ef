<?php

declare(strict_types=1);

namespace Tests\Feature;

use App\Data\ReadTable;
use App\Data\ReadTableJob;
use App\Data\TableStore;
use App\Models\DataFile;
use App\Models\ModelDocument;
use App\Runs\Results;
use Illuminate\Http\Client\ConnectionException;
use Illuminate\Support\Facades\Artisan;
use Illuminate\Support\Facades\Http;
use Illuminate\Support\Facades\Queue;
use Illuminate\Support\Facades\Storage;
use Illuminate\Testing\TestResponse;
use MerryOrbit\Core\Data\Wishes;
use Tests\Core\Pace;
use Tests\Core\Sheets;

final class DataTest extends TestCase
{
    private const TABLE = "Dives\n\nyear;Levels [kg];wind;note\n0;10000;3;a\n5;20500;4;b\n10;29000;5;c\n";

    protected function setUp(): void
    {
        parent::setUp();
        Storage::fake(config()->string('merry-orbit.results_disk'));
    }

    /** A level in tonnes that rises by two a year from 10. */
    private function tank(): ModelDocument
    {
        $model = $this->study()->model;
        foreach (
            [
                ['kind' => 'add', 'id' => 'level', 'element' => 'stock', 'name' => 'level', 'formula' => '10', 'unit' => 't'],
                [
                    'kind' => 'add',
                    'id' => 'filling',
                    'element' => 'flow',
                    'name' => 'filling',
                    'formula' => '2',
                    'unit' => 't/year',
                    'to' => 'level',
                ],
                ['kind' => 'time', 'start' => 0, 'end' => 10, 'step' => 0.5, 'unit' => 'year', 'method' => 'euler'],
            ] as $edit
        ) {
            $this->edit($model, $edit)->assertOk();
        }

        return $model->refresh();
    }

    /** @return TestResponse<\Illuminate\Http\Response> */
    private function drop(ModelDocument $model, string $bytes, string $name = 'dives.csv'): TestResponse
    {
        return $this->call(
            'POST',
            "/api/models/$model->id/tables?name=".rawurlencode($name),
            server: ['CONTENT_TYPE' => 'application/octet-stream', 'HTTP_ACCEPT' => 'application/json'],
            content: $bytes,
        );
    }

    /** @return array<string, mixed> the head of a run */
    private function headOf(ModelDocument $model): array
    {
        $message = (string) $this->postJson("/api/models/$model->id/runs", [])
            ->assertOk()
            ->getContent();
        $size = unpack('V', $message);
        self::assertIsArray($size);
        $head = json_decode(substr($message, 4, $size[1]), true, flags: JSON_THROW_ON_ERROR);
        self::assertIsArray($head);

        return $head;
    }

    public function test_a_file_is_shown_with_what_was_understood_and_nothing_of_it_is_in_the_study(): void
    {
        $model = $this->tank();
        $this->drop($model, self::TABLE)
            ->assertCreated()
            ->assertJsonPath('content', hash('sha256', self::TABLE))
            ->assertJsonPath('layout', 'down')
            ->assertJsonPath('head', 3)
            ->assertJsonPath('rows.0', ['Dives'])
            ->assertJsonPath('series.0.label', 'Levels')
            ->assertJsonPath('series.0.match', ['of' => 'level', 'key' => 'level', 'exact' => false])
            ->assertJsonPath('series.1.match', null)
            ->assertJsonPath('columns', [
                ['name' => 'year', 'unit' => '', 'role' => 'time'],
                ['name' => 'Levels', 'unit' => 'kg', 'role' => 'numbers'],
                ['name' => 'wind', 'unit' => '', 'role' => 'numbers'],
                ['name' => 'note', 'unit' => '', 'role' => 'out'],
            ])
            ->assertJsonPath('remarks.0.about', 'note')
            ->assertJsonPath('time.refusal', null);
        self::assertSame([], $model->refresh()->core()->part('sources'));
        self::assertArrayNotHasKey('fits', $this->headOf($model));
    }

    public function test_what_is_kept_lies_in_the_study_in_its_own_unit_and_every_run_is_held_against_it(): void
    {
        $model = $this->tank();
        $content = $this->drop($model, self::TABLE)->json('content');
        $made = $this->postJson("/api/models/$model->id/tables/$content/evidence", [
            'ties' => [['series' => 0, 'key' => 'level'], ['series' => 1, 'key' => '*series']],
        ])
            ->assertOk()
            ->assertJsonPath('evidence.0.points', [[0, 10], [5, 20.5], [10, 29]])
            ->assertJsonPath('evidence.0.factor', 0.001)
            ->assertJsonPath('evidence.1.of', '')
            ->assertJsonPath('evidence.1.points', [[0, 3], [5, 4], [10, 5]])
            ->json('evidence.0');
        self::assertIsArray($made);
        self::assertNull($made['since']);
        unset($made['said'], $made['since'], $made['proposal']);
        $this->edit($model, [
            'kind' => 'together',
            'words' => 'Keep',
            'edits' => [
                ['kind' => 'put', 'part' => 'sources', 'id' => 's1', 'fields' => ['name' => 'dives.csv', 'content' => $content]],
                ['kind' => 'put', 'part' => 'evidence', 'id' => 'e1', 'fields' => [...$made, 'source' => 's1']],
            ],
        ])->assertOk();
        $newer = $this->drop($model, "year;Levels [kg]\n0;10000\n5;20000\n7;24000\n")->json('content');
        $this->postJson("/api/models/$model->id/tables/$newer/evidence", [
            'source' => 's1',
            'ties' => [['series' => 0, 'key' => 'level']],
        ])
            ->assertOk()
            ->assertJsonPath('evidence.0.since', ['fresh' => 1, 'changed' => [[5, 20.5, 20]], 'gone' => [[10, 29]]]);
        $before = $model->refresh()->document;
        $fits = $this->headOf($model)['fits'];
        self::assertIsArray($fits);
        // Errors 0, −½ and 1.
        self::assertEqualsWithDelta(sqrt(1.25 / 3), $fits['e1']['rmse'], 1e-12);
        self::assertSame(3, $fits['e1']['n']);
        self::assertSame([[0, 0], [5, -0.5], [10, 1]], $fits['e1']['errors']);
        // It is the same where fewer moments are saved: between steps, not between those.
        $this->edit($model, ['kind' => 'formula', 'id' => 'filling', 'text' => '0.2 * level'])->assertOk();
        $dense = $this->headOf($model)['fits'];
        $this->edit($model, [
            'kind' => 'time',
            'start' => 0,
            'end' => 10,
            'step' => 0.5,
            'unit' => 'year',
            'method' => 'euler',
            'saveEvery' => 10,
        ])->assertOk();
        self::assertSame($dense, $this->headOf($model)['fits']);
        $this->step($model, 'undo')->assertOk();
        $this->step($model, 'undo')->assertOk();
        // A dial is turned: the fit goes along.
        $this->edit($model, ['kind' => 'formula', 'id' => 'filling', 'text' => '1.9'])->assertOk();
        self::assertIsArray($again = $this->headOf($model)['fits']);
        self::assertEqualsWithDelta([0.0, -1.0, 0.0], array_column($again['e1']['errors'], 1), 1e-9);
        $this->step($model, 'undo')->assertOk();
        $this->step($model, 'undo')->assertOk();
        $this->step($model, 'redo')->assertOk();
        self::assertSame($before, $model->refresh()->document);
        // With the variable goes what was measured of it.
        $this->edit($model, ['kind' => 'delete', 'ids' => ['level']])->assertOk();
        self::assertSame([], $model->refresh()->core()->part('evidence'));
    }

    public function test_wishes_read_it_anew_and_years_without_a_start_are_said(): void
    {
        $model = $this->tank();
        $content = $this->drop($model, "year,1,2\n2001,1,2\n2006,3,4\n")->json('content');
        $this->postJson("/api/models/$model->id/tables/$content", ['names' => 2, 'layout' => 'down'])
            ->assertOk()
            ->assertJsonPath('head', 2);
        $this->postJson("/api/models/$model->id/tables/$content", [])
            ->assertOk()
            ->assertJsonPath('time.start', '2001-01-01');
        $dated = $this->drop($model, "date,level\n2001-03-04,1\n2006-01-01,3\n")
            ->assertJsonPath('time.start', '2001-03-04')
            ->assertJsonPath('time.study', null)
            ->json('content');
        $this->edit($model, [
            'kind' => 'time',
            'start' => 0,
            'end' => 10,
            'step' => 0.5,
            'unit' => 'year',
            'startDate' => '2001-03-04',
        ])->assertOk();
        $this->postJson("/api/models/$model->id/tables/$dated", [])
            ->assertOk()
            ->assertJsonPath('time.start', null)
            ->assertJsonPath('time.study.0', 0);
        $this->postJson("/api/models/$model->id/tables/$content", ['layout' => 'sideways'])
            ->assertUnprocessable()
            ->assertJsonPath('detail', '`layout` is one of auto, down, across, long, not `sideways`.');
        $this->postJson("/api/models/$model->id/tables/".str_repeat('0', 64), [])
            ->assertUnprocessable()
            ->assertJsonPath('code', 'table');
        $sheet = $this->drop($model, Sheets::xlsx(['A' => [], 'B' => [['year', 'level'], [0.0, 10.0], [1.0, 12.0]]]), 't.xlsx')
            ->assertCreated()
            ->assertJsonPath('sheets', ['A', 'B'])
            ->assertJsonPath('sheet', 'B');
        $content = $sheet->json('content');
        $this->postJson("/api/models/$model->id/tables/$content", ['sheet' => 'A'])->assertUnprocessable();
    }

    public function test_what_is_no_table_is_refused_and_what_is_too_much_is_not_kept(): void
    {
        $model = $this->tank();
        $this->drop($model, '')->assertUnprocessable()->assertJsonPath('detail', 'There is nothing in this file.');
        $this->drop($model, "\x89PNG\0\0\0")->assertUnprocessable();
        self::assertSame(0, DataFile::query()->count(), 'what cannot be read is not kept');
        config()->set('merry-orbit.quota.data_megabytes', 0);
        $this->drop($model, self::TABLE)->assertUnprocessable();
        self::assertSame([], Results::disk()->allFiles('data'));
    }

    public function test_a_file_that_no_study_needs_is_tidied_away(): void
    {
        $model = $this->tank();
        $content = (string) $this->drop($model, self::TABLE)->json('content');
        $spare = (string) $this->drop($model, "year,x\n1,2\n")->json('content');
        $this->edit($model, [
            'kind' => 'put',
            'part' => 'sources',
            'id' => 's1',
            'fields' => ['name' => 'dives.csv', 'content' => $content],
        ])->assertOk();
        $this->travel(5)->seconds();
        Artisan::call('orbit:tidy --minutes=-1');
        self::assertTrue(Results::disk()->exists(TableStore::path($content)));
        self::assertFalse(Results::disk()->exists(TableStore::path($spare)));
        // An old version stays in the history, and with it its file.
        $this->edit($model, ['kind' => 'drop', 'part' => 'sources', 'id' => 's1'])->assertOk();
        Artisan::call('orbit:tidy --minutes=-1');
        self::assertTrue(Results::disk()->exists(TableStore::path($content)));
        self::assertSame([$content], DataFile::query()->pluck('content')->all());
    }

    public function test_another_person_gets_nothing(): void
    {
        $model = $this->tank();
        $content = $this->drop($model, self::TABLE)->json('content');
        $this->actingAs($this->stranger());
        $this->drop($model, self::TABLE)->assertNotFound();
        $this->postJson("/api/models/$model->id/tables/$content", [])->assertNotFound();
        $this->postJson("/api/models/$model->id/tables/$content/evidence", [
            'ties' => [['series' => 0, 'key' => 'level']],
        ])->assertNotFound();
    }

    public function test_steps_are_taken_each_tells_what_it_did_and_rows_are_shown_after_any(): void
    {
        $model = $this->tank();
        $content = $this->drop($model, "year;filled [kg]\n0;1000\n1;2000\n2;\n3;4000\n")->json('content');
        $steps = [
            ['do' => 'gaps', 'take' => 'straight'],
            ['do' => 'over time', 'to' => '2', 'take' => 'sum'],
            ['do' => 'rename', 'series' => ['nothing'], 'to' => 'x'],
        ];
        $this->postJson("/api/models/$model->id/tables/$content", ['name' => 'f.csv', 'steps' => $steps])
            ->assertOk()
            ->assertJsonPath('steps.0.said', '1 gap filled straight between the neighbours')
            ->assertJsonPath('steps.1.times', 2)
            ->assertJsonPath('steps.2.refusal', 'There is no series `nothing` at this step. There is `filled`.')
            ->assertJsonPath('came.times', 4)
            ->assertJsonPath('time.count', 2);
        $rows = fn (int $after, int $from = 0): TestResponse => $this->postJson("/api/models/$model->id/tables/$content/rows", [
            'steps' => $steps,
            'after' => $after,
            'from' => $from,
            'count' => 2,
        ])->assertOk();
        $rows(-1, 2)
            ->assertJsonPath('count', 4)
            ->assertJsonPath('rows', [['2', null], ['3', 4000]]);
        $rows(1)->assertJsonPath('rows', [['0', 3000], ['2', 7000]]);
        // Sums of two years each: they are held against the run's own integral, once they are rates, against its mean.
        $made = $this->postJson("/api/models/$model->id/tables/$content/evidence", [
            'steps' => array_slice($steps, 0, 2),
            'cells' => true,
            'ties' => [['series' => 0, 'key' => 'filling']],
        ])
            ->assertOk()
            ->assertJsonPath('evidence.0.over', 'sum')
            ->assertJsonPath('evidence.0.ends', [2, 4])
            ->assertJsonPath('evidence.0.cells', ['B2:B3', 'B4:B5'])
            ->assertJsonPath('evidence.0.proposal', ['do' => 'rate', 'series' => ['filled'], 'to' => 'year']);
        self::assertStringContainsString('does not lead to', (string) json_encode($made->json('evidence.0.said')));
        $this->postJson("/api/models/$model->id/tables/$content/evidence", [
            'steps' => [...array_slice($steps, 0, 2), ['do' => 'rate', 'to' => 'year']],
            'ties' => [['series' => 0, 'key' => 'filling']],
        ])
            ->assertOk()
            ->assertJsonPath('evidence.0.over', 'mean')
            ->assertJsonPath('evidence.0.points', [[0, 1.5], [2, 3.5]]);
    }

    public function test_steps_ask_for_other_sources_of_the_study_but_not_in_a_circle(): void
    {
        $model = $this->tank();
        $contents = [
            'a' => $this->drop($model, "year;x\n0;1\n1;2\n", 'a.csv')->json('content'),
            'b' => $this->drop($model, "year;y\n1;7\n2;8\n", 'b.csv')->json('content'),
        ];
        foreach (['a' => 'b', 'b' => 'a'] as $id => $other) {
            $fields = ['name' => "$id.csv", 'content' => $contents[$id], 'steps' => [['do' => 'join', 'source' => $other]]];
            $this->edit($model, ['kind' => 'put', 'part' => 'sources', 'id' => $id, 'fields' => $fields])->assertOk();
        }
        $read = fn (): TestResponse => $this->postJson("/api/models/$model->id/tables/{$contents['a']}", [
            'name' => 'a.csv',
            'source' => 'a',
            'steps' => [['do' => 'join', 'source' => 'b']],
        ])->assertOk();
        $read()->assertJsonPath('steps.0.refusal', 'Step 1 (join): The steps of `a.csv` lead back to itself.');
        $this->edit($model, [
            'kind' => 'put',
            'part' => 'sources',
            'id' => 'b',
            'fields' => ['name' => 'b.csv', 'content' => $contents['b'], 'steps' => []],
        ])->assertOk();
        $read()->assertJsonPath('steps.0.refusal', null)->assertJsonPath('series.1.label', 'y');
    }

    public function test_a_file_of_nobody_here_cannot_be_read_by_its_content(): void
    {
        $model = $this->tank();
        $content = $this->drop($model, self::TABLE)->json('content');
        DataFile::query()->update(['user_id' => $this->stranger()->id]);
        $this->postJson("/api/models/$model->id/tables/$content", ['name' => 'dives.csv'])
            ->assertUnprocessable()
            ->assertJsonPath('detail', 'The file of this source is not here any more. Drop it once more.');
    }

    public function test_a_measuring_station_is_heard_like_a_file_and_only_those_that_are_known(): void
    {
        $model = $this->tank();
        config(['merry-orbit.stations' => ['old well' => 'http://station.quillhaven.example/readings']]);
        $this->getJson('/api/stations')
            ->assertOk()
            ->assertJsonPath('stations', ['old well']);
        $told = ['station' => 'old well', 'readings' => [['week' => 0, 'level [t]' => 10], ['week' => 5, 'level [t]' => 21.5]]];
        Http::fake([
            'station.quillhaven.example/*' => Http::sequence()
                ->push($told)
                ->push($told)
                ->push('busy', 503)
                ->whenEmpty(static fn () => throw new ConnectionException('refused')),
        ]);
        $listen = fn (string $query = ''): TestResponse => $this->postJson("/api/models/$model->id/stations/old%20well$query");
        $listen('?peek=1')->assertCreated()->assertJsonPath('series.0.match.key', 'level');
        self::assertSame(0, DataFile::query()->count(), 'nothing is left of a look');
        $content = $listen()->assertCreated()->assertJsonPath('name', 'old well.json')->json('content');
        self::assertSame($content, DataFile::query()->value('content'));
        self::assertStringContainsString('answers with 503', (string) $listen()->assertUnprocessable()->json('detail'));
        self::assertStringContainsString('does not answer', (string) $listen()->assertUnprocessable()->json('detail'));
        $this->postJson("/api/models/$model->id/stations/elsewhere")->assertUnprocessable();
    }

    public function test_an_area_map_is_joined_to_dimensions_and_a_wrong_one_is_refused(): void
    {
        $model = $this->tank();
        $this->edit($model, [
            'kind' => 'dimensions',
            'dimensions' => [
                ['id' => 'bay', 'name' => 'bay', 'elements' => [['id' => 'n', 'name' => 'north'], ['id' => 's', 'name' => 'south']]],
            ],
        ])->assertOk();
        $square = ['type' => 'Polygon', 'coordinates' => [[[0, 0], [1, 0], [1, 1], [0, 0]]]];
        $feature = static fn (string $name): array => ['type' => 'Feature', 'properties' => ['lies' => $name], 'geometry' => $square];
        $text = json_encode(['type' => 'FeatureCollection', 'features' => [$feature('North'), $feature('sea')]], JSON_THROW_ON_ERROR);
        $send = fn (string $bytes): TestResponse => $this->call(
            'POST',
            "/api/models/$model->id/areas?name=coves.geojson",
            server: ['CONTENT_TYPE' => 'application/octet-stream', 'HTTP_ACCEPT' => 'application/json'],
            content: $bytes,
        );
        $content = $send($text)
            ->assertCreated()
            ->assertJsonPath('joins.0.property', 'lies')
            ->assertJsonPath('joins.0.missing', ['south'])
            ->assertJsonPath('joins.0.strange', ['sea'])
            ->json('content');
        $element = $model->refresh()->core()->dimensions()->elementOf('bay', 'south');
        $this->postJson("/api/models/$model->id/areas/$content", [
            'joins' => [['dimension' => 'bay', 'property' => 'lies', 'pairs' => ['sea' => $element, 'North' => '']]],
        ])
            ->assertOk()
            ->assertJsonPath('joins.0.elements', [null, $element]);
        $this->edit($model, [
            'kind' => 'put',
            'part' => 'areas',
            'id' => 'a1',
            'fields' => ['name' => 'coves.geojson', 'content' => $content],
        ])->assertOk();
        self::assertArrayNotHasKey($content, TableStore::spare(time() + 100), 'it is in use');
        $send('{"type": "FeatureCollection", "features": []}')
            ->assertUnprocessable()
            ->assertJsonPath('detail', 'This GeoJSON holds no areas: none of its features is a polygon.');
        $this->postJson("/api/models/$model->id/areas/".str_repeat('0', 64))->assertUnprocessable();
    }

    public function test_a_large_file_is_read_once_and_any_of_its_rows_are_shown(): void
    {
        $model = $this->tank();
        $lines = ['Week;level [t];words;other'];
        for ($i = 0; $i < 6_000; $i++) {
            $lines[] = implode(';', [$i, $i % 7 === 3 ? '' : $i / 8, "row $i", 1e-17 * $i]);
        }
        $content = $this->drop($model, implode("\n", $lines)."\n", 'large.csv')
            ->assertCreated()
            ->json('content');
        $ask = fn (array $said = []): string => (string) $this->postJson("/api/models/$model->id/tables/$content", [
            'name' => 'large.csv',
            ...$said,
        ])
            ->assertOk()
            ->getContent();
        $first = $ask();
        $kept = Results::disk()->allFiles(ReadTable::folder((string) $content));
        self::assertCount(18, $kept, 'the numbers, sixteen pieces of rows, and how many there are');
        Results::disk()->put(TableStore::path((string) $content), 'gone');
        self::assertSame($first, $ask(), 'read again from what is kept');
        $rows = fn (int $from, int $count): TestResponse => $this->postJson("/api/models/$model->id/tables/$content/rows", [
            'name' => 'large.csv',
            'asItCame' => true,
            'from' => $from,
            'count' => $count,
        ])->assertOk();
        $rows(399, 3)
            ->assertJsonPath('count', 6_001)
            ->assertJsonPath('rows.*.2', ['row 398', 'row 399', 'row 400']);
        $rows(5_999, 100)->assertJsonPath('rows.*.0', ['5998', '5999']);
        $made = $this->postJson("/api/models/$model->id/tables/$content/evidence", [
            'ties' => [['series' => 0, 'key' => 'level']],
            'steps' => [['do' => 'over time', 'to' => '100', 'take' => 'last']],
        ])
            ->assertOk()
            ->json('evidence.0.points');
        self::assertIsArray($made);
        self::assertSame([[0, 12.375], [100, 24.75]], array_slice($made, 0, 2));
        TableStore::forget((string) $content);
        self::assertSame([], Results::disk()->allFiles('read'));
    }

    public function test_a_file_that_takes_long_is_read_by_a_worker_and_what_is_wrong_with_it_is_said(): void
    {
        $model = $this->tank();
        Queue::fake();
        config(['merry-orbit.run.workers' => true]);
        $large =
            "week;level [t]\n".
            implode('', array_map(static fn (int $i): string => "$i;".str_repeat('1', 40)."\n", range(0, 70_000)));
        $content = (string) $this->drop($model, $large, 'large.csv')->assertStatus(202)->assertJsonPath('reading', true)->json('content');
        $ask = fn (): TestResponse => $this->postJson("/api/models/$model->id/tables/$content", ['name' => 'large.csv']);
        $ask()->assertStatus(202);
        $rows = fn (): TestResponse => $this->postJson("/api/models/$model->id/tables/$content/rows", [
            'asItCame' => true,
            'from' => 1,
            'count' => 1,
        ]);
        $rows()->assertStatus(202);
        Queue::assertPushed(ReadTableJob::class);
        (new ReadTableJob($content, 'large.csv', new Wishes(), false))->handle();
        $ask()->assertOk()->assertJsonPath('time.count', 70_001);
        $rows()->assertOk()->assertJsonPath('rows.0.0', '0');

        $words = (string) $this->drop($model, '['.str_repeat('1,', 1_600_000), 'words.json')
            ->assertStatus(202)
            ->json('content');
        (new ReadTableJob($words, 'words.json', new Wishes(), false))->handle();
        $said = $this->postJson("/api/models/$model->id/tables/$words", ['name' => 'words.json'])
            ->assertUnprocessable()
            ->json('detail');
        self::assertStringContainsString('no sound JSON', (string) $said);
    }

    public function test_a_source_whose_file_is_gone_says_so_with_workers_and_without(): void
    {
        $model = $this->tank();
        $content = (string) $this->drop($model, self::TABLE)->json('content');
        Results::disk()->delete(TableStore::path($content));
        foreach ([true, false] as $workers) {
            config(['merry-orbit.run.workers' => $workers]);
            foreach (['', '/rows'] as $what) {
                $this->postJson("/api/models/$model->id/tables/$content$what", ['name' => 'dives.csv', 'asItCame' => true])
                    ->assertUnprocessable()
                    ->assertJsonPath('detail', TableStore::GONE);
            }
        }
    }

    public function test_a_table_goes_out_as_a_workbook_with_its_notes_and_where_each_number_stands(): void
    {
        $model = $this->tank();
        $content = $this->drop($model, "year;x [t]\n0;1\n1;oh\n2;3\n")->json('content');
        $steps = [
            ['do' => 'gaps', 'take' => 'straight', 'note' => 'nobody was there'],
            ['do' => 'rename', 'series' => ['x'], 'to' => '=cmd()'],
        ];
        $ask = fn (string $format): TestResponse => $this->postJson("/api/models/$model->id/tables/$content/file", [
            'name' => 'x.csv',
            'format' => $format,
            'after' => 1,
            'steps' => $steps,
        ]);
        self::assertSame("year,'=cmd() [t]\r\n0,1\r\n1,2\r\n2,3\r\n", $ask('csv')->assertOk()->getContent());
        $sheets = $ask('sheets')
            ->assertOk()
            ->assertJsonPath('sheets.*.name', ['Data', 'Where from', 'Notes'])
            ->assertJsonPath('sheets.0.rows', [['year', '=cmd() [t]'], [0, 1], [1, 2], [2, 3]])
            ->assertJsonPath('sheets.1.rows.1', [0, 'B2'])
            ->json('sheets.2.rows');
        $notes = json_encode($sheets, JSON_THROW_ON_ERROR | JSON_UNESCAPED_UNICODE | JSON_UNESCAPED_SLASHES);
        foreach (['x.csv', $content, 'gaps: 1 gap filled', 'nobody was there', '`oh` is no number'] as $words) {
            self::assertStringContainsString($words, $notes);
        }
        $ask('pdf')->assertUnprocessable();
    }

    /** @param  array<string, string>  $entries */
    private static function zip(array $entries): string
    {
        $path = (string) tempnam(sys_get_temp_dir(), 'zip');
        $zip = new \ZipArchive();
        $zip->open($path, \ZipArchive::OVERWRITE);
        foreach ($entries as $name => $text) {
            $zip->addFromString($name, $text);
        }
        $zip->close();
        $bytes = (string) file_get_contents($path);
        unlink($path);

        return $bytes;
    }

    /** @return TestResponse<\Illuminate\Http\Response> */
    private function import(string $bytes): TestResponse
    {
        return $this->call(
            'POST',
            '/api/studies/import',
            server: ['CONTENT_TYPE' => 'application/zip', 'HTTP_ACCEPT' => 'application/json'],
            content: $bytes,
        );
    }

    public function test_a_study_goes_out_with_the_files_of_its_data_and_comes_back_whole(): void
    {
        $model = $this->tank();
        $content = $this->drop($model, self::TABLE, '../dive: counts.csv')->json('content');
        $put = fn (string $id, array $fields): TestResponse => $this->edit($model, [
            'kind' => 'put',
            'part' => 'sources',
            'id' => $id,
            'fields' => $fields,
        ]);
        $put('s1', ['name' => '../dive: counts.csv', 'content' => $content, 'steps' => [['do' => 'gaps', 'take' => 'last']]])->assertOk();
        $study = $model->study_id;
        $bytes = (string) $this->get("/api/studies/$study/file?format=archive")
            ->assertOk()
            ->getContent();
        $this->getJson("/api/studies/$study/losses?format=archive")
            ->assertOk()
            ->assertJsonPath('log', []);
        $path = (string) tempnam(sys_get_temp_dir(), 'zip');
        file_put_contents($path, $bytes);
        $zip = new \ZipArchive();
        $zip->open($path);
        self::assertSame(2, $zip->numFiles);
        self::assertSame(self::TABLE, $zip->getFromName('data/.._dive_ counts.csv') ?: $zip->getFromIndex(1));
        self::assertStringNotContainsString('..\/', (string) $zip->getNameIndex(1));
        $zip->close();
        unlink($path);

        // On a machine that has nothing of it.
        Results::disk()->deleteDirectory('data');
        DataFile::query()->delete();
        $back = $this->import($bytes)->assertCreated()->json('data.model');
        self::assertIsString($back);
        $this->postJson("/api/models/$back/tables/$content", ['name' => 'dive counts.csv'])
            ->assertOk()
            ->assertJsonPath('series.0.label', 'Levels');
        self::assertSame($content, DataFile::query()->value('content'));
    }

    public function test_a_zip_that_is_no_study_or_too_much_is_refused_with_a_sentence(): void
    {
        foreach (
            [
                [self::zip(['readme.txt' => 'x']), 'there is no `study.json` in it'],
                [self::zip(['study.json' => '{', 'data/a.csv' => 'x']), 'JSON'],
                [substr(self::zip(['study.json' => str_repeat('x', 9_000)]), 0, 60), 'cannot be opened'],
                [self::zip(['data/bomb.csv' => str_repeat('0', 64_000_001)]), '64 MB each'],
            ] as [$bytes, $words]
        ) {
            $took = Pace::seconds(function () use ($bytes, $words): void {
                self::assertStringContainsString($words, (string) json_encode($this->import($bytes)->assertUnprocessable()->json()));
            });
            self::assertLessThan(2.0, $took);
        }
        self::assertSame([], Results::disk()->allFiles('data'), 'nothing is half kept');
    }
}
