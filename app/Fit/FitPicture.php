<?php

declare(strict_types=1);

namespace App\Fit;

use MerryOrbit\Core\Data\Comparison;
use MerryOrbit\Core\Fit\Judged;
use MerryOrbit\Core\Fit\PlannedFit;
use MerryOrbit\Core\Model\Measured;
use MerryOrbit\Core\Model\Model;
use MerryOrbit\Core\Simulate\RunRefused;
use MerryOrbit\Core\Simulate\Simulator;

/** Runs of a fit beside what was measured, as they are drawn. */
final class FitPicture
{
    /** Moments of a course. */
    private const MOMENTS = 400;

    /**
     * @param  list<array{kind: 'before'|'earlier'|'best', distance: ?float, point: list<float>}>  $runs
     * @return array<string, mixed>
     *
     * @throws RunRefused
     */
    public static function of(Simulator $simulator, PlannedFit $planned, array $runs): array
    {
        $drawn = [];
        foreach ($runs as $run) {
            $judged = Judged::of($simulator, $planned, $run['point']);
            if ($judged !== null) {
                $drawn[] = [...$run, 'series' => self::drawn($judged, $run['kind'] !== 'earlier')];
            }
        }

        return ['series' => self::series($planned), 'runs' => $drawn];
    }

    /** @return list<array<string, mixed>> what was measured, or made by the model itself */
    private static function series(PlannedFit $fit): array
    {
        return array_values(
            array_map(
                static fn (Measured $m): array => [
                    'evidence' => $m->id,
                    'key' => Model::keyAt($m->of, $m->at),
                    'points' => array_map(
                        static fn (int $i): array => [
                            'time' => ($m->points[$i][0] + ($m->ends[$i] ?? $m->points[$i][0])) / 2.0,
                            'value' => $m->points[$i][1],
                            'error' => $m->errorOf($i),
                            'counts' => $m->isWithin($i, $fit->plan->from, $fit->plan->until),
                        ],
                        array_keys($m->points),
                    ),
                ],
                $fit->measured,
            ),
        );
    }

    /** @return list<array<string, mixed>> */
    private static function drawn(Judged $judged, bool $isWhole): array
    {
        return array_map(static function (array $s) use ($isWhole): array {
            $every = max(1, (int) ceil(count($s['times']) / self::MOMENTS));
            $kept = array_filter(array_keys($s['course']), static fn (int $i): bool => $i % $every === 0);
            $told = static fn (Comparison $c): ?array => $c->n === 0 ? null : [...$c->toRecord(), 'sentence' => $c->sentence()];

            return [
                'evidence' => $s['evidence'],
                'key' => $s['key'],
                'course' => array_values(array_map(static fn (int $i): array => [$s['times'][$i], $s['course'][$i]], $kept)),
                'misses' => $isWhole ? $s['misses'] : [],
                'counted' => $told($s['counted']),
                'held' => $told($s['held']),
            ];
        }, $judged->series);
    }
}
