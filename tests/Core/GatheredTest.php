<?php

declare(strict_types=1);

namespace Tests\Core;

use MerryOrbit\Core\Analysis\Analyser;
use MerryOrbit\Core\Analysis\Analysis;
use MerryOrbit\Core\Model\Model;
use MerryOrbit\Core\Reduce\Gathered;
use MerryOrbit\Core\Reduce\Ranked;
use MerryOrbit\Core\Simulate\RunOptions;
use MerryOrbit\Core\Simulate\Trajectory;
use PHPUnit\Framework\TestCase;

/** What is looked at over dimensions without new variables is what the formulas of new variables give. */
final class GatheredTest extends TestCase
{
    use ShapedModels;

    private static function harvest(): Model
    {
        return self::model(
            [self::$terraces, self::$ages, ['name' => 'outer', 'partOf' => 'terrace', 'elements' => ['north', 'south']]],
            [
                self::line('parameter', 'price', '3', 'terrace'),
                self::line('stock', 'oysters', '10 * position(terrace) + number(age)', 'terrace', 'age'),
                ['kind' => 'flow', 'name' => 'harvest', 'formula' => 'oysters * (0.1 + number(age) / 7)', 'from' => 'oysters'],
                self::line('auxiliary', 'outer harvest', 'harvest * 2', 'outer', 'age'),
                self::line('auxiliary', 'sum by terrace', 'sum(harvest, age)'),
                self::line('auxiliary', 'mean by age', 'mean(harvest, terrace)'),
                self::line('auxiliary', 'mean of sums', 'sum(harvest, terrace) / 4'),
                self::line('auxiliary', 'least of all', 'least(harvest)'),
                self::line('auxiliary', 'greatest by age', 'greatest(harvest, terrace)'),
            ],
            ['tables' => [['id' => 't', 'of' => 'price', 'values' => [[['south'], 9]]]]],
        );
    }

    /**
     * @param  list<string>  $keys
     * @return array{Trajectory, array<string, string>, Analysis}
     */
    private static function seen(Model $model, array $keys): array
    {
        $analysis = Analyser::analyse($model);

        return [...Gathered::added(Build::simulator()->run($analysis, new RunOptions()), $analysis, $keys), $analysis];
    }

    public function test_sums_means_and_extremes_are_those_of_formulas(): void
    {
        $model = self::harvest();
        $of = static fn (string $name): string => (string) $model->idOf($name);
        $harvest = $of('harvest');
        $pairs = [
            "{$harvest}[middle,*sum]" => $of('sum by terrace').'[middle]',
            "{$harvest}[*mean,2]" => $of('mean by age').'[2]',
            "{$harvest}[*least,*least]" => $of('least of all'),
            "{$harvest}[*greatest,3]" => $of('greatest by age').'[3]',
            "{$harvest}[north,1]" => "{$harvest}[north,1]",
        ];
        [$run, $untold] = self::seen($model, array_keys($pairs));
        self::assertSame([], $untold);
        foreach ($pairs as $seen => $computed) {
            self::assertEqualsWithDelta($run->column($computed), $run->column($seen), 1e-12, $seen);
        }
        // A mean over one of a sum over the other, in either order.
        $keys = array_map(static fn (string $look): string => "{$harvest}[*sum,$look]", ['*mean', '0', '1', '2', '3']);
        [$run] = self::seen($model, $keys);
        $mean = 0.0;
        foreach ([0, 1, 2, 3] as $age) {
            $mean += $run->column("{$harvest}[*sum,$age]")[5] / 4;
        }
        self::assertEqualsWithDelta($mean, $run->column("{$harvest}[*sum,*mean]")[5], 1e-12);
    }

    public function test_what_does_not_change_stays_a_number(): void
    {
        $model = self::harvest();
        $price = (string) $model->idOf('price');
        [$run, $untold] = self::seen($model, ["{$price}[*sum]", "{$price}[*mean]"]);
        self::assertSame([[], 15.0, 5.0], [$untold, $run->steady()["{$price}[*sum]"], $run->steady()["{$price}[*mean]"]]);
    }

    public function test_what_means_nothing_says_why(): void
    {
        $model = self::harvest();
        $harvest = (string) $model->idOf('harvest');
        $outer = (string) $model->idOf('outer harvest');
        $wrong = [
            "{$harvest}[*sum,*least]" => 'another number in another order',
            "{$harvest}[*greatest,*least]" => 'another number in another order',
            "{$outer}[middle,*sum]" => 'has nothing for `middle`, which does not belong to `outer`',
            "{$harvest}[north]" => 'extends over other dimensions by now',
            "{$harvest}[*median,0]" => 'by one of its elements, or by sum, mean, least, greatest',
            'gone[north]' => 'no such thing',
        ];
        [$run, $untold] = self::seen($model, array_keys($wrong));
        foreach ($wrong as $key => $words) {
            self::assertFalse($run->has($key));
            self::assertStringContainsString($words, $untold[$key] ?? '');
        }
    }

    public function test_the_greatest_and_the_least_are_found_under_a_look(): void
    {
        $model = self::harvest();
        $analysis = Analyser::analyse($model);
        $run = Build::simulator()->run($analysis);
        $oysters = (string) $model->idOf('oysters');
        [$terrace, $age] = [$model->dimensions()->find('terrace')->id ?? '', $model->dimensions()->find('age')->id ?? ''];
        // The more of them and the younger, the more are left.
        $greatest = Ranked::keys($run, $analysis, $oysters, [], true, 2);
        self::assertSame(["{$oysters}[south,0]", "{$oysters}[middle,0]"], $greatest);
        self::assertSame(["{$oysters}[north,3]"], Ranked::keys($run, $analysis, $oysters, [], false, 1));
        self::assertSame(
            ["{$oysters}[south,*sum]", "{$oysters}[middle,*sum]", "{$oysters}[north,*sum]"],
            Ranked::keys($run, $analysis, $oysters, [$age => '*sum'], true, 10),
        );
        self::assertSame(
            ["{$oysters}[middle,3]", "{$oysters}[middle,2]"],
            Ranked::keys($run, $analysis, $oysters, [$terrace => 'middle'], false, 2),
        );
    }

    /** A large model keeps all elements together; what is gathered is the same. */
    public function test_of_a_run_in_loops_the_same_is_gathered(): void
    {
        $model = self::harvest();
        $oysters = (string) $model->idOf('oysters');
        $keys = [
            "{$oysters}[*sum,*sum]",
            "{$oysters}[*mean,*mean]",
            "{$oysters}[*least,*least]",
            "{$oysters}[*greatest,*greatest]",
            "{$oysters}[north,*sum]",
        ];
        [$written] = self::seen($model, $keys);
        $looped = Analyser::made($model, [], 1);
        self::assertNotNull($looped->shaped);
        [$run, $untold] = Gathered::added(Build::simulator()->run($looped), $looped, $keys);
        self::assertSame([], $untold);
        foreach ($keys as $key) {
            self::assertSame($written->column($key), $run->column($key), $key);
        }
    }
}
