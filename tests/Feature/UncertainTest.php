<?php

declare(strict_types=1);

namespace Tests\Feature;

use App\Models\Ensemble;
use App\Models\EnsemblePart;
use App\Models\User;
use App\Runs\Claim;
use App\Runs\Results;
use App\Studies\StudyMaker;
use App\Uncertain\MakeParts;
use Illuminate\Support\Facades\Artisan;
use Illuminate\Support\Facades\Bus;
use MerryOrbit\Core\Law\Special;
use MerryOrbit\Core\Model\Method;
use MerryOrbit\Core\Model\TimeSettings;
use Tests\Core\Build;

/** Many runs under uncertainty, and nudges, through the API. */
final class UncertainTest extends TestCase
{
    use MakesManyRuns;

    public function test_a_thousand_runs_have_the_law_that_is_known(): void
    {
        $model = $this->tank();
        $state = $this->run0($model, ['runs' => 1_000]);
        self::assertSame([1_000, 1_000, 0, true], [$state['runs'], $state['done'], $state['failed'], $state['finished']]);
        self::assertSame([['key' => 'rate', 'law' => 'normal(1, 0.2)', 'median' => 1]], $state['inputs']);
        // Nobody said what is looked at: the stocks at the end.
        self::assertSame(['tank'], array_column((array) $state['outcomes'], 'key'));
        $bands = $this->told($model, $state['id'], '/bands?of=tank');
        self::assertSame([0, 0.5, 1, 1.5, 2, 2.5, 3, 3.5, 4], $bands['times']);
        foreach (['5' => 0.05, '25' => 0.25, '95' => 0.95] as $p => $share) {
            self::assertEqualsWithDelta(6 + 0.8 * Special::normalQuantile($share), $bands['percentiles'][$p][8], 0.01);
            self::assertEqualsWithDelta(8 + 0.4 * Special::normalQuantile($share), $bands['percentiles'][$p][4], 0.01);
        }
        self::assertEqualsWithDelta(6.0, $bands['central'][8], 1e-6);
        self::assertCount(6, $bands['singles']);
        $moment = $this->told($model, $state['id'], '/moment?of=tank&time=2.1&above=8.4');
        self::assertSame(2, $moment['time']);
        self::assertEqualsWithDelta(0.4, $moment['sd'], 0.005);
        // One standard deviation above the mean.
        self::assertEqualsWithDelta(0.1587, $moment['above']['share'], 0.003);
        self::assertLessThan(0.1587, $moment['above']['low']);
        self::assertGreaterThan(0.1587, $moment['above']['high']);
        self::assertSame(1_000, array_sum(array_column((array) $moment['histogram'], 2)));
        $area = 0.0;
        foreach (array_slice((array) $moment['density'], 1) as $i => [$x, $y]) {
            $area += (($x - $moment['density'][$i][0]) * ($y + $moment['density'][$i][1])) / 2;
        }
        self::assertEqualsWithDelta(1.0, $area, 0.01);
        [$row] = (array) $this->told($model, $state['id'], '/summary')['outcomes'];
        self::assertEqualsWithDelta(0.8, $row['sd'], 0.005);
        $draws = $this->told($model, $state['id'], '/draws?sort=tank&count=3');
        self::assertSame(['rate', 'tank'], $draws['names']);
        foreach ((array) $draws['rows'] as $drawn) {
            self::assertEqualsWithDelta(10 - 4 * $drawn['numbers'][0], $drawn['numbers'][1], 1e-12, 'an outcome beside its own inputs');
        }
        self::assertGreaterThan(1.5, $draws['rows'][0]['numbers'][0], 'the least is left by the largest rate');
        $matters = $this->told($model, $state['id'], '/matters?outcome=tank&input=rate');
        self::assertEqualsWithDelta(1.0, $matters['explains'], 1e-9);
        self::assertEqualsWithDelta(-1.0, $matters['inputs'][0]['coefficient'], 1e-9);
        self::assertCount(1_000, (array) $matters['points']);
    }

    public function test_it_is_gone_on_with_and_repeated_to_the_bit(): void
    {
        $model = $this->tank();
        $this->say($model, 'uncertain', 'u2', ['of' => 'other', 'law' => 'uniform(1, 3)']);
        $this->say($model, 'rankPairs', 'k1', ['one' => 'rate', 'other' => 'other', 'rank' => 0.6]);
        $state = $this->run0($model, ['runs' => 1_000, 'sample' => 'latin', 'seed' => 7]);
        self::assertEqualsWithDelta(0.6, $state['together'][0]['reached'], 0.02);
        $first = $this->told($model, $state['id'], '/draws?count=500');
        $more = $this->postJson("/api/models/$model->id/ensembles/{$state['id']}/more", ['runs' => 300])->assertOk();
        self::assertSame([[1_000, 300], 1_300], [$more->json('blocks'), $more->json('done')]);
        self::assertSame($first['rows'], $this->told($model, $state['id'], '/draws?count=500')['rows'], 'what was drawn stays');
        // Asked again, all is there already.
        $files = Results::disk()->allFiles('ensembles');
        $times = EnsemblePart::query()->pluck('seconds')->all();
        $again = $this->run0($model, ['runs' => 1_000, 'sample' => 'latin', 'seed' => 7]);
        self::assertSame([true, $times], [$again['finished'], EnsemblePart::query()->pluck('seconds')->all()]);
        // Made anew it has the same bytes.
        $bytes = array_map(static fn (string $f): string => md5((string) Results::disk()->get($f)), $files);
        EnsemblePart::query()->delete();
        Results::disk()->deleteDirectory('ensembles');
        $this->run0($model, ['runs' => 1_000, 'sample' => 'latin', 'seed' => 7]);
        foreach (Results::disk()->allFiles('ensembles') as $file) {
            self::assertContains(md5((string) Results::disk()->get($file)), $bytes, $file);
        }
    }

    public function test_lanes_that_are_killed_lose_their_part_alone_and_come_to_the_same(): void
    {
        $model = $this->tank();
        $this->run0($model, ['runs' => 600]);
        $bytes = [];
        foreach (Results::disk()->allFiles('ensembles') as $file) {
            $bytes[$file] = md5((string) Results::disk()->get($file));
        }
        EnsemblePart::query()->delete();
        Ensemble::query()->delete();
        Results::disk()->deleteDirectory('ensembles');
        Bus::fake();
        $state = $this->run0($model, ['runs' => 600]);
        self::assertSame([100, false], [$state['done'], $state['finished']], 'a first part at once');
        self::assertIsString($state['id']);
        // Three workers take a part each and are killed in the middle of it, one after having written half a file.
        $ensemble = Ensemble::query()->findOrFail($state['id']);
        foreach ([0, 1, 2] as $lane) {
            EnsemblePart::query()
                ->where('made', false)
                ->where('claimed_by', '')
                ->orderBy('id')
                ->limit(1)
                ->update(['claimed_by' => "$ensemble->id/$lane", 'claimed_at' => time()]);
        }
        foreach ([2, 0, 1] as $lane) {
            (new MakeParts($ensemble->id, $lane))->handle();
        }
        self::assertTrue($this->told($model, $state['id'], '')['finished']);
        $after = [];
        foreach (Results::disk()->allFiles('ensembles') as $file) {
            $after[$file] = md5((string) Results::disk()->get($file));
        }
        self::assertSame($bytes, $after);
        // A part of a lane that never comes back is anyone's after a while, and nobody's before.
        $last = EnsemblePart::query()->where('name', '<>', 'central')->latest('id')->firstOrFail();
        $last->update(['made' => false, 'claimed_by' => 'gone', 'claimed_at' => time()]);
        (new MakeParts($ensemble->id, 0))->handle();
        self::assertFalse($last->refresh()->made);
        $last->update(['claimed_at' => time() - Claim::STALE - 1]);
        (new MakeParts($ensemble->id, 0))->handle();
        self::assertTrue($last->refresh()->made);
    }

    public function test_results_that_no_ensemble_refers_to_are_tidied_away_and_no_others(): void
    {
        $model = $this->tank();
        $state = $this->run0($model, ['runs' => 200]);
        $this->run0($model, ['runs' => 200, 'seed' => 2]);
        self::assertCount(6, Results::disk()->allFiles('ensembles'));
        Artisan::call('orbit:tidy --minutes=-1');
        self::assertCount(6, Results::disk()->allFiles('ensembles'));
        Ensemble::query()->whereKey($state['id'])->delete();
        Artisan::call('orbit:tidy --minutes=-1');
        self::assertCount(3, Results::disk()->allFiles('ensembles'));
        self::assertSame(3, EnsemblePart::query()->count());
        // What is gone is made again when it is asked for.
        self::assertTrue($this->run0($model, ['runs' => 200])['finished']);
    }

    public function test_outcomes_and_scenarios_under_the_same_draws(): void
    {
        $model = $this->tank();
        $this->say($model, 'outcomes', 'o1', ['of' => 'tank', 'kind' => 'min', 'place' => 2]);
        $this->say($model, 'outcomes', 'o2', ['of' => 'both', 'kind' => 'mean', 'place' => 1]);
        $this->edit($model, [
            'kind' => 'scenario',
            'id' => 'more',
            'name' => 'More',
            'on' => [],
            'setting' => ['parameters' => ['other' => 3]],
        ])->assertOk();
        $this->edit($model, [
            'kind' => 'scenario',
            'id' => 'sure',
            'name' => 'Sure',
            'on' => [],
            'setting' => ['parameters' => ['rate' => 3]],
        ])->assertOk();
        /** @var list<array<string, mixed>> $two */
        $two = $this->postJson("/api/models/$model->id/ensembles", ['runs' => 200, 'scenarios' => ['', 'more']])
            ->assertCreated()
            ->json('ensembles');
        self::assertSame(['o2', 'o1'], array_column((array) $two[0]['outcomes'], 'id'));
        self::assertSame(['', 'More'], array_column($two, 'name'));
        $against = $this->told($model, $two[1]['id'], "/against/{$two[0]['id']}?outcome=o2");
        // One unit of `other` more is one `rate` more, which is almost surely above 0.
        self::assertSame([200, 1], [$against['runs'], $against['more']]);
        self::assertEqualsWithDelta(1.0, $against['mean'], 0.005);
        self::assertSame(1, $this->told($model, $two[1]['id'], "/against/{$two[0]['id']}?outcome=o1")['same']);
        // A scenario that decides all that is uncertain leaves nothing to draw.
        $this->postJson("/api/models/$model->id/ensembles", ['scenarios' => ['sure']])
            ->assertStatus(422)
            ->assertJsonPath('detail', 'All that is uncertain is decided by this setting or scenario, so every run would be the same.');
        self::assertCount(
            2,
            (array) $this->getJson("/api/models/$model->id/ensembles")
                ->assertOk()
                ->json('ensembles'),
        );
    }

    public function test_it_is_stopped_and_what_is_made_stays(): void
    {
        $model = $this->tank();
        Bus::fake();
        $state = $this->run0($model, ['runs' => 900]);
        $this->deleteJson("/api/models/$model->id/ensembles/{$state['id']}")
            ->assertOk()
            ->assertJsonPath('done', 100);
        self::assertSame(100, $this->told($model, $state['id'], '/bands?of=tank')['runs']);
    }

    public function test_what_cannot_be_asked_is_said(): void
    {
        $model = $this->tank();
        $refusal = fn (array $asked): string => (string) $this->postJson("/api/models/$model->id/ensembles", $asked)
            ->assertStatus(422)
            ->json('detail');
        self::assertStringContainsString('1 to 1,000,000 runs', $refusal(['runs' => 2_000_000]));
        self::assertStringContainsString('latin hypercube', $refusal(['sample' => 'dice']));
        self::assertStringContainsString('no such scenario', $refusal(['scenarios' => ['none']]));
        $this->edit($model, ['kind' => 'put', 'part' => 'uncertain', 'id' => 'u1', 'fields' => ['off' => true]])->assertOk();
        self::assertStringContainsString('Nothing is uncertain yet', $refusal([]));
        $refused = $this->edit($model, [
            'kind' => 'put',
            'part' => 'uncertain',
            'id' => 'u9',
            'fields' => ['of' => 'rate', 'law' => 'norml(1, 2)'],
        ]);
        self::assertStringContainsString('no distribution `norml`', (string) $refused->json('detail'));
        $this->edit($model, ['kind' => 'put', 'part' => 'uncertain', 'id' => 'u1', 'fields' => ['off' => null]])->assertOk();
        $state = $this->run0($model, ['runs' => 20]);
        $this->getJson("/api/models/$model->id/ensembles/{$state['id']}/bands?of=nothing")->assertStatus(422);
        $this->getJson("/api/models/$model->id/ensembles/{$state['id']}/matters?outcome=nothing")->assertStatus(422);
    }

    public function test_a_distribution_is_shown_suggested_and_made_another(): void
    {
        $model = $this->tank();
        $ask = fn (array $asked): array => (array) $this->postJson("/api/models/$model->id/distribution", $asked)
            ->assertOk()
            ->json();
        self::assertSame('normal(2, 0.2)', $ask(['parameter' => 'other'])['law']);
        $shown = $ask(['law' => 'normal(3.5, 1.3) within 0..']);
        self::assertSame(['normal', [3.5, 1.3], 0, null], [$shown['family'], $shown['numbers'], $shown['low'], $shown['high']]);
        foreach (
            ['normal', 'lognormal', 'uniform', 'triangular', 'beta', 'gamma', 'weibull', 'exponential', 'empirical', 'discrete'] as $family
        ) {
            $other = $ask(['law' => 'normal(10, 2)', 'as' => $family]);
            self::assertSame($family, $other['family']);
            self::assertEqualsWithDelta(10.0, $other['percentiles']['50'], 3.5, $family);
            self::assertNotSame([], $other['density']);
        }
        $this->postJson("/api/models/$model->id/distribution", ['law' => 'normal(-4, 1)', 'as' => 'gamma'])->assertStatus(422);
    }

    public function test_nudges_tell_both_ends_courses_and_what_is_muted(): void
    {
        $model = $this->tank();
        $this->say($model, 'outcomes', 'o1', ['of' => 'tank']);
        $ask = fn (array $asked): array => (array) $this->postJson("/api/models/$model->id/nudge", $asked)
            ->assertOk()
            ->json();
        $told = $ask(['by' => 0.1, 'kinds' => ['parameter', 'initial']]);
        self::assertSame(['tank', 'rate', 'other'], array_column((array) $told['effects'], 'id'));
        [$tank, $rate, $other] = (array) $told['effects'];
        self::assertEqualsWithDelta([5.0, 7.0], [$tank['results'][0]['low'], $tank['results'][0]['high']], 1e-9);
        self::assertEqualsWithDelta([6.4, 5.6], [$rate['results'][0]['low'], $rate['results'][0]['high']], 1e-9);
        self::assertEqualsWithDelta(0.0, $other['results'][0]['size'], 1e-12);
        self::assertEqualsWithDelta([10.0, 8.2], [$rate['lower'][0], $rate['lower'][4]], 1e-9);
        $this->say($model, 'muted', 'm1', ['of' => 'rate']);
        $told = $ask(['by' => 0.1, 'of' => 'both']);
        self::assertSame(
            [['other'], ['rate']],
            [array_column((array) $told['effects'], 'id'), array_column((array) $told['muted'], 'id')],
        );
        self::assertEqualsWithDelta(2.2, $told['effects'][0]['higher'][3], 1e-9);
        $this->postJson("/api/models/$model->id/nudge", ['of' => 'gone'])->assertStatus(422);
        $this->postJson("/api/models/$model->id/nudge", ['by' => -1])->assertStatus(422);
    }

    public function test_expectations_are_checked_tried_and_proposed(): void
    {
        $model = $this->tank();
        $this->say($model, 'expectations', 'x1', ['of' => 'tank', 'shape' => 'never-below', 'value' => 6]);
        $this->say($model, 'expectations', 'x2', ['of' => 'tank', 'shape' => 'never-below', 'value' => 7, 'place' => 1]);
        $this->say($model, 'expectations', 'x3', ['of' => 'tank', 'shape' => 'never-below', 'value' => 8, 'off' => true]);
        $told = $this->getJson("/api/models/$model->id/expectations")->assertOk();
        self::assertSame(['x1', 'x2'], $told->json('expectations.*.id'));
        self::assertSame([true, false], $told->json('expectations.*.holds'));
        self::assertSame('Tank must never be below 7.', $told->json('expectations.1.expected'));
        self::assertTrue($told->json('expectations.1.unconditional'));
        self::assertEqualsWithDelta(3.5, $told->json('expectations.1.at'), 1e-9);
        $tried = $this->postJson("/api/models/$model->id/expectations", [
            'expectations' => [
                ['of' => 'tank', 'shape' => 'never-more', 'factors' => ['rate' => 2]],
                ['of' => 'nothing here', 'shape' => 'rises'],
            ],
        ])->assertOk();
        self::assertSame([true, null], $tried->json('expectations.*.holds'));
        self::assertSame('When rate is doubled, tank must never be more than without that.', $tried->json('expectations.0.expected'));
        self::assertFalse($tried->json('expectations.0.unconditional'));
        $proposed = $this->getJson("/api/models/$model->id/expectations/proposed")->assertOk();
        self::assertContains(
            'When rate is 0, the run must come to its end, and no stock fall below 0.',
            $proposed->json('proposed.*.sentence'),
        );
        $this->postJson("/api/models/$model->id/expectations", ['expectations' => [['shape' => 'jumps']]])->assertStatus(422);
    }

    public function test_candidates_that_are_ticked_open_dimensions_and_all_others_cost_nothing(): void
    {
        $model = $this->tank();
        $ask = fn (array $asked = []): array => (array) $this->postJson("/api/models/$model->id/candidates", $asked)
            ->assertOk()
            ->json();
        $this->say($model, 'outcomes', 'o1', ['of' => 'both', 'kind' => 'last']);
        $this->say($model, 'candidates', 'c1', ['of' => 'rate', 'values' => [1, 2, 3]]);
        $this->say($model, 'candidates', 'c2', ['of' => 'other', 'values' => [10, 20], 'place' => 1]);
        // Nothing ticked: the model as it is.
        self::assertSame([[], [[2]]], [$ask()['dimensions'], $ask()['results']]);
        // One of each: one number again.
        $this->say($model, 'candidates', 'c1', ['ticked' => [3]]);
        self::assertSame([[], [[6]]], [$ask()['dimensions'], $ask()['results']]);
        $this->say($model, 'candidates', 'c1', ['ticked' => [3, 1]]);
        $this->say($model, 'candidates', 'c2', ['ticked' => [10, 20]]);
        $told = $ask(['of' => 'tank']);
        self::assertSame([['of' => 'rate', 'values' => [1, 3]], ['of' => 'other', 'values' => [10, 20]]], $told['dimensions']);
        self::assertSame([[10], [20], [30], [60]], $told['results'], 'each is rate times other, the last dimension first');
        self::assertEqualsWithDelta(10 - 4 * 3, $told['courses'][2][8], 1e-9);
        $this->say($model, 'candidates', 'c1', ['values' => range(1, 60), 'ticked' => range(1, 60)]);
        $this->say($model, 'candidates', 'c2', ['values' => range(1, 40), 'ticked' => range(1, 40)]);
        $this->postJson("/api/models/$model->id/candidates", [])
            ->assertStatus(422)
            ->assertJsonPath('detail', 'These are 2,400 runs, more than 1,000. Untick some.');
        self::assertCount(2_400, $ask(['many' => true])['results']);
        $refused = $this->edit($model, [
            'kind' => 'put',
            'part' => 'candidates',
            'id' => 'c3',
            'fields' => ['of' => 'rate', 'values' => [1]],
        ]);
        self::assertStringContainsString('has candidates already', (string) $refused->json('detail'));
    }

    public function test_twenty_candidates_of_which_two_are_ticked_are_as_many_runs_as_two(): void
    {
        $model = Build::model(
            array_combine(array_map(static fn (int $i): string => "p$i", range(1, 20)), array_fill(0, 20, '1')),
            [],
            [],
            ['sum' => implode(' + ', array_map(static fn (int $i): string => "p$i", range(1, 20)))],
            new TimeSettings(0, 1, 1, 'year', Method::Euler),
        );
        $document = StudyMaker::make(User::demoAnalyst(), $model)->load('model')->model;
        $this->say($document, 'outcomes', 'o1', ['of' => 'sum']);
        foreach (range(1, 20) as $i) {
            $this->say($document, 'candidates', "c$i", ['of' => "p$i", 'values' => [1, 2, 3], ...$i < 3 ? ['ticked' => [2, 3]] : []]);
        }
        $told = (array) $this->postJson("/api/models/$document->id/candidates", [])
            ->assertOk()
            ->json();
        self::assertSame([[22], [23], [23], [24]], $told['results']);
    }
}
