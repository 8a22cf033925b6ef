<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Report;

use MerryOrbit\Core\Analysis\Analysis;
use MerryOrbit\Core\Model\Element;
use MerryOrbit\Core\Model\Flow;
use MerryOrbit\Core\Model\Kind;
use MerryOrbit\Core\Model\Placement;
use MerryOrbit\Core\Model\Point;

/**
 * A sheet of a model as a still picture: basins, ribbons and pills where they stand, and how they hang together.
 *
 * @phpstan-type Shape array{width: float, height: float, round: bool}
 * @phpstan-type Item array{element: Element, at: Point, shape: Shape, isEcho: bool, place: ?Placement}
 */
final class SheetSvg
{
    private const ROOM = 24.0;

    /** @return ?string null where nothing stands on it */
    public static function of(Analysis $analysis, string $sheet): ?string
    {
        $items = self::items($analysis, $sheet);
        if ($items === []) {
            return null;
        }
        $drawing = new Drawing();
        $at = [];
        foreach ($items as $item) {
            $id = $item['element']->id;
            $at[$id] = isset($at[$id]) && $item['isEcho'] ? $at[$id] : $item;
        }
        $ends = [];
        foreach ($items as $item) {
            if ($item['element'] instanceof Flow && ! $item['isEcho']) {
                array_push($ends, ...self::ribbon($drawing, $item, $item['element'], $at));
            }
        }
        foreach ($analysis->links() as $link) {
            [$from, $to] = [$at[$link['from']] ?? null, $at[$link['to']] ?? null];
            if ($from !== null && $to !== null && ! $to['isEcho']) {
                $bend = $analysis->model->bends["{$link['from']}>{$link['to']}"] ?? null;
                $shape = Shapes::link($from['at'], $from['shape'], $to['at'], $to['shape'], $bend);
                $dash = $link['kind'] === 'now' ? '' : ' stroke-dasharray="4 4"';
                $drawing->path($shape['path'], 'fill="none" stroke="'.Drawing::SOFT.'" stroke-width="1.1"'.$dash);
                $drawing->path($shape['head'], 'fill="'.Drawing::SOFT.'"');
            }
        }
        foreach ($items as $item) {
            self::item($drawing, $item);
        }

        return self::framed($drawing, $items, $ends);
    }

    /** @return list<Item> */
    private static function items(Analysis $analysis, string $sheet): array
    {
        $model = $analysis->model;
        $first = $model->sheets[0]->id ?? '';
        $known = array_column(array_map(static fn ($s): array => ['id' => $s->id], $model->sheets), 'id');
        $isOn = static fn (string $of): bool => (in_array($of, $known, true) ? $of : $first) === $sheet;
        $items = [];
        foreach ($model->elements as $id => $element) {
            $place = $model->placements[$id] ?? null;
            if ($place !== null && $isOn($place->sheet)) {
                $items[] = [
                    'element' => $element,
                    'at' => $place->at,
                    'shape' => self::shape($element, false),
                    'isEcho' => false,
                    'place' => $place,
                ];
            }
        }
        foreach ($model->echoes as $echo) {
            $element = $model->element($echo->element);
            if ($element !== null && $isOn($echo->sheet)) {
                $items[] = [
                    'element' => $element,
                    'at' => $echo->at,
                    'shape' => self::shape($element, true),
                    'isEcho' => true,
                    'place' => null,
                ];
            }
        }

        return $items;
    }

    /** @return array{width: float, height: float, round: bool} */
    private static function shape(Element $element, bool $isEcho): array
    {
        $text = Drawing::widthOf($element->name, 13.0);

        return match (true) {
            $element->kind() === Kind::Stock => ['width' => min(200.0, max(124.0, $text + 30.0)), 'height' => 72.0, 'round' => false],
            $element->kind() === Kind::Flow && ! $isEcho => ['width' => 26.0, 'height' => 26.0, 'round' => true],
            default => ['width' => min(230.0, max(76.0, $text + 30.0)), 'height' => 28.0, 'round' => false],
        };
    }

    /**
     * @param  Item  $item
     * @param  array<string, Item>  $at
     * @return list<Point> where its loose ends are
     */
    private static function ribbon(Drawing $drawing, array $item, Flow $flow, array $at): array
    {
        $loose = [];
        $end = static function (?string $id, ?Point $free, float $side) use ($item, $at, &$loose): Point {
            $stock = $id === null ? null : $at[$id] ?? null;
            if ($stock !== null) {
                return Shapes::border($stock['at'], $stock['shape'], $item['at'], 1.0);
            }

            return $loose[] = $free ?? new Point($item['at']->x + $side, $item['at']->y);
        };
        $start = $end($flow->from, $item['place']?->source, -110.0);
        $head = $end($flow->to, $item['place']?->target, 110.0);
        $gate = $item['at'];
        $p = static fn (Point $p): string => Drawing::at($p->x).' '.Drawing::at($p->y);
        $through = static fn (Point $a, ?Point $bend, Point $b): string => $bend === null
            ? 'L'.$p($b)
            : 'Q'.
                Drawing::at(2.0 * $bend->x - ($a->x + $b->x) / 2.0).
                ' '.
                Drawing::at(2.0 * $bend->y - ($a->y + $b->y) / 2.0).
                ' '.
                $p($b);
        $path = 'M'.$p($start).$through($start, $item['place']?->bendIn, $gate).$through($gate, $item['place']?->bendOut, $head);
        $drawing->path($path, 'fill="none" stroke="#9cc3cf" stroke-width="9" stroke-linejoin="round"');
        $from = $item['place']->bendOut ?? $gate;
        $angle = atan2($head->y - $from->y, $head->x - $from->x);
        $wing = static fn (float $turn): string => $p(
            new Point($head->x - 17.0 * cos($angle + $turn), $head->y - 17.0 * sin($angle + $turn)),
        );
        $drawing->path('M'.$p($head).'L'.$wing(0.5).'L'.$wing(-0.5).'Z', 'fill="#9cc3cf"');
        foreach ($loose as $free) {
            // What comes from outside, or goes there, ends at an open shore.
            $drawing->line($free->x, $free->y - 13.0, $free->x, $free->y + 13.0, Drawing::SOFT, '3 3', 1.5);
        }

        return $loose;
    }

    /** @param  Item  $item */
    private static function item(Drawing $drawing, array $item): void
    {
        [$x, $y, $w, $h] = [$item['at']->x, $item['at']->y, $item['shape']['width'], $item['shape']['height']];
        $n = Drawing::at(...);
        $kind = $item['element']->kind();
        $paint = 'fill="#fff" stroke="'.Drawing::INK.'"';
        if ($kind === Kind::Stock) {
            $drawing->path(
                "M{$n($x - $w / 2)} {$n($y - $h / 2)}h{$n($w)}v{$n($h - 14)}a14 14 0 0 1 -14 14h-{$n($w - 28)}a14 14 0 0 1 -14 -14Z",
                "$paint stroke-width=\"1.8\"",
            );
            self::words($drawing, $item['element']->name, $x, $y, 24, true);
        } elseif ($kind === Kind::Flow && ! $item['isEcho']) {
            $drawing->raw("<circle cx=\"{$n($x)}\" cy=\"{$n($y)}\" r=\"11\" $paint stroke-width=\"1.6\"/>");
            self::words(
                $drawing,
                $item['element']->name,
                $x,
                $y + 24.0 + 5.0 * (count(Shapes::lines($item['element']->name, 18)) - 1),
                18,
                false,
            );
        } else {
            $dash = $kind === Kind::Parameter ? ' stroke-width="1.6"' : ' stroke-width="1"';
            $drawing->raw(
                "<rect x=\"{$n($x - $w / 2)}\" y=\"{$n($y - $h / 2)}\" width=\"{$n($w)}\" height=\"{$n($h)}\" rx=\"14\" $paint$dash/>",
            );
            if ($item['isEcho']) {
                $drawing->line($x - $w / 2 + 10, $y - $h / 2 - 4, $x + $w / 2 - 10, $y - $h / 2 - 4, Drawing::INK);
            }
            $drawing->text($x, $y + 4.5, Shapes::lines($item['element']->name, 30)[0], 'middle', Drawing::INK, 13.0);
        }
    }

    private static function words(Drawing $drawing, string $name, float $x, float $y, int $most, bool $bold): void
    {
        $lines = Shapes::lines($name, $most);
        foreach ($lines as $i => $line) {
            $drawing->text($x, $y + 4.5 + 15.0 * ($i - (count($lines) - 1) / 2.0), $line, 'middle', Drawing::INK, 13.0, $bold);
        }
    }

    /**
     * @param  non-empty-list<Item>  $items
     * @param  list<Point>  $ends
     */
    private static function framed(Drawing $drawing, array $items, array $ends): string
    {
        [$xs, $ys] = [[], []];
        foreach ($items as $item) {
            $isFlow = $item['shape']['round'];
            $half = $isFlow ? 64.0 : $item['shape']['width'] / 2.0;
            array_push($xs, $item['at']->x - $half, $item['at']->x + $half);
            array_push(
                $ys,
                $item['at']->y - $item['shape']['height'] / 2.0,
                $item['at']->y + ($isFlow ? 46.0 : $item['shape']['height'] / 2.0),
            );
        }
        foreach ($ends as $end) {
            array_push($xs, $end->x);
            array_push($ys, $end->y - 14.0, $end->y + 14.0);
        }
        [$x, $y] = [min($xs) - self::ROOM, min($ys) - self::ROOM];

        return $drawing->svg($x, $y, max($xs) + self::ROOM - $x, max($ys) + self::ROOM - $y);
    }
}
