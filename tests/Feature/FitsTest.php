<?php

declare(strict_types=1);

namespace Tests\Feature;

use App\Fit\Walker;
use App\Models\Fit;
use App\Models\FitWalk;
use App\Models\ModelDocument;
use App\Models\User;
use App\Runs\Claim;
use App\Runs\Engine;
use App\Runs\Results;
use App\Studies\StudyMaker;
use MerryOrbit\Core\Model\Method;
use MerryOrbit\Core\Model\TimeSettings;
use Tests\Core\Build;

/** Calibrations through the API: what is foreseen, how it goes on, is stopped and resumed, and what it comes to. */
final class FitsTest extends TestCase
{
    /** A tank that fills at a rate: at time t it holds start + rate · t. Measured of 3 + 2 t, some off by known amounts. */
    private const OFF = [0.1, -0.2, 0.15, 0.05, -0.1, 0.0, 0.2, -0.15, -0.05, 0.0];

    private function studied(): ModelDocument
    {
        $model = Build::model(
            ['rate' => '1', 'idle' => '4'],
            ['tank' => '5'],
            ['inflow' => ['rate', 'to' => 'tank']],
            time: new TimeSettings(0, 12, 0.5, 'day', Method::Euler),
        );
        $document = StudyMaker::make(User::demoAnalyst(), $model)->load('model')->model;
        $points = array_map(static fn (int $i): array => [$i, 3 + 2 * $i + self::OFF[$i]], array_keys(self::OFF));
        $this->say($document, 'evidence', 'e1', ['of' => 'tank', 'points' => $points]);
        $this->say($document, 'calibrations', 'c1', [
            'name' => 'Tank',
            'free' => [['of' => 'rate', 'low' => 0.1, 'high' => 9], ['of' => 'tank', 'low' => 0, 'high' => 20]],
            'starts' => 3,
        ]);

        return $document;
    }

    /** @param  array<string, mixed>  $fields */
    private function say(ModelDocument $model, string $part, string $id, array $fields): void
    {
        $this->edit($model, ['kind' => 'put', 'part' => $part, 'id' => $id, 'fields' => $fields])->assertOk();
    }

    /** @return array<string, mixed> */
    private function begun(ModelDocument $model, string $plan = 'c1'): array
    {
        /** @var array<string, mixed> */
        return $this->postJson("/api/models/$model->id/fits", ['plan' => $plan])
            ->assertCreated()
            ->json();
    }

    /** @return array<string, mixed> */
    private function told(ModelDocument $model, string $fit, string $what = ''): array
    {
        /** @var array<string, mixed> */
        return $this->getJson("/api/models/$model->id/fits/$fit$what")
            ->assertOk()
            ->json();
    }

    private function row(mixed $id): Fit
    {
        return Fit::query()->where('id', $id)->firstOrFail();
    }

    /** @phpstan-impure */
    private function meaning(ModelDocument $model): mixed
    {
        return $this->told($model, 'foreseen', '?plan=c1')['meaning'];
    }

    /** @return array{float, float, float, float} rate, start, and their standard errors by the textbook's straight line */
    private function line(): array
    {
        [$n, $x, $y, $xx, $xy] = [10, 0.0, 0.0, 0.0, 0.0];
        foreach (self::OFF as $i => $off) {
            [$x, $y, $xx, $xy] = [$x + $i, $y + 3 + 2 * $i + $off, $xx + $i ** 2, $xy + $i * (3 + 2 * $i + $off)];
        }
        $rate = ($n * $xy - $x * $y) / ($n * $xx - $x ** 2);
        $start = ($y - $rate * $x) / $n;
        $left = 0.0;
        foreach (self::OFF as $i => $off) {
            $left += (3 + 2 * $i + $off - $start - $rate * $i) ** 2;
        }
        $variance = $left / ($n - 2);

        return [$rate, $start, sqrt(($variance * $n) / ($n * $xx - $x ** 2)), sqrt(($variance * $xx) / ($n * $xx - $x ** 2))];
    }

    public function test_a_calibration_is_foreseen_made_and_told(): void
    {
        $model = $this->studied();
        $foreseen = $this->told($model, 'foreseen', '?plan=c1');
        self::assertSame([10, 1, 0, false], [$foreseen['points'], $foreseen['series'], $foreseen['held'], $foreseen['known']]);
        self::assertSame(['rate', 'tank'], array_column((array) $foreseen['numbers'], 'name'));
        self::assertSame(['rate', 'tank'], array_column((array) $foreseen['numbers'], 'of'));

        $id = $this->begun($model)['id'];
        self::assertIsString($id);
        $fit = $this->told($model, $id);
        self::assertSame(['done', true, false, null], [$fit['stage'], $fit['finished'], $fit['stopped'], $fit['trouble']]);
        [$rate, $start, $rateError, $startError] = $this->line();
        self::assertEqualsWithDelta([$rate, $start], $fit['result']['point'], 1e-5);
        self::assertEqualsWithDelta($rateError, $fit['result']['parameters'][0]['standard_error'], 1e-3 * $rateError);
        self::assertEqualsWithDelta($startError, $fit['result']['parameters'][1]['standard_error'], 1e-3 * $startError);
        self::assertContains('3 of 3 starts end at the same place.', $fit['result']['sentences']);
        // The profile of a straight line is a parabola: nine times the error's square, three errors away.
        self::assertCount(2, $fit['result']['profiles']);
        $ends = $fit['result']['profiles'][0];
        $middle = $ends[intdiv(count($ends), 2)][1];
        self::assertEqualsWithDelta($middle * (1 + 9 / 8), $ends[0][1], 2e-3 * $middle);
        self::assertCount(5, $fit['walks']);
        self::assertSame($fit['runs'], array_sum(array_column((array) $fit['walks'], 'runs')));
        foreach ($fit['walks'] as $walk) {
            $distances = array_column($walk['path'], 1);
            $falling = $distances;
            rsort($falling);
            self::assertSame($falling, $distances);
        }

        $picture = $this->told($model, $id, '/picture');
        $kinds = array_column((array) $picture['runs'], 'kind');
        self::assertSame(['before', 'best'], [$kinds[0], end($kinds)]);
        $best = $picture['runs'][count($kinds) - 1]['series'][0];
        foreach ($best['misses'] as $i => [$time, $miss]) {
            self::assertEqualsWithDelta(3 + 2 * $time + self::OFF[$i] - $start - $rate * $time, $miss, 1e-4);
        }
        self::assertCount(10, $picture['series'][0]['points']);
        $last = $this->getJson("/api/models/$model->id/fits")
            ->assertOk()
            ->json('fits');
        self::assertSame([$id], array_column($last, 'id'));
    }

    /** As little as can be in a stretch, by another walker after some, as after restarts: the same comes out. */
    public function test_it_goes_on_after_a_restart_and_comes_to_the_same(): void
    {
        $model = $this->studied();
        $whole = $this->row($this->begun($model)['id']);
        $again = $whole->replicate(['stage', 'result', 'bus_id']);
        $again->fill(['stage' => 'search', 'folder' => "$whole->folder-again"])->save();
        foreach (range(0, 2) as $start) {
            $again->walks()->create(['name' => "search-$start", 'path' => '[]']);
        }
        $walker = new Walker($again, Engine::inWorker(), 0.0);
        for ($turns = 1; $turns < 2_000 && $walker->next('other'); $turns++) {
            $walker = $turns % 7 === 0 ? new Walker($again->fresh() ?? $again, Engine::inWorker(), 0.0) : $walker;
        }
        self::assertGreaterThan(100, $turns);
        self::assertSame('done', $again->fresh()?->stage);
        self::assertSame($whole->fresh()?->result, $again->fresh()->result);
    }

    public function test_what_a_killed_worker_began_is_taken_up_by_others(): void
    {
        $model = $this->studied();
        $fit = $this->row($this->begun($model)['id']);
        $fit->update(['stage' => 'search', 'result' => null]);
        $fit->walks()->delete();
        $walk = $fit->walks()->create(['name' => 'search-0', 'path' => '[]', 'claimed_by' => 'killed', 'claimed_at' => time()]);
        self::assertFalse((new Walker($fit, Engine::inWorker()))->next('other'), 'What somebody works at is left alone.');
        FitWalk::query()
            ->whereKey($walk->getKey())
            ->update(['claimed_at' => time() - Claim::STALE - 1]);
        self::assertTrue((new Walker($fit, Engine::inWorker()))->next('other'));
        self::assertTrue(FitWalk::query()->whereKey($walk->getKey())->value('made'));
    }

    /** Taking over the values that were found changes nothing of what comes out; another model, or other data, do. */
    public function test_what_it_follows_from_is_the_model_but_for_its_numbers_and_the_data(): void
    {
        $model = $this->studied();
        $before = $this->begun($model)['meaning'];
        self::assertSame($before, $this->meaning($model));
        foreach (['rate', 'tank'] as $of) {
            $this->edit($model, ['kind' => 'formula', 'id' => $of, 'text' => '2.5'])->assertOk();
        }
        $this->edit($model, ['kind' => 'rename', 'id' => 'idle', 'name' => 'spare'])->assertOk();
        self::assertSame($before, $this->meaning($model));
        $this->edit($model, ['kind' => 'formula', 'id' => 'inflow', 'text' => 'rate * 1.01'])->assertOk();
        $other = $this->meaning($model);
        self::assertNotSame($before, $other);
        $this->say($model, 'evidence', 'e1', ['error' => 0.2]);
        self::assertNotSame($other, $this->meaning($model));
    }

    public function test_a_stage_that_nobody_ended_is_ended_by_the_next_one_who_looks(): void
    {
        $model = $this->studied();
        $fit = $this->row($this->begun($model)['id']);
        // Killed after its last search was written down, and before anything was made of it.
        $fit->walks()->where('name', 'like', 'profile-%')->delete();
        $fit->update(['stage' => 'search', 'result' => null]);
        $walker = new Walker($fit, Engine::inWorker());
        for ($turns = 0; $turns < 20 && $walker->next('other'); $turns++);
        self::assertSame('done', $fit->fresh()?->stage);
        self::assertStringContainsString('profiles', (string) $fit->fresh()->result);
        self::assertFalse($walker->next('other'));
    }

    public function test_it_is_stopped_and_goes_on(): void
    {
        config(['queue.default' => self::queue()]);
        $model = $this->studied();
        $id = $this->begun($model)['id'];
        self::assertIsString($id);
        $stopped = $this->deleteJson("/api/models/$model->id/fits/$id")
            ->assertOk()
            ->json();
        self::assertSame([true, false, 'search'], [$stopped['stopped'], $stopped['finished'], $stopped['stage']]);
        $going = $this->postJson("/api/models/$model->id/fits/$id/more")
            ->assertOk()
            ->json();
        self::assertFalse($going['stopped']);
        $this->work();
        self::assertTrue($this->told($model, $id)['finished']);
    }

    public function test_results_that_are_gone_are_said_and_nothing_hangs(): void
    {
        $model = $this->studied();
        $fit = $this->row($this->begun($model)['id']);
        $fit->update(['stage' => 'search', 'result' => null]);
        $fit->walks()->delete();
        $fit->walks()->create(['name' => 'search-0', 'path' => '[]', 'pieces' => 2]);
        Results::disk()->deleteDirectory($fit->folder);
        $this->postJson("/api/models/$model->id/fits/$fit->id/more")->assertOk();
        $told = $this->told($model, $fit->id);
        self::assertTrue($told['stopped']);
        self::assertStringContainsString('Begin it anew', (string) $told['trouble']);
    }

    /** Errors of unknown size: the posterior of a straight line is Student's t about the least squares, with n − 2 degrees of freedom. */
    public function test_what_the_data_leave_open_is_drawn(): void
    {
        $model = $this->studied();
        $id = $this->begun($model)['id'];
        self::assertIsString($id);
        $this->postJson("/api/models/$model->id/fits/$id/draws", ['draws' => 3_000, 'chains' => 3])->assertOk();
        $fit = $this->told($model, $id);
        self::assertSame(['drawn', true, 3_000], [$fit['stage'], $fit['finished'], $fit['draws']]);
        $open = $fit['result']['open'];
        self::assertSame([3_000, 3, []], [$open['draws'], $open['chains'], $open['sentences']]);
        foreach (array_chunk($this->line(), 2)[0] as $j => $middle) {
            $error = $this->line()[2 + $j];
            $one = $open['parameters'][$j];
            self::assertEqualsWithDelta($middle, $one['mean'], 0.12 * $error);
            // Its variance is n − 2 over n − 4 of the textbook's.
            self::assertEqualsWithDelta($error * sqrt(8 / 6), $one['sd'], 0.1 * $error);
            self::assertEqualsWithDelta($middle + 2.306 * $error, $one['percentiles']['97.5'], 0.25 * $error);
            self::assertLessThan(1.01, $one['rhat']);
            self::assertCount(99, $one['values']);
        }
        // Slope and start of a line go against each other: −√(mean² ÷ mean of squares) of the times.
        self::assertEqualsWithDelta(-4.5 / sqrt(28.5), $open['ranks'][0][1], 0.05);
        self::assertCount(1, $open['bands']);
        self::assertSame(200, $open['bands'][0]['runs']);
        self::assertLessThan($open['bands'][0]['percentiles']['95'][5], $open['bands'][0]['percentiles']['5'][5]);

        $draws = $this->told($model, $id, '/draws');
        self::assertCount(3, $draws['traces']);
        self::assertSame([20, 1_000], [count($draws['ranks'][0][0]), array_sum($draws['ranks'][0][0])]);
        // Steps that are not taken share their rank, so parts are about as large.
        foreach ([0, 19] as $part) {
            self::assertEqualsWithDelta(150, array_sum(array_column($draws['ranks'][0], $part)), 12);
        }
        // More draws begin anew, and what they were of stays.
        $this->postJson("/api/models/$model->id/fits/$id/draws", ['draws' => 400])->assertOk();
        self::assertSame(400, $this->told($model, $id)['result']['open']['draws']);
    }

    public function test_draws_wait_for_the_fit_and_for_their_question(): void
    {
        config(['queue.default' => self::queue()]);
        $model = $this->studied();
        $id = $this->begun($model)['id'];
        $said = $this->postJson("/api/models/$model->id/fits/$id/draws")
            ->assertStatus(422)
            ->json('detail');
        self::assertStringContainsString('Let the fit come to its end first', $said);
        $this->getJson("/api/models/$model->id/fits/$id/draws")->assertStatus(422);
    }

    /** Fish that grow by r · f (1 − f ÷ K) and are caught by effort · f: the most is caught at r ÷ 2, less where more fish must be left. */
    public function test_the_best_policy_is_looked_for_within_its_limits_and_under_uncertainty(): void
    {
        $model = Build::model(
            ['effort' => '0.1', 'room' => '100', 'growth rate' => '0.8'],
            ['fish' => '80'],
            [
                'growth' => ['growth rate * fish * (1 - fish / room)', 'to' => 'fish'],
                'catch' => ['effort * fish', 'from' => 'fish'],
            ],
            time: new TimeSettings(0, 200, 0.5, 'year', Method::RungeKutta4),
        );
        $document = StudyMaker::make(User::demoAnalyst(), $model)->load('model')->model;
        $said = $this->getJson("/api/models/$document->id/fits/foreseen?policy=p1")
            ->assertStatus(422)
            ->json('detail');
        self::assertStringContainsString('no such policy', $said);
        $this->say($document, 'policies', 'p1', [
            'name' => 'Most fish',
            'choose' => [['of' => 'effort', 'low' => 0.0, 'high' => 0.79]],
            'sum' => [['of' => 'catch']],
        ]);
        $seek = function () use ($document): array {
            $id = $this->postJson("/api/models/$document->id/fits", ['policy' => 'p1'])
                ->assertCreated()
                ->json('id');
            self::assertIsString($id);

            return $this->told($document, $id);
        };
        $free = $seek();
        self::assertSame(['policy', 'done', null], [$free['kind'], $free['stage'], $free['result']]);
        self::assertEqualsWithDelta([0.4], $free['found']['choice'], 1e-3);
        self::assertEqualsWithDelta([20.0, 8.75], [$free['found']['value'], $free['found']['base']], 1e-4);
        self::assertEqualsWithDelta(20.0, $free['best']['distance'], 1e-4);
        $values = array_column($free['walks'][0]['path'], 1);
        $rising = $values;
        sort($rising);
        self::assertSame($rising, $values);

        // At least 70 fish: effort is r (1 − 0.7), and the limit binds.
        $this->say($document, 'policies', 'p1', ['limits' => [['of' => 'fish', 'kind' => 'min', 'least' => true, 'number' => 70]]]);
        $limited = $seek();
        self::assertEqualsWithDelta([0.24], $limited['found']['choice'], 1e-3);
        self::assertTrue($limited['found']['limits'][0]['binds']);
        self::assertStringContainsString('The limit of `fish` binds, at least 70', implode(' ', $limited['found']['sentences']));

        // Two outcomes added up: a fish left counts as much as ten caught, so fewer are caught.
        $this->say($document, 'policies', 'p1', ['limits' => [], 'sum' => [['of' => 'catch'], ['of' => 'fish', 'weight' => 0.1]]]);
        // e K (1 − e ÷ r) + 0.1 K (1 − e ÷ r) is greatest at (r − 0.1) ÷ 2.
        self::assertEqualsWithDelta([0.35], $seek()['found']['choice'], 1e-3);

        // Under uncertainty the worst twentieth wants less effort than the mean; it is compared under the same draws.
        $this->say($document, 'uncertain', 'u1', ['of' => 'growth-rate', 'law' => 'uniform(0.5, 1.1)']);
        $choices = [];
        foreach (['mean', 'worst-twentieth'] as $over) {
            $this->say($document, 'policies', 'p1', ['sum' => [['of' => 'catch']], 'over' => $over, 'runs' => 40]);
            $told = $seek()['found'];
            $choices[] = $told['choice'][0];
            self::assertSame(40, $told['against']['runs']);
            self::assertGreaterThan(0.9, $told['against']['better']);
            self::assertSame(40, $told['courses']['best'][0]['runs']);
        }
        self::assertGreaterThan($choices[1] + 0.05, $choices[0]);
        // Held against another choice under the same draws: against itself nothing is gained.
        $beside = "/api/models/$document->id/fits/{$seek()['id']}/beside";
        $same = $this->postJson($beside, ['values' => ['effort' => $choices[1]]])
            ->assertOk()
            ->json('against');
        self::assertSame([40, 0], [$same['runs'], $same['better']]);
        $none = $this->postJson($beside, ['values' => ['effort' => 0]])
            ->assertOk()
            ->json('against');
        self::assertSame([1, $told['value'] > 0], [$none['better'], $none['mean'] > $told['value']]);
        $this->postJson($beside, ['values' => ['effort' => 'much']])->assertStatus(422);
        $this->postJson("/api/models/$document->id/fits/{$free['id']}/beside", ['values' => []])->assertStatus(422);
        // Over a uniform growth rate the mean of e K (1 − e ÷ r) is greatest at 1 ÷ (2 E[1 ÷ r]).
        self::assertEqualsWithDelta(0.6 / (2 * log(1.1 / 0.5)), $choices[0], 5e-3);
        $this->getJson("/api/models/$document->id/fits/{$free['id']}/picture")->assertStatus(422);
        $this->postJson("/api/models/$document->id/fits/{$free['id']}/draws")->assertStatus(422);
    }

    public function test_what_cannot_be_fitted_is_said_before_it_begins(): void
    {
        $model = $this->studied();
        $this->postJson("/api/models/$model->id/fits", ['plan' => 'gone'])->assertStatus(422);
        $this->say($model, 'calibrations', 'c2', ['name' => 'Nothing yet']);
        $said = $this->getJson("/api/models/$model->id/fits/foreseen?plan=c2")
            ->assertStatus(422)
            ->json('detail');
        self::assertStringContainsString('which numbers may move', $said);
    }
}
