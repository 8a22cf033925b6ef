<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Edit;

use MerryOrbit\Core\Model\Appearance;
use MerryOrbit\Core\Model\Element;
use MerryOrbit\Core\Model\Flow;
use MerryOrbit\Core\Model\Model;
use MerryOrbit\Core\Model\Point;

/** Keeps what a thing depends on in sight on the thing's sheet. */
final class Echoes
{
    /** Spots beside a thing, tried in turn. */
    private const SPOTS = [[-150, -90], [150, -90], [-150, 90], [150, 90], [0, -120], [0, 120], [-300, 0], [300, 0]];

    private const NEAR = [110.0, 48.0];

    /** @return list<string> ids of what an element uses in its formulas, of the stocks it is attached to, and of links that wait */
    public static function causes(Model $model, Element $element): array
    {
        $ids = array_merge(...array_values(array_map(static fn ($f): array => $f->ids(), $element->formulas())));
        if ($element instanceof Flow) {
            array_push($ids, ...array_filter([$element->from, $element->to]));
        }
        foreach ($model->links as $link) {
            if ($link->to === $element->id) {
                $ids[] = $link->from;
            }
        }

        $known = [...array_keys($model->elements), ...array_keys($model->made())];

        return array_values(array_diff(array_unique(array_intersect($ids, $known)), [$element->id]));
    }

    /**
     * With echoes of all that these things depend on and that does not stand on their sheets.
     *
     * @param  list<string>  $users
     * @param  ?Model  $before  where things stood before they were moved: there their echoes go
     */
    public static function complete(Model $model, array $users, ?Model $before = null): Model
    {
        if (count($model->sheets) === 1 && $model->made() === []) {
            return $model;
        }
        foreach ($users as $user) {
            $element = $model->element($user);
            $sheet = $model->sheetOf($user);
            foreach ($element === null || ! isset($model->placements[$user]) ? [] : self::causes($model, $element) as $cause) {
                // What a ledger makes is defined on no sheet: an echo is all there is of it here.
                $isMade = isset($model->made()[$cause]);
                if (($isMade || isset($model->placements[$cause])) && ! $model->isOn($cause, $sheet)) {
                    $at = isset($before->placements[$cause])
                        ? $before->placements[$cause]->at
                        : self::spot($model, $sheet, $model->placements[$user]->at);
                    $model = $model->with([
                        'echoes' => [...$model->echoes, self::id($model, $cause, $sheet) => new Appearance($cause, $at, $sheet)],
                    ]);
                }
            }
        }

        return $model;
    }

    /**
     * Without the echoes that only things that have left their sheet needed.
     *
     * @param  list<string>  $moved
     */
    public static function withoutNeedless(Model $model, Model $before, array $moved): Model
    {
        $left = [];
        foreach ($moved as $id) {
            foreach (self::causes($before, $before->elements[$id]) as $cause) {
                $left[$before->sheetOf($id)][$cause] = true;
            }
        }
        $needed = [];
        foreach ($model->elements as $id => $element) {
            foreach (isset($left[$model->sheetOf($id)]) ? self::causes($model, $element) : [] as $cause) {
                $needed[$model->sheetOf($id)][$cause] = true;
            }
        }

        return $model->with([
            'echoes' => array_filter(
                $model->echoes,
                static fn (Appearance $e): bool => ! isset($left[$e->sheet][$e->element]) || isset($needed[$e->sheet][$e->element]),
            ),
        ]);
    }

    private static function spot(Model $model, string $sheet, Point $beside): Point
    {
        $taken = [];
        foreach ($model->placements as $id => $place) {
            if ($place->sheet === $sheet) {
                $taken[] = $place->at;
            }
        }
        foreach ($model->echoes as $echo) {
            if ($echo->sheet === $sheet) {
                $taken[] = $echo->at;
            }
        }
        foreach (self::SPOTS as [$dx, $dy]) {
            $spot = new Point($beside->x + $dx, $beside->y + $dy);
            if (
                array_filter(
                    $taken,
                    static fn (Point $p): bool => abs($p->x - $spot->x) < self::NEAR[0] && abs($p->y - $spot->y) < self::NEAR[1],
                ) === []
            ) {
                return $spot;
            }
        }

        return new Point($beside->x, $beside->y + 200.0);
    }

    private static function id(Model $model, string $element, string $sheet): string
    {
        for ($salt = 0; ; $salt++) {
            $id = 'echo-'.substr(hash('sha256', "$element $sheet $salt"), 0, 10);
            if (! isset($model->echoes[$id]) && $model->element($id) === null) {
                return $id;
            }
        }
    }
}
