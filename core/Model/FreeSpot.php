<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Model;

/** A place for something new beside what it belongs to, on the same sheet, clear of everything that stands there. */
final class FreeSpot
{
    /** How far apart the middles of two things are at least. */
    private const ACROSS = 170.0;

    private const DOWN = 75.0;

    private const RINGS = 12;

    public static function beside(Model $model, string $id): Placement
    {
        $sheet = $model->sheetOf($id);
        $at = $model->placements[$id]->at ?? new Point(200.0, 200.0);
        $taken = [];
        foreach ($model->placements as $other => $place) {
            if ($model->sheetOf((string) $other) === $sheet) {
                array_push($taken, ...array_filter([$place->at, $place->source, $place->target]));
            }
        }
        foreach ($model->echoes as $echo) {
            $taken = $echo->sheet === $sheet ? [...$taken, $echo->at] : $taken;
        }
        // Below first, then above, then to the sides, farther out each time round.
        for ($ring = 1; $ring <= self::RINGS; $ring++) {
            foreach ([[0, 1], [0, -1], [-1, 1], [1, 1], [-1, -1], [1, -1], [-1, 0], [1, 0]] as [$x, $y]) {
                $spot = new Point(round($at->x + $x * $ring * self::ACROSS), round($at->y + $y * (20.0 + $ring * self::DOWN)));
                if (self::isFree($spot, $taken)) {
                    return new Placement($spot, null, null, $sheet);
                }
            }
        }

        return new Placement(new Point($at->x, $at->y + self::RINGS * self::DOWN), null, null, $sheet);
    }

    /** @param  list<Point>  $taken */
    private static function isFree(Point $spot, array $taken): bool
    {
        foreach ($taken as $other) {
            if (abs($other->x - $spot->x) < self::ACROSS - 20.0 && abs($other->y - $spot->y) < self::DOWN - 10.0) {
                return false;
            }
        }

        return true;
    }
}
