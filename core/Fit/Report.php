<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Fit;

use MerryOrbit\Core\Analysis\Analyser;
use MerryOrbit\Core\Simulate\RunRefused;
use MerryOrbit\Core\Simulate\Simulator;

/**
 * What a calibration of a study came to, as a record that can be kept and looked at without its model.
 *
 * @phpstan-type Estimate array{name: string, value: float, standard_error: ?float, low: ?float, high: ?float, at_bound: bool}
 * @phpstan-type Told array{point: list<float>, parameters: list<Estimate>, converged: bool, distance: ?float, before: ?float, n: int,
 *     ends: list<array{point: list<float>, distance: ?float}>, correlations: ?list<list<float>>, together: list<array{int, int, float}>,
 *     again: ?array{held: int, of: int}, sizes: object, sentences: list<string>}
 */
final class Report
{
    /**
     * @return Told `point` and `parameters` of the nearest end, `distance` and `before` as PlannedFit::distance() gives them, `ends` of all
     *   starts, the nearest first, `correlations` of the estimates or null, `together` which can hardly be told apart, `again` of a trial, how many
     *   intervals hold the value that the data were made with, `sizes` of errors that were estimated by evidence, in the unit
     *   of the variable, and `sentences`
     *
     * @throws RunRefused
     */
    public static function of(Simulator $simulator, PlannedFit $fit, Fitted $fitted): array
    {
        [$before, $best] = $fit->runs([array_map(static fn (Freed $f): float => $f->value, $fit->numbers()), $fitted->point]);
        $n = $fit->points();
        $known = static fn (float $v): ?float => is_finite($v) ? $v : null;
        $judged = $best === null ? null : Judged::of($simulator, $fit, $fitted->point);
        $analysis = Analyser::analyse($fit->model);
        $missed = self::missed($fit, $fitted);
        $all = count($fit->numbers());
        $again = $missed === null ? null : ['held' => $all - count($missed), 'of' => $all];

        return [
            'point' => $fitted->point,
            'parameters' => $fitted->parameters(),
            'converged' => $fitted->isConverged,
            'distance' => $known($fit->distance($best)),
            'before' => $known($fit->distance($before)),
            'n' => $n,
            'ends' => array_map(
                static fn (Found $f): array => ['point' => $f->point, 'distance' => $known($f->distance / $n)],
                $fitted->ends,
            ),
            'correlations' => $fitted->correlations,
            'together' => $fitted->together(),
            'again' => $again,
            'sizes' => (object) self::sizes($fit, $best),
            'sentences' => [
                ...self::found($again, $missed),
                ...$fitted->sentences(),
                ...$judged?->sentences($analysis->nameOf(...)) ?? [],
            ],
        ];
    }

    /**
     * @param  ?list<float>  $there
     * @return array<string, float>
     */
    private static function sizes(PlannedFit $fit, ?array $there): array
    {
        $sizes = [];
        $scales = $there === null ? [] : $fit->calibration->gaps->scales($there);
        foreach (array_keys($fit->counted) as $s => $id) {
            $misses = $fit->calibration->gaps->misses[$s];
            if ($misses->isEstimated && $misses->kind !== 'factor' && isset($scales[$s])) {
                $sizes[$id] = $misses->sd(0) * $scales[$s];
            }
        }

        return $sizes;
    }

    /** @return ?list<string> of a trial, the numbers whose interval does not hold the value that the data were made with */
    private static function missed(PlannedFit $fit, Fitted $fitted): ?array
    {
        if (! $fit->plan->trial || ! is_finite($fitted->distance)) {
            return null;
        }
        $missed = [];
        foreach ($fitted->parameters() as $j => $p) {
            $value = $fit->numbers()[$j]->value;
            if ($p['low'] === null || $value < $p['low'] || $value > $p['high']) {
                $missed[] = "`{$p['name']}`";
            }
        }

        return $missed;
    }

    /**
     * @param  ?array{held: int, of: int}  $again
     * @param  ?list<string>  $missed
     * @return list<string>
     */
    private static function found(?array $again, ?array $missed): array
    {
        return match (true) {
            $again === null => [],
            $missed === [] => ["Found again: all {$again['of']} intervals hold the value that the data were made with."],
            default => [
                "{$again['held']} of {$again['of']} intervals hold the value that the data were made with; not so ".
                implode(', ', $missed ?? []).
                '. Of 95 % intervals one in twenty misses by chance.',
            ],
        };
    }
}
