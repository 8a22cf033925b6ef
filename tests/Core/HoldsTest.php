<?php

declare(strict_types=1);

namespace Tests\Core;

use MerryOrbit\Core\Analysis\Analyser;
use MerryOrbit\Core\Edit\SetCurve;
use MerryOrbit\Core\Edit\SetFlow;
use MerryOrbit\Core\Edit\SetStock;
use MerryOrbit\Core\Experiment\Holds;
use MerryOrbit\Core\Model\Between;
use MerryOrbit\Core\Model\Beyond;
use MerryOrbit\Core\Model\Model;
use MerryOrbit\Core\Model\TimeSettings;
use PHPUnit\Framework\TestCase;

/** Why something stays where it is although what feeds it moves. */
final class HoldsTest extends TestCase
{
    /** @return list<array{sentence: string, since: ?float, element: ?string}> */
    private static function of(Model $model, string $id, float $time): array
    {
        return Holds::of(Analyser::analyse($model), Build::run($model), $id, $time);
    }

    /** Demand grows by 1 a year from 0 and meets 4 seats at year 4. */
    private static function ferry(): Model
    {
        return Build::model(
            ['seats' => '4', 'cap' => '10'],
            ['demand' => '0'],
            ['rise' => ['1', 'to' => 'demand']],
            [
                'visitors' => 'min(demand, seats, cap)',
                'price' => 'max(demand, 6)',
                'shown' => 'clamp(demand, 2, 8)',
                'mode' => 'if(demand > 5, 1, 0)',
                'felt' => 'crowding(demand)',
            ],
            new TimeSettings(0, 10, 0.5, 'year'),
        );
    }

    public function test_the_argument_that_counts_is_named_with_how_far_the_others_are_from_it(): void
    {
        [$one] = self::of(self::ferry(), 'visitors', 9.0);
        self::assertSame(
            'The least of `demand`, `seats` and `cap` counts. That is `seats` (4): `demand` is 5 more and `cap` is 6 more, since year 4.5.',
            $one['sentence'],
        );
        self::assertSame(['seats', 4.5], [$one['element'], $one['since']], 'at 4 demand is still the first of the least');
        [$one] = self::of(self::ferry(), 'visitors', 2.0);
        self::assertStringContainsString(
            'That is `demand` (2): `seats` is 2 more and `cap` is 8 more. So it is from the start on.',
            $one['sentence'],
        );
        [$one] = self::of(self::ferry(), 'price', 3.0);
        self::assertStringContainsString('The largest of `demand` and `6` counts. That is `6`: `demand` is 3 less', $one['sentence']);
    }

    public function test_bounds_conditions_and_curves(): void
    {
        [$one] = self::of(self::ferry(), 'shown', 10.0);
        self::assertSame('`demand` is 2 above its bound, so `8` counts, since year 8.5.', $one['sentence']);
        self::assertSame([], self::of(self::ferry(), 'shown', 5.0));
        [$one] = self::of(self::ferry(), 'mode', 7.0);
        self::assertSame('The condition `demand > 5` holds, so `1` counts, since year 5.5.', $one['sentence']);
        $model = (new \MerryOrbit\Core\Edit\AddElement('c', \MerryOrbit\Core\Model\Kind::Curve, 'crowding'))->apply(self::ferry());
        $model = (new SetCurve('c', [[0.0, 1.0], [2.0, 0.5], [4.0, 0.5], [6.0, 0.2]], Between::Straight, Beyond::Held, ''))->apply($model);
        $model = $model->withElement(
            $model->elements['felt']->with([
                'formula' => \MerryOrbit\Core\Formula\FormulaText::typed('crowding(demand)', $model->idOf(...)),
            ]),
        );
        self::assertSame([], self::of($model, 'felt', 1.0));
        self::assertSame(
            '`demand` (3) lies where `crowding` is flat, from 2 to 4; there the curve stays at 0.5, since year 2.',
            self::of($model, 'felt', 3.0)[0]['sentence'],
        );
        self::assertSame(
            '`demand` (9) lies beyond the last point of `crowding` (6); there the curve stays at 0.2, since year 6.',
            self::of($model, 'felt', 9.0)[0]['sentence'],
        );
    }

    public function test_an_empty_stock_and_a_flow_that_goes_one_way(): void
    {
        $model = Build::model(
            [],
            ['lens' => '3'],
            ['wells' => ['1', 'from' => 'lens'], 'rain' => ['0.25', 'to' => 'lens'], 'tide' => ['2 - time', 'to' => 'lens']],
            [],
            new TimeSettings(0, 10, 0.5, 'year'),
        );
        $model = (new SetFlow('tide', true, null))->apply((new SetStock('lens', true, ''))->apply($model));
        self::assertSame(
            'By its formula it would be -3, but it flows one way only, so nothing flows, since year 2.5.',
            self::of($model, 'tide', 5.0)[0]['sentence'],
        );
        $run = Build::run($model);
        self::assertEqualsWithDelta(0.25, $run->column('wells')[20], 1e-3, 'no more than the rain');
        $wells = self::of($model, 'wells', 10.0);
        self::assertSame('lens', $wells[0]['element']);
        self::assertStringStartsWith(
            'By its formula it would be 1, but `lens` never goes below zero and gives no more than it has: 0.25',
            $wells[0]['sentence'],
        );
        self::assertStringStartsWith('`wells` takes all there is.', self::of($model, 'lens', 10.0)[0]['sentence']);
        self::assertSame([], self::of($model, 'wells', 1.0));
    }
}
