<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Uncertain;

use MerryOrbit\Core\Problem\NotUnderstood;

/**
 * How much each input matters for a variable, moment by moment: of runs for Sobol indices the first order, of Morris' paths the mean size
 * of a step in the variable's own unit, of any others the squares of the coefficients of a straight line through all runs.
 */
final readonly class SharesOver
{
    /**
     * @param  array<int, list<float>>  $numbers  by run, what was drawn for each input first
     * @param  array<int, list<float>>  $courses  by run, the variable at each moment; NAN where it failed
     * @param  list<int>  $moments  which of them are looked at
     * @return list<list<?float>> of each input, at each of those; null where all runs are the same
     *
     * @throws NotUnderstood
     */
    public static function of(EnsemblePlan $plan, array $numbers, array $courses, array $moments): array
    {
        $count = count($plan->laws);
        $sound = array_filter($courses, static fn (array $c): bool => array_filter($c, is_finite(...)) !== []);
        $runs = array_keys($sound);
        $inputs = [];
        for ($i = 0; $i < $count && $plan->purpose === 'spread'; $i++) {
            $inputs[] = array_map(static fn (int $run): float => $numbers[$run][$i], $runs);
        }
        $design = $plan->purpose === 'spread' ? null : $plan->design();
        $shares = array_fill(0, $count, []);
        foreach ($moments as $m) {
            $values = array_combine($runs, array_column($sound, $m));
            $found = match (true) {
                $design instanceof Indices => $design->first($values),
                $design instanceof Morris => array_column($design->from($values), 'mean_size'),
                default => array_map(
                    static fn (?float $c): ?float => $c === null ? null : $c * $c,
                    count($runs) > $count + 2 ? Regression::line($inputs, array_values($values)) : array_fill(0, $count, null),
                ),
            };
            foreach ($found as $i => $share) {
                $shares[$i][] = $share;
            }
        }

        return $shares;
    }
}
