<?php

declare(strict_types=1);

namespace Tests\Core;

use MerryOrbit\Core\Analysis\Analyser;
use MerryOrbit\Core\Edit\AddElement;
use MerryOrbit\Core\Edit\RenameElement;
use MerryOrbit\Core\Law\Special;
use MerryOrbit\Core\Library\Chance;
use MerryOrbit\Core\Model\Kind;
use MerryOrbit\Core\Model\Method;
use MerryOrbit\Core\Model\Model;
use MerryOrbit\Core\Model\TimeSettings;
use MerryOrbit\Core\Simulate\RunOptions;
use PHPUnit\Framework\Attributes\DataProvider;
use PHPUnit\Framework\TestCase;

final class ChanceTest extends TestCase
{
    private const DRAWS = 20_000;

    /** @return list<float> */
    private static function draws(string $formula, int $seed = 1, float $step = 1.0): array
    {
        $model = Build::model(
            [],
            ['s' => '0'],
            ['f' => ['1', 'to' => 's']],
            ['x' => $formula],
            new TimeSettings(0, self::DRAWS * $step, $step, 'day', Method::Euler),
        );
        $run = Build::simulator()->run(Analyser::analyse($model), new RunOptions([], null, $seed));
        self::assertNull($run->fault, (string) $run->fault?->sentence());

        return array_slice($run->column('x'), 0, self::DRAWS);
    }

    /** @return iterable<string, array{string, float, float}> formula, mean, standard deviation */
    public static function distributions(): iterable
    {
        yield 'uniform' => ['random(2, 8)', 5, sqrt(3)];
        yield 'normal' => ['gaussian(10, 3)', 10, 3];
        yield 'lognormal' => ['lognormal(10, 5)', 10, 5];
        yield 'exponential' => ['exponential(4)', 4, 4];
        yield 'few events' => ['poisson(3)', 3, sqrt(3)];
        yield 'many events' => ['poisson(400)', 400, 20];
        yield 'a multitude of events' => ['poisson(3e7)', 3e7, sqrt(3e7)];
        yield 'coins' => ['binomial(20, 0.25)', 5, sqrt(3.75)];
        yield 'many coins' => ['binomial(5000, 0.4)', 2000, sqrt(1200)];
        yield 'sure' => ['binomial(7, 1)', 7, 0];
        yield 'noise' => ['drift(10, 2, 0.5)', 10, 2];
    }

    /** Mean and spread of twenty thousand draws lie within five standard errors of what the distribution has. */
    #[DataProvider('distributions')]
    public function test_draws_have_the_mean_and_spread_of_their_distribution(string $formula, float $mean, float $sd): void
    {
        $draws = self::draws($formula);
        $found = array_sum($draws) / self::DRAWS;
        // Neighbouring values of the noise still remember each other a little.
        $standardError = ($sd / sqrt(self::DRAWS)) * (str_starts_with($formula, 'drift') ? 1.3 : 1.0);
        self::assertEqualsWithDelta($mean, $found, 5 * $standardError + 1e-12);
        $spread = sqrt(array_sum(array_map(static fn (float $x): float => ($x - $found) ** 2, $draws)) / (self::DRAWS - 1));
        self::assertEqualsWithDelta($sd, $spread, 0.06 * $sd + 1e-12);
    }

    /** The counts of a Poisson and a binomial draw against their probabilities, by chi-square. */
    public function test_counts_follow_their_probabilities(): void
    {
        foreach (
            [
                'poisson(3)' => static fn (int $k): float => (exp(-3) * 3 ** $k) / array_product(range(1, max(1, $k))),
                'binomial(8, 0.3)' => static fn (int $k): float => $k > 8
                    ? 0.0
                    : array_product(array_map(static fn (int $i): float => (9 - $i) / $i, $k === 0 ? [] : range(1, $k))) *
                        0.3 ** $k *
                        0.7 ** (8 - $k),
            ] as $formula => $probability
        ) {
            $counts = array_count_values(array_map(strval(...), self::draws($formula)));
            $chi = 0.0;
            for ($k = 0; $k < 9; $k++) {
                $expected = self::DRAWS * $probability($k);
                $chi += (($counts[$k] ?? 0) - $expected) ** 2 / $expected;
            }
            // 8 degrees of freedom: beyond 32 once in ten thousand.
            self::assertLessThan(32.0, $chi, $formula);
        }
    }

    public function test_events_are_scaled_by_the_step_so_that_their_integral_counts_them(): void
    {
        foreach ([0.125, 0.5] as $step) {
            $draws = self::draws('poisson(6)', 1, $step);
            self::assertEqualsWithDelta(6.0, array_sum($draws) / self::DRAWS, 5 * sqrt(6 / $step / self::DRAWS));
            foreach (array_slice($draws, 0, 100) as $rate) {
                self::assertEqualsWithDelta(round($rate * $step), $rate * $step, 1e-9);
            }
        }
    }

    public function test_noise_forgets_over_its_correlation_time_whatever_the_step(): void
    {
        foreach ([0.25, 1.0] as $step) {
            $draws = array_map(static fn (float $x): float => $x - 5.0, self::draws('drift(5, 2, 4)', 3, $step));
            $lag = (int) (4 / $step);
            $together = 0.0;
            for ($i = $lag; $i < self::DRAWS; $i++) {
                $together += $draws[$i] * $draws[$i - $lag];
            }
            self::assertEqualsWithDelta(exp(-1), $together / (self::DRAWS - $lag) / 4.0, 0.08);
        }
    }

    public function test_normal_quantiles(): void
    {
        // Published percentage points.
        $published = [[0.5, 0.0], [0.975, 1.959963984540054], [0.99, 2.3263478740408408], [1e-10, -6.361340902404056]];
        foreach ([...$published, [0.8413447460685429, 1.0]] as [$p, $x]) {
            self::assertEqualsWithDelta($x, Special::normalQuantile($p), 1e-13 * max(1.0, abs($x)));
        }
    }

    public function test_a_run_repeats_for_its_seed_and_draws_depend_on_nothing_else(): void
    {
        $model = Build::model(
            [],
            ['s' => '100'],
            ['f' => ['gaussian(0, 1)', 'to' => 's']],
            ['luck' => 'random(0, 1) + random(0, 1)', 'more' => 'luck * drift(1, 0.5, 3)'],
            new TimeSettings(0, 50, 0.5),
        );
        $course = static fn (Model $m, int $seed): array => Build::simulator()
            ->run(Analyser::analyse($m), new RunOptions([], null, $seed))
            ->column('more');
        $first = $course($model, 7);
        self::assertSame($first, $course($model, 7));
        self::assertNotSame($first, $course($model, 8));
        $renamed = (new RenameElement('luck', 'fortune'))->apply($model);
        self::assertSame($first, $course($renamed, 7), 'renaming changes no draw');
        $crowded = $model;
        for ($i = 0; $i < 5; $i++) {
            $crowded = (new AddElement("z$i", Kind::Auxiliary, "other $i", 'gaussian(3, 1)'))->apply($crowded);
        }
        self::assertSame($first, $course($crowded, 7), 'neither does anything added elsewhere');
        // Another process, another worker: the same bits.
        $there = shell_exec(
            escapeshellarg(PHP_BINARY).
                ' -r '.
                escapeshellarg(
                    'require "'.
                        __DIR__.
                        '/../../core/autoload.php"; echo json_encode(MerryOrbit\Core\Library\Chance::gaussian(0.0, 1.0, 7, "luck/1", 3, 1));',
                ),
        );
        self::assertSame(json_encode(Chance::gaussian(0.0, 1.0, 7, 'luck/1', 3, 1)), $there);
        // Two draws of one formula differ.
        $both = self::draws('random(0, 1) - random(0, 1)');
        self::assertGreaterThan(0.1, max([0.0, ...array_map(abs(...), array_slice($both, 0, 50))]));
    }

    public function test_stages_of_a_step_share_its_draw(): void
    {
        // Under Runge–Kutta an integral of a draw that is kept through the step is the plain sum of the draws.
        $run = Build::run(
            Build::model([], ['s' => '0'], ['f' => ['x', 'to' => 's']], ['x' => 'gaussian(5, 2)'], new TimeSettings(0, 10, 0.25)),
        );
        self::assertEqualsWithDelta(0.25 * array_sum(array_slice($run->column('x'), 0, 40)), $run->column('s')[40], 1e-10);
    }

    /** @return iterable<string, array{string}> */
    public static function impossible(): iterable
    {
        foreach (
            [
                'gaussian(1, -1)',
                'lognormal(-1, 1)',
                'lognormal(0, 1)',
                'exponential(-1)',
                'poisson(-2)',
                'binomial(5, 1.5)',
                'binomial(-3, 0.5)',
                'drift(1, 1, 0)',
                'drift(1, -1, 2)',
            ] as $formula
        ) {
            yield $formula => [$formula];
        }
    }

    #[DataProvider('impossible')]
    public function test_arguments_without_a_distribution_stop_the_run(string $formula): void
    {
        $run = Build::run(Build::model([], ['s' => '0'], ['f' => ['1', 'to' => 's']], ['x' => $formula]));
        self::assertSame('x', $run->fault?->name);
        self::assertStringContainsString('no such distribution', $run->fault->sentence());
    }
}
