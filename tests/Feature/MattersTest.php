<?php

declare(strict_types=1);

namespace Tests\Feature;

use App\Models\ModelDocument;
use App\Models\User;
use App\Studies\StudyMaker;
use MerryOrbit\Core\Law\Special;
use MerryOrbit\Core\Model\Method;
use MerryOrbit\Core\Model\TimeSettings;
use Tests\Core\Build;

/** Which of the uncertain inputs matter, through the API, against variances that are known. */
final class MattersTest extends TestCase
{
    use MakesManyRuns;

    /**
     * A tank from which flows rate + growth · time: at time t it holds 10 − t · rate − c · growth, c being the sum of the times so far.
     * `product` is rate · growth.
     */
    private function studied(): ModelDocument
    {
        $model = Build::model(
            ['rate' => '1', 'growth' => '2', 'idle' => '5'],
            ['tank' => '10'],
            ['drain' => ['rate + growth * time', 'from' => 'tank']],
            ['product' => 'rate * growth'],
            new TimeSettings(0, 4, 0.5, 'year', Method::Euler),
        );
        $document = StudyMaker::make(User::demoAnalyst(), $model)->load('model')->model;
        $this->say($document, 'uncertain', 'u1', ['of' => 'rate', 'law' => 'normal(1, 0.2)']);
        $this->say($document, 'uncertain', 'u2', ['of' => 'growth', 'law' => 'normal(2, 0.3)']);
        $this->say($document, 'uncertain', 'u3', ['of' => 'idle', 'law' => 'uniform(0, 9)']);
        $this->say($document, 'outcomes', 'o1', ['of' => 'tank', 'kind' => 'last']);
        $this->say($document, 'outcomes', 'o2', ['of' => 'product', 'kind' => 'last']);

        return $document;
    }

    /** Of the tank's variance at a time, the part that comes from the rate. */
    private function ofRate(float $time): float
    {
        $c = 0.0;
        for ($t = 0.0; $t < $time; $t += 0.5) {
            $c += 0.5 * $t;
        }

        return ($time * 0.2) ** 2 / (($time * 0.2) ** 2 + ($c * 0.3) ** 2);
    }

    public function test_sobol_indices_have_the_shares_that_are_known_with_their_errors(): void
    {
        $model = $this->studied();
        $state = $this->run0($model, ['purpose' => 'indices', 'runs' => 5_000]);
        self::assertSame(['indices', 5_000, 5_000], [$state['purpose'], $state['runs'], $state['done']]);
        $sum = 0.16 + 0.09 + 0.0036;
        $known = [
            'o1' => [[$this->ofRate(4), $this->ofRate(4)], [1 - $this->ofRate(4), 1 - $this->ofRate(4)], [0.0, 0.0]],
            'o2' => [[0.16 / $sum, 0.1636 / $sum], [0.09 / $sum, 0.0936 / $sum], [0.0, 0.0]],
        ];
        foreach ($known as $outcome => $inputs) {
            $told = $this->told($model, $state['id'], "/indices?outcome=$outcome");
            self::assertSame(['rate', 'growth', 'idle'], array_column((array) $told['inputs'], 'key'));
            foreach ($inputs as $i => [$first, $total]) {
                $one = $told['inputs'][$i];
                self::assertLessThan(0.05, $one['first_error']);
                self::assertEqualsWithDelta($first, $one['first'], 4 * $one['first_error'] + 1e-9, "$outcome $i");
                self::assertEqualsWithDelta($total, $one['total'], 4 * $one['total_error'] + 1e-9, "$outcome $i");
            }
        }
    }

    public function test_over_time_two_ways_come_to_the_same_known_shares(): void
    {
        $model = $this->studied();
        foreach (['indices' => 0.03, 'spread' => 0.01] as $purpose => $off) {
            $state = $this->run0($model, ['purpose' => $purpose, 'runs' => 5_000]);
            $told = $this->told($model, $state['id'], '/shares?of=tank');
            self::assertSame([0, 0.5, 1, 1.5, 2, 2.5, 3, 3.5, 4], $told['times']);
            [$rate, $growth, $idle] = array_column((array) $told['inputs'], 'shares');
            self::assertNull($rate[0], 'all begin alike');
            foreach ($told['times'] as $i => $time) {
                if ($i > 0) {
                    self::assertEqualsWithDelta($this->ofRate($time), $rate[$i], $off, "$purpose at $time");
                    self::assertEqualsWithDelta(1 - $this->ofRate($time), $growth[$i], $off, "$purpose at $time");
                    self::assertEqualsWithDelta(0.0, $idle[$i], $off);
                }
            }
        }
    }

    public function test_steps_by_morris_have_the_effects_of_a_straight_line(): void
    {
        $model = $this->studied();
        $state = $this->run0($model, ['purpose' => 'morris', 'runs' => 42]);
        self::assertSame(40, $state['runs'], 'ten paths of four');
        $told = $this->told($model, $state['id'], '/indices?outcome=o1');
        // A step goes from one quantile to that half of the way further on.
        $step = (Special::normalQuantile(0.625) - Special::normalQuantile(0.125)) / 0.5;
        foreach ([[-4 * 0.2 * $step], [-7 * 0.3 * $step], [0.0]] as $i => [$mean]) {
            self::assertEqualsWithDelta($mean, $told['inputs'][$i]['mean'], 1e-9);
            self::assertEqualsWithDelta(abs($mean), $told['inputs'][$i]['mean_size'], 1e-9);
            self::assertEqualsWithDelta(0.0, $told['inputs'][$i]['sd'], 1e-9);
        }
        $over = $this->told($model, $state['id'], '/shares?of=tank');
        self::assertEqualsWithDelta(4 * 0.2 * $step, $over['inputs'][0]['shares'][8], 1e-5);
    }

    public function test_what_has_no_such_answer_says_so(): void
    {
        $model = $this->studied();
        $spread = $this->run0($model, ['runs' => 20]);
        $this->getJson("/api/models/$model->id/ensembles/{$spread['id']}/indices?outcome=o1")
            ->assertStatus(422)
            ->assertSee('runs of their own');
        $this->postJson("/api/models/$model->id/ensembles", ['purpose' => 'indices', 'runs' => 12])
            ->assertStatus(422)
            ->assertSee('too few');
        $this->postJson("/api/models/$model->id/ensembles", ['purpose' => 'guess'])->assertStatus(422);
        $indices = $this->run0($model, ['purpose' => 'indices', 'runs' => 100]);
        $this->postJson("/api/models/$model->id/ensembles/{$indices['id']}/more", ['runs' => 100])
            ->assertStatus(422)
            ->assertSee('Make it anew');
        // Each is listed with its like.
        self::assertSame(
            [$spread['id']],
            array_column((array) $this->getJson("/api/models/$model->id/ensembles")->json('ensembles'), 'id'),
        );
        $listed = $this->getJson("/api/models/$model->id/ensembles?purpose=indices")->json('ensembles');
        self::assertSame([$indices['id']], array_column((array) $listed, 'id'));
    }
}
