<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Fit;

use MerryOrbit\Core\Data\Fits;
use MerryOrbit\Core\Reduce\ColumnsAt;
use MerryOrbit\Core\Reduce\ManyRuns;
use MerryOrbit\Core\Simulate\RunRefused;
use MerryOrbit\Core\Simulate\Simulator;
use MerryOrbit\Core\Uncertain\Density;
use MerryOrbit\Core\Uncertain\Opened;
use MerryOrbit\Core\Uncertain\Ranks;
use MerryOrbit\Core\Uncertain\Summary;

/** What the data leave open of a study's numbers, as a record that can be kept and looked at without its model. */
final class OpenReport
{
    /** Runs that bands are made of, and seconds after which there are no more. */
    private const RUNS = 200;

    private const SECONDS = 20.0;

    private const MOMENTS = 121;

    private const PERCENTS = [5.0, 25.0, 50.0, 75.0, 95.0];

    /** Values that stand for a distribution where it goes on as an uncertain input. */
    private const VALUES = 99;

    /**
     * @return array<string, mixed> `parameters` as Sampled tells them, with `values` that stand for each and how densely they lie; `sizes` of errors by evidence,
     *   `ranks` that go together, `bands` of each series over the whole run, `acceptance`, `sentences`
     *
     * @throws RunRefused
     */
    public static function of(Simulator $simulator, PlannedFit $fit, Sampled $sampled): array
    {
        $draws = $sampled->draws();

        return [
            'draws' => count($draws),
            'chains' => count($sampled->chains),
            'acceptance' => $sampled->acceptance(),
            'parameters' => array_map(
                static fn (array $p, int $j): array => [...$p, ...self::lying(array_column($draws, $j))],
                $sampled->parameters(),
                array_keys($fit->numbers()),
            ),
            'sizes' => self::sizes($fit, $sampled),
            'ranks' => self::ranks($draws, count($fit->numbers())),
            'bands' => self::bands($simulator, $fit, $draws),
            'sentences' => $sampled->sentences(),
        ];
    }

    /**
     * @param  list<float>  $draws
     * @return array{values: list<float>, density: list<array{float, float}>} quantiles, evenly spaced; and how densely they lie
     */
    private static function lying(array $draws): array
    {
        sort($draws);
        $most = count($draws) - 1;
        $density = Density::of($draws);

        return [
            'values' => array_map(
                static fn (int $k): float => $draws[(int) round((($k + 0.5) / self::VALUES) * $most)],
                range(0, self::VALUES - 1),
            ),
            'density' => array_map(static fn (float $x, float $y): array => [$x, $y], $density->at, $density->density),
        ];
    }

    /**
     * How large errors are that are not known, in the unit of their series; of factors as such.
     *
     * @return list<array<string, mixed>> each with its `evidence`, and as Sampled tells them
     */
    public static function sizes(PlannedFit $fit, Sampled $sampled): array
    {
        $ids = array_keys($fit->counted);
        $sizes = [];
        foreach (array_keys((new Likelihood($fit->calibration->gaps))->open) as $k => $s) {
            $size = $fit->calibration->gaps->misses[$s]->sd(0);
            $told = $sampled->sds()[$k];
            $times = static fn (mixed $v): ?float => is_float($v) ? $size * $v : null;
            $sizes[] = [
                ...$told,
                'evidence' => (string) $ids[$s],
                'mean' => $times($told['mean']),
                'sd' => $times($told['sd']),
                'percentiles' => (object) array_map($times, (array) $told['percentiles']),
            ];
        }

        return $sizes;
    }

    /**
     * @param  list<list<float>>  $draws
     * @return list<list<float>> how far ranks of two numbers go together
     */
    private static function ranks(array $draws, int $numbers): array
    {
        $columns = array_map(static fn (int $j): array => array_column($draws, $j), range(0, $numbers - 1));

        return array_map(
            static fn (array $one): array => array_map(
                static fn (array $other): float => $one === $other ? 1.0 : Ranks::correlation($one, $other) ?? 0.0,
                $columns,
            ),
            $columns,
        );
    }

    /**
     * @param  list<list<float>>  $draws
     * @return list<array<string, mixed>> of each series, by time; a run that fails is left out
     *
     * @throws RunRefused
     */
    private static function bands(Simulator $simulator, PlannedFit $fit, array $draws): array
    {
        $keys = array_values(array_unique(array_column(array_map(Fits::evidence(...), $fit->measured), 'key')));
        $moments = ColumnsAt::moments($fit->setting->timeOf($fit->model->time), self::MOMENTS);
        $names = array_column($fit->numbers(), 'key');
        $model = Opened::of($fit->model, $names);
        $many = ManyRuns::of($simulator, $model, $fit->setting, new ColumnsAt($keys, $moments), self::RUNS);
        $begun = hrtime(true);
        $runs = [];
        $count = min(self::RUNS, count($draws));
        for ($i = 0; $i < $count && (hrtime(true) - $begun) / 1e9 < self::SECONDS; $i++) {
            // In an order that spreads over all draws from the start on, if it has to end early.
            $at = (int) (fmod($i * 0.618_033_988_749_895, 1.0) * count($draws));
            $one = $many->one(array_combine($names, $draws[$at]));
            if ($one !== null) {
                $runs[] = $one;
            }
        }
        $bands = [];
        $count = count($moments);
        foreach ($keys as $k => $key) {
            $over = Summary::overTime($runs, $k * $count, $count, self::PERCENTS);
            $bands[] = ['key' => $key, 'runs' => count($runs), 'times' => $moments, 'percentiles' => $over['percentiles']];
        }

        return $bands;
    }
}
