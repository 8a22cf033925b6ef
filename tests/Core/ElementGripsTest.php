<?php

declare(strict_types=1);

namespace Tests\Core;

use MerryOrbit\Core\Experiment\Changes;
use MerryOrbit\Core\Experiment\Trial;
use MerryOrbit\Core\Model\Model;
use MerryOrbit\Core\Model\Setting;
use PHPUnit\Framework\TestCase;

/** Things that extend over dimensions taken by hand: all of their elements, or one alone. */
final class ElementGripsTest extends TestCase
{
    use ShapedModels;

    private static function baths(): Model
    {
        return self::model(
            [['name' => 'pool', 'elements' => ['children', 'swimmers', 'hot']]],
            [
                self::line('parameter', 'volume', '10', 'pool'),
                self::line('auxiliary', 'need', 'volume * 2'),
                self::line('stock', 'water', 'volume', 'pool'),
                ['kind' => 'flow', 'name' => 'in', 'formula' => 'need / 4', 'to' => 'water'],
            ],
            [
                'tables' => [['id' => 't', 'of' => 'volume', 'values' => [[['hot'], 3]]]],
                'time' => ['end' => 4, 'step' => 1],
            ],
        );
    }

    /**
     * @param  array<string, mixed>  $setting
     * @return array<string, list<float>>
     */
    private static function held(Model $model, array $setting): array
    {
        $trial = Trial::of($model, Setting::read($setting));
        $run = $trial->run(Build::simulator());
        self::assertNull($run->fault);
        $columns = [];
        foreach ($trial->analysis->columns() as $key => $name) {
            $columns[$name] = $run->column($key);
        }

        return $columns;
    }

    private static function key(Model $model, string $name, string ...$at): string
    {
        return $model->idOf($name).($at === [] ? '' : '['.implode(',', $at).']');
    }

    /** @return array{grips: array<string, array<mixed>>} */
    private static function constant(string $key, float $value, float ...$between): array
    {
        return ['grips' => [$key => ['signal' => 'constant', 'values' => ['value' => $value], ...$between]]];
    }

    public function test_one_element_is_held_and_the_others_go_on(): void
    {
        $model = self::baths();
        $run = self::held($model, self::constant(self::key($model, 'need', 'hot'), 100.0));
        self::assertSame([20.0, 20.0, 100.0], [$run['need[children]'][2], $run['need[swimmers]'][2], $run['need[hot]'][2]]);
        self::assertSame([20.0, 103.0], [$run['water[children]'][2], $run['water[hot]'][4]]);
        $late = self::held($model, self::constant(self::key($model, 'need', 'hot'), 100.0, from: 2.0, until: 3.0));
        self::assertSame([6.0, 6.0, 100.0, 6.0, 6.0], $late['need[hot]']);
    }

    /** A parameter keeps the values of all its elements, and what a scenario sets of the others. */
    public function test_a_held_parameter_keeps_the_values_of_its_elements(): void
    {
        $model = self::baths();
        self::assertSame([7.0, 10.0, 3.0], self::volumes(self::held($model, self::constant(self::key($model, 'volume', 'children'), 7.0))));
        $set = ['parameters' => [self::key($model, 'volume', 'hot') => 5.0]];
        self::assertSame(
            [7.0, 10.0, 5.0],
            self::volumes(self::held($model, [...$set, ...self::constant(self::key($model, 'volume', 'children'), 7.0)])),
        );
        // All of them together, for a while.
        $all = self::held($model, self::constant(self::key($model, 'volume'), 1.0, from: 2.0));
        self::assertSame([3.0, 3.0, 1.0, 1.0, 1.0], $all['volume[hot]']);
        self::assertSame([10.0, 10.0, 1.0, 1.0, 1.0], $all['volume[children]']);
    }

    /**
     * @param  array<string, list<float>>  $run
     * @return list<float> at the start
     */
    private static function volumes(array $run): array
    {
        return array_map(static fn (string $pool): float => $run["volume[$pool]"][0], ['children', 'swimmers', 'hot']);
    }

    public function test_a_stock_is_held_at_one_element(): void
    {
        $model = self::baths();
        $run = self::held($model, self::constant(self::key($model, 'water', 'swimmers'), 50.0, from: 1.0, until: 3.0));
        self::assertSame([10.0, 50.0, 50.0, 50.0, 55.0], $run['water[swimmers]']);
        self::assertSame([10.0, 15.0, 20.0, 25.0, 30.0], $run['water[children]']);
    }

    public function test_several_elements_are_held_each_in_its_way(): void
    {
        $model = self::baths();
        $one = self::constant(self::key($model, 'need', 'hot'), 1.0)['grips'];
        $two = [self::key($model, 'need', 'children') => ['signal' => 'step', 'values' => ['before' => 2.0, 'value' => 8.0, 'at' => 2.0]]];
        $run = self::held($model, ['grips' => [...$one, ...$two]]);
        self::assertSame([2.0, 2.0, 8.0, 8.0, 8.0], $run['need[children]']);
        self::assertSame([1.0, 20.0], [$run['need[hot]'][3], $run['need[swimmers]'][3]]);
    }

    /** What has lost its dimension is let go, and an element that is away holds nothing. */
    public function test_a_hand_on_an_element_that_is_gone_holds_nothing(): void
    {
        $model = self::baths();
        $grip = self::constant(self::key($model, 'need', 'hot'), 100.0);
        $pool = $model->dimensions()->find('pool')->id ?? '';
        self::assertArrayNotHasKey('need[hot]', self::held($model, [...$grip, 'limits' => [$pool => ['children']]]));
        self::assertSame(20.0, self::held($model, self::constant(self::key($model, 'need', 'hot', 'more'), 1.0))['need[swimmers]'][1]);
    }

    public function test_what_is_held_is_told_of_its_element(): void
    {
        $model = self::baths();
        $setting = Setting::read(self::constant(self::key($model, 'volume', 'hot'), 100.0));
        $told = Changes::between($model, new Setting(), $model, $setting);
        self::assertSame('volume[hot]', $told[0]['name']);
    }
}
