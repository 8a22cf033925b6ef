<?php

declare(strict_types=1);

namespace Tests\Core;

use MerryOrbit\Core\Law\Distribution;
use MerryOrbit\Core\Law\Family;
use MerryOrbit\Core\Law\Portrait;
use MerryOrbit\Core\Law\Special;
use MerryOrbit\Core\Problem\NotUnderstood;
use MerryOrbit\Core\Uncertain\Summary;
use PHPUnit\Framework\Attributes\DataProvider;
use PHPUnit\Framework\TestCase;

/** Distributions against closed forms, against each other where one is the special case of another, and against their own integrals. */
final class DistributionTest extends TestCase
{
    /** @return iterable<string, array{string, float, float}> mean and variance by closed forms */
    public static function moments(): iterable
    {
        yield 'normal' => ['normal(3.5, 1.3)', 3.5, 1.69];
        yield 'lognormal' => ['lognormal(2, 3)', 2.0, 9.0];
        yield 'uniform' => ['uniform(-1, 5)', 2.0, 3.0];
        yield 'triangular' => ['triangular(1, 2, 6)', 3.0, (1 + 4 + 36 - 2 - 6 - 12) / 18];
        yield 'triangular, mode at an end' => ['triangular(0, 0, 3)', 1.0, 0.5];
        yield 'beta' => ['beta(2, 3, 10, 20)', 14.0, (100 * 6) / (25 * 6)];
        yield 'beta in the shape of a U' => ['beta(0.5, 0.5, 0, 1)', 0.5, 0.125];
        yield 'gamma' => ['gamma(2.5, 4)', 10.0, 40.0];
        yield 'a flat gamma' => ['gamma(0.3, 2)', 0.6, 1.2];
        yield 'weibull' => ['weibull(2, 3)', (3 * sqrt(M_PI)) / 2, 9 * (1 - M_PI / 4)];
        yield 'exponential' => ['exponential(4)', 4.0, 16.0];
        yield 'discrete' => ['discrete(1: 3, 2: 1, 5: 4)', (3 + 2 + 20) / 8, (3 + 4 + 100) / 8 - (25 / 8) ** 2];
        // Between values in their order it is even: each stretch has its middle for mean, and a third of its half length squared around it.
        yield 'empirical' => ['empirical(4, 1, 3)', (2 + 3.5) / 2, (2 ** 2 + 2 ** 2 / 12 + 3.5 ** 2 + 1 / 12) / 2 - 2.75 ** 2];
        // Half a normal distribution: its mean is σ √(2 ÷ π).
        yield 'cut off' => ['normal(0, 2) within 0..', 2 * sqrt(2 / M_PI), 4 * (1 - 2 / M_PI)];
        yield 'a uniform one cut off is another' => ['uniform(0, 10) within 4..6', 5.0, 4 / 12];
    }

    #[DataProvider('moments')]
    public function test_draws_by_quantiles_have_the_moments_of_the_law(string $written, float $mean, float $variance): void
    {
        $d = Distribution::read($written);
        $n = 20_000;
        $sum = $squares = 0.0;
        for ($i = 0; $i < $n; $i++) {
            $x = $d->quantile(($i + 0.5) / $n);
            $sum += $x;
            $squares += ($x - $mean) ** 2;
        }
        self::assertEqualsWithDelta($mean, $sum / $n, 1e-3 * max(1.0, abs($mean)));
        // What lies beyond the last of the even steps is missing: for long tails some thousandths.
        self::assertEqualsWithDelta($variance, $squares / $n, 0.04 * $variance);
    }

    #[DataProvider('moments')]
    public function test_the_cumulative_is_the_integral_of_the_density_and_the_quantile_its_inverse(string $written): void
    {
        $d = Distribution::read($written);
        foreach ([0.001, 0.02, 0.3, 0.5, 0.77, 0.95, 0.9999] as $u) {
            $x = $d->quantile($u);
            if (str_starts_with($written, 'discrete')) {
                self::assertGreaterThanOrEqual($u - 1e-12, $d->until($x));
                self::assertGreaterThan(0.0, $d->density($x));

                continue;
            }
            self::assertEqualsWithDelta($u, $d->until($x), 1e-11, "$written at $u");
        }
        if (! str_starts_with($written, 'discrete')) {
            [$low, $high] = [$d->quantile(0.2), $d->quantile(0.7)];
            $n = 4_000;
            $area = 0.0;
            for ($i = 0; $i < $n; $i++) {
                $area += $d->density($low + (($i + 0.5) * ($high - $low)) / $n);
            }
            self::assertEqualsWithDelta(0.5, ($area * ($high - $low)) / $n, 1e-5, $written);
        }
    }

    public function test_special_cases_agree_with_other_families(): void
    {
        $pairs = [
            ['gamma(1, 4)', 'exponential(4)'],
            ['weibull(1, 4)', 'exponential(4)'],
            ['beta(1, 1, 2, 5)', 'uniform(2, 5)'],
            ['beta(1, 2, 0, 3)', 'triangular(0, 0, 3)'],
            ['beta(2, 1, 0, 3)', 'triangular(0, 3, 3)'],
            ['exponential(4) within 3..', 'exponential(4)'],
        ];
        foreach ($pairs as [$one, $other]) {
            [$a, $b] = [Distribution::read($one), Distribution::read($other)];
            // Without memory: what is beyond 3 is the same distribution, moved by 3.
            $moved = str_contains($one, 'within') ? 3.0 : 0.0;
            foreach ([1e-9, 0.01, 0.4, 0.9, 1 - 1e-9] as $u) {
                $want = $b->quantile($u) + $moved;
                self::assertEqualsWithDelta($want, $a->quantile($u), 1e-7 * max(1e-9, abs($want)), "$one at $u");
            }
        }
        // A gamma with an even number of halves is a sum of squares of normals: P(χ²₂ₖ ≤ x) = 1 − e^(−x/2) Σ (x/2)^i ÷ i!.
        $x = 7.3;
        $sum = exp(-$x / 2) * (1 + $x / 2 + ($x / 2) ** 2 / 2);
        self::assertEqualsWithDelta(1 - $sum, Distribution::read('gamma(3, 2)')->until($x), 1e-14);
    }

    public function test_tails_keep_their_digits(): void
    {
        // Φ(−8) and Φ(−20), from the continued fraction of Mills' ratio by hand in many digits.
        self::assertEqualsWithDelta(6.220960574271786e-16, Special::normal(-8.0)[0], 1e-28);
        self::assertEqualsWithDelta(1.0, Special::normal(8.0)[1] / 6.220960574271786e-16, 1e-12);
        self::assertEqualsWithDelta(1.0, Special::normal(-20.0)[0] / 2.7536241186062337e-89, 1e-11);
        // Far out, cut to the tail: the draw stays there, and near its beginning.
        $tail = Distribution::read('normal(0, 1) within 9..');
        self::assertGreaterThan(9.0, $tail->quantile(0.01));
        self::assertEqualsWithDelta(9.0 + log(2.0) / 9.0, $tail->median(), 0.002);
        self::assertEqualsWithDelta(1.0, Special::gamma(0.5, 50.0)[1] / (2 * Special::normal(-10.0)[0]), 1e-12);
        [$until, $beyond] = Special::beta(3.0, 200.0, 0.4);
        self::assertEqualsWithDelta(1.0, $until, 1e-15);
        // I_{1−x}(b, 3) = x'ᵇ Σ … : Σ over j < 3 of (b)_j (1 − x)^j ÷ j!, with x' = 0.6.
        self::assertEqualsWithDelta(1.0, $beyond / (0.6 ** 200 * (1 + 200 * 0.4 + ((200 * 201) / 2) * 0.16)), 1e-11);
        self::assertEqualsWithDelta(log(sqrt(M_PI)), Special::logGamma(0.5), 1e-14);
        self::assertEqualsWithDelta(array_sum(array_map(log(...), range(1, 24))), Special::logGamma(25.0), 1e-12);
    }

    public function test_quantiles_of_what_was_seen_are_its_percentiles(): void
    {
        $seen = [4.1, 1.2, 3.3, 9.0, 2.2];
        $d = Distribution::read('empirical('.implode(', ', $seen).')');
        $percentiles = Summary::of($seen, [10.0, 25.0, 62.5])->percentiles ?? [];
        foreach ([10, 25, 62.5] as $p) {
            self::assertEqualsWithDelta($percentiles[(string) $p], $d->quantile($p / 100), 1e-12);
        }
        self::assertSame([0.0, 1.0], [$d->until(1.19), $d->until(9.0)]);
    }

    public function test_another_family_lies_about_where_the_first_one_did(): void
    {
        $d = Distribution::read('normal(10, 2)');
        foreach ([...array_keys(Family::TAKES), 'discrete', 'empirical'] as $family) {
            $other = Distribution::read(Portrait::of($d)->as($family));
            self::assertSame($family, $other->family);
            foreach ($family === 'exponential' ? [] : [0.25, 0.5, 0.75] as $p) {
                self::assertEqualsWithDelta($d->quantile($p), $other->quantile($p), $family === 'discrete' ? 2.0 : 0.75, "$family at $p");
            }
        }
        self::assertSame('normal(-4, 0.4)', Portrait::usual(-4.0, null, null));
        self::assertSame('uniform(0, 5)', Portrait::usual(0.0, 0.0, 5.0));
    }

    public function test_the_density_that_is_drawn_holds_nearly_all(): void
    {
        foreach (
            ['normal(10, 2)', 'beta(0.5, 0.5, 0, 1)', 'gamma(2.5, 4)', 'uniform(0, 1) within 0.2..', 'empirical(1, 2, 4)'] as $written
        ) {
            /** @var list<array{float, float}> $density */
            $density = Portrait::of(Distribution::read($written))->toRecord()['density'];
            $area = 0.0;
            foreach (array_slice($density, 1) as $i => [$x, $y]) {
                $area += (($x - $density[$i][0]) * ($y + $density[$i][1])) / 2;
            }
            self::assertEqualsWithDelta(1.0, $area, 0.06, $written);
        }
        self::assertSame([[1.0, 0.75], [2.0, 0.25]], Portrait::of(Distribution::read('discrete(1: 3, 2: 1)'))->toRecord()['density']);
    }

    public function test_limits_may_stand_at_one_end_and_discrete_values_at_them_stay(): void
    {
        $d = Distribution::read('discrete(1: 1, 2: 1, 3: 2) within 2..3');
        self::assertSame([2.0, 2.0, 3.0, 3.0], array_map($d->quantile(...), [0.01, 0.33, 0.34, 0.99]));
        self::assertEqualsWithDelta(1 / 3, $d->until(2.0), 1e-12);
        $above = Distribution::read('normal(5, 10) within ..6');
        self::assertLessThanOrEqual(6.0, $above->quantile(0.999999));
        self::assertSame(1.0, $above->until(7.0));
        self::assertSame(0.0, $above->density(6.5));
        self::assertSame('normal(5, 10) within ..6', $above->written);
    }

    /** @return array<string, array{string, string}> */
    public static function wrong(): array
    {
        return [
            'nothing' => ['', 'is no distribution'],
            'a number' => ['3.5', 'is no distribution'],
            'another name' => ['normall(1, 2)', 'There is no distribution `normall`'],
            'too few' => ['normal(1)', 'takes mean, sd; there are 1 numbers'],
            'words' => ['normal(one, 2)', '`one` is no number'],
            'a spread below zero' => ['normal(1, -2)', 'the sd is larger than 0'],
            'an empty range' => ['uniform(2, 2)', 'high is larger than low'],
            'a mode outside' => ['triangular(0, 5, 3)', 'the mode lies from low to high'],
            'turned limits' => ['normal(0, 1) within 3..1', 'is empty'],
            'no limits' => ['normal(0, 1) within 3', 'stands a range'],
            'nothing within' => ['uniform(0, 1) within 2..3', 'next to nothing lies within'],
            'no weights' => ['discrete(1, 2)', 'takes values with weights'],
            'weights below zero' => ['discrete(1: -1)', 'no weight is below 0'],
            'code' => ['normal(1, 2); exit', 'is no distribution'],
        ];
    }

    #[DataProvider('wrong')]
    public function test_what_is_no_distribution_gets_a_sentence(string $written, string $words): void
    {
        $this->expectException(NotUnderstood::class);
        $this->expectExceptionMessage($words);
        Distribution::read($written);
    }
}
