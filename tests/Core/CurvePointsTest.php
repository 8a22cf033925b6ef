<?php

declare(strict_types=1);

namespace Tests\Core;

use MerryOrbit\Core\Edit\AddElement;
use MerryOrbit\Core\Edit\SetCurve;
use MerryOrbit\Core\Exchange\NativeFile;
use MerryOrbit\Core\Model\Between;
use MerryOrbit\Core\Model\Beyond;
use MerryOrbit\Core\Model\FitPlan;
use MerryOrbit\Core\Model\Kind;
use MerryOrbit\Core\Model\Meaning;
use MerryOrbit\Core\Model\Model;
use MerryOrbit\Core\Model\TimeSettings;
use MerryOrbit\Core\Uncertain\CurvePoints;
use MerryOrbit\Core\Uncertain\Opened;
use PHPUnit\Framework\TestCase;
use Random\Engine\Xoshiro256StarStar;
use Random\Randomizer;

/** Points of curves as parameters: a run with other values is the run of the model with the other curve. */
final class CurvePointsTest extends TestCase
{
    use Commanded;

    /** @param  list<array{float, float}>  $points */
    private static function model(array $points, Between $between, Beyond $beyond): Model
    {
        $model = (new AddElement('bend', Kind::Curve, 'bend of it', ''))->apply(new Model('Test', time: new TimeSettings(0, 10, 0.25)));
        $model = (new SetCurve('bend', $points, $between, $beyond))->apply($model);
        foreach (
            [
                'plain' => 'bend of it(time / 2 - 1)',
                'twice' => '3 - "bend of it" ( bend of it(time) + (1 + 1) * 0.25 ) ^ 2 / 2',
                'beside' => 'plain + max(bend of it(plain), bend of it(twice))',
            ] as $name => $formula
        ) {
            $model = (new AddElement($name, Kind::Auxiliary, $name, $formula))->apply($model);
        }

        return (new AddElement('all', Kind::Stock, 'all', 'bend of it(1.5)'))->apply($model);
    }

    public function test_a_run_with_other_points_is_the_run_with_the_other_curve(): void
    {
        $random = new Randomizer(new Xoshiro256StarStar(hash('sha256', 'points', true)));
        $drawn = static fn (float $low, float $high): float => $low + ($high - $low) * ($random->getInt(0, 1 << 30) / (1 << 30));
        foreach (Between::cases() as $between) {
            foreach (Beyond::cases() as $beyond) {
                for ($round = 0; $round < 12; $round++) {
                    $points = [];
                    $x = $drawn(-1.0, 0.5);
                    for ($i = 0; $i < 2 + ($round % 5); $i++) {
                        $points[] = [$x, $round % 3 === 0 ? $i * $drawn(0.1, 1.0) : $drawn(-2.0, 2.0)];
                        $x += $drawn(0.2, 1.5);
                    }
                    $free = array_values(array_filter(array_keys($points), static fn (int $i): bool => $i % 2 === $round % 2));
                    $others = $points;
                    $values = [];
                    foreach ($free as $i) {
                        $y = $drawn(-2.0, 2.0);
                        $values[CurvePoints::parameter('bend', $i)] = $y;
                        $others[$i] = [$points[$i][0], $y];
                    }
                    $model = self::model($points, $between, $beyond);
                    $opened = Opened::of($model, array_keys($values));
                    $where = "$between->value $beyond->value ".json_encode([$points, $free]);
                    foreach ([[$points, []], [$others, $values]] as [$drawnOf, $given]) {
                        $wanted = Build::run(self::model($drawnOf, $between, $beyond));
                        $made = Build::run($opened, $given);
                        foreach (['plain', 'twice', 'beside', 'all'] as $name) {
                            $size = max([1.0, ...array_map(abs(...), $wanted->column($name))]);
                            self::assertEqualsWithDelta($wanted->column($name), $made->column($name), 1e-11 * $size, "$name, $where");
                        }
                    }
                }
            }
        }
    }

    public function test_a_point_is_found_again_from_what_it_leads_to(): void
    {
        $points = [[0.0, 1.0], [0.5, 0.8], [1.0, 0.1]];
        $made = static function (float $y) use ($points): Model {
            $model = (new AddElement('crowding', Kind::Curve, 'crowding', ''))->apply(
                Build::model(['rate' => '0.5', 'room' => '100'], ['fish' => '5'], time: new TimeSettings(0, 30, 0.25, 'year')),
            );
            $model = (new SetCurve('crowding', [$points[0], [0.5, $y], $points[2]]))->apply($model);

            return (new AddElement('growth', Kind::Flow, 'growth', 'rate * fish * crowding(fish / room)', to: 'fish'))->apply($model);
        };
        $run = Build::run($made(0.55));
        $rows = ['year,fish'];
        foreach ($run->times() as $i => $t) {
            if (fmod($t, 3.0) === 0.0) {
                $rows[] = "$t,".sprintf('%.12g', $run->column('fish')[$i]);
            }
        }
        $data = $this->file(implode("\n", $rows)."\n", '.csv');
        $file = $this->file(NativeFile::export($made(0.9)), '.json');
        $free = ['--free=crowding[0.5]=0.1..1', '--free=rate=0.1..2'];
        [$code, $out, $err] = self::orbit(['fit', $file, "--data=$data", ...$free, '--format=json']);
        self::assertSame(0, $code, $err);
        /** @var list<array{name: string, value: float}> $found */
        $found = self::json($out)['parameters'];
        self::assertSame('crowding at 0.5', $found[0]['name']);
        self::assertEqualsWithDelta([0.55, 0.5], array_column($found, 'value'), 1e-6);
    }

    public function test_a_plan_names_points_by_their_x_and_others_are_refused(): void
    {
        $model = self::model([[0.0, 1.0], [0.25, 2.0], [3.0, 4.0]], Between::Smooth, Beyond::Held);
        $plan = static fn (string $x): FitPlan => FitPlan::read([
            'id' => 'c',
            'name' => 'c',
            'free' => [['of' => 'bend', 'at' => [$x], 'low' => 0, 'high' => 5]],
        ])->settled($model);
        self::assertNull($plan('0.250')->unfit($model));
        self::assertSame(['0.25'], $plan('0.250')->free[0]['at']);
        self::assertStringContainsString('one of its points can be freed, by its x: 0, 0.25, 3.', (string) $plan('0.3')->unfit($model));
        // A point that moves is no part of what a fit follows from; the others are.
        $moved = static fn (float $middle, float $last): Model => self::model(
            [[0.0, 1.0], [0.25, $middle], [3.0, $last]],
            Between::Smooth,
            Beyond::Held,
        );
        $own = Meaning::of($model, ['bend[0.25]']);
        self::assertSame($own, Meaning::of($moved(9.0, 4.0), ['bend[0.25]']));
        self::assertNotSame($own, Meaning::of($moved(2.0, 4.5), ['bend[0.25]']));
    }
}
