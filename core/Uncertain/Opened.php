<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Uncertain;

use MerryOrbit\Core\Model\Curve;
use MerryOrbit\Core\Model\Model;
use MerryOrbit\Core\Model\Stock;
use MerryOrbit\Core\Plan\Key;

/** Numbers of a model that are no parameters, opened as such: plain initial values, and points of curves. */
final class Opened
{
    /**
     * The model with a parameter for each of these keys, which comes to the same.
     *
     * @param  array<string>  $keys  of parameters; those that the model has are left as they are
     */
    public static function of(Model $model, array $keys): Model
    {
        return CurvePoints::opened(Starts::opened($model, Starts::among($model, $keys)), $keys);
    }

    /**
     * The parameter that stands for a number, in the model that is opened.
     *
     * @param  string  $of  id of a parameter, a stock or a curve
     * @param  list<string>  $at  of a parameter its elements, of a curve the x of the point
     */
    public static function parameter(Model $model, string $of, array $at): string
    {
        return match (true) {
            $model->element($of) instanceof Stock => Starts::parameter($of),
            $model->element($of) instanceof Curve => CurvePoints::parameter($of, CurvePoints::at($model, $of, $at[0] ?? '') ?? -1),
            default => Model::keyAt($of, $at),
        };
    }

    /**
     * What an initial value or a point of a curve is as the model stands; null where it is no plain number, or not there.
     *
     * @param  list<string>  $at  of a curve the x of the point
     */
    public static function value(Model $model, string $of, array $at): ?float
    {
        $curve = $model->element($of);
        $point = CurvePoints::at($model, $of, $at[0] ?? '');

        return $curve instanceof Curve ? ($point === null ? null : $curve->points[$point][1]) : Starts::plain($model, $of);
    }

    /**
     * What a key is of, as the study knows it.
     *
     * @return array{of: string, key: string} the parameter, stock or curve; and its own key, of a curve with the x of the point
     */
    public static function meant(Model $model, string $key): array
    {
        [$curve, $point] = CurvePoints::meant($model, $key) ?? [null, 0];
        if ($curve !== null) {
            return ['of' => $curve, 'key' => CurvePoints::keyOf($model, $curve, $point)];
        }
        $stock = Starts::among($model, [$key])[0] ?? null;

        return ['of' => $stock ?? Key::ownerOf($key), 'key' => $key];
    }
}
