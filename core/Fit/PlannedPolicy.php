<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Fit;

use MerryOrbit\Core\Analysis\Analysis;
use MerryOrbit\Core\Experiment\Trial;
use MerryOrbit\Core\Model\Meaning;
use MerryOrbit\Core\Model\Model;
use MerryOrbit\Core\Model\Parameter;
use MerryOrbit\Core\Model\PolicyPlan;
use MerryOrbit\Core\Model\Setting;
use MerryOrbit\Core\Problem\NotUnderstood;
use MerryOrbit\Core\Problem\Shown;
use MerryOrbit\Core\Reduce\ColumnsAt;
use MerryOrbit\Core\Reduce\ManyRuns;
use MerryOrbit\Core\Reduce\Outcome;
use MerryOrbit\Core\Reduce\Outcomes;
use MerryOrbit\Core\Reduce\Several;
use MerryOrbit\Core\Simulate\RunRefused;
use MerryOrbit\Core\Simulate\Simulator;
use MerryOrbit\Core\Uncertain\EnsemblePlan;
use MerryOrbit\Core\Uncertain\Summary;

/**
 * A search for a policy as a study says it: one walk, and what it came to beside what there was before, under the same draws.
 *
 * @phpstan-import-type Sought from PolicyPlan
 */
final readonly class PlannedPolicy
{
    private const MOMENTS = 121;

    private const PERCENTS = [5.0, 25.0, 50.0, 75.0, 95.0];

    /** A limit binds where the worst run is nearer to it than this part of how far it moved from before. */
    private const BINDS = 1e-3;

    /**
     * @param  non-empty-list<Freed>  $chosen
     * @param  non-empty-list<array{Outcome, float}>  $sum
     * @param  list<array{Outcome, bool, float}>  $limits  whether at most
     */
    private function __construct(
        private Simulator $simulator,
        public Model $model,
        private Analysis $analysis,
        private Setting $setting,
        public PolicyPlan $plan,
        public array $chosen,
        public array $sum,
        public array $limits,
        private ?EnsemblePlan $draws,
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
        $policy = Policy::of($simulator, $model, $setting, $sum, ! $plan->small, $chosen, $limits, $draws, Over::from($plan->over), $jobs);

        return new self($simulator, $model, $analysis, $setting, $plan, $chosen, $sum, $limits, $draws, $policy);
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

        return in_array($key, $analysis->positions->of($one['of']), true)
            ? new Outcome($key, $key, $one['kind'], $one['time'])
            : throw NotUnderstood::because("`$name` has many elements. Say which one of them is meant.");
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

        return hash('xxh128', $chosen.json_encode($this->draws?->toRecord(), JSON_THROW_ON_ERROR));
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

    /** @return \Generator<int, list<array{?int, list<float>}>, list<?non-empty-list<list<float>>>, array{choice: list<float>, value: float, base: ?float, near: list<array{float, float}>, isFeasible: bool}> */
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

    /**
     * What it came to, as a record that can be kept: beside what there was before, under the same draws.
     *
     * @param  array{choice: list<float>, value: float, base: ?float, near: list<array{float, float}>, isFeasible: bool}  $end
     * @return array<string, mixed>
     *
     * @throws RunRefused
     */
    public function report(array $end): array
    {
        $own = array_map(static fn (Freed $f): float => $f->value, $this->chosen);
        $isFound = is_finite($end['value']);
        $best = $isFound ? $this->looked($end['choice']) : ['numbers' => [], 'courses' => []];
        $before = $this->looked($own);
        $limits = $this->kept($best['numbers'], $before['numbers']);

        return [
            'value' => $isFound ? $end['value'] : null,
            'base' => $end['base'],
            'holds' => $end['isFeasible'],
            'choice' => $end['choice'],
            'near' => $end['near'],
            'limits' => $limits,
            'against' => $this->against($best['numbers'], $before['numbers']),
            'courses' => ['before' => $before['courses'], 'best' => $best['courses']],
            'sentences' => $isFound ? $this->sentences($end, $limits) : ['No run came to an end between these bounds. Narrow them.'],
        ];
    }

    /**
     * A choice in all draws: what is sought and limited, and courses of what is looked at.
     *
     * @param  list<float>  $choice
     * @return array{numbers: list<list<float>>, courses: list<array<string, mixed>>}
     *
     * @throws RunRefused
     */
    private function looked(array $choice): array
    {
        $outcomes = [...array_column($this->sum, 0), ...array_column($this->limits, 0)];
        $keys = array_values(array_unique(array_map(static fn (Outcome $o): string => $o->id, $outcomes)));
        $moments = ColumnsAt::moments($this->setting->timeOf($this->model->time), self::MOMENTS);
        $reducer = new Several([new Outcomes($outcomes), new ColumnsAt($keys, $moments)]);
        $runs = $this->draws?->runs() ?? 1;
        $many = ManyRuns::of($this->simulator, $this->model, $this->setting, $reducer, $runs);
        $values = array_combine(array_column($this->chosen, 'key'), $choice);
        $rows = [];
        for ($i = 0; $i < $runs; $i++) {
            $row = $many->one([...$this->draws?->values($i) ?? [], ...$values]);
            if ($row !== null) {
                $rows[] = $row;
            }
        }
        $courses = [];
        foreach ($keys as $k => $key) {
            $over = Summary::overTime($rows, count($outcomes) + $k * count($moments), count($moments), self::PERCENTS);
            $courses[] = ['key' => $key, 'runs' => count($rows), 'times' => $moments, 'percentiles' => $over['percentiles']];
        }

        return ['numbers' => array_map(static fn (array $r): array => array_slice($r, 0, count($outcomes)), $rows), 'courses' => $courses];
    }

    /**
     * @param  list<list<float>>  $best
     * @param  list<list<float>>  $before
     * @return list<array{key: string, kind: string, time: float, least: bool, number: float, unit: string, worst: ?float, before: ?float, binds: bool}>
     */
    private function kept(array $best, array $before): array
    {
        $told = [];
        foreach ($this->limits as $l => [$outcome, $isMost, $number]) {
            $column = count($this->sum) + $l;
            [$own, $was] = [self::worst($best, $column, $isMost), self::worst($before, $column, $isMost)];
            $size = max(abs($number), abs(($was ?? $number) - $number), 1e-12);
            $told[] = [
                'key' => $outcome->id,
                'kind' => $outcome->kind,
                'time' => $outcome->time,
                'least' => ! $isMost,
                'number' => $number,
                'unit' => $outcome->unit($this->model),
                'worst' => $own,
                'before' => $was,
                'binds' => $own !== null && abs($own - $number) <= self::BINDS * $size,
            ];
        }

        return $told;
    }

    /**
     * @param  list<list<float>>  $rows
     * @return ?float the largest of a column, or the least; null where none is known
     */
    private static function worst(array $rows, int $column, bool $isMost): ?float
    {
        $values = array_filter(array_map(static fn (array $r): float => $r[$column], $rows), is_finite(...));

        return $values === [] ? null : ($isMost ? max($values) : min($values));
    }

    /** @param  list<float>  $row */
    private function sumOf(array $row): float
    {
        $sum = 0.0;
        foreach ($this->sum as $i => [, $weight]) {
            $sum += $weight * $row[$i];
        }

        return $sum;
    }

    /**
     * Draw by draw: in how many the choice is better than what there was, and by how much.
     *
     * @param  list<list<float>>  $best
     * @param  list<list<float>>  $before
     * @return ?array<string, mixed> null of one run, or where some failed
     */
    private function against(array $best, array $before): ?array
    {
        if (count($best) < 2 || count($best) !== count($before)) {
            return null;
        }
        $gains = array_map(
            fn (array $a, array $b): float => ($this->plan->small ? -1.0 : 1.0) * ($this->sumOf($a) - $this->sumOf($b)),
            $best,
            $before,
        );
        $s = Summary::of($gains, self::PERCENTS);

        return [
            'runs' => count($gains),
            'better' => count(array_filter($gains, static fn (float $g): bool => $g > 0.0)) / count($gains),
            'mean' => $s?->mean,
            'percentiles' => (object) ($s->percentiles ?? []),
        ];
    }

    /**
     * @param  array{choice: list<float>, near: list<array{float, float}>, isFeasible: bool, ...}  $end
     * @param  list<array{key: string, number: float, least: bool, before: ?float, binds: bool, ...}>  $limits
     * @return list<string>
     */
    private function sentences(array $end, array $limits): array
    {
        $told = $end['isFeasible'] ? [] : ['No choice between these bounds keeps all limits; this one breaks them least.'];
        foreach ($this->chosen as $j => $f) {
            if ($f->isAtBound($end['choice'][$j])) {
                $told[] = "`$f->name` is at its bound, ".Shown::brief($end['choice'][$j]).': better may lie beyond.';
            }
            [$low, $high] = $end['near'][$j];
            if ($high - $low > 0.2 * ($f->high - $f->low)) {
                $told[] =
                    "`$f->name` matters little: from ".Shown::brief($low).' to '.Shown::brief($high).' it is nearly as good.';
            }
        }
        foreach ($limits as $limit) {
            [$was, $number] = [$limit['before'], $limit['number']];
            if ($was !== null && ($limit['least'] ? $was < $number : $was > $number)) {
                $told[] =
                    "Before, the limit of `{$this->analysis->nameOf($limit['key'])}` was not kept: it came to ".
                    Shown::brief($was).
                    '. What that came to is no choice here.';
            }
            if ($limit['binds'] && $end['isFeasible']) {
                $told[] =
                    "The limit of `{$this->analysis->nameOf($limit['key'])}` binds, at ".
                    ($limit['least'] ? 'least ' : 'most ').
                    Shown::brief($limit['number']).
                    ': without it the best is another.';
            }
        }

        return $told;
    }
}
