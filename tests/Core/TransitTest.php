<?php

declare(strict_types=1);

namespace Tests\Core;

use MerryOrbit\Core\Edit\SetFlow;
use MerryOrbit\Core\Edit\SetStock;
use MerryOrbit\Core\Model\Method;
use MerryOrbit\Core\Model\Model;
use MerryOrbit\Core\Model\TimeSettings;
use PHPUnit\Framework\TestCase;

/** Transit stocks, limits and priorities. */
final class TransitTest extends TestCase
{
    /** @param  array<string, string>  $parameters */
    private static function ferry(string $boarding, string $travel, string $aboard = '0', string $leak = '', array $parameters = []): Model
    {
        $flows = ['boarding' => [$boarding, 'to' => 'aboard'], 'landing' => ['', 'from' => 'aboard', 'to' => 'ashore']];
        $model = Build::model(
            $parameters,
            ['aboard' => $aboard, 'ashore' => '0', 'lost' => '0'],
            $leak === '' ? $flows : [...$flows, 'leaving' => [$leak, 'from' => 'aboard', 'to' => 'lost']],
        );

        return (new SetStock('aboard', false, $travel))->apply($model);
    }

    public function test_what_enters_arrives_after_its_travel_time(): void
    {
        foreach (Build::FIXED as $method) {
            $run = Build::run(self::ferry('window(8, 1, 2)', '3'), [], new TimeSettings(0, 10, 0.25, 'hour', $method));
            foreach ($run->times() as $i => $t) {
                self::assertEqualsWithDelta($t >= 4 && $t < 5 ? 8.0 : 0.0, $run->column('landing')[$i], 1e-9, "{$method->title()} at $t");
                self::assertEqualsWithDelta(
                    8.0 * (max(0.0, min(1.0, $t - 1)) - max(0.0, min(1.0, $t - 4))),
                    $run->column('aboard')[$i],
                    1e-9,
                );
            }
        }
    }

    public function test_content_at_the_start_is_spread_evenly(): void
    {
        $run = Build::run(self::ferry('0', '2.5', '50'), [], new TimeSettings(0, 4, 0.5));
        self::assertEqualsWithDelta([20.0, 20.0, 20.0, 20.0, 20.0, 0.0, 0.0, 0.0, 0.0], $run->column('landing'), 1e-9);
        $between = Build::run(self::ferry('0', '1.25', '50'), [], new TimeSettings(0, 4, 0.5));
        self::assertEqualsWithDelta([40.0, 40.0, 20.0, 0.0], array_slice($between->column('landing'), 0, 4), 1e-9);
    }

    public function test_a_travel_time_between_steps_and_one_that_changes_conserve(): void
    {
        foreach (['2.3', '3 + 2 * sin(time)', 'if(time < 5, 6, 1)'] as $travel) {
            foreach (Build::FIXED as $method) {
                $run = Build::run(self::ferry('5 + sin(time)', $travel, '12'), [], new TimeSettings(0, 40, 0.25, 'hour', $method));
                $entered = Build::run(
                    Build::model([], ['in' => '0'], ['boarding' => ['5 + sin(time)', 'to' => 'in']]),
                    [],
                    new TimeSettings(0, 40, 0.25, 'hour', $method),
                )->column('in');
                foreach ($entered as $i => $in) {
                    self::assertEqualsWithDelta(12.0 + $in, $run->column('aboard')[$i] + $run->column('ashore')[$i], 1e-9, $travel);
                    self::assertGreaterThan(-1e-12, $run->column('aboard')[$i]);
                }
            }
        }
        // A way of 2.3 hours: what entered all through one step arrives in two.
        $run = Build::run(self::ferry('window(10, 0, 0.5)', '2.3'), [], new TimeSettings(0, 4, 0.5, 'hour', Method::Euler));
        self::assertEqualsWithDelta([0, 0, 0, 0, 4.0, 6.0, 0, 0, 0], $run->column('landing'), 1e-9);
    }

    public function test_a_leak_takes_the_same_share_of_all_that_is_on_the_way(): void
    {
        // In balance the share that arrives after a time T of leaking at a rate r is e^(−rT).
        $run = Build::run(
            self::ferry('10', '4', '0', 'aboard * 0.1'),
            [],
            new TimeSettings(0, 40, 0.03125, 'hour', Method::RungeKutta4, 1.0),
        );
        self::assertEqualsWithDelta(10 * exp(-0.4), $run->column('landing')[40], 0.05);
        self::assertEqualsWithDelta((10 * (1 - exp(-0.4))) / 0.1, $run->column('aboard')[40], 0.1);
        foreach ($run->times() as $i => $t) {
            self::assertEqualsWithDelta(10 * $t, $run->column('aboard')[$i] + $run->column('ashore')[$i] + $run->column('lost')[$i], 1e-8);
        }
        // More than there is cannot leak.
        $all = Build::run(self::ferry('10', '4', '20', '1000'), [], new TimeSettings(0, 10, 0.5));
        self::assertGreaterThanOrEqual(0.0, min([1.0, ...$all->column('aboard')]));
        self::assertLessThan(1e-9, max([0.0, ...array_slice($all->column('landing'), 9)]));
    }

    public function test_a_limited_stock_serves_by_priority_and_says_so(): void
    {
        $model = Build::model(
            [],
            ['tank' => '10', 'town' => '0', 'farm' => '0'],
            [
                'rain' => ['2', 'to' => 'tank'],
                'fields' => ['6', 'from' => 'tank', 'to' => 'farm'],
                'taps' => ['3', 'from' => 'tank', 'to' => 'town'],
            ],
        );
        $model = (new SetStock('tank', true, ''))->apply($model);
        $model = (new SetFlow('taps', false, -1.0))->apply($model);
        $run = Build::run($model, [], new TimeSettings(0, 10, 1, 'day', Method::Euler));
        // 10, then 2 + 10 − 9 = 3: the taps take their 3, the fields the 2 that rained. On the empty tank's day the rain stays.
        self::assertEqualsWithDelta([10.0, 3.0, 0.0, 2.0, 0.0], array_slice($run->column('tank'), 0, 5), 1e-12);
        self::assertEqualsWithDelta([3.0, 3.0, 0.0, 2.0], array_slice($run->column('taps'), 0, 4), 1e-12);
        self::assertEqualsWithDelta([6.0, 2.0, 0.0, 2.0], array_slice($run->column('fields'), 0, 4), 1e-12);
        $told = array_combine(array_map(static fn ($n): string => $n->element, $run->notices), $run->notices);
        self::assertSame(['fields', 'taps'], array_keys($told));
        self::assertSame([1.0, 2.0], [$told['fields']->time, $told['taps']->time]);
        self::assertStringContainsString('9 of 10 steps. A limit that acts often is a missing feedback', $told['fields']->sentence);
        foreach (Build::FIXED as $method) {
            $run = Build::run($model, [], new TimeSettings(0, 10, 0.5, 'day', $method));
            foreach ($run->times() as $i => $t) {
                self::assertGreaterThanOrEqual(0.0, $run->column('tank')[$i]);
                self::assertEqualsWithDelta(
                    10.0 + 2.0 * $t,
                    $run->column('tank')[$i] + $run->column('town')[$i] + $run->column('farm')[$i],
                    1e-9,
                );
            }
            self::assertGreaterThan(
                array_sum($run->column('fields')) / 6.0,
                array_sum($run->column('taps')) / 3.0,
                'who is served first gets a larger share of the wish',
            );
        }
    }

    public function test_limits_pass_down_a_chain_within_one_step(): void
    {
        $model = Build::model(
            [],
            ['a' => '4', 'b' => '0', 'c' => '0'],
            ['f' => ['10', 'from' => 'a', 'to' => 'b'], 'g' => ['10', 'from' => 'b', 'to' => 'c']],
            [],
            new TimeSettings(0, 2, 1, 'day', Method::Euler),
        );
        foreach (['a', 'b'] as $id) {
            $model = (new SetStock($id, true, ''))->apply($model);
        }
        $run = Build::run($model);
        // Within a look an outflow is at most what was there at its start, so b passes on in the second step.
        self::assertSame(
            [[4.0, 0.0, 0.0], [0.0, 4.0, 0.0], [0.0, 0.0, 4.0]],
            array_map(static fn (int $i): array => [$run->column('a')[$i], $run->column('b')[$i], $run->column('c')[$i]], [0, 1, 2]),
        );
    }

    public function test_a_one_way_flow_does_not_flow_backward_and_says_so(): void
    {
        $model = (new SetFlow('f', true, null))->apply(
            Build::model([], ['x' => '5'], ['f' => ['3 - time', 'to' => 'x']], [], new TimeSettings(0, 8, 1)),
        );
        $run = Build::run($model);
        self::assertSame([3.0, 2.0, 1.0, 0.0, 0.0, 0.0, 0.0, 0.0, 0.0], $run->column('f'));
        self::assertEqualsWithDelta(9.5, $run->column('x')[8], 0.05);
        self::assertSame(['flow.one-way'], array_map(static fn ($n): string => $n->code, $run->notices));
        self::assertEqualsWithDelta(3.5, $run->notices[0]->time, 0.51);
    }

    public function test_a_transit_stock_from_which_nothing_leaves_is_remarked(): void
    {
        $model = (new SetStock('x', false, '3'))->apply(Build::model([], ['x' => '1'], ['f' => ['1', 'to' => 'x']]));
        self::assertSame(['transit.arrival'], Build::codes($model));
        self::assertSame(['name.unknown'], array_slice(Build::codes((new SetStock('x', false, 'nothing'))->apply($model)), 0, 1));
        self::assertSame(['formula.plain'], array_slice(Build::codes((new SetStock('x', false, 'smooth(x, 2)'))->apply($model)), 0, 1));
        self::assertEqualsWithDelta(
            0.0,
            Build::run((new SetStock('aboard', false, '1e30'))->apply(self::ferry('1', '3', '7')))->column('landing')[3],
            1e-20,
            'a way without end is no trouble',
        );
        $fault = Build::run((new SetStock('x', false, '1 / (x - 1)'))->apply($model))->fault;
        self::assertSame('x', $fault?->name);
    }
}
