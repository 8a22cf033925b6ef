<?php

declare(strict_types=1);

namespace Tests\Feature;

use App\Models\Ensemble;
use App\Models\ModelDocument;
use App\Models\User;
use App\Studies\StudyMaker;
use App\Uncertain\EnsembleSpec;
use MerryOrbit\Core\Model\Method;
use MerryOrbit\Core\Model\TimeSettings;
use Tests\Core\Build;

/** More runs than the courses of which are kept: of all of them the numbers, of the first the courses. */
final class ManyRunsTest extends TestCase
{
    use MakesManyRuns;

    private const RUNS = 101_000;

    /** At time 2 it holds 10 − 2 · rate. */
    private function quick(): ModelDocument
    {
        $time = new TimeSettings(0, 2, 1, 'year', Method::Euler);
        $model = Build::model(['rate' => '1'], ['tank' => '10'], ['drain' => ['rate', 'from' => 'tank']], [], $time);
        $document = StudyMaker::make(User::demoAnalyst(), $model)->load('model')->model;
        $this->say($document, 'uncertain', 'u1', ['of' => 'rate', 'law' => 'normal(1, 0.2)']);
        $this->say($document, 'outcomes', 'o1', ['of' => 'tank', 'kind' => 'last']);

        return $document;
    }

    public function test_the_numbers_of_all_are_told_and_the_courses_of_the_first(): void
    {
        $model = $this->quick();
        $state = $this->run0($model, ['runs' => self::RUNS]);
        self::assertSame([true, self::RUNS], [$state['finished'], $state['done']]);
        self::assertSame([EnsembleSpec::COURSES, 899_000], [$state['courses'], $state['room']]);
        $ensemble = Ensemble::query()->firstOrFail();
        // Worked out by hand, from the draws alone.
        $plan = EnsembleSpec::read($ensemble->spec)->plan;
        $held = array_map(static fn (int $run): float => 10.0 - 2.0 * $plan->values($run)['rate'], range(0, self::RUNS - 1));
        $at = 'moment?outcome=o1&above=8.5';
        $moment = $this->told($model, $state['id'], "/$at");
        self::assertSame(self::RUNS, $moment['runs']);
        self::assertEqualsWithDelta(max($held), $moment['max'], 1e-12);
        self::assertEqualsWithDelta(array_sum($held) / self::RUNS, $moment['mean'], 1e-12);
        // 8.5 is 1.25 standard deviations above 8: normal(1, 0.2) is below 0.75 in 10.565 % of all; a Latin hypercube is surer than chance.
        self::assertEqualsWithDelta(0.10565, $moment['above']['share'], 0.0005);
        $summary = $this->told($model, $state['id'], '/summary')['outcomes'];
        self::assertEqualsWithDelta(8.0, $summary[0]['mean'], 1e-4);
        self::assertEqualsWithDelta(0.4, $summary[0]['sd'], 4e-4);
        $bands = $this->told($model, $state['id'], '/bands?of=tank');
        self::assertSame(EnsembleSpec::COURSES, $bands['runs']);
        $first = array_slice($held, 0, EnsembleSpec::COURSES);
        sort($first);
        // Courses keep seven digits.
        self::assertEqualsWithDelta($first[(int) (0.5 * (EnsembleSpec::COURSES - 1))], $bands['percentiles']['50'][2], 1e-5);
        // The draws, sorted by what they came to; and those at the end, which have no courses.
        arsort($held);
        $top = $this->told($model, $state['id'], '/draws?sort=o1&down=1&count=3');
        self::assertSame(array_slice(array_keys($held), 0, 3), array_column((array) $top['rows'], 'run'));
        self::assertEqualsWithDelta(max($held), $top['rows'][0]['numbers'][1], 1e-12);
        $last = $this->told($model, $state['id'], '/draws?down=1&count=1');
        self::assertSame([self::RUNS - 1, self::RUNS], [$last['rows'][0]['run'], $last['runs']]);
        self::assertEqualsWithDelta($held[self::RUNS - 1], $last['rows'][0]['numbers'][1], 1e-12);
        $matters = $this->told($model, $state['id'], '/matters?outcome=o1&input=rate');
        self::assertEqualsWithDelta(-1.0, $matters['inputs'][0]['rank_correlation'], 1e-9);
    }

    public function test_more_than_can_be_made_is_refused_with_a_sentence(): void
    {
        $model = $this->quick();
        $said = $this->postJson("/api/models/$model->id/ensembles", ['runs' => 1_000_001])
            ->assertUnprocessable()
            ->json('detail');
        self::assertStringContainsString('Make 1 to 1,000,000 runs', $said);
        $said = $this->postJson("/api/models/$model->id/ensembles", ['runs' => 200_000, 'purpose' => 'indices'])
            ->assertUnprocessable()
            ->json('detail');
        self::assertStringContainsString('For shares and steps at most 100,000', $said);
    }
}
