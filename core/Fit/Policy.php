<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Fit;

use MerryOrbit\Core\Model\Expectation;
use MerryOrbit\Core\Model\Model;
use MerryOrbit\Core\Model\Setting;
use MerryOrbit\Core\Problem\NotUnderstood;
use MerryOrbit\Core\Reduce\ManyRuns;
use MerryOrbit\Core\Reduce\Outcome;
use MerryOrbit\Core\Reduce\Outcomes;
use MerryOrbit\Core\Reduce\Several;
use MerryOrbit\Core\Simulate\RunRefused;
use MerryOrbit\Core\Simulate\Simulator;
use MerryOrbit\Core\Uncertain\Breaches;
use MerryOrbit\Core\Uncertain\Design;
use MerryOrbit\Core\Uncertain\EnsemblePlan;
use MerryOrbit\Core\Uncertain\Opened;
use MerryOrbit\Core\Uncertain\Watch;

/**
 * The choice of some numbers that does best: in one run, or over many with draws of what is uncertain, the same draws for every choice.
 *
 * A cloud of points looks for it from the best of a design over the bounds, then a pattern search takes the last steps. What breaks a
 * limit is worse by how far it does, steeply enough that the best lies where all hold; what is told holds them all. A run that fails is
 * a wall.
 *
 * @phpstan-type End array{choice: list<float>, value: float, base: ?float, near: list<array{float, float}>, isFeasible: bool,
 *     others: list<array{list<float>, float}>}
 */
final class Policy
{
    /** How steep it is beyond a limit, against how far the outcome goes over the bounds. */
    private const STEEP = 100.0;

    /** Points of the first look, for each number that is chosen; and clouds that begin at the best of them. */
    private const LOOK = 12;

    private const CLOUDS = 3;

    /** How near to a point, as a part of the bounds, a cloud has to come. */
    private const NEAR = 1e-5;

    private const ROUNDING = 1e-9;

    /** @var list<array<string, float>> what is drawn in each run */
    private readonly array $draws;

    private readonly Choices $choices;

    /** @var list<float> of regret, the best in each run */
    private array $bests = [];

    private float $size = 1.0;

    /** @var list<float> */
    private array $sizes;

    /**
     * @param  non-empty-list<Freed>  $chosen
     * @param  list<float>  $weights  of the outcomes that are added up
     * @param  list<array{bool, float, float}>  $limits  of each whether it is an upper one, the number, and in which part of the runs it holds
     */
    private function __construct(
        private readonly Runner $runner,
        public readonly array $chosen,
        private readonly array $weights,
        private readonly bool $isMost,
        private readonly array $limits,
        ?EnsemblePlan $plan,
        private readonly Over $over,
    ) {
        $this->choices = new Choices($chosen);
        $this->sizes = array_fill(0, count($limits), 1.0);
        $this->draws = $plan === null ? [[]] : array_map($plan->values(...), range(0, $plan->runs() - 1));
    }

    /**
     * @param  non-empty-list<Freed>  $chosen
     * @param  non-empty-list<array{Outcome, float}>  $outcomes  each with its weight: their sum is what is sought
     * @param  bool  $isMost  whether it is to be large
     * @param  list<array{Outcome, bool, float}>  $limits  outcomes that must hold in every run: at most (true) or at least so much
     * @param  ?EnsemblePlan  $plan  what is drawn; null for one run
     * @param  list<Expectation>  $expected  what must hold in every run, or in the part of them that it says
     *
     * @throws RunRefused|NotUnderstood
     */
    public static function of(
        Simulator $simulator,
        Model $model,
        Setting $setting,
        array $outcomes,
        bool $isMost,
        array $chosen,
        array $limits,
        ?EnsemblePlan $plan,
        Over $over,
        int $jobs,
        array $expected = [],
    ): self {
        $twice = array_intersect(array_column($chosen, 'key'), $plan?->keys() ?? []);
        if ($twice !== []) {
            throw NotUnderstood::because('What is chosen cannot be uncertain too: '.implode(', ', $twice).'.');
        }
        $reducer = new Several([
            new Outcomes([...array_column($outcomes, 0), ...array_column($limits, 0)]),
            ...$expected === [] ? [] : [Breaches::of($simulator, $model, $expected)],
        ]);
        $opened = Opened::of($model, array_column($chosen, 'key'));

        return new self(
            new Runner(ManyRuns::of($simulator, $opened, $setting, $reducer, 1_000), $jobs),
            $chosen,
            array_column($outcomes, 1),
            $isMost,
            [
                ...array_map(static fn (array $l): array => [$l[1], $l[2], 1.0], $limits),
                ...array_map(static fn (Expectation $e): array => [true, 0.0, $e->runs > 0 ? $e->part : 1.0], $expected),
            ],
            $plan,
            $over,
        );
    }

    /**
     * Runs that a walk asks for.
     *
     * @param  list<array{?int, list<float>}>  $asked  choices, each in all draws, or in one of them
     * @return list<?non-empty-list<list<float>>> of each choice the outcomes of its runs; null where a run failed
     */
    public function runs(array $asked): array
    {
        $keys = array_column($this->chosen, 'key');
        $inputs = [];
        foreach ($asked as [$draw, $point]) {
            foreach ($draw === null ? $this->draws : [$this->draws[$draw]] as $values) {
                $inputs[] = [[...$values, ...array_combine($keys, $point)], null];
            }
        }
        $all = $this->runner->all(count($inputs), static fn (int $i): array => $inputs[$i]);
        $told = [];
        foreach ($asked as [$draw]) {
            $own = array_splice($all, 0, $draw === null ? count($this->draws) : 1);
            $sound = array_values(array_filter($own, is_array(...)));
            $told[] = $sound === [] || count($sound) < count($own) ? null : array_map($this->weighed(...), $sound);
        }

        return $told;
    }

    /** How many runs that takes. */
    public function cost(?int $draw): int
    {
        return $draw === null ? count($this->draws) : 1;
    }

    /**
     * @param  list<float>  $run
     * @return list<float> what is to be large or small, and then what is limited
     */
    private function weighed(array $run): array
    {
        $sum = 0.0;
        foreach ($this->weights as $i => $weight) {
            $sum += $weight * $run[$i];
        }

        return [$sum, ...array_slice($run, count($this->weights))];
    }

    /**
     * What the choices came to that were run in all draws.
     *
     * @param  list<list<float>>  $points
     * @param  list<?non-empty-list<list<float>>>  $runs
     * @return list<?list<float>> what each comes to and by how much limits are broken, in sizes; null where a run failed
     */
    private function taken(array $points, array $runs): array
    {
        $told = [];
        foreach ($runs as $p => $own) {
            $told[] = $one = $own === null ? null : $this->summed($own);
            if ($one !== null) {
                $this->choices->add($points[$p], ...$one);
            }
        }

        return $told;
    }

    /**
     * How good a choice is, the less the better, as far as that is known by now.
     *
     * @param  ?non-empty-list<list<float>>  $runs  in all draws
     * @return float INF where a limit is broken or a run failed
     */
    public function standing(?array $runs): float
    {
        if ($runs === null || $this->broken($runs) > 0.0 || ($this->over === Over::Regret && $this->bests === [])) {
            return INF;
        }

        return $this->sense() * $this->over->of(array_map(static fn (array $run): float => $run[0], $runs), $this->isMost, $this->bests);
    }

    /** Regret is to be small, whatever the outcome is to be. */
    private function sense(): float
    {
        return $this->isMost && $this->over !== Over::Regret ? -1.0 : 1.0;
    }

    /**
     * @param  non-empty-list<list<float>>  $runs
     * @return array{float, float}
     */
    private function summed(array $runs): array
    {
        $broken = $this->broken($runs);
        $values = array_map(static fn (array $run): float => $run[0], $runs);
        if ($broken === 0.0 && $this->bests !== []) {
            $isMost = $this->isMost;
            $this->bests = array_map(static fn (float $b, float $v): float => $isMost ? max($b, $v) : min($b, $v), $this->bests, $values);
        }

        return [$this->over->of($values, $this->isMost, $this->bests), $broken];
    }

    /**
     * By how much limits are broken at the most, in sizes.
     *
     * @param  list<list<float>>  $runs
     */
    private function broken(array $runs): float
    {
        $broken = 0.0;
        foreach ($this->limits as $l => [$isUpper, $limit, $part]) {
            $beyond = array_map(static fn (array $run): float => $isUpper ? $run[$l + 1] - $limit : $limit - $run[$l + 1], $runs);
            rsort($beyond);
            $most = $beyond[Watch::mayFail($part, count($runs))] ?? 0.0;
            $broken = max($broken, $most <= self::ROUNDING * abs($limit) ? 0.0 : $most / $this->sizes[$l]);
        }

        return $broken;
    }

    /** @param  ?list<float>  $told */
    private function score(?array $told): float
    {
        if ($told === null) {
            return INF;
        }

        return ($this->sense() * $told[0]) / $this->size + self::STEEP * $told[1];
    }

    public function evaluations(): int
    {
        return $this->runner->evaluations;
    }

    /** @return End */
    public function best(int $seed): array
    {
        $walk = $this->walk($seed);
        while ($walk->valid()) {
            $walk->send($this->runs($walk->current()));
        }

        return $walk->getReturn();
    }

    /**
     * @return \Generator<int, list<array{?int, list<float>}>, list<?non-empty-list<list<float>>>, End>  asks for runs, as runs() takes them; is sent what it gives
     */
    public function walk(int $seed): \Generator
    {
        $own = array_map(static fn (Freed $f): float => $f->within($f->value), $this->chosen);
        $n = count($this->chosen);
        $design = Design::of('sobol', array_column($this->chosen, 'key'), self::LOOK * $n, $seed);
        $points = [$own];
        for ($i = 0; $i < self::LOOK * $n; $i++) {
            $points[] = array_map(static fn (Freed $f, float $u): float => $f->at($u), $this->chosen, $design->draws($i));
        }
        $runs = (yield self::inAll($points));
        $this->measure($runs);
        if ($this->over === Over::Regret) {
            $this->bests = yield from $this->bestOfEach($points, $runs);
        }
        $told = $this->taken($points, $runs);
        $scores = array_map($this->score(...), $told);
        asort($scores);
        $starts = array_map(static fn (int $i): array => $points[$i], array_slice(array_keys($scores), 0, self::CLOUDS));
        $clouds = array_map(
            fn (int $i): Search => new Evolution($this->chosen, $seed + $i, $this->score(...), self::NEAR),
            array_keys($starts),
        );
        $found = yield from $this->searched($clouds, $starts);
        usort($found, static fn (Found $a, Found $b): int => $a->distance <=> $b->distance);
        yield from $this->searched([new Compass($this->chosen, $this->score(...))], [$found[0]->point]);
        if ($this->over === Over::Regret) {
            // Better choices were met on the way: regret is told against the best of all.
            [$told[0]] = yield from $this->again([$own]);
        }

        return yield from $this->told($told[0][0] ?? null);
    }

    /**
     * @param  list<list<float>>  $points
     * @return list<array{?int, list<float>}>
     */
    private static function inAll(array $points): array
    {
        return array_map(static fn (array $point): array => [null, $point], $points);
    }

    /**
     * @param  list<Search>  $searches
     * @param  list<list<float>>  $starts
     * @return \Generator<int, list<array{?int, list<float>}>, list<?non-empty-list<list<float>>>, list<Found>>
     */
    private function searched(array $searches, array $starts): \Generator
    {
        $walks = [];
        foreach ($searches as $i => $search) {
            $walks[] = $search->from($starts[$i]);
        }
        $walk = Together::walk($walks);
        while ($walk->valid()) {
            $points = array_column($walk->current(), 1);
            $walk->send($this->taken($points, yield self::inAll($points)));
        }
        /** @var list<Found> $found */
        $found = $walk->getReturn();

        return $found;
    }

    /**
     * Without remembering them.
     *
     * @param  list<list<float>>  $points
     * @return \Generator<int, list<array{?int, list<float>}>, list<?non-empty-list<list<float>>>, list<array{float, float}|null>>
     */
    private function again(array $points): \Generator
    {
        $runs = (yield self::inAll($points));

        return array_map(fn (?array $r): ?array => $r === null ? null : $this->summed($r), $runs);
    }

    /**
     * How far outcomes go over the bounds: that says what is steep.
     *
     * @param  list<?non-empty-list<list<float>>>  $runs
     */
    private function measure(array $runs): void
    {
        $all = array_merge(...array_values(array_filter($runs, is_array(...))), ...[[]]);
        $span = static function (int $at) use ($all): float {
            $values = array_column($all, $at);
            $size = $values === [] ? 1.0 : max($values) - min($values);

            return $size > 0.0 && is_finite($size) ? $size : 1.0;
        };
        $this->size = $span(0);
        $this->sizes = array_map(static fn (int $l): float => $span($l + 1), array_keys($this->limits));
    }

    /**
     * Of regret: the best that any choice comes to, draw by draw.
     *
     * @param  list<list<float>>  $points
     * @param  list<?non-empty-list<list<float>>>  $runs
     * @return \Generator<int, list<array{?int, list<float>}>, list<?non-empty-list<list<float>>>, list<float>>
     */
    private function bestOfEach(array $points, array $runs): \Generator
    {
        $sense = $this->isMost ? -1.0 : 1.0;
        $starts = $walks = [];
        foreach (array_keys($this->draws) as $draw) {
            $scores = array_map(static fn (?array $r): float => $r === null ? INF : $sense * $r[$draw][0], $runs);
            asort($scores);
            $starts[] = $points[array_key_first($scores) ?? 0];
            $search = new Compass(
                $this->chosen,
                fn (?array $told): float => $told === null ? INF : ($sense * $told[0]) / $this->size + self::STEEP * $told[1],
                0.1,
            );
            $walks[] = $search->from(end($starts));
        }
        $walk = Together::walk($walks);
        while ($walk->valid()) {
            $told = (yield $walk->current());
            $walk->send(array_map(fn (?array $own): ?array => $own === null ? null : [$own[0][0], $this->broken($own)], $told));
        }
        /** @var list<Found> $found */
        $found = $walk->getReturn();

        return array_map(fn (Found $f): float => $sense * $f->distance * $this->size, $found);
    }

    /**
     * @return \Generator<int, list<array{?int, list<float>}>, list<?non-empty-list<list<float>>>, End>
     */
    private function told(?float $base): \Generator
    {
        $isFeasible = $this->choices->isFeasible();
        $ranked = $this->choices->ranked($this->score(...));
        $best = $ranked[0] ?? [array_map(static fn (Freed $f): float => $f->value, $this->chosen), NAN, INF];
        $others = $isFeasible ? $this->choices->others($ranked) : [];
        $points = [$best[0], ...array_map(static fn (array $k): array => $k[0], $others)];
        $values = [$best[1], ...array_map(static fn (array $k): float => $k[1], $others)];
        foreach ($this->over === Over::Regret ? yield from $this->again($points) : [] as $i => $again) {
            $values[$i] = $again[0] ?? $values[$i];
        }
        $told = [];
        foreach ($points as $i => $point) {
            $told[] = [$point, $values[$i]];
        }

        return [
            'choice' => $best[0],
            'value' => $values[0],
            'base' => $base,
            'near' => $this->choices->near($ranked, $this->size),
            'isFeasible' => $isFeasible,
            'others' => array_slice($told, 1),
        ];
    }
}
