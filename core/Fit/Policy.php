<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Fit;

use MerryOrbit\Core\Model\Model;
use MerryOrbit\Core\Model\Setting;
use MerryOrbit\Core\Problem\NotUnderstood;
use MerryOrbit\Core\Reduce\ManyRuns;
use MerryOrbit\Core\Reduce\Outcome;
use MerryOrbit\Core\Reduce\Outcomes;
use MerryOrbit\Core\Simulate\RunRefused;
use MerryOrbit\Core\Simulate\Simulator;
use MerryOrbit\Core\Uncertain\Design;
use MerryOrbit\Core\Uncertain\EnsemblePlan;
use MerryOrbit\Core\Uncertain\Starts;

/**
 * The choice of some numbers that does best: in one run, or over many with draws of what is uncertain, the same draws for every choice.
 *
 * A cloud of points looks for it from the best of a design over the bounds, then a pattern search takes the last steps. What breaks a
 * limit is worse by how far it does, steeply enough that the best lies where all hold; what is told holds them all. A run that fails is
 * a wall.
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

    /** @var list<array{list<float>, float, float}> choices, what they come to, and how far they break limits */
    private array $known = [];

    /** @var list<float> of regret, the best in each run */
    private array $bests = [];

    private float $size = 1.0;

    /** @var list<float> */
    private array $sizes;

    /**
     * @param  non-empty-list<Freed>  $chosen
     * @param  list<array{bool, float}>  $limits  of each limited outcome whether it is an upper one, and the number
     */
    private function __construct(
        private readonly Runner $runner,
        public readonly array $chosen,
        private readonly bool $isMost,
        private readonly array $limits,
        ?EnsemblePlan $plan,
        private readonly Over $over,
    ) {
        $this->sizes = array_fill(0, count($limits), 1.0);
        $this->draws = $plan === null ? [[]] : array_map($plan->values(...), range(0, $plan->runs() - 1));
    }

    /**
     * @param  non-empty-list<Freed>  $chosen
     * @param  bool  $isMost  whether it is to be large
     * @param  list<array{Outcome, bool, float}>  $limits  outcomes that must hold in every run: at most (true) or at least so much
     * @param  ?EnsemblePlan  $plan  what is drawn; null for one run
     *
     * @throws RunRefused|NotUnderstood
     */
    public static function of(
        Simulator $simulator,
        Model $model,
        Setting $setting,
        Outcome $outcome,
        bool $isMost,
        array $chosen,
        array $limits,
        ?EnsemblePlan $plan,
        Over $over,
        int $jobs,
    ): self {
        $twice = array_intersect(array_column($chosen, 'key'), $plan?->keys() ?? []);
        if ($twice !== []) {
            throw NotUnderstood::because('What is chosen cannot be uncertain too: '.implode(', ', $twice).'.');
        }
        $reducer = new Outcomes([$outcome, ...array_column($limits, 0)]);
        $opened = Starts::opened($model, Starts::among($model, array_column($chosen, 'key')));

        return new self(
            new Runner(ManyRuns::of($simulator, $opened, $setting, $reducer, 1_000), $jobs),
            $chosen,
            $isMost,
            array_map(static fn (array $l): array => [$l[1], $l[2]], $limits),
            $plan,
            $over,
        );
    }

    /**
     * The outcome, and how far limits are broken, of each choice.
     *
     * @param  list<list<float>>  $points
     * @return list<?list<float>> what it comes to and by how much limits are broken, in sizes; null where a run failed
     */
    public function at(array $points): array
    {
        $told = [];
        foreach ($this->runs($points) as $p => $runs) {
            $told[] = $one = $runs === null ? null : $this->summed($runs);
            if ($one !== null) {
                $this->known[] = [$points[$p], ...$one];
            }
        }

        return $told;
    }

    /**
     * @param  list<list<float>>  $points
     * @return list<?non-empty-list<list<float>>> of each choice the outcomes of its runs
     */
    private function runs(array $points): array
    {
        $keys = array_column($this->chosen, 'key');
        $each = count($this->draws);
        $inputs = fn (int $i): array => [[...$this->draws[$i % $each], ...array_combine($keys, $points[intdiv($i, $each)])], null];
        $told = [];
        foreach (array_chunk($this->runner->all(count($points) * $each, $inputs), $each) as $runs) {
            $sound = array_filter($runs, is_array(...));
            $told[] = count($sound) === $each ? array_values($sound) : null;
        }

        return $told;
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
        foreach ($this->limits as $l => [$isUpper, $limit]) {
            foreach ($runs as $run) {
                $beyond = $isUpper ? $run[$l + 1] - $limit : $limit - $run[$l + 1];
                $broken = max($broken, $beyond <= self::ROUNDING * abs($limit) ? 0.0 : $beyond / $this->sizes[$l]);
            }
        }

        return $broken;
    }

    /** @param  ?list<float>  $told */
    private function score(?array $told): float
    {
        if ($told === null) {
            return INF;
        }
        // Regret is to be small, whatever the outcome is to be.
        $sense = $this->isMost && $this->over !== Over::Regret ? -1.0 : 1.0;

        return ($sense * $told[0]) / $this->size + self::STEEP * $told[1];
    }

    public function evaluations(): int
    {
        return $this->runner->evaluations;
    }

    /** @return array{choice: list<float>, value: float, base: ?float, near: list<array{float, float}>, isFeasible: bool} */
    public function best(int $seed): array
    {
        $own = array_map(static fn (Freed $f): float => $f->within($f->value), $this->chosen);
        $n = count($this->chosen);
        $design = Design::of('sobol', array_column($this->chosen, 'key'), self::LOOK * $n, $seed);
        $points = [$own];
        for ($i = 0; $i < self::LOOK * $n; $i++) {
            $points[] = array_map(static fn (Freed $f, float $u): float => $f->at($u), $this->chosen, $design->draws($i));
        }
        $runs = $this->runs($points);
        $this->measure($runs);
        if ($this->over === Over::Regret) {
            $this->bests = $this->bestOfEach($points, $runs);
        }
        $told = array_map(fn (?array $r): ?array => $r === null ? null : $this->summed($r), $runs);
        foreach ($told as $i => $one) {
            if ($one !== null) {
                $this->known[] = [$points[$i], ...$one];
            }
        }
        $scores = array_map($this->score(...), $told);
        asort($scores);
        $starts = array_map(static fn (int $i): array => $points[$i], array_slice(array_keys($scores), 0, self::CLOUDS));
        $found = Together::searched(
            array_map(fn (int $i): Search => new Evolution($this->chosen, $seed + $i, $this->score(...), self::NEAR), array_keys($starts)),
            $starts,
            $this->at(...),
        );
        usort($found, static fn (Found $a, Found $b): int => $a->distance <=> $b->distance);
        Together::searched([new Compass($this->chosen, $this->score(...))], [$found[0]->point], $this->at(...));

        if ($this->over === Over::Regret) {
            // Better choices were met on the way: regret is told against the best of all.
            [$told[0]] = $this->again([$own]);
        }

        return $this->told($told[0][0] ?? null);
    }

    /**
     * Without remembering them.
     *
     * @param  list<list<float>>  $points
     * @return list<array{float, float}|null>
     */
    private function again(array $points): array
    {
        return array_map(fn (?array $r): ?array => $r === null ? null : $this->summed($r), $this->runs($points));
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
     * @return list<float>
     */
    private function bestOfEach(array $points, array $runs): array
    {
        $sense = $this->isMost ? -1.0 : 1.0;
        $keys = array_column($this->chosen, 'key');
        $starts = $searches = [];
        foreach (array_keys($this->draws) as $draw) {
            $scores = array_map(static fn (?array $r): float => $r === null ? INF : $sense * $r[$draw][0], $runs);
            asort($scores);
            $starts[] = $points[array_key_first($scores) ?? 0];
            $searches[] = new Compass(
                $this->chosen,
                fn (?array $told): float => $told === null ? INF : ($sense * $told[0]) / $this->size + self::STEEP * $told[1],
                0.1,
            );
        }
        $alone = function (array $asked) use ($keys): array {
            /** @var list<array{int, list<float>}> $asked */
            // Which draw each point is of comes with it.
            $inputs = fn (int $i): array => [[...$this->draws[$asked[$i][0]], ...array_combine($keys, $asked[$i][1])], null];

            return array_map(
                fn (?array $run): ?array => $run === null ? null : [$run[0], $this->broken([$run])],
                $this->runner->all(count($asked), $inputs),
            );
        };

        return array_map(fn (Found $f): float => $sense * $f->distance * $this->size, Together::searchedEach($searches, $starts, $alone));
    }

    /** @return array{choice: list<float>, value: float, base: ?float, near: list<array{float, float}>, isFeasible: bool} */
    private function told(?float $base): array
    {
        $sound = array_filter($this->known, static fn (array $k): bool => $k[2] <= 0.0);
        $isFeasible = $sound !== [];
        $all = $isFeasible ? $sound : $this->known;
        usort($all, fn (array $a, array $b): int => $this->score([$a[1], $a[2]]) <=> $this->score([$b[1], $b[2]]));
        $best = $all[0] ?? [array_map(static fn (Freed $f): float => $f->value, $this->chosen), NAN, INF];
        // Flat where a hundredth of what the outcome goes over the bounds makes a wide difference.
        $near = array_filter($all, fn (array $k): bool => abs($k[1] - $best[1]) <= 0.01 * $this->size);
        $spans = array_map(
            static fn (int $j): array => [
                min([$best[0][$j], ...array_map(static fn (array $k): float => $k[0][$j], $near)]),
                max([$best[0][$j], ...array_map(static fn (array $k): float => $k[0][$j], $near)]),
            ],
            array_keys($this->chosen),
        );

        $value = $this->over === Over::Regret ? $this->again([$best[0]])[0][0] ?? $best[1] : $best[1];

        return ['choice' => $best[0], 'value' => $value, 'base' => $base, 'near' => $spans, 'isFeasible' => $isFeasible];
    }
}
