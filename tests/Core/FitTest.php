<?php

declare(strict_types=1);

namespace Tests\Core;

use MerryOrbit\Core\Exchange\NativeFile;
use MerryOrbit\Core\Fit\Evolution;
use MerryOrbit\Core\Fit\Found;
use MerryOrbit\Core\Fit\Freed;
use MerryOrbit\Core\Fit\LeastSquares;
use MerryOrbit\Core\Fit\Search;
use MerryOrbit\Core\Fit\Simplex;
use MerryOrbit\Core\Fit\Symmetric;
use MerryOrbit\Core\Law\Special;
use MerryOrbit\Core\Model\Method;
use MerryOrbit\Core\Model\Model;
use MerryOrbit\Core\Model\TimeSettings;
use PHPUnit\Framework\Attributes\DataProvider;
use PHPUnit\Framework\TestCase;

/**
 * Calibration: certified problems, hard ones, bounds, what cannot be told, and faults that are walls.
 *
 * @phpstan-type Told array{converged: bool, objective: ?float, rss: float, residual_sd: float, correlations: ?list<list<float>>,
 *     remarks: list<string>, series: list<array{n: int}>, parameters: list<array{name: string, value: float, standard_error: ?float,
 *     low: float, high: float, at_bound: bool}>}
 */
final class FitTest extends TestCase
{
    use Commanded;

    /** Misra1a and Rat42 of the statistical reference data sets of NIST (public domain), as the differential equations that they solve. */
    private const MISRA = [
        [77.6, 10.07],
        [114.9, 14.73],
        [141.1, 17.94],
        [190.8, 23.93],
        [239.9, 29.61],
        [289, 35.18],
        [332.8, 40.02],
        [378.4, 44.82],
        [434.8, 50.76],
        [477.3, 55.05],
        [536.8, 61.01],
        [593.1, 66.4],
        [689.1, 75.47],
        [760, 81.78],
    ];

    private const RAT = [
        [9, 8.93],
        [14, 10.8],
        [21, 18.59],
        [28, 22.33],
        [42, 39.35],
        [57, 56.11],
        [63, 61.73],
        [70, 64.62],
        [79, 67.08],
    ];

    private static function misra(): Model
    {
        return Build::model(
            ['b1' => '250', 'b2' => '0.0005'],
            ['taken up' => '0'],
            ['uptake' => ['b2 * (b1 - taken up)', 'to' => 'taken up']],
            time: new TimeSettings(0, 800, 0.1, 'hour', Method::RungeKutta4),
        );
    }

    private static function rat(): Model
    {
        return Build::model(
            ['b1' => '75', 'b2' => '2.5', 'b3' => '0.07'],
            ['pasture' => 'b1 / (1 + exp(b2))'],
            ['growth' => ['b3 * pasture * (1 - pasture / b1)', 'to' => 'pasture']],
            time: new TimeSettings(0, 80, 0.125, 'day', Method::RungeKutta4),
        );
    }

    /** @param  list<array{float|int, float|int}>  $points */
    private static function csv(string $name, array $points): string
    {
        return "time,$name\n".implode('', array_map(static fn (array $p): string => "$p[0],$p[1]\n", $points));
    }

    /**
     * @param  list<array{float|int, float|int}>  $points
     * @param  list<string>  $words
     * @return Told
     */
    private function fit(Model $model, string $name, array $points, array $words): array
    {
        $files = [$this->file(NativeFile::export($model), '.json'), $this->file(self::csv($name, $points))];
        [$code, $out, $err] = self::orbit(['fit', $files[0], "--data=$files[1]", '--format=json', ...$words]);
        self::assertSame(0, $code, $err);

        /** @var Told */
        return self::json($out);
    }

    /** @return iterable<string, array{string, list<string>, list<string>}> ways, and where they begin */
    public static function ways(): iterable
    {
        foreach (['least-squares', 'simplex', 'evolution'] as $way) {
            yield "$way from the first published start" => [
                $way,
                ['--set=b1=500', '--set=b2=0.0001'],
                ['--set=b1=100', '--set=b2=1', '--set=b3=0.1'],
            ];
        }
        yield 'from the second one' => ['least-squares', [], []];
        yield 'from a corner' => ['least-squares', ['--set=b1=1000', '--set=b2=0.01'], ['--set=b1=200', '--set=b2=10', '--set=b3=1']];
    }

    /**
     * @param  list<string>  $misra
     * @param  list<string>  $rat
     */
    #[DataProvider('ways')]
    public function test_certified_values_are_found(string $way, array $misra, array $rat): void
    {
        $starts = $misra === [] || (count($misra) === 2 && $misra[0] !== '--set=b1=1000') ? 1 : 10;
        $told = $this->fit(self::misra(), 'taken up', self::MISRA, [
            '--free=b1=10..1000',
            '--free=b2=0.00001..0.01',
            "--using=$way",
            "--starts=$starts",
            ...$misra,
        ]);
        self::assertTrue($told['converged']);
        $this->assertCertified($told, [[238.94212918, 2.7070075241], [5.5015643181e-4, 7.2668688436e-6]], 0.12455138894, 0.1018787633);
        $told = $this->fit(self::rat(), 'pasture', self::RAT, [
            '--free=b1=10..200',
            '--free=b2=0..10',
            '--free=b3=0.001..1',
            "--using=$way",
            "--starts=$starts",
            ...$rat,
        ]);
        $this->assertCertified(
            $told,
            [[72.462237576, 1.7340283401], [2.6180768402, 0.088295217536], [0.067359200066, 0.0034465663377]],
            8.0565229338,
            1.1587725499,
        );
    }

    /**
     * @param  Told  $told
     * @param  list<array{float, float}>  $certified
     */
    private function assertCertified(array $told, array $certified, float $rss, float $sd): void
    {
        foreach ($certified as $j => [$value, $error]) {
            $p = $told['parameters'][$j];
            self::assertEqualsWithDelta($value, $p['value'], 1e-6 * $value, $p['name']);
            self::assertEqualsWithDelta($error, $p['standard_error'], 0.01 * $error, $p['name']);
            // Student's t with what is free: 12 and 6.
            $width = [2.17881283, 2.446911851][count($certified) - 2] * $error;
            self::assertEqualsWithDelta($value - $width, $p['low'], 0.02 * $width);
            self::assertEqualsWithDelta($value + $width, $p['high'], 0.02 * $width);
        }
        self::assertEqualsWithDelta($rss, $told['rss'], 1e-6 * $rss);
        self::assertEqualsWithDelta($rss, $told['objective'], 1e-6 * $rss);
        self::assertEqualsWithDelta($sd, $told['residual_sd'], 1e-6 * $sd);
    }

    /**
     * @param  \Closure(float, float): list<float>  $gaps
     * @param  list<float>  $start
     */
    private static function found(Search $search, \Closure $gaps, array $start): Found
    {
        $walk = $search->from($start);
        while ($walk->valid()) {
            $walk->send(array_map(static fn (array $p): array => $gaps($p[0], $p[1]), $walk->current()));
        }

        return $walk->getReturn();
    }

    /** @return iterable<string, array{\Closure(float, float): list<float>, list<Freed>, list<float>, list<float>}> */
    public static function valleys(): iterable
    {
        // Collected in J. J. Moré, B. S. Garbow, K. E. Hillstrom, "Testing unconstrained optimization software" (1981).
        yield 'Rosenbrock' => [
            static fn (float $x, float $y): array => [10.0 * ($y - $x * $x), 1.0 - $x],
            [new Freed('x', 'x', -1.2, -5, 5), new Freed('y', 'y', 1, -5, 5)],
            [-1.2, 1.0],
            [1.0, 1.0],
        ];
        yield 'Beale' => [
            static fn (float $x, float $y): array => [1.5 - $x * (1 - $y), 2.25 - $x * (1 - $y ** 2), 2.625 - $x * (1 - $y ** 3)],
            [new Freed('x', 'x', 1, -4.5, 4.5), new Freed('y', 'y', 1, -4.5, 4.5)],
            [1.0, 1.0],
            [3.0, 0.5],
        ];
        yield 'Brown, badly scaled' => [
            static fn (float $x, float $y): array => [$x - 1e6, $y - 2e-6, $x * $y - 2.0],
            [new Freed('x', 'x', 1e5, 1, 1e7), new Freed('y', 'y', 1e-5, 0, 1e-4)],
            [1e5, 1e-5],
            [1e6, 2e-6],
        ];
    }

    /**
     * @param  \Closure(float, float): list<float>  $gaps
     * @param  list<Freed>  $freed
     * @param  list<float>  $start
     * @param  list<float>  $end
     */
    #[DataProvider('valleys')]
    public function test_hard_valleys_are_walked_to_their_end(\Closure $gaps, array $freed, array $start, array $end): void
    {
        foreach ([new LeastSquares($freed), new Simplex($freed), new Evolution($freed, 1)] as $search) {
            $found = self::found($search, $gaps, $start);
            foreach ($end as $j => $value) {
                $off = $search instanceof LeastSquares ? 1e-7 : 1e-4;
                self::assertEqualsWithDelta($value, $found->point[$j], $off * abs($value), $search::class);
            }
            self::assertTrue($found->isConverged, $search::class);
        }
    }

    public function test_what_wants_beyond_its_bound_stands_there_and_says_so(): void
    {
        $line = self::line();
        $points = array_map(static fn (int $t): array => [$t, 3.0 * $t + 1.0], range(0, 10));
        $told = $this->fit($line, 'height', $points, ['--free=slope=0..2', '--free=foot=-50..50']);
        self::assertTrue($told['converged']);
        self::assertEquals(2.0, $told['parameters'][0]['value']);
        self::assertTrue($told['parameters'][0]['at_bound']);
        // The best foot for a slope of 2: the mean of what is left.
        self::assertEqualsWithDelta(6.0, $told['parameters'][1]['value'], 1e-7);
        self::assertStringContainsString('`slope` is at its bound, 2', implode(' ', $told['remarks']));
    }

    private static function line(): Model
    {
        return Build::model(
            ['slope' => '1', 'foot' => '0', 'other' => '1'],
            ['kept' => '5'],
            [],
            ['height' => 'foot + slope * time', 'sum' => '(slope + other) * time'],
            new TimeSettings(0, 10, 0.5, 'year', Method::Euler),
        );
    }

    public function test_a_straight_line_has_the_errors_of_the_textbook(): void
    {
        $points = array_map(static fn (int $t): array => [$t, 2.0 + 0.7 * $t + [0.3, -0.2, 0.1, 0.4, -0.5, 0.2][$t % 6]], range(0, 10));
        $told = $this->fit(self::line(), 'height', $points, ['--free=slope=-5..5', '--free=foot=-50..50', '--starts=1']);
        [$t, $y] = [array_column($points, 0), array_column($points, 1)];
        $n = count($t);
        [$mt, $my] = [array_sum($t) / $n, array_sum($y) / $n];
        $stt = array_sum(array_map(static fn (int $a): float => ($a - $mt) ** 2, $t));
        $slope = array_sum(array_map(static fn (int $a, float $b): float => ($a - $mt) * ($b - $my), $t, $y)) / $stt;
        $foot = $my - $slope * $mt;
        $rss = array_sum(array_map(static fn (int $a, float $b): float => ($b - $foot - $slope * $a) ** 2, $t, $y));
        $s = sqrt($rss / ($n - 2));
        self::assertEqualsWithDelta($slope, $told['parameters'][0]['value'], 1e-9);
        self::assertEqualsWithDelta($foot, $told['parameters'][1]['value'], 1e-9);
        self::assertEqualsWithDelta($s / sqrt($stt), $told['parameters'][0]['standard_error'], 1e-7);
        self::assertEqualsWithDelta($s * sqrt(1 / $n + $mt ** 2 / $stt), $told['parameters'][1]['standard_error'], 1e-7);
        self::assertEqualsWithDelta(-$mt / sqrt($stt / $n + $mt ** 2), $told['correlations'][0][1] ?? NAN, 1e-7);
        // With a known error the errors follow from that alone, and the interval is that of the normal.
        $known = $this->fit(self::line(), 'height', $points, [
            '--free=slope=-5..5',
            '--free=foot=-50..50',
            '--starts=1',
            '--sd=height=0.5',
        ]);
        self::assertEqualsWithDelta(0.5 / sqrt($stt), $known['parameters'][0]['standard_error'], 1e-7);
        self::assertEqualsWithDelta($rss / 0.25, $known['objective'], 1e-9);
        self::assertEqualsWithDelta($rss, $known['rss'], 1e-9);
        self::assertEqualsWithDelta((1.959963985 * 0.5) / sqrt($stt), $known['parameters'][0]['high'] - $slope, 1e-7);
        self::assertSame($told['series'][0]['n'], 11);
    }

    public function test_the_profile_of_a_straight_line_is_the_parabola_of_its_error(): void
    {
        $points = array_map(static fn (int $t): array => [$t, 2.0 + 0.7 * $t + [0.3, -0.2, 0.1, 0.4, -0.5, 0.2][$t % 6]], range(0, 10));
        /** @var array{objective: float, parameters: list<array{value: float, standard_error: float}>, profiles: list<array{name: string,
         *     points: list<array{value: float, objective: float}>}>} $told */
        $told = $this->fit(self::line(), 'height', $points, ['--free=slope=-5..5', '--free=foot=-50..2.2', '--starts=1', '--profile']);
        self::assertSame(['slope', 'foot'], array_column($told['profiles'], 'name'));
        $variance = $told['objective'] / 9;
        foreach ($told['profiles'] as $j => $profile) {
            ['value' => $best, 'standard_error' => $error] = $told['parameters'][$j];
            // Held to where the bound of the other lets it be fitted anew.
            foreach ($profile['points'] as $p) {
                if ($j === 1 || $p['value'] >= $best) {
                    $rise = $variance * (($p['value'] - $best) / $error) ** 2;
                    self::assertEqualsWithDelta($told['objective'] + $rise, $p['objective'], 1e-6, $profile['name']);
                }
            }
        }
        self::assertCount(13, $told['profiles'][0]['points']);
        self::assertEqualsWithDelta(
            $told['parameters'][0]['value'] + 3 * $told['parameters'][0]['standard_error'],
            $told['profiles'][0]['points'][12]['value'],
            1e-9,
        );
        self::assertContains(2.2, array_column($told['profiles'][1]['points'], 'value'));
        // One number by itself leaves nothing to be fitted anew.
        $alone = $this->fit(self::line(), 'height', $points, ['--free=slope=-5..5', '--profile']);
        self::assertStringContainsString('"profiles":[{"name":"slope"', (string) json_encode($alone));
    }

    public function test_what_the_data_do_not_decide_is_said(): void
    {
        $points = array_map(static fn (int $t): array => [$t, 3.0 * $t], range(0, 10));
        $told = $this->fit(self::line(), 'sum', $points, ['--free=slope=-5..5', '--free=other=-5..5']);
        self::assertEqualsWithDelta(3.0, $told['parameters'][0]['value'] + $told['parameters'][1]['value'], 1e-6);
        self::assertNull($told['parameters'][0]['standard_error']);
        self::assertNull($told['correlations']);
        self::assertStringContainsString('do not decide', implode(' ', $told['remarks']));
        // One that does nothing at all.
        $told = $this->fit(self::line(), 'height', $points, ['--free=slope=-5..5', '--free=other=-5..5']);
        self::assertEqualsWithDelta(3.0, $told['parameters'][0]['value'], 1e-7);
        self::assertStringContainsString('do not decide', implode(' ', $told['remarks']));
    }

    public function test_faults_are_walls_and_initial_values_can_be_freed(): void
    {
        // Below 1 there is no root: half of the bounds is a wall.
        $model = Build::model(
            ['edge' => '4'],
            ['tank' => '7'],
            ['out' => ['sqrt(edge - 1) * tank', 'from' => 'tank']],
            time: new TimeSettings(0, 2, 1 / 64, 'year', Method::RungeKutta4),
        );
        $points = array_map(static fn (float $t): array => [$t, 12 * exp(-sqrt(0.25) * $t)], [0.0, 0.5, 1.0, 1.5, 2.0]);
        foreach (['least-squares', 'simplex', 'evolution'] as $way) {
            $told = $this->fit($model, 'tank', $points, ['--free=edge=-3..5', '--free=tank=1..50', "--using=$way", '--starts=8']);
            self::assertEqualsWithDelta(1.25, $told['parameters'][0]['value'], 1e-5, $way);
            self::assertSame('tank', $told['parameters'][1]['name']);
            self::assertEqualsWithDelta(12.0, $told['parameters'][1]['value'], 1e-5, $way);
        }
        $files = [$this->file(NativeFile::export($model), '.json'), $this->file(self::csv('tank', $points))];
        [$code, $out, $err] = self::orbit(['fit', $files[0], "--data=$files[1]", '--free=edge=-3..0.5', '--format=json']);
        self::assertSame([4, "Every run met a numeric fault.\n"], [$code, $err]);
        self::assertNull(self::json($out)['objective']);
    }

    public function test_it_is_the_same_for_any_number_of_processes_and_other_for_another_seed(): void
    {
        $made = [];
        foreach (['1', '2', '8'] as $jobs) {
            $made[] = $this->fit(self::rat(), 'pasture', self::RAT, [
                '--free=b1=10..200',
                '--free=b2=0..10',
                '--free=b3=0.001..1',
                '--using=evolution',
                '--starts=3',
                "--jobs=$jobs",
            ]);
        }
        self::assertSame($made[0], $made[1]);
        self::assertSame($made[0], $made[2]);
    }

    /** @param  list<string>  $words */
    private function refused(array $words, int $code = 2): string
    {
        $files = [$this->file(NativeFile::export(self::line()), '.json'), $this->file("time,height\n0,1\n1,2\n2,4\n")];
        [$got, , $err] = self::orbit(['fit', $files[0], "--data=$files[1]", ...$words]);
        self::assertSame($code, $got, $err);

        return $err;
    }

    public function test_what_is_asked_wrongly_is_said(): void
    {
        self::assertStringContainsString('Say what may move', $this->refused([]));
        self::assertStringContainsString('no parameter `slop`. Did you mean `slope`?', $this->refused(['--free=slop=0..1']));
        self::assertStringContainsString('a name and its bounds', $this->refused(['--free=slope=1']));
        self::assertStringContainsString('from the lower to the higher', $this->refused(['--free=slope=2..1'], 3));
        self::assertStringContainsString('computes `height`', $this->refused(['--free=height=0..1']));
        self::assertStringContainsString('stands in --free twice', $this->refused(['--free=slope=0..1', '--free=slope=0..2']));
        self::assertStringContainsString('a number above 0', $this->refused(['--free=slope=0..1', '--sd=height=-1']));
        self::assertStringContainsString('missing for height', $this->refused(['--free=slope=0..1', '--sd=width=1']));
        self::assertStringContainsString('--using', $this->refused(['--free=slope=0..1', '--using=guess']));
        self::assertStringContainsString(
            '3 measured values within the run for 3 numbers, of which this takes 4',
            $this->refused(['--free=slope=0..1', '--free=foot=0..1', '--free=other=0..1'], 3),
        );
    }

    public function test_students_quantiles_are_those_of_the_tables(): void
    {
        foreach (
            [[0.975, 1, 12.706204736], [0.975, 10, 2.228138852], [0.995, 5, 4.032142983], [0.025, 30, -2.042272456]] as [$p, $f, $t]
        ) {
            self::assertEqualsWithDelta($t, Special::studentQuantile($p, $f), 1e-8);
        }
    }

    public function test_axes_of_a_symmetric_matrix_make_it_again(): void
    {
        $matrix = [[4.0, 1.0, -2.0], [1.0, 3.0, 0.5], [-2.0, 0.5, 5.0]];
        [$axes, $lengths] = Symmetric::axes($matrix);
        foreach ($matrix as $i => $row) {
            foreach ($row as $j => $v) {
                $made = $across = 0.0;
                foreach ($axes as $a => $axis) {
                    $made += $lengths[$a] ** 2 * $axis[$i] * $axis[$j];
                    $across += $axis[$i] * $axis[$j];
                }
                self::assertEqualsWithDelta($v, $made, 1e-12);
                self::assertEqualsWithDelta($i === $j ? 1.0 : 0.0, $across, 1e-12);
            }
        }
    }
}
