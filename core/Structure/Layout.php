<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Structure;

use MerryOrbit\Core\Model\Element;
use MerryOrbit\Core\Model\Flow;
use MerryOrbit\Core\Model\Model;
use MerryOrbit\Core\Model\Placement;
use MerryOrbit\Core\Model\Point;
use MerryOrbit\Core\Model\Stock;

/** Finds places for what has none, below what already stands. */
final class Layout
{
    /** Between the middles of two stocks, and of two that have flows: the gate and the outer end of one each, side by side. */
    private const STOCK_GAP = 330.0;

    private const FLOW_GAP = 520.0;

    /** From the middle of a stock to the gate and to the outer end of a flow. */
    private const GATE = 150.0;

    private const END = 230.0;

    /** Between two rows of stocks, and between two flows at one side of a stock. */
    private const ROW = 190.0;

    private const FLOW_ROW = 75.0;

    private const PER_ROW = 4;

    /** Of the rows of auxiliaries, and between two of them. */
    private const WIDTH = 1_300.0;

    private const GAP = 24.0;

    public static function complete(Model $model): Model
    {
        $missing = array_diff_key($model->withoutFactors()->elements, $model->placements);
        if ($missing === []) {
            return $model;
        }
        $top = 140.0;
        foreach ($model->placements as $place) {
            $top = max($top, $place->at->y + self::ROW);
        }
        $placements = self::stocks($model, $missing, $top);
        $placements = self::flows($model, $missing, $placements);
        $bottom = $top;
        foreach ($placements as $id => $place) {
            $bottom = isset($missing[$id]) ? max($bottom, $place->at->y + self::ROW * 0.7) : $bottom;
        }
        $right = 0.0;
        foreach ($missing as $id => $element) {
            if (! ($element instanceof Stock) && ! ($element instanceof Flow)) {
                // Capsules are as wide as their names.
                $width = 70.0 + 7.5 * mb_strlen($element->name);
                if ($right > 0.0 && $right + $width > self::WIDTH) {
                    $right = 0.0;
                    $bottom += 60.0;
                }
                $placements[$id] = new Placement(new Point($right + $width / 2, $bottom));
                $right += $width + self::GAP;
            }
        }

        $first = $model->sheets[0]->id;
        // Beside what stands at the edge of the paper there is no more of it.
        $inside = static fn (?Point $p): ?Point => $p === null
            ? null
            : new Point(min(Point::FARTHEST, $p->x), min(Point::FARTHEST, $p->y));
        foreach (array_keys($missing) as $id) {
            $place = $placements[$id];
            $placements[$id] = $place->with([
                'sheet' => $first,
                'at' => $inside($place->at),
                'source' => $inside($place->source),
                'target' => $inside($place->target),
            ]);
        }

        return $model->with(['placements' => $placements]);
    }

    /**
     * @param  array<string, Element>  $missing
     * @return array<string, Placement>
     */
    private static function stocks(Model $model, array $missing, float $top): array
    {
        $placements = $model->placements;
        $sides = array_count_values(
            array_merge([], ...array_map(self::sides(...), array_values(array_filter($model->elements, self::isFlow(...))))),
        );
        $gap = $sides === [] ? self::STOCK_GAP : self::FLOW_GAP;
        $row = max(self::ROW, self::FLOW_ROW * (1 + max([0, ...$sides])));
        $i = 0;
        foreach ($missing as $id => $element) {
            if ($element instanceof Stock) {
                $placements[$id] = new Placement(new Point(330.0 + $gap * ($i % self::PER_ROW), $top + $row * intdiv($i, self::PER_ROW)));
                $i++;
            }
        }

        return $placements;
    }

    private static function isFlow(Element $element): bool
    {
        return $element instanceof Flow;
    }

    /**
     * Where a flow takes room: on the right of the stock it leaves and on the left of the one it enters.
     *
     * @return list<string>
     */
    private static function sides(Element $flow): array
    {
        [$from, $to] = $flow instanceof Flow ? [$flow->from, $flow->to] : [null, null];

        return $from === null && $to === null ? ['>'] : [...$from === null ? [] : ["$from>"], ...$to === null ? [] : [">$to"]];
    }

    /**
     * Between its stocks, or beside the one it has; several at the same side stand below each other.
     *
     * @param  array<string, Element>  $missing
     * @param  array<string, Placement>  $placements
     * @return array<string, Placement>
     */
    private static function flows(Model $model, array $missing, array $placements): array
    {
        $beside = [];
        foreach ($missing as $id => $flow) {
            if (! ($flow instanceof Flow)) {
                continue;
            }
            $from = $flow->from === null ? null : $placements[$flow->from]->at;
            $to = $flow->to === null ? null : $placements[$flow->to]->at;
            $sides = self::sides($flow);
            $row = max([0, ...array_map(static fn (string $s): int => $beside[$s] ?? 0, $sides)]);
            $beside = [...$beside, ...array_fill_keys($sides, $row + 1)];
            $drop = self::FLOW_ROW * $row;
            // A flow from outside to outside stands below all stocks.
            $anchor =
                $from ??
                ($to ??
                    new Point(
                        330.0,
                        max([140.0, ...array_map(static fn (Placement $p): float => $p->at->y, array_values($placements))]) + self::ROW,
                    ));
            $placements[$id] = match (true) {
                $from !== null && $to !== null => new Placement(new Point(($from->x + $to->x) / 2, ($from->y + $to->y) / 2 + $drop)),
                $from !== null => new Placement(
                    new Point($anchor->x + self::GATE, $anchor->y + $drop),
                    null,
                    new Point($anchor->x + self::END, $anchor->y + $drop),
                ),
                default => new Placement(
                    new Point($anchor->x - self::GATE, $anchor->y + $drop),
                    new Point($anchor->x - self::END, $anchor->y + $drop),
                    $to === null ? $anchor : null,
                ),
            };
        }

        return $placements;
    }
}
