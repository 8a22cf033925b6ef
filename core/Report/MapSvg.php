<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Report;

use MerryOrbit\Core\Map\CausalGraph;
use MerryOrbit\Core\Model\CausalLink;
use MerryOrbit\Core\Model\Model;
use MerryOrbit\Core\Model\Point;

/** The causal map as a still picture: factors as words where they stand, links with their signs; strokes across say that one is late. */
final class MapSvg
{
    private const ROOM = 30.0;

    /** @return ?string null where nothing stands on it */
    public static function of(Model $model): ?string
    {
        $graph = CausalGraph::ofMap($model);
        $drawing = new Drawing();
        $places = [];
        /** @var array<array-key, Point> $spots */
        $spots = $model->part('mapSpots');
        $at = [];
        foreach ($graph->names as $id => $name) {
            $at[(string) $id] = $spots[$id] ?? ($model->placements[$id]->at ?? null);
        }
        $size = self::size(array_filter($at));
        foreach ($graph->names as $id => $name) {
            $spot = $at[(string) $id];
            if ($spot !== null) {
                $lines = Shapes::lines($name, 20);
                $width = max([0.0, ...array_map(static fn (string $l): float => Drawing::widthOf($l, $size), $lines)]);
                $places[(string) $id] = [
                    'at' => $spot,
                    'lines' => $lines,
                    'width' => $width + 14.0,
                    'height' => 1.3 * $size * count($lines) + 8.0,
                ];
            }
        }
        if ($places === []) {
            return null;
        }
        foreach ($model->part('causalLinks') as $link) {
            $from = $link instanceof CausalLink ? $places[$link->from] ?? null : null;
            $to = $link instanceof CausalLink ? $places[$link->to] ?? null : null;
            if ($link instanceof CausalLink && $from !== null && $to !== null) {
                self::link($drawing, $link, $from, $to);
            }
        }
        foreach ($places as $place) {
            foreach ($place['lines'] as $i => $line) {
                $y = $place['at']->y + 0.36 * $size + 1.3 * $size * ($i - (count($place['lines']) - 1) / 2.0);
                $drawing->text($place['at']->x, $y, $line, 'middle', Drawing::INK, $size, true);
            }
        }
        $xs = array_merge(
            ...array_map(
                static fn (array $p): array => [$p['at']->x - $p['width'] / 2, $p['at']->x + $p['width'] / 2],
                array_values($places),
            ),
        );
        $ys = array_merge(
            ...array_map(
                static fn (array $p): array => [$p['at']->y - $p['height'] / 2, $p['at']->y + $p['height'] / 2],
                array_values($places),
            ),
        );
        [$x, $y] = [min($xs) - self::ROOM, min($ys) - self::ROOM];

        return $drawing->svg($x, $y, max($xs) + self::ROOM - $x, max($ys) + self::ROOM - $y);
    }

    /**
     * A wide map is made small on paper: its names are written the larger.
     *
     * @param  array<string, Point>  $spots
     */
    private static function size(array $spots): float
    {
        $xs = array_map(static fn (Point $p): float => $p->x, array_values($spots));

        return $xs === [] ? 14.0 : 14.0 * max(1.0, min(1.5, (max($xs) - min($xs)) / 760.0));
    }

    /**
     * @param  array{at: Point, lines: list<string>, width: float, height: float}  $from
     * @param  array{at: Point, lines: list<string>, width: float, height: float}  $to
     */
    private static function link(Drawing $drawing, CausalLink $link, array $from, array $to): void
    {
        $shape = Shapes::link($from['at'], $from, $to['at'], $to);
        $width = ['weak' => 0.9, 'usual' => 1.4, 'strong' => 2.4][$link->strength];
        $dash = $link->standing === 'disputed' ? ' stroke-dasharray="5 4"' : '';
        $drawing->path($shape['path'], 'fill="none" stroke="'.Drawing::SOFT."\" stroke-width=\"$width\"$dash");
        $drawing->path($shape['head'], 'fill="'.Drawing::SOFT.'"');
        $n = Drawing::at(...);
        $drawing->raw("<circle cx=\"{$n($shape['sign']->x)}\" cy=\"{$n($shape['sign']->y)}\" r=\"7.5\" fill=\"#fff\"/>");
        $sign = ['+' => '+', '-' => '−', '?' => '?'][$link->sign];
        $drawing->text($shape['sign']->x, $shape['sign']->y + 5.0, $sign, 'middle', Drawing::INK, 15.0, true);
        if ($link->late) {
            $across = $shape['angle'] + M_PI / 2.0;
            foreach ([-2.5, 2.5] as $along) {
                $x = $shape['middle']->x + $along * cos($shape['angle']);
                $y = $shape['middle']->y + $along * sin($shape['angle']);
                $drawing->line(
                    $x - 6 * cos($across),
                    $y - 6 * sin($across),
                    $x + 6 * cos($across),
                    $y + 6 * sin($across),
                    Drawing::SOFT,
                    '',
                    1.3,
                );
            }
        }
    }
}
