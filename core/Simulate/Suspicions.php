<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Simulate;

use MerryOrbit\Core\Model\Flow;
use MerryOrbit\Core\Model\Model;
use MerryOrbit\Core\Model\Stock;
use MerryOrbit\Core\Model\TimeSettings;
use MerryOrbit\Core\Problem\Remedy;
use MerryOrbit\Core\Problem\Shown;

/** What the numbers of a run make one suspect: flows in which nothing flows, and steps that are too long. */
final class Suspicions
{
    /** So many turns in a row are no behaviour of the system. */
    private const TURNS = 8;

    /** Moments looked at for turns. */
    private const LOOKED = 200;

    /**
     * @param  list<list<float>>  $rows  as in Trajectory
     * @param  list<string>  $columns
     * @param  array<string, float>  $steady
     * @return list<Notice>
     */
    public static function of(Model $model, TimeSettings $time, array $rows, array $columns, array $steady): array
    {
        $notices = [];
        $positions = array_flip($columns);
        foreach ($model->elements as $id => $element) {
            if ($element instanceof Flow && self::isStill($rows, $positions[$id] ?? null, $steady[$id] ?? null)) {
                $notices[] = new Notice('flow.still', $id, $time->start, "`$element->name` is zero throughout the run. If that is not meant, look at its formula.");
            }
        }
        $long = $time->method->isAdaptive() || $time->stepsPerSave() > 1 ? null : self::swinging($model, $positions, $rows);
        if ($long !== null) {
            $half = ['kind' => 'time', ...$time->toRecord(), 'step' => $time->step / 2, 'saveEvery' => $time->saveEvery ?? $time->step];
            $notices[] = new Notice('step.long', $long->id, $time->start, "`$long->name` turns at every step, which tells of a time step that is too long. Halve it and see whether the run changes.", new Remedy('Halve the time step to '.Shown::number($time->step / 2), [$half]));
        }

        return $notices;
    }

    /** @param  list<list<float>>  $rows */
    private static function isStill(array $rows, ?int $position, ?float $steady): bool
    {
        if ($position === null) {
            return $steady === 0.0;
        }
        foreach ($rows as $row) {
            if ($row[$position] != 0.0) {
                return false;
            }
        }

        return $rows !== [];
    }

    /**
     * @param  array<string, int>  $positions
     * @param  list<list<float>>  $rows
     */
    private static function swinging(Model $model, array $positions, array $rows): ?Stock
    {
        $last = min(count($rows), self::LOOKED);
        foreach ($model->elements as $id => $stock) {
            if (! $stock instanceof Stock || ! isset($positions[$id])) {
                continue;
            }
            $at = $positions[$id];
            $turns = 0;
            for ($i = 2; $i < $last; $i++) {
                $turns = ($rows[$i][$at] - $rows[$i - 1][$at]) * ($rows[$i - 1][$at] - $rows[$i - 2][$at]) < 0.0 ? $turns + 1 : 0;
                if ($rows[$i][$at] === 0.0 && $stock->neverNegative) {
                    // It is emptied and fills again: that is told where its outflows are cut.
                    break;
                }
                if ($turns >= self::TURNS) {
                    return $stock;
                }
            }
        }

        return null;
    }
}
