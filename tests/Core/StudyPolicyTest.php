<?php

declare(strict_types=1);

namespace Tests\Core;

use MerryOrbit\Core\Compile\ProgramStore;
use MerryOrbit\Core\Exchange\NativeFile;
use MerryOrbit\Core\Fit\PlannedPolicy;
use MerryOrbit\Core\Fit\PolicyReport;
use MerryOrbit\Core\Model\Method;
use MerryOrbit\Core\Model\Model;
use MerryOrbit\Core\Model\PolicyPlan;
use MerryOrbit\Core\Model\Setting;
use MerryOrbit\Core\Model\TimeSettings;
use MerryOrbit\Core\Simulate\Simulator;
use PHPUnit\Framework\TestCase;

/** Policies as a study keeps them: courses to follow, expectations that must hold, runner-ups, and one held against another. */
final class StudyPolicyTest extends TestCase
{
    use Commanded;

    /**
     * @param  array<string, mixed>  $parts  of the file besides the model
     * @return array<mixed>
     */
    private static function study(Model $model, array $parts): array
    {
        return [...self::json(NativeFile::export($model)), ...$parts];
    }

    /**
     * @param  array<string, mixed>  $policy
     * @param  array<string, mixed>  $parts
     * @return array{value: float, choice: array<string, float>, holds: bool, others: list<array{value: float, choice: array<string, float>}>,
     *     expected: list<array{expectation: string, holds: bool, held: int, before: int, runs: int}>}
     */
    private function found(Model $model, array $policy, array $parts = []): array
    {
        $study = self::study($model, [...$parts, 'policies' => [['id' => 'p', 'name' => 'wanted', ...$policy]]]);
        $file = $this->file((string) json_encode($study), '.json');
        [$code, $out, $err] = self::orbit(['optimise', $file, '--policy=wanted', '--format=json']);
        self::assertSame(0, $code, $err);

        /** @var array{value: float, choice: array<string, float>, holds: bool, others: list<array{value: float, choice: array<string, float>}>, expected: list<array{expectation: string, holds: bool, held: int, before: int, runs: int}>} */
        return self::json($out);
    }

    public function test_a_course_is_followed_as_near_as_can_be(): void
    {
        $model = Build::model(
            ['pace' => '1'],
            ['kept' => '1'],
            [],
            ['gone' => 'pace * time', 'wanted' => '1 + 2 * time'],
            new TimeSettings(0, 10, 1, 'day', Method::Euler),
        );
        // Least squares through the origin: 2 + Σt ÷ Σt², and what is left is 1 − t Σt ÷ Σt² at each moment.
        $pace = 2.0 + 55.0 / 385.0;
        $left = sqrt(array_sum(array_map(static fn (int $t): float => (1.0 - ($t * 55.0) / 385.0) ** 2, range(0, 10))) / 11);
        $policy = ['choose' => [['of' => 'pace', 'low' => 0, 'high' => 5]], 'small' => true];
        $modes = ['modes' => [['id' => 'm', 'of' => 'gone', 'kind' => 'hoped', 'points' => [[0, 1], [10, 21]]]]];
        foreach (['wanted', 'm'] as $from) {
            $sum = [['of' => 'gone', 'kind' => 'apart', 'from' => $from]];
            $best = $this->found($model, [...$policy, 'sum' => $sum], $modes);
            self::assertEqualsWithDelta($pace, $best['choice']['pace'], 1e-4, $from);
            self::assertEqualsWithDelta($left, $best['value'], 1e-7, $from);
        }
        // A course that is drawn for a part of the run counts there.
        $modes['modes'][0]['points'] = [[2, 9], [4, 9]];
        $best = $this->found($model, [...$policy, 'sum' => [['of' => 'gone', 'kind' => 'apart', 'from' => 'm']]], $modes);
        self::assertEqualsWithDelta((9 * 9) / 29, $best['choice']['pace'], 1e-4);
    }

    public function test_expectations_are_limits(): void
    {
        $never = ['id' => 'x', 'name' => 'enough fish', 'of' => 'fish', 'shape' => 'never-below', 'value' => 60];
        $policy = [
            'choose' => [['of' => 'effort', 'low' => 0.0, 'high' => 0.79]],
            'sum' => [['of' => 'catch']],
            'expect' => ['x'],
        ];
        $best = $this->found(PolicyTest::fishery(), $policy, ['expectations' => [$never]]);
        // Where fish rest at 60: 0.8 (1 − 60 ÷ 100).
        self::assertEqualsWithDelta(0.32, $best['choice']['effort'], 1e-4);
        self::assertTrue($best['holds']);
        self::assertSame([['expectation' => 'x', 'holds' => true, 'held' => 1, 'before' => 1, 'runs' => 1]], $best['expected']);
    }

    public function test_what_is_expected_of_a_part_of_the_runs_may_fail_in_the_others(): void
    {
        // Bread that nobody wants: baked − wanted, at most 30.
        $most = ['id' => 'x', 'of' => 'baked - wanted', 'shape' => 'never-above', 'value' => 30];
        $policy = [
            'choose' => [['of' => 'baked', 'low' => 0, 'high' => 100]],
            'sum' => [['of' => 'gain']],
            'expect' => ['x'],
            'runs' => 200,
        ];
        $parts = ['uncertain' => [['id' => 'u', 'of' => 'wanted', 'law' => 'uniform(0, 100)']]];
        $all = $this->found(PolicyTest::bakery(), $policy, [...$parts, 'expectations' => [$most]]);
        self::assertEqualsWithDelta(30.0, $all['choice']['baked'], 0.6);
        // In nine of ten runs: what is wanted is above 10 in those.
        $some = [...$most, 'runs' => 50, 'part' => 0.9];
        $part = $this->found(PolicyTest::bakery(), $policy, [...$parts, 'expectations' => [$some]]);
        self::assertEqualsWithDelta(40.0, $part['choice']['baked'], 0.6);
        self::assertSame([180, true], [$part['expected'][0]['held'], $part['expected'][0]['holds']]);
    }

    public function test_runner_ups_keep_the_limits_and_lie_elsewhere(): void
    {
        $model = Build::model(
            ['a' => '0', 'b' => '0'],
            ['kept' => '1'],
            [],
            ['height' => '7 - (a - 2)^2 - 2 * (b - 1)^2 - (a - 2) * (b - 1)', 'both' => 'a + b'],
            new TimeSettings(0, 1, 1, 'year', Method::Euler),
        );
        $best = $this->found($model, [
            'choose' => [['of' => 'a', 'low' => -5, 'high' => 5], ['of' => 'b', 'low' => -5, 'high' => 5]],
            'sum' => [['of' => 'height']],
            'limits' => [['of' => 'both', 'number' => 2]],
        ]);
        self::assertCount(4, $best['others']);
        $choices = [$best['choice'], ...array_column($best['others'], 'choice')];
        foreach ($choices as $i => ['a' => $a, 'b' => $b]) {
            self::assertLessThanOrEqual(2 + 1e-8, $a + $b);
            $height = 7 - ($a - 2) ** 2 - 2 * ($b - 1) ** 2 - ($a - 2) * ($b - 1);
            self::assertEqualsWithDelta($height, $i === 0 ? $best['value'] : $best['others'][$i - 1]['value'], 1e-9);
            foreach (array_slice($choices, 0, $i) as $other) {
                self::assertGreaterThanOrEqual(1.0, max(abs($a - $other['a']), abs($b - $other['b'])));
            }
        }
        $values = [$best['value'], ...array_column($best['others'], 'value')];
        $sorted = $values;
        rsort($sorted);
        self::assertSame($sorted, $values);
    }

    public function test_one_policy_is_held_against_another_under_the_same_draws(): void
    {
        $study = self::study(PolicyTest::bakery(), ['uncertain' => [['id' => 'u', 'of' => 'wanted', 'law' => 'uniform(0, 100)']]]);
        $model = NativeFile::import((string) json_encode($study))->model;
        $plan = PolicyPlan::read([
            'id' => 'p',
            'name' => 'p',
            'choose' => [['of' => $model->idOf('baked'), 'low' => 0, 'high' => 100]],
            'sum' => [['of' => $model->idOf('gain')]],
            'limits' => [['of' => $model->idOf('unsold'), 'number' => 60]],
            'runs' => 400,
        ]);
        $planned = PlannedPolicy::of(new Simulator(ProgramStore::ofUser()), $model, new Setting(), $plan);
        $told = (new PolicyReport($planned))->beside([75.0], [(string) $model->idOf('baked') => 50.0]);
        self::assertNotNull($told['against']);
        // 75 are better than 50 where more than 56.25 are wanted; on average by 112.5 − 100.
        self::assertEqualsWithDelta(0.4375, $told['against']['better'], 0.01);
        self::assertEqualsWithDelta(12.5, $told['against']['mean'], 0.2);
        [$limit] = $told['limits'];
        self::assertEqualsWithDelta([75.0, 50.0], [$limit['worst'], $limit['before']], 0.5);
        self::assertCount(2, $told['courses']['best']);
        // Against itself nothing differs.
        $same = (new PolicyReport($planned))->beside([50.0], [(string) $model->idOf('baked') => 50.0]);
        self::assertNotNull($same['against']);
        self::assertSame([0, 0.0], [$same['against']['better'], $same['against']['mean']]);
        self::assertEquals($same['courses']['best'], $same['courses']['before']);
    }

    public function test_what_cannot_be_followed_or_held_to_is_said(): void
    {
        $conditional = ['id' => 'x', 'name' => 'less with half', 'of' => 'fish', 'shape' => 'never-more', 'factors' => ['effort' => 0.5]];
        $choose = [['of' => 'effort', 'low' => 0.1, 'high' => 0.7]];
        foreach (
            [
                [['expect' => ['gone']], 'One of the expectations that must hold is gone'],
                [['expect' => ['x']], '“less with half” is expected under conditions of its own'],
                [['expect' => ['y']], 'What must hold cannot be checked'],
                [['sum' => [['of' => 'fish', 'kind' => 'apart']]], 'Say which course `fish` is to follow'],
                [['sum' => [['of' => 'fish', 'kind' => 'apart', 'from' => 'nothing']]], 'Say which course `fish` is to follow'],
            ] as [$fields, $sentence]
        ) {
            $study = self::study(PolicyTest::fishery(), [
                'expectations' => [$conditional, ['id' => 'y', 'of' => 'fish * nowhere', 'shape' => 'always']],
                'policies' => [['id' => 'p', 'name' => 'wanted', 'choose' => $choose, 'sum' => [['of' => 'catch']], ...$fields]],
            ]);
            $file = $this->file((string) json_encode($study), '.json');
            [$code, , $err] = self::orbit(['optimise', $file, '--policy=wanted']);
            self::assertContains($code, [2, 3]);
            self::assertStringContainsString($sentence, $err);
        }
    }
}
