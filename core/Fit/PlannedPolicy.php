<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Fit;

use MerryOrbit\Core\Analysis\Analysis;
use MerryOrbit\Core\Experiment\Trial;
use MerryOrbit\Core\Model\Expectation;
use MerryOrbit\Core\Model\Meaning;
use MerryOrbit\Core\Model\Model;
use MerryOrbit\Core\Model\Parameter;
use MerryOrbit\Core\Model\PolicyPlan;
use MerryOrbit\Core\Model\ReferenceMode;
use MerryOrbit\Core\Model\Setting;
use MerryOrbit\Core\Problem\NotUnderstood;
use MerryOrbit\Core\Reduce\Outcome;
use MerryOrbit\Core\Simulate\RunRefused;
use MerryOrbit\Core\Simulate\Simulator;
use MerryOrbit\Core\Uncertain\EnsemblePlan;

/**
 * A search for a policy as a study says it: one walk. What it came to is told by PolicyReport.
 *
 * @phpstan-import-type Sought from PolicyPlan
 * @phpstan-import-type End from Policy
 */
final readonly class PlannedPolicy
{
    /**
     * @param  non-empty-list<Freed>  $chosen
     * @param  non-empty-list<array{Outcome, float}>  $sum
     * @param  list<array{Outcome, bool, float}>  $limits  whether at most
     * @param  list<Expectation>  $expected  that must hold too
     */
    private function __construct(
        public Simulator $simulator,
        public Model $model,
        public Analysis $analysis,
        public Setting $setting,
        public PolicyPlan $plan,
        public array $chosen,
        public array $sum,
        public array $limits,
        public array $expected,
        public ?EnsemblePlan $draws,
        public int $jobs,
        private Policy $policy,
    ) {
    }

    /** @throws NotUnderstood|RunRefused where the plan cannot be carried out */
    public static function of(Simulator $simulator, Model $model, Setting $setting, PolicyPlan $plan, int $jobs = 1): self
    {
        $analysis = Trial::of($model, $setting)->analysis;
        $chosen = [];
        foreach ($plan->choose as $lever) {
            $key = Model::keyAt($lever['of'], $lever['at']);
            $value = $setting->parameters[$key] ?? $analysis->parameter($key);
            if ($model->element($lever['of']) instanceof Parameter && $value !== null) {
                $chosen[] = new Freed($key, $analysis->nameOf($key), $value, $lever['low'], $lever['high']);
            }
        }
        $sum = $limits = [];
        foreach ($plan->sum as [$one, $weight]) {
            $sum[] = [self::outcome($analysis, $one), $weight];
        }
        foreach ($plan->limits as [$one, $isLeast, $number]) {
            $limits[] = [self::outcome($analysis, $one), ! $isLeast, $number];
        }
        if ($chosen === []) {
            throw NotUnderstood::because('Say first which parameters can be chosen, and within which bounds.');
        }
        if ($sum === []) {
            throw NotUnderstood::because('Say first which outcome is to be large or small.');
        }
        $draws = $plan->runs === 0 ? null : self::draws($model, $plan, array_column($chosen, 'key'));
        $expected = self::expected($model, $plan);
        $policy = Policy::of(
            $simulator,
            $model,
            $setting,
            $sum,
            ! $plan->small,
            $chosen,
            $limits,
            $draws,
            Over::from($plan->over),
            $jobs,
            $expected,
        );

        return new self($simulator, $model, $analysis, $setting, $plan, $chosen, $sum, $limits, $expected, $draws, $jobs, $policy);
    }

    /**
     * @param  Sought  $one
     *
     * @throws NotUnderstood where no run tells it: left out, something else would be looked for
     */
    private static function outcome(Analysis $analysis, array $one): Outcome
    {
        $key = Model::keyAt($one['of'], $one['at']);
        $name = $analysis->model->element($one['of'])?->name;
        if ($name === null || ! $analysis->canCompute($one['of'])) {
            throw NotUnderstood::because(
                $name === null
                    ? 'One of the outcomes is of something that is gone. Take it out, or bring it back by undo.'
                    : "`$name` cannot be computed yet, so it can neither be sought nor limited. Mend it, or take it out.",
            );
        }

        if (! in_array($key, $analysis->positions->of($one['of']), true)) {
            throw NotUnderstood::because("`$name` has many elements. Say which one of them is meant.");
        }
        if ($one['kind'] !== 'apart') {
            return new Outcome($key, $key, $one['kind'], $one['time']);
        }
        $drawn = $analysis->model->part('modes')[$one['from']] ?? null;
        if ($drawn instanceof ReferenceMode && count($drawn->points) > 1) {
            return new Outcome($key, $key, 'apart', course: $drawn->points);
        }
        $other = $analysis->model->element($one['from']);
        if ($other === null || ! $analysis->canCompute($one['from']) || ($analysis->extents[$one['from']] ?? []) !== []) {
            throw NotUnderstood::because(
                "Say which course `$name` is to follow: a variable that is one number, or a reference mode that is drawn.",
            );
        }

        return new Outcome($key, $key, 'apart', from: $one['from']);
    }

    /**
     * @return list<Expectation>
     *
     * @throws NotUnderstood
     */
    private static function expected(Model $model, PolicyPlan $plan): array
    {
        $expected = [];
        foreach ($plan->expect as $id) {
            $one = $model->part('expectations')[$id] ?? null;
            $expected[] =
                $one instanceof Expectation
                    ? $one
                    : throw NotUnderstood::because(
                        'One of the expectations that must hold is gone. Take it out, or bring it back by undo.',
                    );
        }

        return $expected;
    }

    /** The unit of what is sought; empty where several are added up that have other ones. */
    public function unit(): string
    {
        $units = array_unique(array_map(fn (array $s): string => $s[0]->unit($this->model), $this->sum));

        return count($units) === 1 ? $units[0] : '';
    }

    /** What all follows from besides the plan: the model but for the numbers that are chosen, and what is uncertain of it. */
    public function meaning(): string
    {
        $chosen = Meaning::of($this->model, array_column($this->chosen, 'key'));

        $expected = array_map(static fn (Expectation $e): array => $e->toRecord(), $this->expected);
        $courses = array_map(static fn (array $one): array => $one[0]->course, [...$this->sum, ...$this->limits]);
        $rest = array_filter([$this->draws?->toRecord(), $expected, array_filter($courses)]);

        return hash('xxh128', $chosen.json_encode($rest, JSON_THROW_ON_ERROR));
    }

    /**
     * @param  list<string>  $decided
     *
     * @throws NotUnderstood
     */
    private static function draws(Model $model, PolicyPlan $plan, array $decided): EnsemblePlan
    {
        $draws = EnsemblePlan::ofStudy($model->part('uncertain'), $model->part('rankPairs'), $decided, 'latin', $plan->runs, $plan->seed);

        return $draws->laws === []
            ? throw NotUnderstood::because(
                'Nothing is uncertain besides what is chosen. Say in Spread of a parameter how likely its values are, or look at one run.',
            )
            : $draws;
    }

    /** @return \Generator<int, list<array{?int, list<float>}>, list<?non-empty-list<list<float>>>, End> */
    public function walk(): \Generator
    {
        return $this->policy->walk($this->plan->seed);
    }

    /**
     * @param  list<array{?int, list<float>}>  $asked
     * @return list<?non-empty-list<list<float>>>
     */
    public function runs(array $asked): array
    {
        return $this->policy->runs($asked);
    }

    public function cost(?int $draw): int
    {
        return $this->policy->cost($draw);
    }

    /** @param  ?non-empty-list<list<float>>  $runs */
    public function standing(?array $runs): float
    {
        return $this->policy->standing($runs);
    }
}
