<?php

declare(strict_types=1);

namespace Tests\Core;

use MerryOrbit\Core\Data\Evidence;
use MerryOrbit\Core\Exchange\NativeFile;
use MerryOrbit\Core\Fit\Belief;
use MerryOrbit\Core\Fit\Chain;
use MerryOrbit\Core\Fit\Chains;
use MerryOrbit\Core\Fit\Freed;
use MerryOrbit\Core\Fit\Gaps;
use MerryOrbit\Core\Fit\Likelihood;
use MerryOrbit\Core\Fit\Misses;
use MerryOrbit\Core\Fit\Sampled;
use MerryOrbit\Core\Fit\Symmetric;
use MerryOrbit\Core\Law\Distribution;
use MerryOrbit\Core\Law\Special;
use MerryOrbit\Core\Model\Method;
use MerryOrbit\Core\Model\Model;
use MerryOrbit\Core\Model\TimeSettings;
use PHPUnit\Framework\TestCase;
use Random\Engine\Xoshiro256StarStar;
use Random\Randomizer;

/**
 * What the data leave open: against posteriors that are known exactly, and the measures of chains against what they are worth by construction.
 *
 * @phpstan-type Told array{acceptance: float, remarks: list<string>, sds: list<array{series: string, mean: float}>,
 *     parameters: list<array{name: string, mean: float, sd: float, percentiles: array<string, float>, rhat: float, ess: float}>}
 */
final class PosteriorTest extends TestCase
{
    use Commanded;

    private const NOISE = [0.3, -0.2, 0.1, 0.4, -0.5, 0.2, -0.1, 0.05, -0.35, 0.25, -0.15];

    private static function line(): Model
    {
        return Build::model(
            ['slope' => '1', 'foot' => '0'],
            ['kept' => '5'],
            [],
            ['height' => 'foot + slope * time', 'through' => 'slope * time'],
            new TimeSettings(0, 10, 0.5, 'year', Method::Euler),
        );
    }

    /**
     * @param  list<string>  $words
     * @return Told
     */
    private function posterior(string $data, array $words): array
    {
        $files = [$this->file(NativeFile::export(self::line()), '.json'), $this->file($data)];
        [$code, $out, $err] = self::orbit(['posterior', $files[0], "--data=$files[1]", '--format=json', ...$words]);
        self::assertSame(0, $code, $err);

        /** @var Told */
        return self::json($out);
    }

    private static function data(string $name): string
    {
        $lines = array_map(static fn (int $t): string => $t.','.(2.0 + 0.7 * $t + self::NOISE[$t]), range(0, 10));

        return "time,$name\n".implode("\n", $lines)."\n";
    }

    /** @param  array{mean: float, sd: float, percentiles: array<string, float>, rhat: float, ess: float}  $p */
    private static function assertLaw(float $mean, float $sd, array $p): void
    {
        $error = $sd / sqrt($p['ess']);
        self::assertGreaterThan(400, $p['ess']);
        self::assertLessThan(1.02, $p['rhat']);
        self::assertEqualsWithDelta($mean, $p['mean'], 4 * $error);
        self::assertEqualsWithDelta($sd, $p['sd'], 4 * $error);
        foreach (['2.5' => 0.025, '50' => 0.5, '97.5' => 0.975] as $percent => $share) {
            $z = Special::normalQuantile($share);
            // The error of a percentile, from the density there.
            $rough = sqrt($share * (1 - $share)) / (exp(-0.5 * $z * $z) / sqrt(2 * M_PI));
            self::assertEqualsWithDelta($mean + $sd * $z, $p['percentiles'][$percent] ?? NAN, 4 * $rough * $error);
        }
    }

    public function test_normal_errors_and_normal_priors_have_the_law_that_is_known(): void
    {
        // Of one slope through 0 with errors of 0.5 and a prior of 0.4 ± 0.05: precisions add up, means are weighted by them.
        $told = $this->posterior(self::data('through'), ['--free=slope=-5..5', '--sd=through=0.5', '--prior=slope=normal(0.4, 0.05)']);
        $xy = $xx = 0.0;
        for ($t = 0; $t <= 10; $t++) {
            $xy += $t * (2.0 + 0.7 * $t + self::NOISE[$t]);
            $xx += $t * $t;
        }
        $precision = $xx / 0.25 + 1 / 0.0025;
        self::assertLaw(($xy / 0.25 + 0.4 / 0.0025) / $precision, 1 / sqrt($precision), $told['parameters'][0]);
        self::assertSame([], $told['sds']);
        // Two that go together, flat between wide bounds.
        $told = $this->posterior(self::data('height'), ['--free=slope=-5..5', '--free=foot=-50..50', '--sd=height=0.5']);
        $y = array_map(static fn (int $t): float => 2.0 + 0.7 * $t + self::NOISE[$t], range(0, 10));
        $slope = array_sum(array_map(static fn (int $t, float $v): float => ($t - 5) * $v, range(0, 10), $y)) / 110;
        self::assertLaw($slope, 0.5 / sqrt(110), $told['parameters'][0]);
        self::assertLaw(array_sum($y) / 11 - 5 * $slope, 0.5 * sqrt(1 / 11 + 25 / 110), $told['parameters'][1]);
    }

    public function test_one_measured_value_is_enough_beside_a_belief(): void
    {
        $told = $this->posterior("time,through\n1,2\n", ['--free=slope=-50..50', '--sd=through=0.5', '--prior=slope=normal(1, 0.5)']);
        self::assertLaw(1.5, 0.5 / sqrt(2), $told['parameters'][0]);
        // And of two numbers, where the belief alone says of one of them.
        $words = ['--free=slope=-50..50', '--free=foot=-9..9', '--sd=through=0.5', '--prior=foot=normal(3, 1)'];
        $told = $this->posterior("time,through\n1,2\n", $words);
        self::assertLaw(2.0, 0.5, $told['parameters'][0]);
        self::assertLaw(3.0, 1.0, $told['parameters'][1]);
    }

    public function test_errors_that_are_not_known_are_integrated_out(): void
    {
        // Then the slope has a t distribution with n − 1 degrees of freedom, here of one number through 0.
        $told = $this->posterior(self::data('through'), ['--free=slope=-50..50', '--draws=8000']);
        $xy = $xx = $yy = 0.0;
        for ($t = 0; $t <= 10; $t++) {
            $v = 2.0 + 0.7 * $t + self::NOISE[$t];
            [$xy, $xx, $yy] = [$xy + $t * $v, $xx + $t * $t, $yy + $v * $v];
        }
        $s2 = ($yy - $xy ** 2 / $xx) / 10;
        $p = $told['parameters'][0];
        $sd = sqrt(($s2 / $xx) * (10 / 8));
        self::assertEqualsWithDelta($xy / $xx, $p['mean'], (4 * $sd) / sqrt($p['ess']));
        $high = $xy / $xx + Special::studentQuantile(0.975, 10) * sqrt($s2 / $xx);
        self::assertEqualsWithDelta($high, $p['percentiles']['97.5'], (14 * $sd) / sqrt($p['ess']));
        // The mean of such a standard deviation: s √(ν ÷ 2) Γ((ν − 1) ÷ 2) ÷ Γ(ν ÷ 2).
        self::assertSame('through', $told['sds'][0]['series']);
        $mean = sqrt($s2 * 5) * exp(Special::logGamma(4.5) - Special::logGamma(5));
        self::assertEqualsWithDelta($mean, $told['sds'][0]['mean'], 0.03 * $mean);
    }

    public function test_a_prior_is_cut_by_the_bounds_and_what_leaves_them_is_never_drawn(): void
    {
        $file = $this->file('');
        // The data say 0.97, the bounds end at 0.5: what is left falls off from there.
        $told = $this->posterior(self::data('through'), ['--free=slope=0..0.5', '--sd=through=0.5', "--draws-out=$file"]);
        $draws = array_map(floatval(...), array_slice(file($file) ?: [], 1));
        self::assertCount(4_000, $draws);
        self::assertLessThanOrEqual(0.5, max($draws));
        self::assertGreaterThan(0.46, $told['parameters'][0]['percentiles']['2.5']);
    }

    public function test_it_is_the_same_for_any_number_of_processes(): void
    {
        $words = ['--free=slope=-5..5', '--free=foot=-50..50', '--draws=400', '--chains=3'];
        $one = $this->posterior(self::data('height'), [...$words, '--jobs=1']);
        self::assertSame($one, $this->posterior(self::data('height'), [...$words, '--jobs=2']));
        self::assertSame($one, $this->posterior(self::data('height'), [...$words, '--jobs=8']));
        self::assertNotEquals($one, $this->posterior(self::data('height'), [...$words, '--seed=2']));
    }

    public function test_measures_of_chains_tell_what_they_are_worth(): void
    {
        $random = new Randomizer(new Xoshiro256StarStar(hash('sha256', 'chains', true)));
        $normal = static fn (): float => Special::normalQuantile(($random->getInt(0, (1 << 52) - 1) + 0.5) / (1 << 52));
        $chain = static function (float $keeps, float $from) use ($normal): array {
            $v = $normal();
            $made = [];
            for ($i = 0; $i < 2_000; $i++) {
                $v = $keeps * $v + sqrt(1 - $keeps * $keeps) * $normal();
                $made[] = $from + $v;
            }

            return $made;
        };
        // Independent draws are worth what they are; of those that keep 0.8 of the last one, a ninth.
        $told = Chains::told([$chain(0.0, 0), $chain(0.0, 0), $chain(0.0, 0), $chain(0.0, 0)]);
        self::assertEqualsWithDelta(8_000, $told['ess'] ?? 0.0, 800);
        self::assertEqualsWithDelta(1.0, $told['rhat'] ?? 0.0, 0.005);
        $told = Chains::told([$chain(0.8, 0), $chain(0.8, 0), $chain(0.8, 0), $chain(0.8, 0)]);
        self::assertEqualsWithDelta(8_000 / 9, $told['ess'] ?? 0.0, 200);
        // One stands elsewhere.
        self::assertGreaterThan(1.1, Chains::told([$chain(0.0, 0), $chain(0.0, 0), $chain(0.0, 1.5)])['rhat']);
        // One is as high, but spreads further: only folding sees it.
        $wide = array_map(static fn (float $v): float => 4 * $v, $chain(0.0, 0));
        self::assertGreaterThan(1.05, Chains::told([$chain(0.0, 0), $chain(0.0, 0), $wide])['rhat']);
        self::assertSame(['rhat' => null, 'ess' => null], Chains::told([array_fill(0, 100, 1.0)]));
    }

    public function test_what_is_asked_wrongly_is_said(): void
    {
        $files = [$this->file(NativeFile::export(self::line()), '.json'), $this->file(self::data('height'))];
        foreach (
            [
                ['--prior=foot=normal(0, 1)', 'not freed'],
                ['--prior=slope=norml(0, 1)', 'no distribution `norml`'],
                ['--draws=3', '--draws is a whole number from 40'],
                ['--chains=0', '--chains'],
            ] as [$word, $sentence]
        ) {
            [$code, , $err] = self::orbit(['posterior', $files[0], "--data=$files[1]", '--free=slope=0..1', $word]);
            self::assertContains($code, [2, 3]);
            self::assertStringContainsString($sentence, $err);
        }
    }

    /** A valley that is bent: x² + y is measured as 9 ± 1; x was known to be about 0 ± 1.5, and stays so, and y is 9 − x² as a rule. */
    public function test_chains_go_along_a_bent_valley(): void
    {
        $freed = [new Freed('x', 'x', 1.0, -60.0, 60.0), new Freed('y', 'y', 8.0, -60.0, 60.0)];
        $belief = new Belief($freed, ['x' => Distribution::read('normal(0, 1.5)')]);
        $gaps = new Gaps([new Evidence('sum', 'sum', [0.0], [9.0])], [Misses::normal(1.0)], new TimeSettings(0, 4, 1, 'day'));
        $chain = new Chain($belief, new Likelihood($gaps), [0.9, 8.0], Symmetric::root([[1.0, -1.8], [-1.8, 4.3]]), 1);
        $chains = [];
        for ($c = 0; $c < 4; $c++) {
            $walk = $chain->walk($c, 20_000);
            while ($walk->valid()) {
                [[$x, $y]] = $walk->current();
                $walk->send([[$x ** 2 + $y - 9.0]]);
            }
            $chains[] = $walk->getReturn();
        }
        [$x, $y] = (new Sampled($freed, $chains, 20_000))->parameters();
        self::assertLessThan(1.01, $x['rhat']);
        self::assertEqualsWithDelta(0.0, $x['mean'], 0.1);
        self::assertEqualsWithDelta(1.5, $x['sd'], 0.1);
        // The mean of x² is its variance.
        self::assertEqualsWithDelta(9.0 - 2.25, $y['mean'], 0.25);
    }
}
