<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Fit;

use MerryOrbit\Core\Data\Evidence;
use MerryOrbit\Core\Model\FitPlan;
use MerryOrbit\Core\Model\Model;
use MerryOrbit\Core\Model\Setting;
use MerryOrbit\Core\Problem\NotUnderstood;
use MerryOrbit\Core\Reduce\ManyRuns;
use MerryOrbit\Core\Reduce\Processes;
use MerryOrbit\Core\Simulate\RunRefused;
use MerryOrbit\Core\Simulate\Simulator;
use MerryOrbit\Core\Uncertain\Design;
use MerryOrbit\Core\Uncertain\Opened;

/**
 * Some numbers of a model brought near to what was measured. Several searches from starts that are spread over the bounds go side by side:
 * what all of them ask for next is one batch of runs, so that every core has its share.
 */
final class Calibration
{
    public const WAYS = FitPlan::WAYS;

    /** Whether the sizes of all errors are known. */
    public readonly bool $isKnown;

    /**
     * @param  non-empty-list<Freed>  $freed
     * @param  list<float>  $scales  of each series, by how much its errors are larger than taken to begin with
     */
    private function __construct(
        private readonly Runner $runner,
        public readonly Gaps $gaps,
        public readonly array $freed,
        public readonly array $scales = [],
        public readonly ?Belief $belief = null,
    ) {
        $this->isKnown = $gaps->isKnown();
    }

    /**
     * @param  non-empty-list<Freed>  $freed
     * @param  non-empty-list<Evidence>  $evidence
     * @param  list<Misses>  $misses  of each series
     * @param  int  $jobs  processes
     * @param  bool  $isBelieved  whether something is known of the numbers besides, so that few measured values are enough
     *
     * @throws RunRefused|NotUnderstood
     */
    public static function of(
        Simulator $simulator,
        Model $model,
        Setting $setting,
        array $evidence,
        array $freed,
        array $misses,
        int $jobs = 1,
        bool $isBelieved = false,
    ): self {
        $gaps = new Gaps($evidence, $misses, $setting->timeOf($model->time));
        $isKnown = $gaps->isKnown();
        $points = count($gaps->names());
        // Errors of a known size take no value for themselves.
        $fewest = match (true) {
            $isKnown && $isBelieved => 1,
            $isKnown => count($freed),
            default => count($freed) + 1,
        };
        if ($points < $fewest) {
            throw NotUnderstood::because(
                "There are $points measured values within the run for ".
                    count($freed).
                    " numbers, of which this takes $fewest. Free fewer, or lengthen the run to where something was measured.",
            );
        }
        $many = ManyRuns::of($simulator, Opened::of($model, array_column($freed, 'key')), $setting, $gaps, 1_000);

        return new self(new Runner($many, $jobs), $gaps, $freed);
    }

    /**
     * The same with errors of another size, where that is estimated.
     *
     * @param  list<float>  $scales
     */
    public function scaled(array $scales): self
    {
        return new self($this->runner, $this->gaps, $this->freed, $scales, $this->belief);
    }

    /** The same with what was held to be likely before counted as well; null: without. */
    public function believing(?Belief $belief): self
    {
        return new self($this->runner, $this->gaps, $this->freed, $this->scales, $belief);
    }

    /**
     * @param  list<float>  $point
     * @param  ?list<float>  $there  what a run has
     * @param  ?list<float>  $scales  of errors; null for its own
     * @return ?list<float> null where a run cannot have that
     */
    public function gapsAt(array $point, ?array $there, ?array $scales = null): ?array
    {
        $gaps = $there === null ? null : $this->gaps->of($there, $scales ?? $this->scales);

        return $gaps === null || $this->belief === null ? $gaps : [...$gaps, ...$this->belief->gaps($point)];
    }

    /**
     * How far off a run is, with errors of these sizes.
     *
     * @param  list<float>  $point
     * @param  list<float>  $there
     * @param  list<float>  $scales
     */
    public function distance(array $point, array $there, array $scales): float
    {
        return $this->gaps->distance($there, $scales, $this->belief === null ? 0.0 : Found::distance($this->belief->gaps($point)));
    }

    /**
     * @param  list<list<float>>  $points  a value for each freed number
     * @param  bool  $alone  whether other processes are busy already
     * @return list<?list<float>> what each run has where something was measured; null where it met a fault or ended before
     */
    public function runs(array $points, bool $alone = false): array
    {
        $keys = array_column($this->freed, 'key');
        $inputs = static fn (int $i): array => [array_combine($keys, $points[$i]), null];

        return $this->runner->all(count($points), $inputs, $alone);
    }

    /**
     * @param  list<list<float>>  $points  a value for each freed number
     * @param  bool  $alone  whether other processes are busy already
     * @return list<?list<float>> the gaps at each; null where the run met a fault or ended before
     */
    public function at(array $points, bool $alone = false): array
    {
        return array_map($this->gapsAt(...), $points, $this->runs($points, $alone));
    }

    public function evaluations(): int
    {
        return $this->runner->evaluations;
    }

    /**
     * @param  string  $way  one of WAYS
     * @param  int  $starts  the first is where the numbers stand
     */
    public function fit(string $way, int $starts, int $seed): Fitted
    {
        $points = $this->starts($starts, $seed);
        $found = $this->searched(array_map(fn (int $i): Search => $this->search($way, $seed + $i), array_keys($points)), $points);
        if ($way !== 'least-squares') {
            // The last digits, and whether it is flat there, are told by slopes.
            $polished = $this->searched(
                array_map(fn (): Search => new LeastSquares($this->freed), $found),
                array_map(static fn (Found $f): array => $f->point, $found),
            );
            $found = array_map(static fn (Found $a, Found $b): Found => $b->distance <= $a->distance ? $b : $a, $found, $polished);
        }

        return Fitted::of($this, $found);
    }

    /** @param  string  $way  one of WAYS */
    public function search(string $way, int $seed): Search
    {
        return match ($way) {
            'least-squares' => new LeastSquares($this->freed),
            'simplex' => new Simplex($this->freed),
            default => new Evolution($this->freed, $seed),
        };
    }

    /** @return non-empty-list<list<float>> where the numbers stand, and others that are spread over the bounds */
    public function starts(int $count, int $seed): array
    {
        $points = [array_map(static fn (Freed $f): float => $f->within($f->value), $this->freed)];
        if ($count > 1) {
            $design = Design::of('latin', array_column($this->freed, 'key'), $count - 1, $seed);
            for ($i = 0; $i < $count - 1; $i++) {
                $points[] = array_map(static fn (Freed $f, float $u): float => $f->at($u), $this->freed, $design->draws($i));
            }
        }

        return $points;
    }

    /**
     * Each process takes some of the searches from their start to their end: they do not wait for each other.
     *
     * @param  list<Search>  $searches
     * @param  list<list<float>>  $points
     * @return list<Found>
     */
    private function searched(array $searches, array $points): array
    {
        $jobs = min($this->runner->jobs, count($searches));
        if ($jobs < 2) {
            return Together::searched($searches, $points, $this->at(...));
        }
        // One run compiles, for all processes; it is none of those that are counted, which are the same for any number of them.
        $own = $this->runner->evaluations;
        $this->at([$points[0]]);
        $parts = [];
        for ($job = 0; $job < $jobs; $job++) {
            $mine = array_values(array_filter(array_keys($searches), static fn (int $i): bool => $i % $jobs === $job));
            $parts[] = function () use ($mine, $searches, $points): array {
                $before = $this->runner->evaluations;
                $found = Together::searched(
                    array_map(static fn (int $i): Search => $searches[$i], $mine),
                    array_map(static fn (int $i): array => $points[$i], $mine),
                    fn (array $asked): array => $this->at($asked, alone: true),
                );

                return [
                    $this->runner->evaluations - $before,
                    array_map(static fn (Found $f): array => [$f->point, $f->distance, $f->isConverged], $found),
                ];
            };
        }
        $found = [];
        foreach (Processes::each($parts) as $job => [$evaluations, $ends]) {
            $own += $evaluations;
            foreach ($ends as $k => $end) {
                $found[$job + $k * $jobs] = new Found(...$end);
            }
        }
        $this->runner->evaluations = $own;
        ksort($found);

        return array_values($found);
    }
}
