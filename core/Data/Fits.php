<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Data;

use MerryOrbit\Core\Experiment\Trial;
use MerryOrbit\Core\Model\Measured;
use MerryOrbit\Core\Model\Method;
use MerryOrbit\Core\Model\Model;
use MerryOrbit\Core\Model\TimeSettings;
use MerryOrbit\Core\Plan\Key;
use MerryOrbit\Core\Reduce\ColumnsAt;
use MerryOrbit\Core\Reduce\ManyRuns;
use MerryOrbit\Core\Simulate\Simulator;
use MerryOrbit\Core\Simulate\Trajectory;

/** How well a run fits what was measured. */
final class Fits
{
    /** Errors of so many points of one series are told one by one. */
    private const MOST_ERRORS = 600;

    /** @return array<string, Evidence> by id, all that a model has */
    public static function evidenceOf(Model $model): array
    {
        $evidence = [];
        foreach ($model->part('evidence') as $id => $one) {
            if ($one instanceof Measured) {
                $evidence[(string) $id] = self::evidence($one);
            }
        }

        return $evidence;
    }

    public static function evidence(Measured $one): Evidence
    {
        return new Evidence(
            $one->column,
            (new Key($one->of, '', $one->at))->text(),
            array_column($one->points, 0),
            array_column($one->points, 1),
            $one->over,
            $one->ends,
        );
    }

    /**
     * What a run has at the times of the evidence: on straight lines between its steps, also where the model saves fewer moments.
     *
     * @param  array<Evidence>  $evidence
     * @param  Trajectory  $run  of the trial
     * @return array<list<float|null>> null outside of the run
     */
    public static function simulated(Simulator $simulator, Trial $trial, Trajectory $run, array $evidence): array
    {
        $time = $trial->model()->time;
        $times = $run->times();
        $there = array_filter($evidence, static fn (Evidence $e): bool => $run->has($e->key));
        $columns = [];
        if ($there !== [] && $time->saveEvery !== null && $run->fault === null && $time->steps() < TimeSettings::MOST_SAVED) {
            $keys = array_values(array_unique(array_map(static fn (Evidence $e): string => $e->key, $there)));
            $wanted = self::wanted($there, $time);
            $values = ManyRuns::of($simulator, $trial->model(), $trial->setting, new ColumnsAt($keys, $wanted), 1)->one([]);
            if ($values !== null) {
                [$times, $columns] = [$wanted, array_combine($keys, array_chunk($values, max(1, count($wanted))))];
            }
        }

        return array_map(
            static fn (Evidence $e): array => $run->has($e->key)
                ? $e->simulated($times, $columns[$e->key] ?? $run->column($e->key), $time->method === Method::Euler)
                : array_fill(0, count($e->times), null),
            $evidence,
        );
    }

    /**
     * @param  non-empty-array<Evidence>  $evidence
     * @return list<float> the times at which a run is looked at: those of what was measured, and for periods every step
     */
    private static function wanted(array $evidence, TimeSettings $time): array
    {
        $wanted = array_merge(...array_map(static fn (Evidence $e): array => [...$e->times, ...$e->ends], array_values($evidence)));
        if (array_filter($evidence, static fn (Evidence $e): bool => $e->over !== '') !== []) {
            for ($i = 0; $i <= $time->steps(); $i++) {
                $wanted[] = $time->start + $i * $time->step;
            }
        }
        sort($wanted);

        return array_values(array_unique($wanted, SORT_NUMERIC));
    }

    /**
     * @param  Model  $today  whose evidence counts: a run that was kept is held against what is known now
     * @return array<string, array<string, mixed>> by id of the evidence: the statistics, `sentence`, and `errors` as pairs of a time and
     *   simulated minus measured; evidence of what the run does not tell is left out
     */
    public static function of(Simulator $simulator, Trial $trial, Trajectory $run, Model $today): array
    {
        $evidence = array_filter(self::evidenceOf($today), static fn (Evidence $e): bool => $run->has($e->key));
        $fits = [];
        foreach (self::simulated($simulator, $trial, $run, $evidence) as $id => $simulated) {
            $comparison = Comparison::of($evidence[$id]->values, $simulated);
            $errors = [];
            foreach (count($simulated) <= self::MOST_ERRORS ? $simulated : [] as $i => $value) {
                if ($value !== null) {
                    $errors[] = [$evidence[$id]->middle($i), $value - $evidence[$id]->values[$i]];
                }
            }
            $fits[(string) $id] = [...$comparison->toRecord(), 'sentence' => $comparison->sentence(), 'errors' => $errors];
        }

        return $fits;
    }
}
