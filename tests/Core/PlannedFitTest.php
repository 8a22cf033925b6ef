<?php

declare(strict_types=1);

namespace Tests\Core;

use MerryOrbit\Core\Compile\ProgramStore;
use MerryOrbit\Core\Exchange\NativeFile;
use MerryOrbit\Core\Fit\Found;
use MerryOrbit\Core\Fit\Judged;
use MerryOrbit\Core\Fit\PlannedFit;
use MerryOrbit\Core\Fit\Report;
use MerryOrbit\Core\Fit\Sampled;
use MerryOrbit\Core\Law\Special;
use MerryOrbit\Core\Library\Chance;
use MerryOrbit\Core\Model\FitPlan;
use MerryOrbit\Core\Model\Measured;
use MerryOrbit\Core\Model\Method;
use MerryOrbit\Core\Model\Model;
use MerryOrbit\Core\Model\PolicyPlan;
use MerryOrbit\Core\Model\Setting;
use MerryOrbit\Core\Model\TimeSettings;
use MerryOrbit\Core\Problem\NotUnderstood;
use MerryOrbit\Core\Simulate\Simulator;
use PHPUnit\Framework\Attributes\DataProvider;
use PHPUnit\Framework\TestCase;

/** Calibrations of a study: what each kind of misses counts, sizes of errors that are looked for, what is held back, trials, going on. */
final class PlannedFitTest extends TestCase
{
    use Commanded;

    private const VALUES = [3.0, 5.0, 4.0, 9.0, 4.0, 0.5, 31.0, 6.0];

    private static function simulator(): Simulator
    {
        return new Simulator(ProgramStore::ofUser());
    }

    /** @param  array<string, Measured>  $evidence */
    private static function level(array $evidence): Model
    {
        return Build::model(
            ['level' => '7', 'slope' => '1'],
            ['filled' => '0'],
            ['inflow' => ['slope', 'to' => 'filled']],
            ['flat' => 'level', 'rising' => 'level + filled'],
            time: new TimeSettings(0, 40, 1, 'day', Method::Euler),
        )->with(['evidence' => $evidence]);
    }

    /**
     * @param  list<float>  $values
     * @param  array<string, mixed>  $fields
     */
    private static function measured(Model $model, string $id, string $of, array $values, array $fields = []): Measured
    {
        $points = array_map(static fn (int $i, float $v): array => [(float) $i, $v], array_keys($values), $values);

        return Measured::read(['id' => $id, 'of' => (string) $model->idOf($of), 'points' => $points, ...$fields]);
    }

    /**
     * @param  list<string>  $free
     * @param  array<string, mixed>  $fields
     */
    private static function planned(Model $model, array $free, array $fields = []): PlannedFit
    {
        $plan = FitPlan::read([
            'id' => 'c',
            'name' => 'try',
            'free' => array_map(
                static fn (string $f): array => ['of' => (string) $model->idOf($f), 'low' => 0.01, 'high' => 100.0],
                $free,
            ),
            'starts' => 2,
            ...$fields,
        ]);

        return PlannedFit::of(self::simulator(), $model, new Setting(), $plan);
    }

    /** @return non-empty-list<Found> */
    private static function found(PlannedFit $fit): array
    {
        $found = [];
        for ($start = 0; $start < $fit->starts(); $start++) {
            $walk = $fit->search($start);
            while ($walk->valid()) {
                $walk->send($fit->runs($walk->current()));
            }
            $found[] = $walk->getReturn();
        }

        return $found === [] ? throw new \LogicException() : $found;
    }

    /** @param  \Closure(float): float  $falling */
    private static function root(\Closure $falling): float
    {
        [$low, $high] = [0.1, 60.0];
        for ($i = 0; $i < 200; $i++) {
            $middle = 0.5 * ($low + $high);
            [$low, $high] = $falling($middle) > 0.0 ? [$middle, $high] : [$low, $middle];
        }

        return $low;
    }

    /**
     * @param  \Closure(float): float  $psi
     * @return \Closure(float): float what has to be 0 at the level that is most likely, errors being 2
     */
    private static function summed(\Closure $psi): \Closure
    {
        return static function (float $level) use ($psi): float {
            $sum = 0.0;
            foreach (self::VALUES as $v) {
                $sum += $psi(($v - $level) / 2.0);
            }

            return $sum;
        };
    }

    /** @return iterable<string, array{string, float, array<string, mixed>}> the level that is most likely, in closed form or as a root */
    public static function middles(): iterable
    {
        $mean = array_sum(self::VALUES) / count(self::VALUES);
        $geometric = exp(array_sum(array_map(log(...), self::VALUES)) / count(self::VALUES));
        yield 'normal, of known size' => ['normal', $mean, ['error' => 2.0]];
        yield 'normal, of unknown size' => ['normal', $mean, []];
        yield 'factors of known size' => [
            'factor',
            exp(
                array_sum(array_map(static fn (float $v): float => $v ** 2 * log($v), self::VALUES)) /
                    array_sum(array_map(static fn (float $v): float => $v ** 2, self::VALUES)),
            ),
            ['error' => 0.2],
        ];
        yield 'factors of unknown size' => ['factor', $geometric, []];
        yield 'counts' => ['count', $mean, []];
        yield 'counts in clusters' => ['clustered', $mean, []];
        $huber = static fn (float $r): float => max(-1.345, min(1.345, $r));
        yield 'outliers' => ['outliers', self::root(self::summed($huber)), ['error' => 2.0]];
        $student = static fn (float $r): float => $r / (1.0 + $r ** 2 / 4.0);
        yield 'long tails' => ['tails', self::root(self::summed($student)), ['error' => 2.0]];
    }

    /** @param  array<string, mixed>  $fields */
    #[DataProvider('middles')]
    public function test_each_kind_of_misses_has_its_own_middle(string $kind, float $middle, array $fields): void
    {
        $model = self::level([]);
        $model = self::level(['e' => self::measured($model, 'e', 'flat', self::VALUES, $fields)]);
        $fit = self::planned($model, ['level'], ['to' => [['evidence' => 'e', 'misses' => $kind]]]);
        $fitted = $fit->fitted(self::found($fit));

        self::assertEqualsWithDelta($middle, $fitted->point[0], 1e-5 * $middle);
    }

    public function test_counts_have_the_error_of_counts(): void
    {
        $model = self::level([]);
        $counts = [3.0, 5.0, 4.0, 9.0, 4.0, 0.0, 7.0, 6.0];
        $model = self::level(['e' => self::measured($model, 'e', 'flat', $counts)]);
        $fit = self::planned($model, ['level'], ['to' => [['evidence' => 'e', 'misses' => 'count']]]);
        $fitted = $fit->fitted(self::found($fit));

        // Fisher's information of a Poisson mean is n ÷ mean; slopes of the roots of deviances come near to it.
        self::assertEqualsWithDelta(sqrt(array_sum($counts) / 8 / 8), $fitted->errors[0] ?? NAN, 0.05);
    }

    /** Two series of other sizes, neither known: sizes and numbers together are where the likelihood is greatest. */
    public function test_sizes_of_errors_are_looked_for_with_the_numbers(): void
    {
        $model = self::level([]);
        $noise = static fn (string $of, int $i): float => Special::normalQuantile(Chance::uniform(5, $of, $i));
        $flat = array_map(static fn (int $i): float => 12.0 + 0.5 * $noise('flat', $i), range(0, 30));
        $rising = array_map(static fn (int $i): float => 12.4 + 2.0 * $i + 20.0 * $noise('rising', $i), range(0, 30));
        $model = self::level([
            'a' => self::measured($model, 'a', 'flat', $flat),
            'b' => self::measured($model, 'b', 'rising', $rising),
        ]);
        $fit = self::planned($model, ['level', 'slope']);
        [$level, $slope] = $fit->fitted(self::found($fit))->point;

        // By turns in closed form: the sizes given the numbers, the numbers given the sizes.
        [$a, $b] = [10.0, 1.0];
        for ($turn = 0; $turn < 300; $turn++) {
            $v = $w = 0.0;
            foreach ($flat as $i => $y) {
                $v += ($y - $a) ** 2 / 31;
                $w += ($rising[$i] - $a - $b * $i) ** 2 / 31;
            }
            // Normal equations of weighted least squares.
            [$aa, $ab, $bb, $ya, $yb] = [0.0, 0.0, 0.0, 0.0, 0.0];
            foreach ($flat as $i => $y) {
                $aa += 1 / $v + 1 / $w;
                $ab += $i / $w;
                $bb += $i ** 2 / $w;
                $ya += $y / $v + $rising[$i] / $w;
                $yb += ($i * $rising[$i]) / $w;
            }
            [$a, $b] = [($ya * $bb - $yb * $ab) / ($aa * $bb - $ab ** 2), ($aa * $yb - $ab * $ya) / ($aa * $bb - $ab ** 2)];
        }
        self::assertEqualsWithDelta($a, $level, 1e-5 * $a);
        self::assertEqualsWithDelta($b, $slope, 1e-4 * $b);
        $sizes = (array) Report::of(self::simulator(), $fit, $fit->fitted(self::found($fit)))['sizes'];
        self::assertEqualsWithDelta(sqrt($v), $sizes['a'], 1e-3 * sqrt($v));
        self::assertEqualsWithDelta(sqrt($w), $sizes['b'], 1e-3 * sqrt($w));
    }

    public function test_a_weight_counts_as_so_many_measurements(): void
    {
        $model = self::level([]);
        $model = self::level([
            'a' => self::measured($model, 'a', 'flat', [4.0, 6.0], ['error' => 1.0, 'weight' => 3.0]),
            'b' => self::measured($model, 'b', 'flat', [10.0, 12.0], ['error' => 2.0]),
        ]);
        $fit = self::planned($model, ['level']);

        self::assertEqualsWithDelta((6 * 5.0 + (2 / 4) * 11.0) / (6 + 2 / 4), $fit->fitted(self::found($fit))->point[0], 1e-7);
    }

    public function test_what_is_held_back_does_not_count_but_is_judged_by(): void
    {
        $model = self::level([]);
        $wobble = static fn (int $i): float => ($i % 3) - 1.0;
        $values = array_map(static fn (int $i): float => ($i <= 20 ? 10.0 : 14.0) + $wobble($i), range(0, 29));
        $model = self::level(['e' => self::measured($model, 'e', 'flat', $values)]);
        $fit = self::planned($model, ['level'], ['until' => 20.0]);
        $fitted = $fit->fitted(self::found($fit));
        self::assertSame(21, $fit->points());
        self::assertEqualsWithDelta(10.0, $fitted->point[0], 1e-6);
        $judged = Judged::of(self::simulator(), $fit, $fitted->point);
        self::assertSame([21, 9], [$judged?->series[0]['counted']->n, $judged?->series[0]['held']->n]);
        self::assertEqualsWithDelta(-4.0, $judged?->series[0]['held']->meanError, 1e-6);
        $told = implode(' ', Report::of(self::simulator(), $fit, $fitted)['sentences']);
        self::assertStringContainsString('missed farther than the rest: `flat` (5 times as far)', $told);
    }

    public function test_misses_that_follow_each_other_are_told(): void
    {
        $model = self::level([]);
        $values = array_map(static fn (int $i): float => 10.0 + sin($i / 3.0), range(0, 38));
        $model = self::level(['e' => self::measured($model, 'e', 'flat', $values)]);
        $fit = self::planned($model, ['level']);
        $told = implode(' ', Report::of(self::simulator(), $fit, $fit->fitted(self::found($fit)))['sentences']);

        self::assertStringContainsString('The misses of `flat` follow each other', $told);
    }

    public function test_what_the_model_makes_itself_is_found_again(): void
    {
        $model = self::level([]);
        $model = self::level([
            'a' => self::measured($model, 'a', 'flat', array_fill(0, 30, 999.0), ['error' => 0.4]),
            'b' => self::measured($model, 'b', 'rising', array_fill(0, 30, 999.0)),
        ]);
        $fit = self::planned($model, ['level', 'slope'], ['trial' => true, 'starts' => 3]);
        $report = Report::of(self::simulator(), $fit, $fit->fitted(self::found($fit)));

        self::assertSame('Found again: all 2 intervals hold the value that the data were made with.', $report['sentences'][0]);
        self::assertEqualsWithDelta([7.0, 1.0], $report['point'], 0.3);
        // The noise is as large as the error that is known; else a tenth of the swing.
        $made = array_column($fit->measured['a']->points, 1);
        $sd = sqrt(array_sum(array_map(static fn (float $v): float => ($v - 7.0) ** 2, $made)) / 30);
        self::assertGreaterThan(0.25, $sd);
        self::assertLessThan(0.6, $sd);
    }

    /** Normal errors and a normal belief: both are weighted by their precision, in the search and in the draws. */
    public function test_what_was_known_before_counts_by_its_precision(): void
    {
        $model = self::level([]);
        $model = self::level(['e' => self::measured($model, 'e', 'flat', self::VALUES, ['error' => 4.0])]);
        $free = [['of' => (string) $model->idOf('level'), 'low' => 0.01, 'high' => 100.0, 'law' => 'normal(12, 1.5)']];
        $fit = self::planned($model, [], ['free' => $free]);
        $precision = 8 / 16 + 1 / 2.25;
        $middle = ((array_sum(self::VALUES) / 8) * (8 / 16) + 12 / 2.25) / $precision;
        $fitted = $fit->fitted(self::found($fit));
        self::assertEqualsWithDelta($middle, $fitted->point[0], 1e-5);
        self::assertEqualsWithDelta(1 / sqrt($precision), $fitted->errors[0] ?? NAN, 1e-4);

        $chains = [];
        for ($chain = 0; $chain < 4; $chain++) {
            $walk = $fit->chain($fitted->point, $chain, 1_500);
            while ($walk->valid()) {
                $walk->send($fit->runs($walk->current()));
            }
            $chains[] = $walk->getReturn();
        }
        [$one] = (new Sampled($fit->numbers(), $chains, 1_500))->parameters();
        self::assertEqualsWithDelta($middle, $one['mean'], 0.05);
        self::assertEqualsWithDelta(1 / sqrt($precision), $one['sd'], 0.04);
        self::assertLessThan(1.01, $one['rhat']);
    }

    /** A restart: another one is told what the first one was told, and goes on as that would have. */
    public function test_a_search_goes_on_where_another_one_stood(): void
    {
        $model = self::level([]);
        $rising = array_map(static fn (int $i): float => 3.0 + 2.0 * $i + sin(7.0 * $i), range(0, 30));
        $model = self::level(['e' => self::measured($model, 'e', 'rising', $rising)]);
        foreach (FitPlan::WAYS as $using) {
            $fields = ['using' => $using, 'starts' => 2];
            $whole = self::found(self::planned($model, ['level', 'slope'], $fields))[1];
            $first = self::planned($model, ['level', 'slope'], $fields);
            $walk = $first->search(1);
            $told = [];
            for ($step = 0; $step < 4; $step++) {
                $told[] = $answer = $first->runs($walk->current());
                $walk->send($answer);
            }
            $second = self::planned($model, ['level', 'slope'], $fields);
            $walk = $second->search(1);
            foreach ($told as $answer) {
                $walk->send($answer);
            }
            while ($walk->valid()) {
                $walk->send($second->runs($walk->current()));
            }
            self::assertEquals($whole, $walk->getReturn());
            self::assertTrue($whole->isConverged, $using);
        }
    }

    /** @return iterable<string, array{list<string>, array<string, mixed>, string}> */
    public static function refusals(): iterable
    {
        yield 'nothing freed' => [[], [], 'Say first which numbers may move'];
        yield 'nothing in the period' => [['level'], ['from' => 35.0], 'Nothing was measured in the period'];
        yield 'no such evidence' => [['level'], ['to' => [['evidence' => 'gone']]], 'Nothing is measured of what the model computes'];
    }

    /**
     * @param  list<string>  $free
     * @param  array<string, mixed>  $fields
     */
    #[DataProvider('refusals')]
    public function test_what_cannot_be_fitted_says_why(array $free, array $fields, string $sentence): void
    {
        $model = self::level([]);
        $model = self::level(['e' => self::measured($model, 'e', 'flat', self::VALUES)]);
        $this->expectException(NotUnderstood::class);
        $this->expectExceptionMessage($sentence);
        self::planned($model, $free, $fields);
    }

    public function test_a_plan_comes_through_its_record_and_refuses_what_makes_no_sense(): void
    {
        $model = self::level([]);
        $record = [
            'id' => 'c1',
            'name' => 'Two series',
            'free' => [['of' => (string) $model->idOf('level'), 'low' => 0.5, 'high' => 8.0, 'log' => true]],
            'to' => [['evidence' => 'e1'], ['evidence' => 'e2', 'misses' => 'count']],
            'from' => 1.0,
            'until' => 20.0,
            'using' => 'evolution',
            'starts' => 4,
            'seed' => 9,
            'trial' => true,
        ];
        self::assertSame($record, FitPlan::read($record)->toRecord());
        self::assertNull(FitPlan::read($record)->unfit($model));
        $flat = ['of' => (string) $model->idOf('flat'), 'low' => 0.5, 'high' => 8.0];
        self::assertStringContainsString('computes `flat`', (string) FitPlan::read([...$record, 'free' => [$flat]])->unfit($model));
        self::assertStringContainsString(
            'freed already',
            (string) FitPlan::read([...$record, 'free' => [$record['free'][0], $record['free'][0]]])->unfit($model),
        );
        foreach ([['low' => 9.0, 'high' => 1.0], ['low' => -1.0, 'high' => 1.0, 'log' => true]] as $bounds) {
            try {
                FitPlan::read([...$record, 'free' => [['of' => 'level', ...$bounds]]]);
                self::fail('Bounds that make no sense were taken.');
            } catch (NotUnderstood $e) {
                self::assertMatchesRegularExpression('/bounds of a freed number|lower bound is -1/', $e->getMessage());
            }
        }
    }

    /** The study's own calibration and policy are commands, too: the same for any number of processes. */
    public function test_calibrations_of_a_study_are_carried_out_from_the_command_line(): void
    {
        $model = self::level([]);
        $model = self::level(['e' => self::measured($model, 'e', 'flat', [3.0, 5.0, 4.0, 6.0, 12.0], ['column' => 'Flat'])]);
        $plan = ['id' => 'c1', 'name' => 'How high', 'free' => [['of' => 'level', 'low' => 0.5, 'high' => 20.0]], 'until' => 3.0];
        $policy = [
            'id' => 'p1',
            'name' => 'Full',
            'choose' => [['of' => 'slope', 'low' => 0.0, 'high' => 3.0]],
            'sum' => [['of' => 'filled']],
            'limits' => [['of' => 'rising', 'kind' => 'max', 'number' => 87.0]],
        ];
        $model = $model->with(['calibrations' => ['c1' => FitPlan::read($plan)], 'policies' => ['p1' => PolicyPlan::read($policy)]]);
        $file = $this->file(NativeFile::export($model), '.json');
        $told = [];
        foreach ([1, 2] as $jobs) {
            [$code, $out, $err] = self::orbit(['fit', $file, '--calibration=how high', '--profile', '--format=json', "--jobs=$jobs"]);
            self::assertSame(0, $code, $err);
            $told[] = self::json($out);
        }
        self::assertEquals($told[0], $told[1]);
        /** @var array{n: int, parameters: list<array{value: float}>, series: list<array{n: int, variable: string}>, held: list<array{n: int, mean_error: float}>, profiles: list<array{name: string}>} $fit */
        $fit = $told[0];
        self::assertEqualsWithDelta(4.5, $fit['parameters'][0]['value'], 1e-6);
        self::assertSame(
            [4, 4, 1, 'flat', 'level'],
            [$fit['n'], $fit['series'][0]['n'], $fit['held'][0]['n'], $fit['series'][0]['variable'], $fit['profiles'][0]['name']],
        );
        self::assertEqualsWithDelta(-7.5, $fit['held'][0]['mean_error'], 1e-5);

        [$code, $out] = self::orbit(['posterior', $file, '--calibration=c1', '--draws=800', '--format=json']);
        /** @var array{draws: int, parameters: list<array{mean: float}>, sds: list<array{series: string, mean: float}>} $open */
        $open = self::json($out);
        self::assertSame([0, 800, 'flat'], [$code, $open['draws'], $open['sds'][0]['series']]);
        self::assertEqualsWithDelta(4.5, $open['parameters'][0]['mean'], 0.3);
        self::assertGreaterThan(0.9, $open['sds'][0]['mean']);

        // rising = level + filled, and fills for 40 days: at most 2 a day.
        [$code, $out] = self::orbit(['optimise', $file, '--policy=full', '--format=json']);
        /** @var array{value: float, choice: array{slope: float}, limits: list<array{binds: bool}>} $best */
        $best = self::json($out);
        self::assertEqualsWithDelta([0, 80.0, 2.0], [$code, $best['value'], $best['choice']['slope']], 1e-5);
        self::assertTrue($best['limits'][0]['binds']);
        foreach ([['fit', '--calibration=gone'], ['optimise', '--policy=gone']] as [$command, $word]) {
            [$code, , $err] = self::orbit([$command, $file, $word]);
            self::assertSame(2, $code);
            self::assertStringContainsString('`gone`', $err);
        }
    }
}
