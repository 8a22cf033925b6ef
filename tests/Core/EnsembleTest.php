<?php

declare(strict_types=1);

namespace Tests\Core;

use MerryOrbit\Core\Exchange\NativeFile;
use MerryOrbit\Core\Law\Special;
use MerryOrbit\Core\Library\Chance;
use MerryOrbit\Core\Model\Method;
use MerryOrbit\Core\Model\TimeSettings;
use MerryOrbit\Core\Uncertain\Design;
use MerryOrbit\Core\Uncertain\Ranks;
use MerryOrbit\Core\Uncertain\Summary;
use PHPUnit\Framework\Attributes\DataProvider;
use PHPUnit\Framework\TestCase;

/** Many runs under uncertainty: how the draws are spread, and what they come to against laws that are known exactly. */
final class EnsembleTest extends TestCase
{
    use Commanded;
    use ShapedModels;

    /** A tank that drains at a steady rate, one that decays, a sum and a product. */
    private function plain(): string
    {
        return $this->file(
            NativeFile::export(
                Build::model(
                    ['rate' => '1', 'decay' => '0.1', 'other' => '2'],
                    ['tank' => '10', 'heap' => '100'],
                    ['draining' => ['rate', 'from' => 'tank'], 'rotting' => ['heap * decay', 'from' => 'heap']],
                    ['both' => 'rate + other', 'times' => 'rate * other'],
                    new TimeSettings(0, 4, 0.5, 'year', Method::Euler),
                ),
            ),
            '.json',
        );
    }

    /** @return array{runs: int, failed: int, outcomes: array<string, array{central: float, mean: float, sd: float, min: float, max: float, percentiles: array<int|string, float>}>, bands: array<string, array{time: list<float>, mean: list<float>, percentiles: array<int|string, list<float>>}>} */
    private function ensemble(string ...$words): array
    {
        [$code, $out, $err] = self::orbit(['ensemble', $this->plain(), '--format=json', ...array_values($words)]);
        self::assertSame(0, $code, $err);
        /** @var array{runs: int, failed: int, outcomes: array<string, array{central: float, mean: float, sd: float, min: float, max: float, percentiles: array<int|string, float>}>, bands: array<string, array{time: list<float>, mean: list<float>, percentiles: array<int|string, list<float>>}>} $read */
        $read = self::json($out);

        return $read;
    }

    public function test_a_linear_drain_with_an_uncertain_rate_has_its_exact_law(): void
    {
        // tank(4) = 10 − 4 · rate, whatever the steps: normal with mean 6 and sd 0.8.
        $o = $this->ensemble('--uncertain', 'rate=normal(1, 0.2)', '--outcome=tank', '--outcome=tank@2', '--sample=latin', '--runs=4000')[
            'outcomes'
        ];
        self::assertEqualsWithDelta(6.0, $o['tank']['central'], 1e-12);
        self::assertEqualsWithDelta(6.0, $o['tank']['mean'], 0.002);
        self::assertEqualsWithDelta(0.8, $o['tank']['sd'], 0.004);
        foreach (['5' => 0.05, '25' => 0.25, '50' => 0.5, '95' => 0.95] as $p => $share) {
            self::assertEqualsWithDelta(6.0 + 0.8 * Special::normalQuantile($share), $o['tank']['percentiles'][$p], 0.01, "at $p %");
        }
        self::assertEqualsWithDelta(0.4, $o['tank@2']['sd'], 0.002);
    }

    /** @return iterable<string, array{string, float}> how near the mean of 2,000 draws comes, in standard errors of plain chance */
    public static function samples(): iterable
    {
        yield 'random' => ['random', 4.0];
        yield 'latin' => ['latin', 0.5];
        yield 'sobol' => ['sobol', 0.5];
    }

    #[DataProvider('samples')]
    public function test_sums_of_normals_and_products_of_lognormals(string $sample, float $errors): void
    {
        $o = $this->ensemble(
            "--sample=$sample",
            '--runs=2000',
            '--uncertain',
            'rate=lognormal(3, 1)',
            '--uncertain',
            'other=lognormal(2, 0.5)',
            '--outcome=times:max',
            '--outcome=both:min',
        )['outcomes'];
        // Of independent numbers, E(xy) = E(x) E(y), and the variances of logarithms add up.
        $variance = (1 + 1 / 9) * (1 + 0.25 / 4) - 1;
        self::assertEqualsWithDelta(6.0, $o['times:max']['mean'], ($errors * 6.0 * sqrt($variance)) / sqrt(2000.0));
        self::assertEqualsWithDelta(6.0 * sqrt($variance), $o['times:max']['sd'], 0.12 * 6.0 * sqrt($variance));
        self::assertEqualsWithDelta(5.0, $o['both:min']['mean'], ($errors * sqrt(1.25)) / sqrt(2000.0));
        self::assertEqualsWithDelta(6.0 / sqrt((1 + 1 / 9) * (1 + 0.25 / 4)), $o['times:max']['percentiles']['50'], 0.2);
    }

    public function test_bands_tell_each_moment_and_the_outcome_is_their_last(): void
    {
        $told = $this->ensemble(
            '--uncertain',
            'decay=uniform(0.05, 0.15)',
            '--bands=heap',
            '--outcome=heap',
            '--percentiles=0,50,97.5,100',
            '--runs=300',
        );
        $band = $told['bands']['heap'];
        self::assertSame([0, 0.5, 1, 1.5, 2, 2.5, 3, 3.5, 4], $band['time']);
        self::assertEqualsWithDelta(100.0, $band['mean'][0], 1e-12);
        self::assertSame($told['outcomes']['heap']['percentiles']['97.5'], $band['percentiles']['97.5'][8]);
        self::assertSame($told['outcomes']['heap']['min'], $band['percentiles']['0'][8]);
        self::assertLessThan(100.0 * (1 - 0.5 * 0.05) ** 8, $band['percentiles']['100'][8]);
        self::assertGreaterThan($band['percentiles']['0'][4], $band['percentiles']['50'][4]);
    }

    public function test_any_number_of_processes_gives_the_same_and_draws_come_back(): void
    {
        $model = $this->plain();
        $draws = $this->file('', '.csv');
        $run = static fn (string ...$more): string => self::orbit([
            'ensemble',
            $model,
            '--format=json',
            '--outcome=tank',
            '--outcome=times:mean',
            '--bands=heap',
            ...array_values($more),
        ])[1];
        $said = ['--uncertain', 'rate=gamma(2, 1)', '--uncertain', 'decay=uniform(0, 0.2)', '--runs=101', '--sample=latin', '--seed=7'];
        $one = $run('--jobs=1', "--draws-out=$draws", ...$said);
        foreach ([2, 8] as $jobs) {
            self::assertSame($one, $run("--jobs=$jobs", ...$said));
        }
        self::assertNotSame($one, $run('--jobs=1', ...[...array_slice($said, 0, -1), '--seed=8']));
        $lines = file($draws, FILE_IGNORE_NEW_LINES) ?: [];
        self::assertSame('rate,decay', $lines[0]);
        self::assertCount(102, $lines);
        /** @var array{outcomes: array<string, array<string, mixed>>} $again */
        $again = self::json($run("--draws-in=$draws"));
        /** @var array{outcomes: array<string, array<string, mixed>>} $first */
        $first = self::json($one);
        unset($again['outcomes']['tank']['central'], $first['outcomes']['tank']['central']);
        self::assertSame($first['outcomes']['tank'], $again['outcomes']['tank'], 'the same draws come to the same');
    }

    public function test_a_latin_hypercube_draws_once_from_each_share_of_each_block(): void
    {
        $design = Design::of('latin', ['a', 'b'], 1_300, 3);
        $shares = [[], []];
        foreach (range(0, 1_299) as $run) {
            foreach ($design->draws($run) as $i => $u) {
                $shares[$i][] = $run < 1_000 ? (int) floor($u * 1_000) : 1_000 + (int) floor($u * 300);
            }
        }
        foreach ($shares as $list) {
            sort($list);
            self::assertSame(range(0, 1_299), $list);
        }
        // It can be gone on with: a first block stays what it is when more runs are asked for.
        self::assertSame(Design::of('latin', ['a', 'b'], 5_000, 3)->draws(999), $design->draws(999));
        self::assertSame(Design::of('latin', ['b', 'a'], 1_300, 3)->draws(7), array_reverse($design->draws(7)), 'by name, in any order');
    }

    public function test_the_ranks_of_inputs_go_together_as_said_and_each_keeps_its_shares(): void
    {
        $together = [['a', 'b', 0.6], ['b', 'c', -0.7]];
        foreach (Design::KINDS as $kind) {
            $design = Design::of($kind, ['a', 'b', 'c', 'd'], 1_000, 11, $together);
            $columns = array_map(null, ...array_map($design->draws(...), range(0, 999)));
            foreach ([[0, 1, 0.6], [1, 2, -0.7], [0, 2, 0.0]] as [$i, $j, $rank]) {
                self::assertEqualsWithDelta($rank, Ranks::correlation($columns[$i], $columns[$j]), 0.02, "$kind, $i with $j");
            }
            if ($kind === 'latin') {
                self::assertEqualsWithDelta(
                    0.0,
                    Ranks::correlation($columns[0], $columns[3]),
                    0.02,
                    'what is not said goes with nothing',
                );
                $shares = array_map(static fn (float $u): int => (int) floor($u * 1_000), $columns[1]);
                sort($shares);
                self::assertSame(range(0, 999), $shares);
            }
        }
        // Plain chance leaves columns going together by about 1 ÷ √n; a Latin hypercube does not.
        $names = array_map(static fn (int $i): string => "x$i", range(1, 12));
        $most = [];
        foreach (['random', 'latin'] as $kind) {
            $design = Design::of($kind, $names, 200, 2);
            $columns = array_map(null, ...array_map($design->draws(...), range(0, 199)));
            $most[$kind] = max(
                array_map(static fn (int $i): float => abs((float) Ranks::correlation($columns[0], $columns[$i])), range(1, 11)),
            );
        }
        self::assertGreaterThan(0.07, $most['random']);
        self::assertLessThan(0.03, $most['latin']);
    }

    public function test_ranks_are_those_of_a_second_method_and_what_cannot_hold_together_is_refused(): void
    {
        // By hand: d² of 1, 2, 3, 4, 5 and 2, 1, 4, 3, 5 is 4; 1 − 6 · 4 ÷ (5 · 24). With equals, Pearson of the shared ranks.
        self::assertEqualsWithDelta(0.8, Ranks::correlation([1, 2, 3, 4, 5], [20.0, 10, 40, 30, 50]), 1e-12);
        self::assertEqualsWithDelta(sqrt(0.75), Ranks::correlation([1.0, 1.0, 2.0], [1.0, 2.0, 3.0]), 1e-12);
        self::assertNull(Ranks::correlation([1.0, 1.0], [1.0, 2.0]));
        $this->expectExceptionMessage('cannot all go together');
        Design::of('random', ['a', 'b', 'c'], 100, 1, [['a', 'b', 0.9], ['b', 'c', 0.9], ['a', 'c', -0.9]]);
    }

    public function test_elements_are_outcomes_and_inputs_of_their_own(): void
    {
        $model = self::model(
            [self::$terraces],
            [
                self::line('parameter', 'growth', '0.1', 'terrace'),
                self::line('stock', 'fish', '100', 'terrace'),
                [...self::line('flow', 'growing', '100 * growth', 'terrace'), 'to' => 'fish'],
            ],
        );
        [$code, $out, $err] = self::orbit([
            'ensemble',
            $this->file(NativeFile::export($model), '.json'),
            '--format=json',
            '--sample=latin',
            '--uncertain',
            'growth[north]=uniform(0, 0.2)',
            '--outcome=fish[north]',
            '--outcome=fish[south]:max',
            '--outcome=growing[north]:total',
            '--bands=fish',
        ]);
        self::assertSame(0, $code, $err);
        /** @var array{outcomes: array<string, array<string, float>>, bands: array<string, mixed>} $told */
        $told = self::json($out);
        self::assertEqualsWithDelta(40 * sqrt(1 / 3), $told['outcomes']['fish[north]']['sd'], 0.05);
        self::assertEqualsWithDelta(40 * sqrt(1 / 3), $told['outcomes']['growing[north]:total']['sd'], 0.05);
        self::assertEqualsWithDelta(140.0, $told['outcomes']['fish[south]:max']['mean'], 1e-9);
        self::assertEqualsWithDelta(0.0, $told['outcomes']['fish[south]:max']['sd'], 1e-9);
        self::assertSame(['fish[north]', 'fish[middle]', 'fish[south]'], array_keys($told['bands']));
    }

    public function test_the_sobol_sequence_is_that_of_its_direction_numbers_and_scrambled_it_is_still_even(): void
    {
        $points = array_map(str_getcsv(...), file(__DIR__.'/fixtures/sobol-8-points.csv', FILE_IGNORE_NEW_LINES) ?: []);
        foreach (range(0, 4) as $input) {
            self::assertEquals(array_map(floatval(...), array_column($points, $input)), Design::plainSobol($input, 8));
        }
        $design = Design::of('sobol', array_map(static fn (int $i): string => "x$i", range(1, 40)), 64, 5);
        $draws = array_map($design->draws(...), range(0, 63));
        foreach (range(0, 39) as $input) {
            $shares = array_map(static fn (float $u): int => (int) floor($u * 64), array_column($draws, $input));
            sort($shares);
            self::assertSame(range(0, 63), $shares, 'one of 64 draws in each of 64 shares');
        }
        // Two inputs together: one of 64 in each of 8 × 8 cells.
        $cells = array_map(static fn (array $d): int => 8 * (int) floor($d[0] * 8) + (int) floor($d[1] * 8), $draws);
        sort($cells);
        self::assertSame(range(0, 63), $cells);
    }

    public function test_percentiles_are_linear_between_order_statistics_and_sd_divides_by_one_less(): void
    {
        $s = Summary::of([4.0, 1.0, 3.0, 2.0], [0.0, 10.0, 50.0, 62.5, 100.0]);
        self::assertNotNull($s);
        self::assertEqualsWithDelta(['0' => 1.0, '10' => 1.3, '50' => 2.5, '62.5' => 2.875, '100' => 4.0], $s->percentiles, 1e-12);
        self::assertEqualsWithDelta(sqrt(5 / 3), $s->sd, 1e-14);
        self::assertNull(Summary::of([7.0], [50.0])?->sd);
        self::assertNull(Summary::of([NAN], [50.0]));
        // Far from zero no digits are lost.
        self::assertEqualsWithDelta(1.0, Summary::of([1e9 + 1, 1e9 + 2, 1e9 + 3], [])?->sd, 1e-6);
    }

    /** @return array<string, array{list<string>, string}> */
    public static function wrong(): array
    {
        return [
            'nothing wanted' => [['--uncertain', 'rate=normal(1, 1)'], 'Say what is wanted'],
            'nothing uncertain' => [['--outcome=tank'], 'Say what is uncertain'],
            'no parameter' => [['--outcome=tank', '--uncertain', 'tank=normal(1, 1)'], 'no parameter `tank`'],
            'a wrong law' => [['--outcome=tank', '--uncertain', 'rate=normal(1)'], 'takes mean, sd'],
            'no sample' => [['--outcome=tank', '--uncertain', 'rate=normal(1, 1)', '--sample=dice'], '--sample is one of'],
            'no runs' => [['--outcome=tank', '--uncertain', 'rate=normal(1, 1)', '--runs=0'], '--runs is a whole number'],
            'percents' => [['--outcome=tank', '--uncertain', 'rate=normal(1, 1)', '--percentiles=5,105'], 'from 0 to 100'],
            'no file' => [['--outcome=tank', '--draws-in=nowhere.csv'], 'There is no file nowhere.csv'],
        ];
    }

    /** @param  list<string>  $words */
    #[DataProvider('wrong')]
    public function test_what_cannot_be_asked_gets_a_sentence(array $words, string $sentence): void
    {
        [$code, $out, $err] = self::orbit(['ensemble', $this->plain(), ...$words]);
        self::assertContains($code, [2, 3]);
        self::assertSame('', $out);
        self::assertStringContainsString($sentence, $err);
    }
}
