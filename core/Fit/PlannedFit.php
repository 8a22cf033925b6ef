<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Fit;

use MerryOrbit\Core\Analysis\Analysis;
use MerryOrbit\Core\Data\Fits;
use MerryOrbit\Core\Experiment\Trial;
use MerryOrbit\Core\Law\Distribution;
use MerryOrbit\Core\Law\Special;
use MerryOrbit\Core\Model\Curve;
use MerryOrbit\Core\Model\FitPlan;
use MerryOrbit\Core\Model\Meaning;
use MerryOrbit\Core\Model\Measured;
use MerryOrbit\Core\Model\Model;
use MerryOrbit\Core\Model\Parameter;
use MerryOrbit\Core\Model\Setting;
use MerryOrbit\Core\Problem\NotUnderstood;
use MerryOrbit\Core\Reduce\ManyRuns;
use MerryOrbit\Core\Simulate\RunRefused;
use MerryOrbit\Core\Simulate\Simulator;
use MerryOrbit\Core\Uncertain\Opened;
use Random\Engine\Xoshiro256StarStar;
use Random\Randomizer;

/**
 * A calibration as a study says it. What is to be done falls into walks: generators that ask for points and are sent what runs have there.
 * What a walk does follows from the plan and from what it was told alone, so whoever has that can go on with it.
 */
final readonly class PlannedFit
{
    /** Of the swing of a series, the noise of values that the model makes itself where no error is known. */
    private const NOISE = 0.1;

    /**
     * @param  array<string, Measured>  $measured  all that counts or is held back, by id
     * @param  array<string, Measured>  $counted  the part that counts
     */
    private function __construct(
        public Model $model,
        public Setting $setting,
        public FitPlan $plan,
        public Calibration $calibration,
        private Belief $belief,
        public array $measured,
        public array $counted,
    ) {
    }

    /** @throws NotUnderstood|RunRefused where the plan cannot be carried out */
    public static function of(Simulator $simulator, Model $model, Setting $setting, FitPlan $plan, int $jobs = 1): self
    {
        $trial = Trial::of($model, $setting);
        $freed = self::freed($plan, $trial->analysis, $setting);
        $measured = self::evidence($plan, $model, $trial->analysis);
        if ($plan->trial) {
            $measured = self::made($simulator, $model, $setting, $plan, $measured);
        }
        $counted = array_filter(
            array_map(static fn (Measured $m): Measured => $m->between($plan->from, $plan->until), $measured),
            static fn (Measured $m): bool => $m->points !== [],
        );
        if ($counted === []) {
            throw NotUnderstood::because('Nothing was measured in the period that counts. Make it longer.');
        }

        $belief = self::belief($plan, $model, $freed);
        $calibration = Calibration::of(
            $simulator,
            $model,
            $setting,
            array_values(array_map(Fits::evidence(...), $counted)),
            $freed,
            self::misses($plan, $counted),
            $jobs,
            $belief->priors !== [],
        );

        return new self(
            $model,
            $setting,
            $plan,
            $belief->priors === [] ? $calibration : $calibration->believing($belief),
            $belief,
            $measured,
            $counted,
        );
    }

    /** @param  non-empty-list<Freed>  $freed */
    private static function belief(FitPlan $plan, Model $model, array $freed): Belief
    {
        $priors = [];
        foreach ($plan->free as $f) {
            if ($f['law'] !== '') {
                $priors[Opened::parameter($model, $f['of'], $f['at'])] = Distribution::read($f['law']);
            }
        }

        return new Belief($freed, array_intersect_key($priors, array_flip(array_column($freed, 'key'))));
    }

    /**
     * @param  array<string, Measured>  $measured
     * @return list<Misses>
     */
    private static function misses(FitPlan $plan, array $measured): array
    {
        return array_values(array_map(static fn (Measured $m): Misses => Misses::of($m, $plan->to[$m->id] ?? 'normal'), $measured));
    }

    /** @return non-empty-list<Freed> */
    private static function freed(FitPlan $plan, Analysis $analysis, Setting $setting): array
    {
        $model = $analysis->model;
        $freed = [];
        foreach ($plan->free as $f) {
            $element = $model->element($f['of']);
            if ($element === null) {
                continue;
            }
            $key = Model::keyAt($f['of'], $f['at']);
            $value =
                $element instanceof Parameter
                    ? $setting->parameters[$key] ?? $analysis->parameter($key)
                    : Opened::value($model, $f['of'], $f['at']);
            if ($value === null) {
                throw NotUnderstood::because(
                    $element instanceof Curve
                        ? "The curve `$element->name` has no such point any more. Take it out, or free another one."
                        : "The initial value of `$element->name` is no plain number, so it cannot be freed. Free what it follows from.",
                );
            }
            $freed[] = new Freed(
                Opened::parameter($model, $f['of'], $f['at']),
                $element instanceof Curve ? "$element->name at {$f['at'][0]}" : $analysis->nameOf($key),
                $value,
                $f['low'],
                $f['high'],
                $f['log'],
            );
        }

        return $freed === [] ? throw NotUnderstood::because('Say first which numbers may move, and within which bounds.') : $freed;
    }

    /** @return non-empty-array<string, Measured> */
    private static function evidence(FitPlan $plan, Model $model, Analysis $analysis): array
    {
        $measured = [];
        foreach ($model->part('evidence') as $id => $one) {
            $isMeant = $plan->to === [] || isset($plan->to[$id]);
            if ($isMeant && $one instanceof Measured && $one->weight > 0.0 && $analysis->canCompute($one->of)) {
                $measured[(string) $id] = $one;
            }
        }

        return $measured === []
            ? throw NotUnderstood::because('Nothing is measured of what the model computes. Tie a series to a variable first, in Data.')
            : $measured;
    }

    /**
     * The same series as the model would have them with the values it has, and noise: whether they are found again shows what the method
     * can do.
     *
     * @param  non-empty-array<string, Measured>  $measured
     * @return array<string, Measured>
     */
    private static function made(Simulator $simulator, Model $model, Setting $setting, FitPlan $plan, array $measured): array
    {
        $misses = array_map(static fn (Measured $m): Misses => Misses::of($m, $plan->to[$m->id] ?? 'normal'), $measured);
        // What lies outside of the run has no simulated value.
        $gaps = new Gaps(
            array_map(Fits::evidence(...), array_values($measured)),
            self::misses($plan, $measured),
            $setting->timeOf($model->time),
        );
        $there = ManyRuns::of($simulator, $model, $setting, $gaps, 1)->one([]);
        if ($there === null) {
            throw NotUnderstood::because('The model meets a numeric fault with the values it has, so it cannot make data of itself.');
        }
        $made = [];
        foreach ($gaps->names() as $at => $name) {
            [$s, $i] = array_map(intval(...), explode('/', $name));
            $made[array_keys($measured)[$s]][$i] = $there[$at];
        }
        $series = [];
        foreach ($made as $id => $values) {
            $mean = array_sum($values) / count($values);
            $swing = sqrt(array_sum(array_map(static fn (float $v): float => ($v - $mean) ** 2, $values)) / count($values));
            $points = [];
            $random = new Randomizer(new Xoshiro256StarStar(hash('sha256', "$plan->seed/made $id", true)));
            foreach ($values as $i => $value) {
                $sd = match (true) {
                    ! $misses[$id]->isEstimated => $misses[$id]->sd($i),
                    $misses[$id]->kind === 'factor' => self::NOISE,
                    default => self::NOISE * $swing,
                };
                $deviate = Special::normalQuantile(($random->getInt(0, (1 << 52) - 1) + 0.5) / (1 << 52));
                $points[$i] = [$measured[$id]->points[$i][0], $misses[$id]->made($value, $deviate, $sd)];
            }
            $series[$id] = $measured[$id]->having($points);
        }

        return $series;
    }

    /**
     * What all follows from besides the plan: the model but for the numbers that move, and what was measured. Where data are made, the
     * numbers that they are made with count, too.
     */
    public function meaning(): string
    {
        $moving = $this->plan->trial ? [] : array_map(static fn (array $f): string => Model::keyAt($f['of'], $f['at']), $this->plan->free);
        $measured = array_map(static fn (Measured $m): array => $m->toRecord(), $this->measured);

        return hash('xxh128', Meaning::of($this->model, $moving).json_encode($measured, JSON_THROW_ON_ERROR));
    }

    /** @return non-empty-list<Freed> */
    public function numbers(): array
    {
        return $this->calibration->freed;
    }

    /** How many measured values count. */
    public function points(): int
    {
        return count($this->calibration->gaps->series());
    }

    /** @return non-empty-list<list<float>> where searches begin; of a trial never where the numbers are known to be */
    private function begins(): array
    {
        if (! $this->plan->trial) {
            return $this->calibration->starts($this->plan->starts, $this->plan->seed);
        }
        $starts = array_slice($this->calibration->starts($this->plan->starts + 1, $this->plan->seed), 1);

        return $starts === [] ? throw new \LogicException('One more than one is two.') : $starts;
    }

    /** How many searches there are. */
    public function starts(): int
    {
        return $this->plan->starts;
    }

    /** @return \Generator<int, list<list<float>>, list<?list<float>>, Found> the search from one of the starts */
    public function search(int $start): \Generator
    {
        return (new Weighed($this->calibration, $this->plan->using, $this->plan->seed + $start))->from($this->begins()[$start]);
    }

    /**
     * What a run has where something was measured, for a walk.
     *
     * @param  list<list<float>>  $points
     * @return list<?list<float>>
     */
    public function runs(array $points): array
    {
        return $this->calibration->runs($points);
    }

    /**
     * How far off: the mean square of the misses, in errors where those are known, else against the swing of what was measured.
     *
     * @param  ?list<float>  $there
     */
    public function distance(?array $there): float
    {
        $gaps = $this->calibration->gaps;
        if ($there === null || $gaps->of($there) === null) {
            return INF;
        }

        return $gaps->distance($there, $gaps->scales($there)) / max(1, count($there));
    }

    /** @param  non-empty-list<Found>  $found  of all searches */
    public function fitted(array $found): Fitted
    {
        return Fitted::of($this->sized($found), $found);
    }

    /**
     * With errors as large as they are at the best end.
     *
     * @param  non-empty-list<Found>  $found
     */
    private function sized(array $found): Calibration
    {
        usort($found, static fn (Found $a, Found $b): int => $a->distance <=> $b->distance);

        return $this->sizedAt($found[0]->point);
    }

    /** @param  list<float>  $best */
    private function sizedAt(array $best): Calibration
    {
        [$there] = $this->calibration->runs([$best]);

        return $this->calibration->scaled(
            $there === null
                ? array_map(static fn (): float => 1.0, $this->calibration->gaps->misses)
                : $this->calibration->gaps->scales($there),
        );
    }

    /**
     * @param  list<float>  $best
     * @param  ?float  $error  the standard error of the number there
     * @return \Generator<int, list<list<float>>, list<?list<float>>, list<array{float, ?float}>>  the profile of a number; see Profile
     */
    public function profile(array $best, ?float $error, int $number): \Generator
    {
        $calibration = $this->sizedAt($best);
        $walk = Profile::walk($this->numbers(), $best, $error, $number);
        while ($walk->valid()) {
            $points = $walk->current();
            $told = (yield $points);
            $walk->send(array_map($calibration->gapsAt(...), $points, $told));
        }

        return $walk->getReturn();
    }

    /**
     * A chain of draws from what the data leave open; see Chain.
     *
     * @param  list<float>  $best  about which it is
     * @param  int  $each  draws of it
     * @return \Generator<int, list<list<float>>, list<?list<float>>, array{draws: list<list<float>>, sds: list<list<float>>, accepted: int}>
     */
    public function chain(array $best, int $chain, int $each): \Generator
    {
        $calibration = $this->open($best);
        $walk = Posterior::about($calibration, $this->belief, $best, true, $this->plan->seed)->walk($chain, $each);
        while ($walk->valid()) {
            $points = $walk->current();
            $told = (yield $points);
            $walk->send(array_map($calibration->gapsAt(...), $points, $told));
        }

        return $walk->getReturn();
    }

    /**
     * Of robust kinds errors are as large as they are at the best end; of normal ones their size is open too.
     *
     * @param  list<float>  $best
     */
    private function open(array $best): Calibration
    {
        $sized = $this->sizedAt($best)->scales;
        $misses = $this->calibration->gaps->misses;
        $scales = array_map(static fn (Misses $m, float $scale): float => $m->isNormal() ? 1.0 : $scale, $misses, $sized);

        return $this->calibration->scaled($scales)->believing(null);
    }

    /**
     * The study's own trial with these values, as it can be looked at.
     *
     * @param  list<float>  $point
     *
     * @throws RunRefused
     */
    public function trial(array $point): Trial
    {
        $values = array_combine(array_column($this->numbers(), 'key'), $point);

        return Trial::of(
            Opened::of($this->model, array_map(strval(...), array_keys($values))),
            (new Setting($values))->over($this->setting),
        );
    }
}
