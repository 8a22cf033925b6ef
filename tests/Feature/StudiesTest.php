<?php

declare(strict_types=1);

namespace Tests\Feature;

use App\Models\Study;
use App\Models\User;
use App\Studies\StudyMaker;
use Illuminate\Support\Facades\Artisan;
use MerryOrbit\Core\Exchange\NativeFile;

final class StudiesTest extends TestCase
{
    public function test_the_demo_studies_are_listed_with_a_live_plot(): void
    {
        StudyMaker::demo(User::demoAnalyst());
        StudyMaker::demo(User::demoAnalyst());
        $studies = $this->getJson('/api/studies')->assertOk()->json('data');
        $names = [
            'Ferry season',
            'Fresh water',
            'Kelp and urchins',
            'Oyster terraces',
            'The bath house',
            'Why the harbour silts up',
            'Two bakers',
            'The harbour books',
            'New boats for old',
            'Where the boats fish',
            'The mending of the pier',
            'Oysters on order',
        ];
        self::assertEqualsCanonicalizing($names, array_column($studies, 'name'));
        foreach ($studies as $study) {
            $thumbnail = $this->getJson("/api/studies/{$study['id']}/thumbnail")->assertOk();
            self::assertCount(120, $thumbnail->json('lines.0.values'));
            self::assertGreaterThan(0.2, max($thumbnail->json('lines.0.values')) - min($thumbnail->json('lines.0.values')));
        }
    }

    public function test_a_study_is_made_copied_deleted_and_brought_back(): void
    {
        $made = $this->postJson('/api/studies', [])->assertCreated()->assertJsonPath('data.name', 'New study')->json('data');
        $this->postJson('/api/studies', ['name' => 'new study'])
            ->assertCreated()
            ->assertJsonPath('data.name', 'new study 2');
        $this->getJson("/api/studies/{$made['id']}/thumbnail")
            ->assertOk()
            ->assertJsonPath('words', 'Empty sheet');

        $water = $this->study();
        $copy = $this->postJson("/api/studies/$water->id/duplicate")
            ->assertCreated()
            ->assertJsonPath('data.name', 'Fresh water 2')
            ->json('data');
        $this->edit(Study::query()->where('id', $copy['id'])->firstOrFail()->load('model')->model, [
            'kind' => 'delete',
            'ids' => ['wells'],
        ])->assertOk();
        self::assertArrayHasKey('wells', $water->model->refresh()->core()->elements);

        $this->deleteJson("/api/studies/$water->id")->assertNoContent();
        $this->getJson("/api/studies/$water->id")
            ->assertNotFound()
            ->assertJsonPath('code', 'not-found');
        self::assertNotContains($water->id, array_column($this->getJson('/api/studies')->json('data'), 'id'));
        $this->postJson("/api/studies/$water->id/restore")
            ->assertOk()
            ->assertJsonPath('data.name', 'Fresh water');
        $this->getJson("/api/studies/$water->id")->assertOk();
    }

    public function test_a_deleted_demo_study_stays_deleted_until_a_fresh_start(): void
    {
        Artisan::call('orbit:demo');
        Study::query()->where('demo', 'fresh-water')->delete();
        Artisan::call('orbit:demo');
        self::assertSame(11, Study::query()->count());
        Artisan::call('orbit:demo', ['--count-other' => true]);
        self::assertSame('0', trim(Artisan::output()));
        $this->postJson('/api/studies', [])->assertCreated();
        Artisan::call('orbit:demo', ['--count-other' => true]);
        self::assertSame('1', trim(Artisan::output()));
        Artisan::call('orbit:demo', ['--fresh' => true]);
        $demos = [
            'fresh-water',
            'kelp-and-urchins',
            'ferry-season',
            'oyster-terraces',
            'bath-house',
            'why-the-harbour-silts-up',
            'two-bakers',
            'harbour-books',
            'new-boats-for-old',
            'where-the-boats-fish',
            'the-mending-of-the-pier',
            'oysters-on-order',
        ];
        self::assertEqualsCanonicalizing($demos, Study::query()->pluck('demo')->all());
    }

    public function test_a_file_goes_out_and_comes_in_again(): void
    {
        $study = $this->study();
        $file = $this->get("/api/studies/$study->id/file")
            ->assertOk()
            ->assertHeader('Content-Disposition', 'attachment; filename="fresh-water.json"')
            ->getContent();
        $answer = $this->call('POST', '/api/studies/import', [], [], [], ['HTTP_ACCEPT' => 'application/json'], (string) $file)
            ->assertCreated()
            ->assertJsonPath('data.name', 'Fresh water 2')
            ->assertJsonPath('log', []);
        $again = (string) $this->get("/api/studies/{$answer->json('data.id')}/file")->getContent();
        self::assertSame($file, str_replace('"Fresh water 2"', '"Fresh water"', $again));
    }

    public function test_an_imported_model_without_places_is_laid_out(): void
    {
        $text =
            '{"format": "merry-orbit model", "version": 1, "elements": [{"kind": "stock", "name": "a", "formula": "1"}, {"kind": "stock", "name": "b", "formula": "1"}, {"kind": "flow", "name": "f", "formula": "a", "from": "a", "to": "b"}, {"kind": "flow", "name": "g", "formula": "b", "from": "b"}, {"kind": "parameter", "name": "p", "formula": "1"}]}';
        $id = $this->call('POST', '/api/studies/import', [], [], [], ['HTTP_ACCEPT' => 'application/json'], $text)
            ->assertCreated()
            ->json('data.model');
        $places = $this->getJson("/api/models/$id")->json('model.placements');
        self::assertCount(5, array_unique(array_map(static fn (array $p): string => json_encode($p['at'], JSON_THROW_ON_ERROR), $places)));
        $last = array_key_last(array_filter($places, static fn (array $p): bool => isset($p['target'])));
        self::assertArrayHasKey('target', $places[$last]);
    }

    public function test_files_that_are_no_models_are_refused_with_a_sentence(): void
    {
        foreach (
            [
                '' => 'This file is empty',
                'hello' => 'not readable JSON',
                '{"a": 1}' => 'lacks the line',
                str_repeat('[', 200_000) => 'not readable JSON',
                str_repeat('x', 20_000_001) => 'larger than 20 MB',
            ] as $text => $words
        ) {
            $answer = $this->call(
                'POST',
                '/api/studies/import',
                [],
                [],
                [],
                ['HTTP_ACCEPT' => 'application/json'],
                (string) $text,
            )->assertUnprocessable();
            self::assertStringContainsString($words, $answer->json('detail'));
        }
        self::assertSame(0, Study::query()->count());
    }

    public function test_nobody_keeps_more_studies_than_the_quota(): void
    {
        config(['merry-orbit.quota.studies' => 1]);
        $this->postJson('/api/studies', [])->assertCreated();
        self::assertStringContainsString('Delete one first', $this->postJson('/api/studies', [])->assertUnprocessable()->json('detail'));
        self::assertStringContainsString(
            '120 characters',
            $this->postJson('/api/studies', ['name' => str_repeat('x', 121)])
                ->assertUnprocessable()
                ->json('detail'),
        );
    }

    public function test_a_stored_model_survives_storage_without_loss(): void
    {
        $file = (string) file_get_contents(base_path('demo/fresh-water.json'));
        $study = StudyMaker::make(User::demoAnalyst(), NativeFile::import($file)->model)->load('model');
        self::assertSame($file, NativeFile::export($study->model->refresh()->core()));
    }

    public function test_an_xmile_file_becomes_a_study_with_a_log_that_leads_to_its_elements(): void
    {
        $file =
            '<xmile version="1.0" xmlns="http://docs.oasis-open.org/xmile/ns/XMILE/v1.0"><header><name>Bay</name></header><model><variables><stock name="Oysters"><eqn>5</eqn><outflow>harvest</outflow></stock><flow name="harvest"><eqn>NORMAL(1, 0.1)</eqn></flow></variables></model></xmile>';
        $answer = $this->call('POST', '/api/studies/import', [], [], [], ['HTTP_ACCEPT' => 'application/json'], $file)
            ->assertCreated()
            ->assertJsonPath('data.name', 'Bay')
            ->assertJsonPath('log.0.where', 'harvest');
        $model = $this->getJson('/api/models/'.$answer->json('data.model'))->json('model');
        self::assertSame('harvest', $model['elements'][$answer->json('log.0.element')]['name']);
        self::assertCount(2, $model['placements']);
        $id = $answer->json('data.id');
        $export = $this->get("/api/studies/$id/file?format=xmile")
            ->assertOk()
            ->assertHeader('Content-Disposition', 'attachment; filename="bay.xmile"');
        self::assertStringContainsString('NORMAL(1, 0.1)', (string) $export->getContent());
        $this->getJson("/api/studies/$id/losses?format=xmile")
            ->assertOk()
            ->assertJsonPath('log.0.where', 'harvest');
        $this->getJson("/api/studies/$id/losses")
            ->assertOk()
            ->assertJsonPath('log', []);
        $this->getJson("/api/studies/$id/file?format=paper")->assertUnprocessable();
        $bomb = '<?xml version="1.0"?><!DOCTYPE x [<!ENTITY a "b">]><xmile>&a;</xmile>';
        $refused = $this->call(
            'POST',
            '/api/studies/import',
            [],
            [],
            [],
            ['HTTP_ACCEPT' => 'application/json'],
            $bomb,
        )->assertUnprocessable();
        self::assertStringContainsString('entities', $refused->json('detail'));
    }

    public function test_the_harbour_books_come_with_another_world_that_runs(): void
    {
        Artisan::call('orbit:demo');
        $model = Study::query()->where('demo', 'harbour-books')->firstOrFail()->model;
        $milestone = $model->milestones()->firstOrFail();
        self::assertSame('Lending by the islanders', $milestone->name);
        $holder = fn (int $revision): string => (string) $this->getJson("/api/models/$model->id/versions/$revision")->json(
            'model.claims.loans.holder',
        );
        self::assertSame(
            ['credit-union', 'islanders', 'credit-union'],
            [$holder(0), $holder($milestone->revision), $holder($model->revision)],
        );
        foreach ([(object) [], ['revision' => $milestone->revision]] as $run) {
            $made = $this->postJson("/api/models/$model->id/runs", ['run' => $run, 'only' => ['spent']])->assertOk();
            self::assertTrue(str_contains((string) $made->getContent(), '"fault":null'));
        }
        // Both balance, at every moment, to what nobody owes.
        self::assertSame([], $this->getJson("/api/models/$model->id/books")->json('findings'));
    }
}
