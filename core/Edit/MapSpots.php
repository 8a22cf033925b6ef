<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Edit;

use MerryOrbit\Core\Model\CausalLink;
use MerryOrbit\Core\Model\Model;
use MerryOrbit\Core\Model\Point;

/** Where things stand on the causal map. What stands keeps standing: only what is new looks for a free spot beside what it touches. */
final class MapSpots
{
    /** How far apart the middles of two things are at least: room for a name, and for the marks of a link between. */
    private const ACROSS = 220.0;

    private const DOWN = 112.0;

    private const RINGS = 14;

    /** Beside it, in the order in which they are tried: to the right first, as one reads. */
    private const EFFECT = [[1, 0], [1, 1], [1, -1], [0, 1], [0, -1], [-1, 1], [-1, -1], [-1, 0]];

    private const CAUSE = [[-1, 0], [-1, -1], [-1, 1], [0, -1], [0, 1], [1, -1], [1, 1], [1, 0]];

    /** @return array<string, Point> by element id */
    public static function of(Model $model): array
    {
        $spots = [];
        foreach ($model->part('mapSpots') as $id => $at) {
            if ($at instanceof Point) {
                $spots[(string) $id] = $at;
            }
        }

        return $spots;
    }

    /**
     * With spots for the two ends of a link where they have none.
     *
     * @param  ?string  $to  null for a thing alone
     */
    public static function withEnds(Model $model, string $from, ?string $to): Model
    {
        $spots = self::of($model);
        if (isset($spots[$from]) && ($to === null || isset($spots[$to]))) {
            return $model;
        }
        if (! isset($spots[$from])) {
            $beside = $to === null ? null : $spots[$to] ?? null;
            $spots[$from] = $beside === null ? self::apart($spots) : self::free($spots, $beside, self::CAUSE);
        }
        if ($to !== null) {
            $spots[$to] ??= self::free($spots, $spots[$from], self::EFFECT);
        }

        return $model->with(['mapSpots' => $spots]);
    }

    /** With a spot for something new that stands between two others, or beside them where there is no room. */
    public static function withBetween(Model $model, string $id, string $one, string $other): Model
    {
        $spots = self::of($model);
        if (! isset($spots[$one], $spots[$other])) {
            return self::withEnds(self::withEnds($model, $one, $id), $id, $other);
        }
        $middle = new Point(round(($spots[$one]->x + $spots[$other]->x) / 2), round(($spots[$one]->y + $spots[$other]->y) / 2));
        $spots[$id] ??= self::isFree($middle, $spots) ? $middle : self::free($spots, $middle, self::EFFECT);

        return $model->with(['mapSpots' => $spots]);
    }

    /** @return list<CausalLink> */
    public static function linksAt(Model $model, string $id): array
    {
        return array_values(
            array_filter(
                $model->part('causalLinks'),
                static fn (mixed $l): bool => $l instanceof CausalLink && ($l->from === $id || $l->to === $id),
            ),
        );
    }

    /**
     * A spot for what touches nothing yet: below all, at the left.
     *
     * @param  array<string, Point>  $spots
     */
    private static function apart(array $spots): Point
    {
        if ($spots === []) {
            return new Point(0.0, 0.0);
        }
        $left = min(array_map(static fn (Point $p): float => $p->x, $spots));
        $low = max(array_map(static fn (Point $p): float => $p->y, $spots));

        return self::free($spots, new Point($left, $low), [[1, 0], [0, 1]]);
    }

    /**
     * The nearest free spot around another.
     *
     * @param  array<string, Point>  $spots
     * @param  non-empty-list<array{int, int}>  $sides
     */
    private static function free(array $spots, Point $at, array $sides): Point
    {
        for ($ring = 1; $ring <= self::RINGS; $ring++) {
            foreach ($sides as [$x, $y]) {
                $spot = new Point(round($at->x + $x * $ring * self::ACROSS), round($at->y + $y * $ring * self::DOWN));
                if (self::isFree($spot, $spots)) {
                    return $spot;
                }
            }
        }

        return new Point($at->x, round($at->y + (self::RINGS + 1) * self::DOWN));
    }

    /** @param  array<string, Point>  $spots */
    private static function isFree(Point $spot, array $spots): bool
    {
        foreach ($spots as $other) {
            if (abs($other->x - $spot->x) < self::ACROSS - 30.0 && abs($other->y - $spot->y) < self::DOWN - 20.0) {
                return false;
            }
        }

        return true;
    }
}
