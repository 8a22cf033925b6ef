<?php

declare(strict_types=1);

namespace Tests\Core;

use MerryOrbit\Core\Exchange\NativeFile;
use MerryOrbit\Core\Model\Method;
use MerryOrbit\Core\Model\Model;
use MerryOrbit\Core\Model\TimeSettings;
use MerryOrbit\Core\Uncertain\Nudge;
use PHPUnit\Framework\TestCase;

/** Every parameter down and up, against what each comes to by hand. */
final class NudgeTest extends TestCase
{
    use Commanded;
    use ShapedModels;

    /** A tank that is filled and drained at steady rates: at the end 100 + 10 · (filling − draining). */
    private static function tank(): Model
    {
        return Build::model(
            ['filling' => '5', 'draining' => '2', 'idle' => '7', 'nothing' => '0'],
            ['tank' => '100'],
            ['in' => ['filling + nothing', 'to' => 'tank'], 'out' => ['draining', 'from' => 'tank']],
            ['off' => '(filling - 5)^2'],
            new TimeSettings(0, 10, 0.5, 'year', Method::Euler),
        );
    }

    /** @return array{by: ?float, base: array<string, ?float>, effects: list<array{parameter: string, low: ?float, high: ?float, results: array<string, array{low: ?float, high: ?float}>, note?: string, kind?: string}>} */
    private function nudged(Model $model, string ...$words): array
    {
        [$code, $out, $err] = self::orbit([
            'nudge',
            $this->file(NativeFile::export($model), '.json'),
            '--format=json',
            ...array_values($words),
        ]);
        self::assertSame(0, $code, $err);
        /** @var array{by: ?float, base: array<string, ?float>, effects: list<array{parameter: string, low: ?float, high: ?float, results: array<string, array{low: ?float, high: ?float}>, note?: string, kind?: string}>} $read */
        $read = self::json($out);

        return $read;
    }

    public function test_each_parameter_goes_down_and_up_by_a_tenth_and_the_largest_effect_comes_first(): void
    {
        $told = $this->nudged(self::tank(), '--outcome=tank', '--outcome=off', '--outcome=tank@5');
        self::assertSame(0.1, $told['by']);
        self::assertEqualsWithDelta(['tank' => 130, 'off' => 0, 'tank@5' => 115], $told['base'], 1e-9);
        self::assertSame(['filling', 'draining', 'nothing', 'idle'], array_column($told['effects'], 'parameter'));
        [$filling, $draining, $nothing, $idle] = $told['effects'];
        self::assertEqualsWithDelta([4.5, 5.5], [$filling['low'], $filling['high']], 1e-12);
        self::assertEqualsWithDelta(
            [
                'tank' => ['low' => 125, 'high' => 135],
                'off' => ['low' => 0.25, 'high' => 0.25],
                'tank@5' => ['low' => 112.5, 'high' => 117.5],
            ],
            $filling['results'],
            1e-9,
        );
        self::assertEqualsWithDelta(['low' => 132, 'high' => 128], $draining['results']['tank'], 1e-9);
        // What is 0 goes by a tenth of its dial's range.
        self::assertEqualsWithDelta([-0.1, 0.1], [$nothing['low'], $nothing['high']], 1e-12);
        self::assertEqualsWithDelta(['low' => 129, 'high' => 131], $nothing['results']['tank'], 1e-9);
        self::assertStringContainsString('It is 0', $nothing['note'] ?? '');
        self::assertEqualsWithDelta(['low' => 130, 'high' => 130], $idle['results']['tank'], 1e-12);
    }

    public function test_other_shares_some_parameters_settings_and_processes(): void
    {
        $told = $this->nudged(
            self::tank(),
            '--by=50%',
            '--parameters=draining, filling',
            '--outcome=tank:mean',
            '--set',
            'draining=4',
            '--jobs=2',
        );
        self::assertCount(2, $told['effects']);
        // The mean of a straight course is that of its ends, by Euler half a step's flow less.
        self::assertEqualsWithDelta(100 + ((5 - 4) * (10 - 0.5)) / 2, $told['base']['tank:mean'], 1e-9);
        self::assertSame('filling', $told['effects'][0]['parameter']);
        self::assertEqualsWithDelta(2.0, $told['effects'][1]['low'], 1e-12);
        self::assertSame(
            $told,
            $this->nudged(
                self::tank(),
                '--by=0.5',
                '--parameters=draining,filling',
                '--outcome=tank:mean',
                '--set',
                'draining=4',
                '--jobs=1',
            ),
        );
    }

    public function test_plain_initial_values_and_curves_as_a_whole_can_be_nudged_too(): void
    {
        $model = self::after(
            self::tank(),
            ['kind' => 'add', 'id' => 'rise', 'element' => 'curve', 'name' => 'rise'],
            ['kind' => 'curve', 'id' => 'rise', 'points' => [[0, 1], [10, 3]]],
            ['kind' => 'add', 'id' => 'risen', 'element' => 'auxiliary', 'name' => 'risen', 'formula' => 'rise(5) + tank'],
        );
        $told = $this->nudged($model, '--also=initials,curves', '--outcome=risen');
        $by = array_column($told['effects'], null, 'parameter');
        self::assertSame('initial', $by['tank']['kind'] ?? '');
        self::assertEqualsWithDelta(['low' => 122, 'high' => 142], $by['tank']['results']['risen'], 1e-9);
        self::assertSame('curve', $by['rise']['kind'] ?? '');
        self::assertEqualsWithDelta(['low' => 131.8, 'high' => 132.2], $by['rise']['results']['risen'], 1e-9);
        self::assertNull($by['rise']['low']);
    }

    public function test_without_an_outcome_the_stocks_at_the_end_are_looked_at_and_people_read_a_table(): void
    {
        self::assertSame(['tank'], array_keys($this->nudged(self::tank())['base']));
        [$code, $out, $err] = self::orbit(['nudge', $this->file(NativeFile::export(self::tank()), '.json')]);
        self::assertSame(0, $code);
        self::assertMatchesRegularExpression('/filling +4\.5 → 125 +5\.5 → 135/', $out);
        self::assertStringContainsString('# nothing: It is 0', $err);
    }

    public function test_elements_are_outcomes_and_a_parameter_with_elements_goes_as_a_whole(): void
    {
        $model = self::model(
            [self::$terraces],
            [
                self::line('parameter', 'growth', '0.1', 'terrace'),
                self::line('stock', 'fish', '100', 'terrace'),
                [...self::line('flow', 'growing', 'fish * growth', 'terrace'), 'to' => 'fish'],
            ],
        );
        $told = $this->nudged($model, '--outcome=fish[north]', '--outcome=fish[south]:max');
        self::assertEqualsWithDelta(100 * 1.05 ** 8, $told['base']['fish[north]'], 1e-9);
        self::assertCount(1, $told['effects']);
        self::assertEqualsWithDelta(100 * 1.055 ** 8, $told['effects'][0]['results']['fish[north]']['high'], 1e-9);
        self::assertEqualsWithDelta(100 * 1.045 ** 8, $told['effects'][0]['results']['fish[south]:max']['low'], 1e-9);
        [$code, , $err] = self::orbit(['nudge', $this->file(NativeFile::export($model), '.json'), '--outcome=fish']);
        self::assertSame(3, $code);
        self::assertStringContainsString('name an element', $err);
    }

    public function test_a_run_that_meets_a_fault_is_null(): void
    {
        $model = Build::model(['a' => '1'], [], [], ['y' => 'sqrt(1 - a)'], new TimeSettings(0, 1, 1, 'year', Method::Euler));
        $told = $this->nudged($model, '--outcome=y');
        self::assertNull($told['effects'][0]['results']['y']['high']);
        self::assertEqualsWithDelta(sqrt(0.1), $told['effects'][0]['results']['y']['low'], 1e-12);
    }

    public function test_turns_of_a_course_are_counted_without_its_rounding(): void
    {
        self::assertSame(0, Nudge::turns([1.0, 2.0, 3.0, 3.0]));
        self::assertSame(1, Nudge::turns([1.0, 2.0, 1.0]));
        self::assertSame(0, Nudge::turns([0.0, 1.0, 0.999, 2.0]), 'less than a fiftieth is none');
        self::assertSame(5, Nudge::turns(array_map(static fn (int $i): float => cos((M_PI * $i) / 10), range(0, 60))));
        self::assertSame(0, Nudge::turns([]));
    }

    public function test_what_cannot_be_asked_is_said(): void
    {
        $file = $this->file(NativeFile::export(self::tank()), '.json');
        foreach (
            [
                [['--by=little'], '--by takes a share'],
                [['--parameters=tank'], 'no parameter `tank` to nudge'],
                [['--parameters=filing'], 'filling'],
                [['--outcome=tonk'], 'Nothing that a run computes is called `tonk`'],
                [['--also=flows'], '--also takes'],
            ] as [$words, $sentence]
        ) {
            [$code, , $err] = self::orbit(['nudge', $file, ...$words]);
            self::assertContains($code, [2, 3]);
            self::assertStringContainsString($sentence, $err);
        }
    }
}
