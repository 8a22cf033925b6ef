<?php

declare(strict_types=1);

namespace Tests\Core;

use MerryOrbit\Core\Analysis\Analyser;
use MerryOrbit\Core\Edit\EditReader;
use MerryOrbit\Core\Edit\EditRefused;
use MerryOrbit\Core\Edit\RenameElement;
use MerryOrbit\Core\Exchange\NativeFile;
use MerryOrbit\Core\Model\Expectation;
use MerryOrbit\Core\Model\Method;
use MerryOrbit\Core\Model\Model;
use MerryOrbit\Core\Model\ModelRecord;
use MerryOrbit\Core\Model\Setting;
use MerryOrbit\Core\Model\TimeSettings;
use MerryOrbit\Core\Uncertain\Expectations;
use MerryOrbit\Core\Uncertain\ExpectationWords;
use MerryOrbit\Core\Uncertain\Extremes;
use PHPUnit\Framework\Attributes\DataProvider;
use PHPUnit\Framework\TestCase;

/**
 * Sentences that a model must satisfy: each shape true and false at its edge, on courses that are known.
 *
 * @phpstan-import-type Told from Expectations
 */
final class ExpectationTest extends TestCase
{
    use Commanded;

    /** A line, a parabola with its top 25 at 5, a course that settles, one that swings with period 4; over 10 years in steps of an eighth. */
    private static function model(): Model
    {
        return Build::model(
            ['slope' => '2', 'gain' => '1'],
            ['tank' => '100', 'heap' => '8'],
            ['out' => ['tank / 2', 'from' => 'tank'], 'in' => ['slope', 'to' => 'heap']],
            [
                'line' => 'slope * time',
                'hill' => '10 * time - time^2',
                'wave' => 'gain * sin(2 * 3.141592653589793 * time / 4)',
                'gone' => 'heap - 8 - 2 * time',
            ],
            new TimeSettings(0, 10, 0.125, 'year', Method::RungeKutta4, saveEvery: 2.5),
        );
    }

    /** @param  array<string, mixed>  $fields */
    private static function put(Model $model, array $fields, string $id = 'x'): Model
    {
        return EditReader::read(['kind' => 'put', 'part' => 'expectations', 'id' => $id, 'fields' => $fields])->apply($model);
    }

    /**
     * @param  array<string, mixed>  $fields
     * @return Told
     */
    private static function told(array $fields, ?Model $model = null): array
    {
        return Expectations::check(Build::simulator(), self::put($model ?? self::model(), $fields))[0];
    }

    /** @return iterable<string, array{array<string, mixed>, array<string, mixed>, ?float}> what just holds, what just does not, and when that shows */
    public static function edges(): iterable
    {
        yield 'never below' => [
            ['of' => 'line', 'shape' => 'never-below', 'value' => 0],
            ['of' => 'line', 'shape' => 'never-below', 'value' => 0.001],
            0.0,
        ];
        // The top lies between two saved moments.
        yield 'never above' => [
            ['of' => 'hill', 'shape' => 'never-above', 'value' => 25],
            ['of' => 'hill', 'shape' => 'never-above', 'value' => 24.999],
            5.0,
        ];
        yield 'never above, in a part of the time' => [
            ['of' => 'line', 'shape' => 'never-above', 'value' => 8, 'until' => 4],
            ['of' => 'line', 'shape' => 'never-above', 'value' => 8, 'until' => 4.125],
            4.125,
        ];
        yield 'within' => [
            ['of' => 'wave', 'shape' => 'within', 'value' => -1, 'high' => 1],
            ['of' => 'wave', 'shape' => 'within', 'value' => -0.99, 'high' => 1],
            3.0,
        ];
        yield 'near' => [
            ['of' => 'line + 1', 'shape' => 'near', 'other' => 'line', 'share' => 0.5, 'from' => 1],
            ['of' => 'line + 1', 'shape' => 'near', 'other' => 'line', 'share' => 0.499, 'from' => 1],
            1.0,
        ];
        yield 'always' => [['of' => 'hill >= 0', 'shape' => 'always'], ['of' => 'hill > 0', 'shape' => 'always'], 0.0];
        yield 'never' => [['of' => 'hill > 25', 'shape' => 'never'], ['of' => 'hill >= 25', 'shape' => 'never'], 5.0];
        yield 'reaches, from below' => [
            ['of' => 'line', 'shape' => 'reaches', 'value' => 10, 'until' => 5],
            ['of' => 'line', 'shape' => 'reaches', 'value' => 10, 'until' => 4.875],
            4.875,
        ];
        yield 'reaches, from above' => [
            ['of' => 'tank', 'shape' => 'reaches', 'value' => 100 * exp(-1), 'until' => 2.125],
            ['of' => 'tank', 'shape' => 'reaches', 'value' => 100 * exp(-1.01), 'until' => 2],
            2.0,
        ];
        yield 'rises' => [
            ['of' => 'hill', 'shape' => 'rises', 'until' => 5],
            ['of' => 'hill', 'shape' => 'rises', 'until' => 5.125],
            5.125,
        ];
        yield 'rises, but for a little' => [
            ['of' => 'hill', 'shape' => 'rises', 'until' => 6, 'share' => 0.04],
            ['of' => 'hill', 'shape' => 'rises', 'until' => 6, 'share' => 0.039],
            6.0,
        ];
        yield 'falls' => [['of' => 'tank', 'shape' => 'falls'], ['of' => 'hill', 'shape' => 'falls', 'from' => 4.875], 5.0];
        // Turns at 1, 3, 5, 7, 9.
        yield 'swings' => [
            ['of' => 'wave', 'shape' => 'swings', 'value' => 5],
            ['of' => 'wave', 'shape' => 'swings', 'value' => 6],
            null,
        ];
        // 100 e^(−t/2) is within 1 % of all it moves once it is below 1.667: at 8.19.
        yield 'comes to rest' => [
            ['of' => 'tank', 'shape' => 'rests', 'until' => 8.25, 'share' => 0.01],
            ['of' => 'tank', 'shape' => 'rests', 'until' => 8.0, 'share' => 0.01],
            8.0,
        ];
        yield 'peaks' => [
            ['of' => 'hill', 'shape' => 'peaks', 'from' => 5, 'until' => 5, 'share' => 1],
            ['of' => 'hill', 'shape' => 'peaks', 'from' => 5.125, 'until' => 9, 'share' => 1],
            5.0,
        ];
        yield 'falls behind its peak' => [
            ['of' => 'hill + 5', 'shape' => 'peaks', 'share' => 25 / 30],
            ['of' => 'hill + 5', 'shape' => 'peaks', 'share' => 0.84],
            5.0,
        ];
        yield 'never more than without' => [
            ['of' => 'line', 'shape' => 'never-more', 'factors' => ['slope' => 0.5]],
            ['of' => 'line', 'shape' => 'never-more', 'factors' => ['slope' => 1.5]],
            0.125,
        ];
        yield 'never less than without' => [
            ['of' => 'heap', 'shape' => 'never-less', 'starts' => ['heap' => 8]],
            ['of' => 'heap', 'shape' => 'never-less', 'starts' => ['heap' => 7.9]],
            0.0,
        ];
        yield 'under a condition' => [
            ['of' => 'line', 'shape' => 'never-above', 'value' => 10, 'when' => ['parameters' => ['slope' => 1]]],
            ['of' => 'line', 'shape' => 'never-above', 'value' => 10, 'when' => ['parameters' => ['slope' => 1.01]]],
            10.0,
        ];
        yield 'with something taken by hand' => [
            [
                'of' => 'heap',
                'shape' => 'never-above',
                'value' => 8,
                'when' => ['grips' => ['in' => ['signal' => 'constant', 'values' => ['value' => 0]]]],
            ],
            [
                'of' => 'heap',
                'shape' => 'never-above',
                'value' => 8,
                'when' => ['grips' => ['in' => ['signal' => 'constant', 'values' => ['value' => 1]]]],
            ],
            0.125,
        ];
        yield 'sound' => [['shape' => 'sound'], ['shape' => 'sound', 'factors' => ['slope' => -1]], 4.125];
    }

    /**
     * @param  array<string, mixed>  $true
     * @param  array<string, mixed>  $false
     */
    #[DataProvider('edges')]
    public function test_each_shape_holds_up_to_its_edge_and_not_beyond(array $true, array $false, ?float $at): void
    {
        $told = self::told($true);
        self::assertTrue($told['holds'], $told['sentence']);
        $told = self::told($false);
        self::assertFalse($told['holds'], $told['sentence']);
        self::assertEquals($at, $told['at'], $told['sentence']);
        // However seldom the run is saved, it is the same.
        foreach ([null, 0.125, 10.0] as $every) {
            $model = self::model();
            $model = $model->with(['time' => $model->time->with(['saveEvery' => $every])]);
            self::assertSame($told, self::told($false, $model));
            self::assertTrue(self::told($true, $model)['holds']);
        }
    }

    public function test_what_is_only_rounding_breaks_nothing(): void
    {
        // A heap that is filled by 2 a year, less what it should hold: sums leave a hair.
        self::assertTrue(self::told(['of' => 'heap', 'shape' => 'near', 'other' => '8 + 2 * time', 'share' => 0])['holds']);
        self::assertTrue(self::told(['of' => 'gone + heap', 'shape' => 'never-below', 'value' => 8])['holds']);
    }

    public function test_what_cannot_be_checked_says_why(): void
    {
        foreach (
            [
                [['of' => 'lines', 'shape' => 'never-below'], 'lines'],
                [['of' => 'line +', 'shape' => 'never-below'], ''],
                [['of' => 'line', 'shape' => 'never-above', 'value' => 1, 'from' => 20], 'no such times'],
                [['of' => 'line', 'shape' => 'rests', 'until' => 10, 'share' => 0.1], 'run ends before'],
            ] as [$fields, $words]
        ) {
            $told = self::told($fields);
            self::assertNotTrue($told['holds']);
            self::assertStringContainsString($words, $told['sentence']);
        }
        $told = self::told(['of' => '1 / (time - 5)', 'shape' => 'never-below', 'value' => -1e9]);
        self::assertFalse($told['holds'], 'a numeric fault breaks it');
        self::assertSame(5.0, $told['at']);
    }

    public function test_a_condition_that_cannot_be_met_is_told_and_not_passed_over(): void
    {
        $model = Build::model(
            ['slope' => '2'],
            ['tank' => '50 * slope'],
            ['out' => ['tank / 2', 'from' => 'tank']],
            [],
            new TimeSettings(0, 10, 0.125, 'year', Method::RungeKutta4),
        );
        $told = self::told(['of' => 'tank', 'shape' => 'never-above', 'value' => 200, 'starts' => ['tank' => 500]], $model);
        self::assertNull($told['holds']);
        self::assertStringContainsString('no plain number', $told['sentence']);
        foreach (
            ['when' => ['parameters' => ['gone' => 1]], 'factors' => ['gone' => 2], 'starts' => ['gone' => 2]] as $field => $condition
        ) {
            $told = self::told(['of' => 'tank', 'shape' => 'never-below', 'value' => 0, $field => $condition], $model);
            self::assertNull($told['holds'], $field);
            self::assertStringContainsString('not there any more', $told['sentence']);
        }
    }

    public function test_more_than_without_is_against_the_same_time_and_what_holds_for_all(): void
    {
        $all = [
            Expectation::read(['id' => 'x', 'of' => 'heap', 'shape' => 'never-more', 'factors' => ['slope' => 0.5]])->settled(
                self::model(),
            ),
        ];
        $base = new Setting(['slope' => 6.0], time: ['end' => 4.0]);
        self::assertTrue(Expectations::check(Build::simulator(), self::model(), $all, $base)[0]['holds']);
        $told = self::told(['of' => 'heap', 'shape' => 'never-more', 'factors' => ['slope' => 2], 'when' => ['time' => ['end' => 4]]]);
        self::assertSame([false, 0.125], [$told['holds'], $told['at']]);
    }

    /** A Latin hypercube of 200 has 50 slopes in each quarter of their range, so it is known in how many runs a limit is passed. */
    private static function uncertain(): Model
    {
        $law = ['kind' => 'put', 'part' => 'uncertain', 'id' => 'u', 'fields' => ['of' => 'slope', 'law' => 'uniform(0, 4)']];

        return EditReader::read($law)->apply(self::model());
    }

    public function test_over_all_runs_under_uncertainty_it_is_told_in_how_many_it_holds(): void
    {
        $limit = ['of' => 'line', 'shape' => 'never-above', 'value' => 30, 'runs' => 200];
        $told = self::told($limit, self::uncertain());
        self::assertFalse($told['holds']);
        self::assertStringStartsWith('It holds in 150 of 200 runs; at the worst, with slope ', $told['sentence']);
        self::assertSame(50, $told['worst']['failed'] ?? null);
        // The worst is the steepest, which is in the last of 200 strata.
        $slope = $told['worst']['values']['slope'] ?? 0.0;
        self::assertGreaterThan(3.98, $slope);
        self::assertEqualsWithDelta(10 * $slope - 30, $told['by'], 1e-9);
        // The edge of what is asked.
        self::assertTrue(self::told([...$limit, 'part' => 0.75], self::uncertain())['holds']);
        self::assertFalse(self::told([...$limit, 'part' => 0.7501], self::uncertain())['holds']);
        self::assertSame('It holds in all 200 runs.', self::told([...$limit, 'value' => 40], self::uncertain())['sentence']);
    }

    public function test_conditions_stand_over_what_is_drawn_and_are_held_against_the_same_draws(): void
    {
        $model = self::uncertain();
        $limit = ['of' => 'line', 'shape' => 'never-above', 'value' => 30, 'runs' => 200];
        // Half the slope is at most 2; one slope for all leaves nothing to be drawn.
        self::assertTrue(self::told([...$limit, 'factors' => ['slope' => 0.5], 'value' => 20], $model)['holds']);
        self::assertSame(
            'It holds in 100 of 200 runs',
            substr(self::told([...$limit, 'factors' => ['slope' => 0.5], 'value' => 10], $model)['sentence'], 0, 27),
        );
        self::assertTrue(self::told([...$limit, 'when' => ['parameters' => ['slope' => 3]]], $model)['holds']);
        self::assertFalse(self::told([...$limit, 'when' => ['parameters' => ['slope' => 3.01]]], $model)['holds']);
        $more = ['of' => 'line', 'shape' => 'never-more', 'runs' => 200];
        self::assertTrue(self::told([...$more, 'factors' => ['slope' => 0.99]], $model)['holds'], 'run by run, whatever is drawn');
        self::assertSame(200, self::told([...$more, 'factors' => ['slope' => 1.01]], $model)['worst']['failed'] ?? null);
    }

    public function test_a_factor_is_of_what_the_setting_says(): void
    {
        // Half of a slope of 8 is 4: at time 10 the line is at 40.
        foreach ([[40.0, true], [39.9, false]] as [$value, $holds]) {
            $limit = ['of' => 'line', 'shape' => 'never-above', 'value' => $value, 'factors' => ['slope' => 0.5]];
            $base = new Setting(['slope' => 8.0]);
            $told = Expectations::check(Build::simulator(), self::put(self::uncertain(), $limit), base: $base)[0];
            self::assertSame($holds, $told['holds']);
        }
    }

    public function test_without_uncertainty_or_time_runs_are_not_passed_as_right(): void
    {
        $limit = ['of' => 'line', 'shape' => 'never-above', 'value' => 40, 'runs' => 200];
        self::assertNull(self::told($limit)['holds']);
        self::assertStringContainsString('Nothing is uncertain', self::told($limit)['sentence']);
        $late = Expectations::check(Build::simulator(), self::put(self::uncertain(), $limit), until: 1)[0];
        self::assertNull($late['holds']);
        self::assertStringContainsString('time was up', $late['sentence']);
        $analysis = Analyser::analyse(self::uncertain());
        $e = Expectation::read([...$limit, 'id' => 'x', 'part' => 0.95])->settled(self::uncertain());
        self::assertSame('In 95 % of 200 runs under uncertainty, line must never be above 40.', ExpectationWords::of($analysis, $e));
    }

    public function test_it_is_part_of_the_document_by_id_and_of_files_by_name(): void
    {
        $model = self::put(self::model(), [
            'of' => 'line + heap',
            'shape' => 'near',
            'other' => 'line',
            'share' => 0.1,
            'factors' => ['slope' => 0.5],
            'starts' => ['heap' => 0],
        ]);
        $model = (new RenameElement('heap', 'the pile'))->apply($model);
        $again = ModelRecord::toModel(ModelRecord::of($model));
        $e = $again->part('expectations')['x'];
        self::assertInstanceOf(Expectation::class, $e);
        self::assertSame(
            'line + "the pile"',
            str_replace('the pile', '"the pile"', str_replace('"', '', $e->of->text($again->nameOf(...)))),
        );
        $file = NativeFile::export($model);
        self::assertStringContainsString('the pile', $file);
        $read = NativeFile::import($file)->model;
        $same = $read->part('expectations')['x'];
        self::assertInstanceOf(Expectation::class, $same);
        self::assertSame($e->of->text($again->nameOf(...)), $same->of->text($read->nameOf(...)));
        self::assertSame([$e->factors, $e->starts, $e->share], [$same->factors, $same->starts, $same->share]);
        self::assertSame(
            'When slope is halved and the pile starts at 0, line + the pile must stay within 10 % of line.',
            str_replace('"', '', ExpectationWords::of(Analyser::analyse($again), $e)),
        );
    }

    public function test_what_makes_no_sense_is_refused_with_a_sentence(): void
    {
        foreach (
            [
                [['shape' => 'never-below'], 'Say which'],
                [['of' => 'line', 'shape' => 'near'], 'stay near'],
                [['of' => 'line', 'shape' => 'within', 'value' => 2, 'high' => 1], 'below the lower'],
                [['of' => 'line', 'shape' => 'never-more'], 'Say what is changed'],
                [['of' => 'line', 'shape' => 'rises', 'from' => 4, 'until' => 3], 'ends before it begins'],
                [['of' => 'line', 'shape' => 'jumps'], 'is one of'],
            ] as [$fields, $words]
        ) {
            try {
                self::put(self::model(), $fields);
                self::fail("Nothing was said of $words.");
            } catch (EditRefused $e) {
                self::assertStringContainsString($words, $e->getMessage());
            }
        }
    }

    public function test_extreme_conditions_are_proposed_once_and_find_what_breaks(): void
    {
        $model = self::model();
        $proposed = Extremes::of(Analyser::analyse($model));
        // One of the model as it is, three of each parameter, two of each stock, one of the stock that is filled from outside.
        self::assertCount(1 + 2 * 3 + 2 * 2 + 1, $proposed);
        foreach ($proposed as $i => $fields) {
            $model = self::put($model, $fields, "p$i");
        }
        self::assertSame([], Extremes::of(Analyser::analyse($model)));
        $told = Expectations::check(Build::simulator(), $model);
        self::assertSame([], array_filter($told, static fn (array $t): bool => $t['holds'] !== true));
        $broken = Build::model(['people' => '4'], ['bread' => '10'], [], ['each' => 'bread / people']);
        $told = array_map(static fn (array $fields): array => self::told($fields, $broken), Extremes::of(Analyser::analyse($broken)));
        $fails = array_values(array_filter($told, static fn (array $t): bool => $t['holds'] !== true));
        self::assertCount(1, $fails, 'with no people');
        self::assertStringContainsString('each', $fails[0]['sentence']);
    }

    public function test_the_command_tells_all_and_ends_with_3_if_one_does_not_hold(): void
    {
        $model = self::put(self::model(), ['of' => 'line', 'shape' => 'never-below', 'value' => 0], 'a');
        $file = fn (Model $m): string => $this->file(NativeFile::export($m), '.json');
        [$code, $out] = self::orbit(['expect', $file($model), '--format=json']);
        self::assertSame(0, $code);
        self::assertEquals(
            [['name' => 'Line must never be below 0.', 'holds' => true, 'at' => null, 'sentence' => 'It holds.']],
            self::json($out)['expectations'] ?? null,
        );
        $model = self::put(
            $model,
            ['of' => 'tank', 'shape' => 'never-below', 'value' => 50, 'name' => 'half is left', 'place' => 1],
            'b',
        );
        [$code, $out] = self::orbit(['expect', $file($model), '--format=json']);
        self::assertSame(3, $code);
        /** @var list<array{name: string, holds: bool, at: float, sentence: string}> $told */
        $told = self::json($out)['expectations'] ?? [];
        self::assertSame(['half is left', false, 1.5], [$told[1]['name'], $told[1]['holds'], (float) $told[1]['at']]);
        self::assertStringContainsString('Tank: 47.24 at year 1.5, below 50', $told[1]['sentence']);
        [$code, $out] = self::orbit(['expect', $file($model), '--end=1']);
        self::assertSame(0, $code, $out);
        self::assertStringContainsString('holds   half is left', $out);
        [$code, $out] = self::orbit(['expect', $file(self::model())]);
        self::assertSame([0, "Nothing is expected of this model.\n"], [$code, $out]);
    }
}
