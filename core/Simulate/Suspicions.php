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
     * @param  array<string, int>  $columns  by element id
     * @param  array<string, float>  $steady
     * @return list<Notice>
     */
    public static function of(Model $model, TimeSettings $time, Values $values, array $columns, int $moments, array $steady): array
    {
        $notices = [];
        foreach ($model->elements as $id => $element) {
            if ($element instanceof Flow && self::isStill($values, $columns[$id] ?? null, $moments, $steady[$id] ?? null)) {
                $notices[] = new Notice(
                    'flow.still',
                    $id,
                    $time->start,
                    "`$element->name` is zero throughout the run. If that is not meant, look at its formula.",
                );
            }
        }
        $long = $time->method->isAdaptive() || $time->stepsPerSave() > 1 ? null : self::swinging($model, $values, $columns, $moments);
        if ($long !== null) {
            $half = ['kind' => 'time', ...$time->toRecord(), 'step' => $time->step / 2, 'saveEvery' => $time->saveEvery ?? $time->step];
            $notices[] = new Notice(
                'step.long',
                $long->id,
                $time->start,
                "`$long->name` turns at every step, which tells of a time step that is too long. Halve it and see whether the run changes.",
                new Remedy('Halve the time step to '.Shown::number($time->step / 2), [$half]),
            );
        }

        return $notices;
    }

    private static function isStill(Values $values, ?int $column, int $moments, ?float $steady): bool
    {
        if ($column === null) {
            return $steady === 0.0;
        }
        for ($i = 0; $i < $moments; $i++) {
            if ($values->at($column, $i) != 0.0) {
                return false;
            }
        }

        return $moments > 0;
    }

    /** Whether there can be so many turns in a row: then one of them is at one of these moments. */
    private static function mayTurn(Values $of, int $column, int $last): bool
    {
        for ($i = self::TURNS; $i < $last; $i += self::TURNS) {
            $here = $of->at($column, $i - 1);
            if (($of->at($column, $i) - $here) * ($here - $of->at($column, $i - 2)) < 0.0) {
                return true;
            }
        }

        return false;
    }

    /** @param  array<string, int>  $columns */
    private static function swinging(Model $model, Values $of, array $columns, int $moments): ?Stock
    {
        $last = min($moments, self::LOOKED);
        foreach ($model->elements as $id => $stock) {
            if (! ($stock instanceof Stock) || ! isset($columns[$id])) {
                continue;
            }
            if (! self::mayTurn($of, $columns[$id], $last)) {
                continue;
            }
            $values = $of->column($columns[$id]);
            $turns = 0;
            for ($i = 2; $i < $last; $i++) {
                $turns = ($values[$i] - $values[$i - 1]) * ($values[$i - 1] - $values[$i - 2]) < 0.0 ? $turns + 1 : 0;
                if ($values[$i] === 0.0 && $stock->neverNegative) {
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
