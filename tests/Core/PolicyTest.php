<?php

declare(strict_types=1);

namespace Tests\Core;

use MerryOrbit\Core\Compile\ProgramStore;
use MerryOrbit\Core\Exchange\NativeFile;
use MerryOrbit\Core\Fit\Over;
use MerryOrbit\Core\Fit\PlannedPolicy;
use MerryOrbit\Core\Model\Method;
use MerryOrbit\Core\Model\Model;
use MerryOrbit\Core\Model\PolicyPlan;
use MerryOrbit\Core\Model\Setting;
use MerryOrbit\Core\Model\TimeSettings;
use MerryOrbit\Core\Problem\NotUnderstood;
use MerryOrbit\Core\Simulate\Simulator;
use PHPUnit\Framework\TestCase;

/** The best policy, against closed forms: also within limits, and where the future is uncertain. */
final class PolicyTest extends TestCase
{
    use Commanded;

    /**
     * @param  list<string>  $words
     * @return array{value: float, base: ?float, choice: array<string, float>, near: array<string, array{float, float}>, holds: bool,
     *     evaluations: int, remarks: list<string>}
     */
    private function best(Model $model, array $words): array
    {
        [$code, $out, $err] = self::orbit(['optimise', $this->file(NativeFile::export($model), '.json'), '--format=json', ...$words]);
        self::assertSame(0, $code, $err);

        /** @var array{value: float, base: ?float, choice: array<string, float>, near: array<string, array{float, float}>, holds: bool, evaluations: int, remarks: list<string>} */
        return self::json($out);
    }

    /** Fish that grow by r · f (1 − f ÷ K) and are caught by effort · f, until they rest. */
    public static function fishery(): Model
    {
        return Build::model(
            ['effort' => '0.1', 'room' => '100', 'growth rate' => '0.8'],
            ['fish' => '80'],
            [
                'growth' => ['growth rate * fish * (1 - fish / room)', 'to' => 'fish'],
                'catch' => ['effort * fish', 'from' => 'fish'],
            ],
            time: new TimeSettings(0, 200, 0.5, 'year', Method::RungeKutta4),
        );
    }

    public function test_the_maximum_sustainable_yield_is_found(): void
    {
        $best = $this->best(self::fishery(), ['--maximise=catch', '--choose=effort=0..0.79']);
        // r ÷ 2 and r K ÷ 4; before, 0.1 · 100 (1 − 0.1 ÷ 0.8).
        self::assertEqualsWithDelta(0.4, $best['choice']['effort'], 1e-4);
        self::assertEqualsWithDelta(20.0, $best['value'], 1e-6);
        self::assertEqualsWithDelta(8.75, $best['base'], 1e-6);
        // A top is flat: 19.8 is reached from 0.36 to 0.44.
        [$low, $high] = $best['near']['effort'];
        self::assertEqualsWithDelta(0.36, $low, 0.02);
        self::assertEqualsWithDelta(0.44, $high, 0.02);
        self::assertSame([], $best['remarks']);
    }

    public function test_a_limit_that_binds_is_kept_to(): void
    {
        $best = $this->best(self::fishery(), ['--maximise=catch', '--choose=effort=0..0.79', '--within=fish:min>=60']);
        self::assertEqualsWithDelta(0.32, $best['choice']['effort'], 1e-5);
        self::assertEqualsWithDelta(19.2, $best['value'], 1e-4);
        self::assertTrue($best['holds']);
        $best = $this->best(self::fishery(), ['--maximise=catch', '--choose=effort=0.5..0.79', '--within=fish:min>=60']);
        self::assertFalse($best['holds']);
        self::assertStringContainsString('No choice between these bounds', implode(' ', $best['remarks']));
        self::assertEqualsWithDelta(0.5, $best['choice']['effort'], 1e-6);
    }

    private static function hill(): Model
    {
        return Build::model(
            ['a' => '0', 'b' => '0'],
            ['kept' => '1'],
            [],
            ['height' => '7 - (a - 2)^2 - 2 * (b - 1)^2 - (a - 2) * (b - 1)', 'both' => 'a + b'],
            new TimeSettings(0, 1, 1, 'year', Method::Euler),
        );
    }

    public function test_two_levers_and_an_oblique_limit(): void
    {
        $best = $this->best(self::hill(), ['--maximise=height', '--choose=a=-5..5', '--choose=b=-5..5']);
        self::assertEqualsWithDelta([2.0, 1.0, 7.0], [$best['choice']['a'], $best['choice']['b'], $best['value']], 1e-4);
        // On a + b = 2, with a = 2 + u and b = −u: 7 − u² − 2 (u + 1)² + u (u + 1) is greatest at u = −3 ÷ 4.
        $best = $this->best(self::hill(), ['--maximise=height', '--choose=a=-5..5', '--choose=b=-5..5', '--within=both<=2']);
        self::assertEqualsWithDelta(1.25, $best['choice']['a'], 2e-3);
        self::assertEqualsWithDelta(0.75, $best['choice']['b'], 2e-3);
        self::assertLessThanOrEqual(2 + 1e-8, $best['choice']['a'] + $best['choice']['b']);
        self::assertEqualsWithDelta(6.125, $best['value'], 1e-5);
        $least = $this->best(self::hill(), ['--minimise=height', '--choose=a=-5..5', '--choose=b=-5..5']);
        self::assertEqualsWithDelta([-5.0, -5.0], [$least['choice']['a'], $least['choice']['b']], 1e-6);
        self::assertStringContainsString('`a` is at its bound', implode(' ', $least['remarks']));
    }

    /** Bread is baked at 1 and sold at 4, as far as somebody wants it. */
    public static function bakery(): Model
    {
        return Build::model(
            ['baked' => '20', 'wanted' => '50'],
            ['kept' => '1'],
            [],
            ['gain' => '4 * min(baked, wanted) - baked', 'unsold' => 'max(0, baked - wanted)'],
            new TimeSettings(0, 1, 1, 'day', Method::Euler),
        );
    }

    public function test_under_uncertainty_the_best_is_another(): void
    {
        $asked = ['--maximise=gain', '--choose=baked=0..100', '--uncertain=wanted=uniform(0, 100)', '--runs=200'];
        // As if fifty were sure.
        self::assertEqualsWithDelta(50.0, $this->best(self::bakery(), array_slice($asked, 0, 2))['choice']['baked'], 1e-3);
        // On average: where three in four want no more. In the worst twentieth: at 0.05 · 0.75. Least regret: 3 (100 − q) = q.
        foreach (['mean' => 75.0, 'worst-twentieth' => 3.75, 'regret' => 75.0] as $over => $baked) {
            $best = $this->best(self::bakery(), [...$asked, "--over=$over"]);
            self::assertEqualsWithDelta($baked, $best['choice']['baked'], 1.5, $over);
        }
        self::assertEqualsWithDelta(112.5, $this->best(self::bakery(), $asked)['value'], 1.0);
        // The largest regret of 75: 3 · 25.
        self::assertEqualsWithDelta(75.0, $this->best(self::bakery(), [...$asked, '--over=regret'])['value'], 1.5);
        // The fifth percentile: gain is at least 4 · 5 − q there.
        self::assertEqualsWithDelta(5.0, $this->best(self::bakery(), [...$asked, '--over=p5'])['choice']['baked'], 0.6);
        self::assertEqualsWithDelta(0.5, $this->best(self::bakery(), [...$asked, '--over=worst'])['choice']['baked'], 0.5);
        // What must hold does so in every run.
        $held = $this->best(self::bakery(), [...$asked, '--within=unsold<=30']);
        self::assertEqualsWithDelta(30.0, $held['choice']['baked'], 0.5);
    }

    public function test_measures_over_runs_are_what_they_say(): void
    {
        $values = array_map(floatval(...), range(1, 40));
        self::assertSame(20.5, Over::Mean->of($values, true));
        self::assertSame(1.0, Over::Worst->of($values, true));
        self::assertSame(40.0, Over::Worst->of($values, false));
        self::assertSame(1.5, Over::WorstTwentieth->of($values, true));
        self::assertSame(39.5, Over::WorstTwentieth->of($values, false));
        // A twentieth of thirty is one and a half.
        self::assertEqualsWithDelta((1 + 0.5 * 2) / 1.5, Over::WorstTwentieth->of(array_map(floatval(...), range(1, 30)), true), 1e-12);
        self::assertEqualsWithDelta(2.95, Over::P5->of($values, true), 1e-12);
        self::assertSame(3.0, Over::Regret->of([4.0, 5.0], true, [5.0, 8.0]));
        self::assertSame(2.0, Over::Regret->of([4.0, 5.0], false, [2.0, 5.0]));
    }

    public function test_it_is_the_same_for_any_number_of_processes_and_walls_are_no_ends(): void
    {
        $made = array_map(
            fn (string $jobs): array => $this->best(self::bakery(), [
                '--maximise=gain',
                '--choose=baked=0..100',
                '--uncertain=wanted=uniform(0, 100)',
                '--runs=20',
                "--jobs=$jobs",
            ]),
            ['1', '2', '8'],
        );
        self::assertSame($made[0], $made[1]);
        self::assertSame($made[0], $made[2]);
        // Above 3 there is no root.
        $model = Build::model(['a' => '1'], ['kept' => '1'], [], ['height' => 'a + sqrt(3 - a)'], new TimeSettings(0, 1, 1, 'year'));
        $best = $this->best($model, ['--maximise=height', '--choose=a=0..10']);
        self::assertEqualsWithDelta(2.75, $best['choice']['a'], 1e-3);
        self::assertEqualsWithDelta(3.25, $best['value'], 1e-6);
    }

    public function test_what_is_asked_wrongly_is_said(): void
    {
        $file = $this->file(NativeFile::export(self::fishery()), '.json');
        foreach (
            [
                [['--choose=effort=0..1'], 'large or small, one of them'],
                [['--maximise=catch', '--minimise=fish', '--choose=effort=0..1'], 'large or small, one of them'],
                [['--maximise=catch'], 'Say what can be chosen'],
                [['--maximise=catch', '--choose=effort=0..1', '--within=fish<60'], 'an outcome and its limit'],
                [['--maximise=catch', '--choose=effort=0..1', '--over=p5'], 'say what is uncertain'],
                [['--maximise=cach', '--choose=effort=0..1'], 'catch'],
                [['--maximise=catch', '--choose=effort=0..1', '--uncertain=effort=uniform(0, 1)'], 'cannot be uncertain too'],
            ] as [$words, $sentence]
        ) {
            [$code, , $err] = self::orbit(['optimise', $file, ...$words]);
            self::assertContains($code, [2, 3]);
            self::assertStringContainsString($sentence, $err);
        }
    }

    public function test_a_policy_of_a_study_comes_through_its_record_and_refuses_what_makes_no_sense(): void
    {
        $model = self::fishery();
        $record = [
            'id' => 'p1',
            'name' => 'Most fish',
            'choose' => [['of' => 'effort', 'low' => 0.1, 'high' => 0.7]],
            'sum' => [['of' => 'catch', 'kind' => 'total'], ['of' => 'fish', 'kind' => 'at', 'time' => 50.0, 'weight' => 2.5]],
            'small' => true,
            'limits' => [['of' => 'fish', 'kind' => 'min', 'least' => true, 'number' => 20.0]],
            'over' => 'regret',
            'runs' => 30,
            'seed' => 4,
        ];
        self::assertSame($record, PolicyPlan::read($record)->toRecord());
        self::assertNull(PolicyPlan::read($record)->unfit($model));
        $other = [...$record, 'choose' => [['of' => 'catch', 'low' => 0.0, 'high' => 1.0]]];
        self::assertStringContainsString('computes `catch`', (string) PolicyPlan::read($other)->unfit($model));
        $simulator = new Simulator(ProgramStore::ofUser());
        $plain = ['id' => 'p', 'name' => 'p', 'choose' => $record['choose'], 'sum' => $record['sum']];
        foreach (
            [
                [['choose' => [['of' => 'effort', 'low' => 2, 'high' => 1]]], 'from the lower to the higher one'],
                [['choose' => []], 'Say first which parameters can be chosen'],
                [['sum' => []], 'Say first which outcome is to be large or small'],
                [['limits' => [['of' => 'gone', 'number' => 1.0]]], 'is of something that is gone'],
                [['runs' => 10], 'Nothing is uncertain besides what is chosen'],
            ] as [$fields, $sentence]
        ) {
            try {
                PlannedPolicy::of($simulator, $model, new Setting(), PolicyPlan::read([...$plain, ...$fields]));
                self::fail("Not said: $sentence");
            } catch (NotUnderstood $e) {
                self::assertStringContainsString($sentence, $e->getMessage());
            }
        }
    }
}
