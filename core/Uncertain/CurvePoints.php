<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Uncertain;

use MerryOrbit\Core\Model\Curve;
use MerryOrbit\Core\Model\Model;
use MerryOrbit\Core\Problem\Shown;

/** Points of curves as parameters, so that runs with other curves are runs of one compiled program. */
final class CurvePoints
{
    /** How a point of a curve is written among what is freed: by its x. */
    public static function at(Model $model, string $curve, string $x): ?int
    {
        $element = $model->elements[$curve] ?? null;
        if (! ($element instanceof Curve) || ! is_numeric($x)) {
            return null;
        }
        foreach ($element->points as $i => [$own]) {
            if (abs($own - (float) $x) <= 1e-9 * max(abs($own), 1e-300)) {
                return $i;
            }
        }

        return null;
    }

    /** The id of the parameter that stands for a point of a curve. */
    public static function parameter(string $curve, int $point): string
    {
        return "point-$point-of-$curve";
    }

    /** The point as it is written among what is freed. */
    public static function keyOf(Model $model, string $curve, int $point): string
    {
        $element = $model->elements[$curve] ?? null;
        $x = $element instanceof Curve ? $element->points[$point][0] ?? NAN : NAN;

        return Model::keyAt($curve, [Shown::number($x)]);
    }

    /** @return ?array{string, int} the curve and the point that a parameter stands for */
    public static function meant(Model $model, string $parameter): ?array
    {
        $isPoint = preg_match('/^point-(\d+)-of-(.+)$/Ds', $parameter, $m) === 1;

        return $isPoint && ($model->elements[$m[2]] ?? null) instanceof Curve ? [$m[2], (int) $m[1]] : null;
    }

    /**
     * The model with a parameter in place of each of these points.
     *
     * @param  array<string>  $keys  ids of parameters; those that stand for no point are passed over
     */
    public static function opened(Model $model, array $keys): Model
    {
        $points = [];
        foreach ($keys as $key) {
            $meant = self::meant($model, $key);
            if ($meant !== null) {
                $points[$meant[0]][] = $meant[1];
            }
        }
        foreach ($points as $id => $free) {
            $curve = $model->elements[$id];
            if ($curve instanceof Curve && count($curve->points) > 1) {
                sort($free);
                $model = (new FreedCurve($model, $curve, $free))->model();
            }
        }

        return $model;
    }
}
