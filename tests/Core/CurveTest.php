<?php

declare(strict_types=1);

namespace Tests\Core;

use MerryOrbit\Core\Analysis\Analyser;
use MerryOrbit\Core\Edit\AddElement;
use MerryOrbit\Core\Edit\EditReader;
use MerryOrbit\Core\Edit\EditRefused;
use MerryOrbit\Core\Edit\RenameElement;
use MerryOrbit\Core\Edit\SetCurve;
use MerryOrbit\Core\Library\CurveShape;
use MerryOrbit\Core\Model\Between;
use MerryOrbit\Core\Model\Beyond;
use MerryOrbit\Core\Model\Curve;
use MerryOrbit\Core\Model\Kind;
use MerryOrbit\Core\Model\Model;
use MerryOrbit\Core\Model\TimeSettings;
use PHPUnit\Framework\TestCase;

final class CurveTest extends TestCase
{
    private const POINTS = [[0.0, 1.0], [2.0, 0.9], [3.0, 0.4], [7.0, 0.35], [8.0, 0.0]];

    /** @param  list<array{float, float}>  $points */
    private static function model(array $points, Between $between, Beyond $beyond, string $formula = 'effect of crowding(x)'): Model
    {
        $model = Build::model([], ['x' => '-2'], ['f' => ['1', 'to' => 'x']], [], new TimeSettings(0, 12, 0.25));
        $model = (new AddElement('c', Kind::Curve, 'effect of crowding'))->apply($model);
        $model = (new SetCurve('c', $points, $between, $beyond, ''))->apply($model);

        return (new AddElement('y', Kind::Auxiliary, 'y', $formula))->apply($model);
    }

    private static function shape(Between $between, Beyond $beyond): CurveShape
    {
        $curve = self::model(self::POINTS, $between, $beyond)->elements['c'];
        self::assertInstanceOf(Curve::class, $curve);

        return CurveShape::of($curve);
    }

    public function test_all_curves_go_through_their_points(): void
    {
        foreach (Between::cases() as $between) {
            foreach (Beyond::cases() as $beyond) {
                foreach (self::POINTS as [$x, $y]) {
                    self::assertEqualsWithDelta($y, self::shape($between, $beyond)->value($x), 1e-14);
                }
            }
        }
    }

    public function test_between_and_outside(): void
    {
        $straight = self::shape(Between::Straight, Beyond::Held);
        self::assertEqualsWithDelta(
            [0.95, 0.65, 1.0, 0.0],
            [$straight->value(1.0), $straight->value(2.5), $straight->value(-9.0), $straight->value(99.0)],
            1e-12,
        );
        $extended = self::shape(Between::Straight, Beyond::Extended);
        self::assertEqualsWithDelta([1.05, -0.7], [$extended->value(-1.0), $extended->value(10.0)], 1e-12);
        $stepped = self::shape(Between::Stepped, Beyond::Extended);
        self::assertSame([1.0, 0.9, 0.0], [$stepped->value(1.99), $stepped->value(2.0), $stepped->value(50.0)]);
    }

    public function test_a_smooth_curve_never_overshoots_and_has_no_kinks(): void
    {
        mt_srand(3);
        for ($round = 0; $round < 50; $round++) {
            $points = [];
            $x = 0.0;
            for ($i = 0; $i < mt_rand(2, 9); $i++) {
                $points[] = [$x, mt_rand(-50, 50) / 10];
                $x += mt_rand(1, 30) / 10;
            }
            $curve = self::model($points, Between::Smooth, Beyond::Extended)->elements['c'];
            self::assertInstanceOf(Curve::class, $curve);
            $shape = CurveShape::of($curve);
            for ($i = 0; $i + 1 < count($points); $i++) {
                [$low, $high] = [min($points[$i][1], $points[$i + 1][1]), max($points[$i][1], $points[$i + 1][1])];
                $before = $points[$i][1];
                $rises = $points[$i + 1][1] >= $points[$i][1];
                for ($k = 0; $k <= 40; $k++) {
                    $value = $shape->value($points[$i][0] + (($points[$i + 1][0] - $points[$i][0]) * $k) / 40);
                    self::assertTrue($value >= $low - 1e-12 && $value <= $high + 1e-12);
                    self::assertTrue($rises ? $value >= $before - 1e-12 : $value <= $before + 1e-12, 'it goes one way between two points');
                    $before = $value;
                }
                // Slopes from both sides agree at the points.
                if ($i > 0) {
                    $h = 1e-8;
                    $at = $points[$i][0];
                    self::assertEqualsWithDelta(
                        ($shape->value($at) - $shape->value($at - $h)) / $h,
                        ($shape->value($at + $h) - $shape->value($at)) / $h,
                        1e-4,
                    );
                }
            }
        }
    }

    public function test_compiled_curves_agree_with_their_shape_and_tell_once_where_they_were_left(): void
    {
        mt_srand(4);
        $many = array_map(static fn (int $i): array => [$i / 5, round(sin($i / 3), 3)], range(0, 60));
        foreach ([self::POINTS, [[0.0, 0.0], [5.0, 2.0]], $many] as $points) {
            foreach (Between::cases() as $between) {
                foreach (Beyond::cases() as $beyond) {
                    $model = self::model($points, $between, $beyond, 'effect of crowding(x) + effect of crowding(x * 0.1)');
                    $curve = $model->elements['c'];
                    self::assertInstanceOf(Curve::class, $curve);
                    $shape = CurveShape::of($curve);
                    $run = Build::run($model);
                    foreach ($run->column('x') as $i => $x) {
                        self::assertEqualsWithDelta($shape->value($x) + $shape->value($x * 0.1), $run->column('y')[$i], 1e-12, "x = $x");
                    }
                    self::assertSame(['curve.left'], array_map(static fn ($n): string => $n->code, $run->notices));
                    self::assertSame(['c', 0.0], [$run->notices[0]->element, $run->notices[0]->time]);
                }
            }
        }
        $inside = self::model([[-2.0, 1.0], [10.0, 2.0]], Between::Straight, Beyond::Held);
        self::assertSame([], Build::run($inside)->notices, 'the end points belong to the range');
    }

    public function test_the_path_of_a_curve_lies_on_it_and_meets_every_point(): void
    {
        foreach (Between::cases() as $between) {
            $shape = self::shape($between, Beyond::Held);
            $path = $shape->path();
            foreach (self::POINTS as $point) {
                self::assertNotSame(
                    [],
                    array_filter($path, static fn (array $p): bool => abs($p[0] - $point[0]) + abs($p[1] - $point[1]) < 1e-12),
                );
            }
            foreach ($path as [$x, $y]) {
                // A step stands upright at its end.
                self::assertTrue(abs($shape->value($x) - $y) < 1e-12 || $between === Between::Stepped);
            }
            self::assertCount(['straight' => 5, 'smooth' => 49, 'stepped' => 9][$between->value], $path);
        }
    }

    public function test_formulas_follow_a_curve_that_is_renamed(): void
    {
        $model = (new RenameElement('c', 'squeeze'))->apply(self::model(self::POINTS, Between::Straight, Beyond::Held));
        self::assertSame('squeeze(x)', $model->formulaOf($model->elements['y']));
        self::assertSame([], Build::codes($model));
        $odd = (new RenameElement('c', 'sin'))->apply($model);
        self::assertSame('"sin"(x)', $odd->formulaOf($odd->elements['y']), 'a curve called like a function stands in quotes');
        self::assertNull(Build::run($odd)->fault);
    }

    public function test_slips_with_curves_are_said(): void
    {
        foreach (
            [
                'effect of crowding' => ['curve.bare', 'needs its input'],
                'effect of crowdin(x)' => ['function.unknown', 'Did you mean `effect of crowding`?'],
                'x(3)' => ['function.unknown', '`x` is a stock, not a function or a curve'],
            ] as $formula => [$code, $words]
        ) {
            $problems = Analyser::analyse(self::model(self::POINTS, Between::Straight, Beyond::Held, (string) $formula))->problems;
            self::assertSame([$code, 'y', 0], [$problems[0]->code, $problems[0]->element, $problems[0]->from]);
            self::assertStringContainsString($words, $problems[0]->sentence);
        }
        self::assertSame(['curve.missing'], Build::codes((new AddElement('c', Kind::Curve, 'empty'))->apply(Build::model())));
    }

    public function test_points_that_make_no_curve_are_refused(): void
    {
        $model = self::model(self::POINTS, Between::Straight, Beyond::Held);
        foreach (
            [
                ['points' => [[1, 2], [1, 3]]],
                ['points' => [[1, 2], ['x', 3]]],
                ['points' => 7],
                ['points' => [[0, 1], [1e999, 2]]],
                ['between' => 'wavy', 'points' => []],
                ['beyond' => 'lost', 'points' => []],
                ['points' => array_map(static fn (int $i): array => [$i, 0], range(0, 2500))],
                ['id' => 'x', 'points' => []],
            ] as $change
        ) {
            try {
                EditReader::read(['kind' => 'curve', 'id' => 'c', ...$change])->apply($model);
                self::fail((string) json_encode($change, JSON_PARTIAL_OUTPUT_ON_ERROR));
            } catch (EditRefused $e) {
                self::assertNotSame('', $e->getMessage());
            }
        }
    }
}
