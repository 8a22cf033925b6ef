<?php

declare(strict_types=1);

namespace Tests\Core;

use MerryOrbit\Core\Model\Method;
use MerryOrbit\Core\Model\TimeSettings;
use PHPUnit\Framework\Attributes\DataProvider;
use PHPUnit\Framework\TestCase;

/** Functions that remember, against closed forms and against counting. */
final class MemoryTest extends TestCase
{
    /**
     * @param  array<string, string>  $auxiliaries
     * @return list<float>
     */
    private static function course(array $auxiliaries, string $name, TimeSettings $time, string $level = '1'): array
    {
        $run = Build::run(Build::model([], ['s' => $level], ['f' => ['0.5', 'to' => 's']], $auxiliaries, $time));
        self::assertNull($run->fault, (string) $run->fault?->sentence());

        return $run->column($name);
    }

    /** Share of an Erlang-distributed delay of n stages that is through after t: 1 − Σ (nt/T)^k e^(−nt/T) / k!. */
    private static function erlang(int $n, float $mean, float $t): float
    {
        $x = ($n * $t) / $mean;
        $term = $sum = exp(-$x);
        for ($k = 1; $k < $n; $k++) {
            $term *= $x / $k;
            $sum += $term;
        }

        return 1.0 - $sum;
    }

    /** @return iterable<string, array{int}> */
    public static function orders(): iterable
    {
        foreach ([1, 2, 3, 6, 12] as $order) {
            yield "order $order" => [$order];
        }
    }

    #[DataProvider('orders')]
    public function test_delays_answer_a_step_as_erlang_says(int $order): void
    {
        foreach ([[Method::RungeKutta4, 2e-6], [Method::DormandPrince, 2e-5], [Method::Rosenbrock, 2e-4]] as [$method, $tolerance]) {
            $time = new TimeSettings(0, 30, 0.03125, 'week', $method, 1.0);
            foreach (["smooth(step(4, 5), 8, $order)", "delay(step(4, 5), 8, $order)"] as $formula) {
                foreach (self::course(['out' => $formula], 'out', $time) as $week => $value) {
                    self::assertEqualsWithDelta(
                        $week <= 5 ? 0.0 : 4.0 * self::erlang($order, 8.0, $week - 5.0),
                        $value,
                        4 * $tolerance,
                        "$formula in week $week, {$method->title()}",
                    );
                }
            }
        }
    }

    public function test_a_material_delay_keeps_what_is_inside_when_its_time_changes(): void
    {
        $model = Build::model(
            [],
            ['arrived' => '0', 'sent' => '0'],
            ['sending' => ['window(10, 2, 12)', 'to' => 'sent'], 'arriving' => ['delay(sending, way, 3)', 'to' => 'arrived']],
            ['way' => '6 + 5 * sin(time)'],
        );
        foreach (Build::FIXED as $method) {
            $run = Build::run($model, [], new TimeSettings(0, 200, 0.125, 'day', $method));
            $end = $run->length() - 1;
            self::assertEqualsWithDelta($run->column('sent')[$end], $run->column('arrived')[$end], 1e-6, 'all of it arrives');
        }
        // An information delay does not keep it.
        $smoothed = Build::run(
            Build::model(
                [],
                ['arrived' => '0'],
                ['arriving' => ['smooth(window(10, 2, 12), way, 3)', 'to' => 'arrived']],
                ['way' => '6 + 5 * sin(time)'],
                new TimeSettings(0, 200, 0.125, 'day'),
            ),
        );
        self::assertGreaterThan(1.0, abs($smoothed->column('arrived')[1600] - 100.0));
    }

    public function test_the_first_value_of_a_delay_is_its_first_output(): void
    {
        foreach (['delay(2, 4, 3, 10)', 'smooth(2, 4, 3, 10)', 'shift(2, 4, 10)', 'previous(2, 10)'] as $formula) {
            self::assertEqualsWithDelta(10.0, self::course(['out' => $formula], 'out', new TimeSettings(0, 10, 0.25))[0], 1e-12, $formula);
        }
        foreach (['delay(s, 4)', 'smooth(s, 4, 3)', 'shift(s, 4)', 'previous(s)'] as $formula) {
            self::assertEqualsWithDelta(
                7.0,
                self::course(['out' => $formula], 'out', new TimeSettings(0, 10, 0.25), '7')[0],
                1e-12,
                "$formula begins in balance",
            );
        }
    }

    public function test_a_shift_is_exact_for_whole_steps_under_every_method(): void
    {
        foreach (Method::cases() as $method) {
            $run = Build::run(
                Build::model([], ['s' => '1'], ['f' => ['s / 5', 'to' => 's']], ['late' => 'shift(s, 2)', 'odd' => 'shift(s, 2.1, 0)']),
                [],
                new TimeSettings(0, 20, 0.25, 'year', $method),
            );
            $s = $run->column('s');
            foreach ($run->column('late') as $i => $value) {
                self::assertSame($i < 8 ? 1.0 : $s[$i - 8], $value, "{$method->title()}, step $i");
            }
            foreach ($run->column('odd') as $i => $value) {
                // 2.1 lies between 8 and 9 steps: on the straight line between the two.
                self::assertEqualsWithDelta($i < 9 ? 0.0 : $s[$i - 9] + 0.6 * ($s[$i - 8] - $s[$i - 9]), $value, 1e-9);
            }
        }
    }

    public function test_previous_is_the_start_of_the_step_before(): void
    {
        foreach (Build::FIXED as $method) {
            $time = new TimeSettings(0, 5, 0.5, 'year', $method);
            $run = Build::run(
                Build::model(
                    [],
                    ['s' => '1'],
                    ['f' => ['s', 'to' => 's']],
                    ['before' => 'previous(s, -7)', 'count' => 'previous(count, 0) + 1'],
                ),
                [],
                $time,
            );
            $s = $run->column('s');
            self::assertSame([-7.0, ...array_slice($s, 0, 10)], $run->column('before'));
            self::assertSame(array_map(floatval(...), range(1, 11)), $run->column('count'), 'it may remember itself');
        }
    }

    public function test_holding_latching_counting_and_extremes(): void
    {
        $time = new TimeSettings(0, 12, 0.25, 'year', Method::RungeKutta4);
        $names = [
            'swell' => '3 * cos(pi * time / 4)',
            'held' => 'hold(swell, 1.5)',
            'on' => 'latch(swell > 2, swell < -2)',
            'often' => 'times(swell > 0)',
            'top' => 'highest(s * 0 + swell + time / 10)',
            'low' => 'lowest(swell)',
            'begin' => 'initial(swell + 1)',
        ];
        $run = Build::run(Build::model([], ['s' => '1'], ['f' => ['0.5', 'to' => 's']], $names, $time));
        $wave = $run->column('swell');
        $on = $often = 0.0;
        $held = NAN;
        $top = -INF;
        $before = false;
        foreach ($run->times() as $i => $t) {
            $held = $i % 6 === 0 ? $wave[$i] : $held;
            $on = $wave[$i] < -2 ? 0.0 : ($wave[$i] > 2 ? 1.0 : $on);
            $often += $wave[$i] > 0 && ! $before ? 1 : 0;
            $before = $wave[$i] > 0;
            $top = max($top, $wave[$i] + $t / 10);
            self::assertSame(
                [$held, $on, $often, min([INF, ...array_slice($wave, 0, $i + 1)])],
                [$run->column('held')[$i], $run->column('on')[$i], $run->column('often')[$i], $run->column('low')[$i]],
                "time $t",
            );
            self::assertEqualsWithDelta($top, $run->column('top')[$i], 1e-12);
        }
        self::assertSame(4.0, $run->steady()['begin'] ?? $run->column('begin')[5]);
    }

    public function test_totals_trends_and_forecasts(): void
    {
        $time = new TimeSettings(0, 40, 0.0625, 'year', Method::RungeKutta4, 1.0);
        $run = Build::run(
            Build::model(
                [],
                ['x' => '100'],
                ['f' => ['0.05 * x', 'to' => 'x']],
                [
                    'sum' => 'total(x)',
                    'growth' => 'trend(x, 4, 0.05)',
                    'late' => 'trend(x, 4)',
                    'ahead' => 'forecast(x, 4, 3, 0.05)',
                    'flat' => 'trend(0, 4)',
                ],
                $time,
            ),
        );
        foreach ($run->times() as $i => $t) {
            self::assertEqualsWithDelta(2000.0 * (exp(0.05 * $t) - 1.0), $run->column('sum')[$i], 1e-4);
            // In steady growth the average lags by a fixed share, so that the trend is the growth itself.
            self::assertEqualsWithDelta(0.05, $run->column('growth')[$i], 1e-8);
            self::assertEqualsWithDelta($run->column('x')[$i] * 1.15, $run->column('ahead')[$i], 1e-4);
        }
        self::assertEqualsWithDelta(0.05, $run->column('late')[40], 1e-4);
        self::assertSame(0.0, $run->column('flat')[20]);
    }

    public function test_memory_in_a_branch_advances_whether_it_is_chosen_or_not(): void
    {
        $run = Build::run(
            Build::model(
                [],
                ['s' => '1'],
                ['f' => ['1', 'to' => 's']],
                ['out' => 'if(time > 5, total(2), 0)', 'count' => 'if(time > 5, times(s > 3.2), 0)'],
                new TimeSettings(0, 10, 0.5),
            ),
        );
        self::assertEqualsWithDelta(20.0, $run->column('out')[20], 1e-9);
        self::assertSame(1.0, $run->column('count')[20]);
    }

    /** @return iterable<string, array{string, string, string}> */
    public static function slips(): iterable
    {
        yield 'an order that moves' => ['smooth(s, 5, s)', 'delay.order', 'whole number from 1 to 12'];
        yield 'too high an order' => ['delay(s, 5, 13)', 'delay.order', 'whole number from 1 to 12'];
        yield 'half an order' => ['delay(s, 5, 1.5)', 'delay.order', 'whole number from 1 to 12'];
        yield 'a circle at the start' => ['previous(out + 1)', 'circle.start', 'first value'];
    }

    #[DataProvider('slips')]
    public function test_slips_are_said(string $formula, string $code, string $words): void
    {
        $problems = \MerryOrbit\Core\Analysis\Analyser::analyse(Build::model([], ['s' => '1'], [], ['out' => $formula]))->problems;
        self::assertSame([$code, 'out'], [$problems[0]->code ?? '', $problems[0]->element ?? '']);
        self::assertStringContainsString($words, $problems[0]->sentence);
        self::assertSame($code === 'delay.order', ($problems[0]->from ?? null) !== null, 'with a place if there is one');
    }

    public function test_a_delay_that_the_steps_are_too_long_for_is_told(): void
    {
        $run = Build::run(
            Build::model(
                ['over' => '1'],
                ['s' => '1'],
                [],
                ['out' => 'smooth(s, over, 3)', 'fine' => 'smooth(s, 6, 3)'],
                new TimeSettings(0, 10, 0.5),
            ),
        );
        self::assertSame(['delay.short'], array_map(static fn ($n): string => $n->code, $run->notices));
        self::assertStringContainsString('`out` takes 1 year, less than its order times the time step (1.5)', $run->notices[0]->sentence);
    }

    public function test_an_event_between_two_steps_is_told_once(): void
    {
        $run = Build::run(
            Build::model(
                [],
                ['s' => '1'],
                [],
                ['out' => 'step(1, 2.3) + window(1, 2, 3) + pulse(5, 0.1, 1)'],
                new TimeSettings(0, 10, 0.5),
            ),
        );
        self::assertCount(1, $run->notices);
        self::assertStringContainsString('lies between two steps and acts at the next one', $run->notices[0]->sentence);
    }
}
