<?php

declare(strict_types=1);

namespace Tests\Core;

use MerryOrbit\Core\Experiment\Accumulated;
use MerryOrbit\Core\Experiment\Instant;
use MerryOrbit\Core\Experiment\RunDifference;
use MerryOrbit\Core\Experiment\Trial;
use MerryOrbit\Core\Experiment\Upstream;
use MerryOrbit\Core\Model\Grip;
use MerryOrbit\Core\Model\Method;
use MerryOrbit\Core\Model\Model;
use MerryOrbit\Core\Model\Setting;
use MerryOrbit\Core\Model\TimeSettings;
use PHPUnit\Framework\Attributes\DataProvider;
use PHPUnit\Framework\TestCase;

final class TrailTest extends TestCase
{
    /** Two that graze and are eaten: h' = 0.8 h − 0.1 h p, p' = 0.05 h p − 0.5 p. */
    private static function grazers(Method $method = Method::RungeKutta4, string $extra = '0'): Model
    {
        return Build::model(
            ['growth' => '0.8', 'bite' => '0.1', 'yield' => '0.5', 'death' => '0.5'],
            ['h' => '8', 'p' => '4'],
            [
                'births' => ['growth * h', 'to' => 'h'],
                'eaten' => ['bite * h * p', 'from' => 'h'],
                'hatching' => ['yield * eaten', 'to' => 'p'],
                'dying' => ['death * p', 'from' => 'p'],
            ],
            ['pressure' => 'eaten / h + '.$extra, 'lag' => 'smooth(p, 2)', 'least' => 'min(h, p) + time / 10'],
            new TimeSettings(0, 20, 0.1, 'month', $method),
        );
    }

    private static function at(Model $model, float $time, ?Setting $setting = null): Instant
    {
        $instant = Instant::of(Build::simulator(), Trial::of($model, $setting ?? new Setting()), $time);
        self::assertNotNull($instant);

        return $instant;
    }

    /** @return array<string, float> */
    private static function changes(Instant $instant, string $id): array
    {
        return array_column($instant->causes($id)['causes'], 'change', 'cause');
    }

    /** @return iterable<string, array{Method}> */
    public static function methods(): iterable
    {
        foreach (Method::cases() as $method) {
            yield $method->value => [$method];
        }
    }

    #[DataProvider('methods')]
    public function test_contributions_add_up_to_the_derivative(Method $method): void
    {
        $model = self::grazers($method);
        foreach ([0.0, 3.7, 11.2] as $time) {
            $now = self::at($model, $time);
            [$h, $p] = [(float) $now->value('h'), (float) $now->value('p')];
            // The stocks' rates by the equations above, the others' by the product rule, by hand.
            $dh = 0.8 * $h - 0.1 * $h * $p;
            $dp = 0.05 * $h * $p - 0.5 * $p;
            $wanted = [
                'h' => [$dh, ['births' => 0.8 * $h, 'eaten' => -0.1 * $h * $p]],
                'p' => [$dp, ['hatching' => 0.05 * $h * $p, 'dying' => -0.5 * $p]],
                'eaten' => [0.1 * ($dh * $p + $h * $dp), ['h' => 0.1 * $p * $dh, 'p' => 0.1 * $h * $dp]],
                'pressure' => [0.1 * $dp, ['eaten' => (0.1 * ($dh * $p + $h * $dp)) / $h, 'h' => (-0.1 * $p * $dh) / $h]],
            ];
            foreach ($wanted as $id => [$rate, $changes]) {
                $scale = max(1.0, abs($rate), ...array_map(abs(...), array_values($changes)));
                self::assertEqualsWithDelta($rate, (float) $now->rate($id), 1e-7 * $scale, "$id at $time");
                $found = self::changes($now, $id);
                foreach ($changes as $cause => $change) {
                    self::assertEqualsWithDelta($change, $found[$cause], 1e-7 * $scale, "$id by $cause at $time");
                }
                self::assertEqualsWithDelta(0.0, $now->causes($id)['rest'], 1e-6 * $scale, "$id at $time");
                self::assertEqualsWithDelta($rate, array_sum($found), 1e-6 * $scale);
            }
        }
    }

    public function test_rates_agree_with_the_run_itself(): void
    {
        $model = self::grazers();
        $run = Build::run($model);
        foreach (['h', 'eaten', 'lag', 'pressure'] as $id) {
            $values = $run->column($id);
            foreach ([30, 77, 140] as $i) {
                $central = ($values[$i - 2] - 8 * $values[$i - 1] + 8 * $values[$i + 1] - $values[$i + 2]) / 12 / 0.1;
                self::assertEqualsWithDelta(
                    $central,
                    (float) self::at($model, $run->times()[$i])->rate($id),
                    2e-4 * max(1.0, abs($central)),
                    "$id at $i",
                );
            }
        }
    }

    public function test_at_a_kink_the_side_counts_that_the_run_moves_to(): void
    {
        $now = self::at(
            Build::model(
                [],
                ['a' => '3', 'b' => '3'],
                ['up' => ['2', 'to' => 'a'], 'down' => ['1', 'from' => 'b']],
                ['least' => 'min(a, b)'],
            ),
            0.0,
        );
        self::assertEqualsWithDelta(-1.0, (float) $now->rate('least'), 1e-9);
        $found = self::changes($now, 'least');
        self::assertEqualsWithDelta(0.0, $found['a'], 1e-9);
        self::assertEqualsWithDelta(-1.0, $found['b'], 1e-9);
    }

    public function test_time_memory_and_hands_are_named_among_the_causes(): void
    {
        $now = self::at(self::grazers(), 5.0);
        self::assertEqualsWithDelta(0.1, self::changes($now, 'least')[Instant::TIME], 1e-8);
        self::assertEqualsWithDelta(
            ((float) $now->value('p') - (float) $now->value('lag')) / 2,
            self::changes($now, 'lag')[Instant::MEMORY],
            1e-7,
        );
        $held = self::at(
            self::grazers(),
            5.0,
            new Setting(
                grips: ['h' => Grip::read('h', ['signal' => 'ramp', 'values' => ['before' => 2, 'value' => 12, 'at' => 0, 'to' => 10]])],
            ),
        );
        self::assertEqualsWithDelta(1.0, (float) $held->rate('h'), 1e-8, 'held on a ramp of 10 in 10');
        self::assertSame([Instant::TIME], array_keys(self::changes($held, 'h')));
    }

    public function test_effects_are_the_causes_seen_from_the_other_end(): void
    {
        $now = self::at(self::grazers(), 5.0);
        $effects = $now->effects('p');
        self::assertEqualsCanonicalizing(['eaten', 'dying', 'lag', 'least'], array_column($effects, 'effect'));
        foreach ($effects as ['effect' => $other, 'change' => $change, 'share' => $share]) {
            self::assertEqualsWithDelta(self::changes($now, $other)['p'], $change, 1e-12);
            self::assertTrue($share >= 0.0 && $share <= 1.0);
        }
    }

    public function test_nothing_is_told_of_a_moment_that_the_run_does_not_reach(): void
    {
        $model = Build::model(
            [],
            ['a' => '1'],
            ['in' => ['1 / (3 - time)', 'to' => 'a']],
            [],
            new TimeSettings(0, 10, 1, 'day', Method::Euler),
        );
        self::assertNotNull(Instant::of(Build::simulator(), Trial::of($model), 2.0));
        self::assertNull(Instant::of(Build::simulator(), Trial::of($model), 6.0));
    }

    private static function parting(Model $model, Setting $setting, float $time, ?Model $other = null): RunDifference
    {
        $a = Trial::of($other ?? $model, $setting);
        $b = Trial::of($model);

        return new RunDifference(
            self::at($other ?? $model, $time, $setting),
            self::at($model, $time),
            $a->run(Build::simulator()),
            $b->run(Build::simulator()),
        );
    }

    public function test_the_difference_of_two_runs_is_shared_out_completely(): void
    {
        $model = self::grazers(Method::Euler);
        $parting = self::parting($model, new Setting(['bite' => 0.13]), 6.0);
        foreach (['h', 'p', 'eaten', 'hatching', 'births', 'pressure', 'lag', 'least'] as $id) {
            $difference = (float) $parting->difference($id);
            $shares = $parting->causes($id);
            self::assertGreaterThan(1e-3, abs($difference), $id);
            self::assertEqualsWithDelta(0.0, $shares['rest'], 1e-9 * max(1.0, abs($difference)), $id);
            self::assertEqualsWithDelta(
                $difference,
                array_sum(array_column($shares['causes'], 'change')),
                1e-9 * max(1.0, abs($difference)),
                $id,
            );
        }
        self::assertSame(['eaten'], array_column($parting->causes('hatching')['causes'], 'cause'), 'the yield is the same in both');
    }

    /** For a product of two the average over both orders is Δa·(b₁+b₂)/2 and Δb·(a₁+a₂)/2. */
    public function test_shares_of_a_product_follow_the_closed_form(): void
    {
        $model = self::grazers(Method::Euler);
        $setting = new Setting(['growth' => 1.0, 'death' => 0.4]);
        [$a, $b] = [self::at($model, 4.0, $setting), self::at($model, 4.0)];
        $shares = array_column(self::parting($model, $setting, 4.0)->causes('births')['causes'], 'change', 'cause');
        self::assertEqualsWithDelta((0.2 * ((float) $a->value('h') + (float) $b->value('h'))) / 2, $shares['growth'], 1e-12);
        self::assertEqualsWithDelta(((float) $a->value('h') - (float) $b->value('h')) * 0.9, $shares['h'], 1e-12);
    }

    public function test_a_changed_formula_is_a_cause_of_its_own(): void
    {
        $parting = self::parting(self::grazers(Method::Euler), new Setting(), 4.0, self::grazers(Method::Euler, '7'));
        self::assertEqualsWithDelta(
            [RunDifference::FORMULA => 7.0],
            array_column($parting->causes('pressure')['causes'], 'change', 'cause'),
            1e-12,
        );
    }

    public function test_many_causes_are_shared_out_completely_too(): void
    {
        $names = array_map(static fn (int $i): string => "k$i", range(1, 13));
        $model = Build::model(array_fill_keys($names, '1'), [], [], ['all' => implode(' * ', $names)]);
        $parting = self::parting($model, new Setting(array_fill_keys($names, 1.2)), 0.0);
        $shares = $parting->causes('all');
        self::assertCount(13, $shares['causes']);
        self::assertEqualsWithDelta(1.2 ** 13 - 1, array_sum(array_column($shares['causes'], 'change')), 1e-9);
        foreach ($shares['causes'] as $cause) {
            self::assertEqualsWithDelta((1.2 ** 13 - 1) / 13, $cause['change'], 1e-9, 'causes alike have shares alike');
        }
    }

    /** A flow of 2 against one of 3 t differs by ∫(2 − 3t) in all; what was not touched has no share. */
    public function test_over_a_time_the_shares_of_a_difference_are_gathered(): void
    {
        $model = Build::model(
            ['a' => '2', 'b' => '3', 'c' => '5'],
            ['s' => '0'],
            ['f' => ['a * time + b + c', 'to' => 's']],
            ['twice' => '2 * f'],
            new TimeSettings(0, 12, 0.5, 'year', Method::Euler),
        );
        $of = static fn (string $id): ?array => Accumulated::of(
            Build::simulator(),
            Trial::of($model, new Setting(['a' => 4.0, 'b' => 1.0])),
            Trial::of($model),
            $id,
            6.0,
        );
        [$f, $twice] = [$of('f'), $of('twice')];
        self::assertNotNull($f);
        self::assertNotNull($twice);
        self::assertSame([true, false], [$f['isAmount'], $twice['isAmount']]);
        self::assertEqualsWithDelta((2 * 36) / 2 - 2 * 6, $f['difference'], 1e-9, 'in all');
        self::assertEqualsWithDelta(['a' => 36.0, 'b' => -12.0], array_column($f['causes'], 'change', 'cause'), 1e-9);
        self::assertEqualsWithDelta(0.0, $f['rest'], 1e-9);
        self::assertEqualsWithDelta((2 * $f['difference']) / 6, $twice['difference'], 1e-9, 'on average');
        self::assertNull(Accumulated::of(Build::simulator(), Trial::of($model), Trial::of($model), 'f', 0.0));
    }

    public function test_what_acts_on_a_variable_is_followed_through_formulas_and_flows(): void
    {
        $upstream = Upstream::of(Trial::of(self::grazers())->analysis, 'pressure');
        self::assertEqualsCanonicalizing(
            ['pressure', 'eaten', 'h', 'p', 'bite', 'births', 'growth', 'hatching', 'yield', 'dying', 'death'],
            $upstream,
        );
    }
}
