<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Data;

use MerryOrbit\Core\Model\Measured;
use MerryOrbit\Core\Model\Model;
use MerryOrbit\Core\Simulate\Trajectory;

/** How well a run fits the evidence of its model. */
final class Fits
{
    /** Errors of so many points of one series are told one by one. */
    private const MOST_ERRORS = 600;

    /**
     * @return array<string, array<string, mixed>> by id of the evidence: the statistics, `sentence`, and `errors` as pairs of a time and
     *   simulated minus measured; evidence of what the run does not tell is left out
     */
    public static function of(Model $model, Trajectory $run): array
    {
        $fits = [];
        foreach ($model->part('evidence') as $id => $measured) {
            if (! ($measured instanceof Measured) || ! $run->has($measured->key())) {
                continue;
            }
            $evidence = new Evidence(
                $measured->column,
                $measured->key(),
                array_column($measured->points, 0),
                array_column($measured->points, 1),
            );
            $simulated = $evidence->simulated($run);
            $comparison = Comparison::of($evidence->values, $simulated);
            $errors = [];
            foreach (count($simulated) <= self::MOST_ERRORS ? $simulated : [] as $i => $value) {
                if ($value !== null) {
                    $errors[] = [$evidence->times[$i], $value - $evidence->values[$i]];
                }
            }
            $fits[(string) $id] = [...$comparison->toRecord(), 'sentence' => $comparison->sentence(), 'errors' => $errors];
        }

        return $fits;
    }
}
