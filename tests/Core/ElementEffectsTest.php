<?php

declare(strict_types=1);

namespace Tests\Core;

use MerryOrbit\Core\Analysis\Analyser;
use MerryOrbit\Core\Experiment\Instant;
use MerryOrbit\Core\Experiment\RunDifference;
use MerryOrbit\Core\Experiment\Trial;
use MerryOrbit\Core\Model\Setting;
use MerryOrbit\Core\Simulate\Trajectory;
use MerryOrbit\Core\Structure\Effects;
use PHPUnit\Framework\TestCase;

/** How links act where things extend over dimensions: told of the one element that is looked at. */
final class ElementEffectsTest extends TestCase
{
    use ShapedModels;

    public function test_effects_are_those_of_the_element_that_is_looked_at(): void
    {
        $model = self::model(
            [['name' => 'pool', 'elements' => ['children', 'hot']], ['name' => 'age', 'from' => 0, 'to' => 2]],
            [
                self::line('parameter', 'volume', '10', 'pool'),
                self::line('parameter', 'loss', '3', 'pool'),
                self::line('auxiliary', 'need', 'volume * loss + 4'),
                self::line('auxiliary', 'all', 'sum(need) / 2'),
                self::line('auxiliary', 'first', 'need[pool: children]'),
                self::line('auxiliary', 'place', 'rank(need, pool)'),
                self::line('stock', 'crowd', '5 + number(age)', 'age'),
                ['kind' => 'flow', 'name' => 'ageing', 'formula' => 'crowd * crowd / 100', 'from' => 'crowd'],
                ['kind' => 'flow', 'name' => 'arriving', 'formula' => 'ageing[age: previous; else 1]', 'to' => 'crowd'],
            ],
            [
                'tables' => [
                    ['id' => 't', 'of' => 'volume', 'values' => [[['hot'], 2]]],
                    ['id' => 'u', 'of' => 'loss', 'values' => [[['hot'], 7]]],
                ],
            ],
        );
        $analysis = Analyser::analyse($model);
        $run = Build::run($model);
        $id = static fn (string $name): string => (string) $model->idOf($name);
        $link = static fn (string $from, string $to): string => $id($from).'>'.$id($to);
        $pool = $model->dimensions()->find('pool')->id ?? '';
        $age = $model->dimensions()->find('age')->id ?? '';
        $hot = (new Effects($analysis, $run, [$pool => 'hot', $age => '1']))->at(0);
        self::assertEqualsWithDelta(7.0, $hot[$link('volume', 'need')]['effect'], 1e-6);
        self::assertEqualsWithDelta(2.0, $hot[$link('loss', 'need')]['effect'], 1e-6);
        self::assertEqualsWithDelta(0.5, $hot[$link('volume', 'need')]['share'], 1e-6);
        self::assertEqualsWithDelta(0.12, $hot[$link('crowd', 'ageing')]['effect'], 1e-6);
        self::assertEqualsWithDelta(1.0, $hot[$link('ageing', 'arriving')]['effect'], 1e-6);
        // Both of them a little larger.
        self::assertEqualsWithDelta(1.0, $hot[$link('need', 'all')]['effect'], 1e-6);
        self::assertArrayNotHasKey($link('need', 'place'), $hot);
        $children = (new Effects($analysis, $run, [$pool => 'children', $age => '0']))->at(0);
        self::assertEqualsWithDelta(3.0, $children[$link('volume', 'need')]['effect'], 1e-6);
        // The first age has nobody before it.
        self::assertArrayNotHasKey($link('ageing', 'arriving'), $children);
        $each = (new Effects($analysis, $run))->at(0);
        self::assertArrayNotHasKey($link('volume', 'need'), $each);
        self::assertEqualsWithDelta(1.0, $each[$link('need', 'all')]['effect'], 1e-6);
    }

    /** A sign that only the run can tell is looked for at several elements. */
    public function test_a_sign_that_differs_between_elements_is_both(): void
    {
        $sign = static function (float $second): string {
            $model = self::model(
                [['name' => 'pool', 'elements' => ['a', 'b']]],
                [
                    self::line('parameter', 'turn', '1', 'pool'),
                    self::line('parameter', 'heat', '5'),
                    self::line('auxiliary', 'need', 'turn * (heat - 3) * heat'),
                ],
                ['tables' => [['id' => 't', 'of' => 'turn', 'values' => [[['b'], $second]]]]],
            );
            $effects = new Effects(Analyser::analyse($model), Build::run($model));

            return $effects->signs()[$model->idOf('heat').'>'.$model->idOf('need')] ?? 'none';
        };
        self::assertSame(['+', '±'], [$sign(2.0), $sign(-1.0)]);
    }

    /** Two runs are compared element by element, and what makes them differ adds up to how far they do. */
    public function test_why_an_element_differs_between_two_runs_adds_up(): void
    {
        $model = self::model(
            [['name' => 'pool', 'elements' => ['children', 'hot', 'cold']]],
            [
                self::line('parameter', 'volume', '10', 'pool'),
                self::line('parameter', 'loss', '0.2'),
                self::line('stock', 'heat', 'volume', 'pool'),
                ['kind' => 'flow', 'name' => 'warming', 'formula' => 'volume * 0.5 + smooth(mean heat, 2) * 0.1', 'to' => 'heat'],
                ['kind' => 'flow', 'name' => 'cooling', 'formula' => 'heat * loss', 'from' => 'heat'],
                self::line('auxiliary', 'mean heat', 'mean(heat)'),
                self::line('auxiliary', 'share', 'heat / sum(heat)'),
            ],
            ['time' => ['end' => 6, 'step' => 0.5]],
        );
        $id = static fn (string $name, string ...$at): string => $model->idOf($name).($at === [] ? '' : '['.implode(',', $at).']');
        $trials = [
            Trial::of($model, Setting::read(['parameters' => [$id('volume', 'hot') => 25.0, $id('loss') => 0.3]])),
            Trial::of($model),
        ];
        $runs = array_map(static fn (Trial $t): Trajectory => $t->run(Build::simulator()), $trials);
        $instants = array_map(
            static fn (Trial $t): Instant => Instant::of(Build::simulator(), $t, 4.0) ?? throw new \LogicException(),
            $trials,
        );
        $parting = new RunDifference($instants[0], $instants[1], $runs[0], $runs[1]);
        foreach (['heat', 'warming', 'cooling', 'share'] as $name) {
            foreach (['children', 'hot', 'cold'] as $pool) {
                $key = $id($name, $pool);
                $told = $parting->causes($key);
                $difference = (float) $parting->difference($key);
                self::assertNotSame(0.0, $difference, "$name $pool");
                self::assertEqualsWithDelta($difference, $told['rest'] + array_sum(array_column($told['causes'], 'change')), 1e-9);
                self::assertEqualsWithDelta(0.0, $told['rest'], 0.02 * abs($difference) + 1e-9, "$name $pool");
            }
        }
        $hot = array_column($parting->causes($id('warming', 'hot'))['causes'], 'change', 'cause');
        self::assertEqualsWithDelta(7.5, $hot[$id('volume', 'hot')], 1e-9);
        self::assertArrayNotHasKey($id('volume', 'children'), $hot);
    }
}
