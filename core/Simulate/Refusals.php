<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Simulate;

use MerryOrbit\Core\Analysis\Analysis;
use MerryOrbit\Core\Model\Method;
use MerryOrbit\Core\Problem\Problem;

/** What a method that chooses its own steps cannot compute. */
final class Refusals
{
    /** @return list<Problem> */
    public static function of(Analysis $analysis, Method $method): array
    {
        $plan = $analysis->outline();
        $found = [];
        foreach ($plan->equations as $equation) {
            if ($equation->draw !== null) {
                $found[$equation->owner] = 'draws chance in every step';
            }
        }
        foreach ($plan->cells as $cell) {
            if ($cell->kind === 'previous' || $cell->kind === 'hold') {
                $found[$cell->owner] = "uses `$cell->kind`, which goes by steps";
            }
        }
        foreach ($plan->limited as $stock => $_) {
            $found[$plan->keys->owner($stock)] = isset($plan->transits[$stock])
                ? 'is a transit stock, which goes by steps'
                : 'never goes below zero, which is settled step by step';
        }

        return array_map(
            static fn (string $id, string $why): Problem => new Problem(
                'method.adaptive',
                "{$method->title()} chooses its own steps, but `{$analysis->model->nameOf(
                    $id,
                )}` $why. Choose Runge–Kutta 4, Heun or Euler in the time settings.",
                $id,
                'formula',
            ),
            array_keys($found),
            $found,
        );
    }
}
