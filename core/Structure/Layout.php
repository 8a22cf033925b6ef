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
    private const STOCK_GAP = 330.0;

    private const ROW = 190.0;

    private const PER_ROW = 4;

    /** Of the rows of auxiliaries, and between two of them. */
    private const WIDTH = 1_300.0;

    private const GAP = 24.0;

    public static function complete(Model $model): Model
    {
        $missing = array_diff_key($model->elements, $model->placements);
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

        return $model->with(['placements' => $placements]);
    }

    /**
     * @param  array<string, Element>  $missing
     * @return array<string, Placement>
     */
    private static function stocks(Model $model, array $missing, float $top): array
    {
        $placements = $model->placements;
        $i = 0;
        foreach ($missing as $id => $element) {
            if ($element instanceof Stock) {
                $placements[$id] = new Placement(
                    new Point(330.0 + self::STOCK_GAP * ($i % self::PER_ROW), $top + self::ROW * intdiv($i, self::PER_ROW)),
                );
                $i++;
            }
        }

        return $placements;
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
            // It takes room on the right of the stock it leaves and on the left of the one it enters.
            $sides =
                $flow->from === null && $flow->to === null
                    ? ['>']
                    : array_filter([$flow->from === null ? null : "$flow->from>", $flow->to === null ? null : ">$flow->to"]);
            $row = max([0, ...array_map(static fn (string $s): int => $beside[$s] ?? 0, array_values($sides))]);
            $beside = [...$beside, ...array_fill_keys($sides, $row + 1)];
            $drop = 75.0 * $row;
            // A flow from outside to outside stands below all stocks.
            $anchor =
                $from ??
                ($to ??
                    new Point(
                        330.0,
                        max(140.0, ...array_map(static fn (Placement $p): float => $p->at->y, array_values($placements))) + self::ROW,
                    ));
            $placements[$id] = match (true) {
                $from !== null && $to !== null => new Placement(new Point(($from->x + $to->x) / 2, ($from->y + $to->y) / 2 + $drop)),
                $from !== null => new Placement(
                    new Point($anchor->x + 150, $anchor->y + $drop),
                    null,
                    new Point($anchor->x + 270, $anchor->y + $drop),
                ),
                default => new Placement(
                    new Point($anchor->x - 150, $anchor->y + $drop),
                    new Point($anchor->x - 270, $anchor->y + $drop),
                    $to === null ? $anchor : null,
                ),
            };
        }

        return $placements;
    }
}
