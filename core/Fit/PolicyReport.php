<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Fit;

use MerryOrbit\Core\Model\Expectation;
use MerryOrbit\Core\Problem\Shown;
use MerryOrbit\Core\Reduce\ColumnsAt;
use MerryOrbit\Core\Reduce\ManyRuns;
use MerryOrbit\Core\Reduce\Outcome;
use MerryOrbit\Core\Reduce\Outcomes;
use MerryOrbit\Core\Reduce\Several;
use MerryOrbit\Core\Simulate\RunRefused;
use MerryOrbit\Core\Uncertain\Breaches;
use MerryOrbit\Core\Uncertain\Summary;
use MerryOrbit\Core\Uncertain\Watch;

/**
 * What a search for a policy came to, beside something else under the same draws: what there was before, another policy, a runner-up.
 *
 * @phpstan-import-type End from Policy
 *
 * @phpstan-type Rows list<list<float>>
 * @phpstan-type Looked array{numbers: Rows, courses: list<array<string, mixed>>}
 * @phpstan-type Kept array{key: string, kind: string, time: float, least: bool, number: float, unit: string, worst: ?float, before: ?float,
 *     binds: bool}
 * @phpstan-type Expected array{expectation: string, holds: bool, held: int, before: int, runs: int}
 * @phpstan-type Against array{runs: int, better: float|int, mean: ?float, percentiles: object}
 * @phpstan-type Held array{limits: list<Kept>, expected: list<Expected>, against: ?Against,
 *     courses: array{before: list<array<string, mixed>>, best: list<array<string, mixed>>}}
 */
final readonly class PolicyReport
{
    private const MOMENTS = 121;

    private const PERCENTS = [5.0, 25.0, 50.0, 75.0, 95.0];

    /** A limit binds where the worst run is nearer to it than this part of how far it moved from before. */
    private const BINDS = 1e-3;

    public function __construct(private PlannedPolicy $planned)
    {
    }

    /**
     * As a record that can be kept: beside what there was before.
     *
     * @param  End  $end
     * @return array<string, mixed>
     *
     * @throws RunRefused
     */
    public function of(array $end): array
    {
        $own = array_map(static fn (Freed $f): float => $f->value, $this->planned->chosen);
        $isFound = is_finite($end['value']);
        $held = $this->held($isFound ? $end['choice'] : null, $this->values($own));

        return [
            'value' => $isFound ? $end['value'] : null,
            'base' => $end['base'],
            'holds' => $end['isFeasible'],
            'choice' => $end['choice'],
            'near' => $end['near'],
            'others' => array_map(static fn (array $o): array => ['choice' => $o[0], 'value' => $o[1]], $end['others']),
            ...$held,
            'sentences' => $isFound
                ? $this->sentences($end, $held['limits'])
                : ['No run came to an end between these bounds. Narrow them.'],
        ];
    }

    /**
     * Beside something else.
     *
     * @param  list<float>  $choice
     * @param  array<string, float>  $other  values of parameters, in place of the choice
     * @return Held
     *
     * @throws RunRefused
     */
    public function beside(array $choice, array $other): array
    {
        $own = array_map(static fn (Freed $f): float => $f->value, $this->planned->chosen);

        return $this->held($choice, [...$this->values($own), ...$other]);
    }

    /**
     * @param  list<float>  $point
     * @return array<string, float>
     */
    private function values(array $point): array
    {
        return array_combine(array_column($this->planned->chosen, 'key'), $point);
    }

    /**
     * @param  ?list<float>  $choice
     * @param  array<string, float>  $other
     * @return Held
     *
     * @throws RunRefused
     */
    private function held(?array $choice, array $other): array
    {
        $best = $choice === null ? ['numbers' => [], 'courses' => []] : $this->looked($this->values($choice));
        $before = $this->looked($other);

        return [
            'limits' => $this->kept($best['numbers'], $before['numbers']),
            'expected' => $this->expected($best['numbers'], $before['numbers']),
            'against' => $this->against($best['numbers'], $before['numbers']),
            'courses' => ['before' => $before['courses'], 'best' => $best['courses']],
        ];
    }

    /**
     * Values in all draws: what is sought, limited and expected, and courses of what is looked at.
     *
     * @param  array<string, float>  $values
     * @return Looked
     *
     * @throws RunRefused
     */
    private function looked(array $values): array
    {
        $p = $this->planned;
        $outcomes = [...array_column($p->sum, 0), ...array_column($p->limits, 0)];
        $looked = array_merge(...array_map(static fn (Outcome $o): array => array_filter([$o->id, $o->from]), $outcomes));
        $keys = array_values(array_unique($looked));
        $moments = ColumnsAt::moments($p->setting->timeOf($p->model->time), self::MOMENTS);
        $reducer = new Several([
            new Outcomes($outcomes),
            ...$p->expected === [] ? [] : [Breaches::of($p->simulator, $p->model, $p->expected)],
            new ColumnsAt($keys, $moments),
        ]);
        $runs = $p->draws?->runs() ?? 1;
        $many = ManyRuns::of($p->simulator, $p->model, $p->setting, $reducer, $runs);
        $all = $many->all($runs, static fn (int $i): array => [[...$p->draws?->values($i) ?? [], ...$values], null], $p->jobs);
        $rows = array_values(array_filter($all, is_array(...)));
        $numbers = count($outcomes) + count($p->expected);
        $courses = [];
        foreach ($keys as $k => $key) {
            $over = Summary::overTime($rows, $numbers + $k * count($moments), count($moments), self::PERCENTS);
            $courses[] = ['key' => $key, 'runs' => count($rows), 'times' => $moments, 'percentiles' => $over['percentiles']];
        }

        return ['numbers' => array_map(static fn (array $r): array => array_slice($r, 0, $numbers), $rows), 'courses' => $courses];
    }

    /**
     * @param  Rows  $best
     * @param  Rows  $before
     * @return list<Expected> in how many runs each holds
     */
    private function expected(array $best, array $before): array
    {
        $told = [];
        $from = count($this->planned->sum) + count($this->planned->limits);
        foreach ($this->planned->expected as $e => $expected) {
            /** @param  Rows  $rows */
            $holding = static fn (array $rows): int => count(array_keys(array_column($rows, $from + $e), 0.0, true));
            $part = $expected->runs > 0 ? $expected->part : 1.0;
            $told[] = [
                'expectation' => $expected->id,
                'holds' => $best !== [] && count($best) - $holding($best) <= Watch::mayFail($part, count($best)),
                'held' => $holding($best),
                'before' => $holding($before),
                'runs' => count($best),
            ];
        }

        return $told;
    }

    /**
     * @param  Rows  $best
     * @param  Rows  $before
     * @return list<Kept>
     */
    private function kept(array $best, array $before): array
    {
        $told = [];
        foreach ($this->planned->limits as $l => [$outcome, $isMost, $number]) {
            $column = count($this->planned->sum) + $l;
            [$own, $was] = [self::worst($best, $column, $isMost), self::worst($before, $column, $isMost)];
            $size = max(abs($number), abs(($was ?? $number) - $number), 1e-12);
            $told[] = [
                'key' => $outcome->id,
                'kind' => $outcome->kind,
                'time' => $outcome->time,
                'least' => ! $isMost,
                'number' => $number,
                'unit' => $outcome->unit($this->planned->model),
                'worst' => $own,
                'before' => $was,
                'binds' => $own !== null && abs($own - $number) <= self::BINDS * $size,
            ];
        }

        return $told;
    }

    /**
     * @param  Rows  $rows
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
        foreach ($this->planned->sum as $i => [, $weight]) {
            $sum += $weight * $row[$i];
        }

        return $sum;
    }

    /**
     * Draw by draw: in how many the choice is better than what there was, and by how much.
     *
     * @param  Rows  $best
     * @param  Rows  $before
     * @return ?Against null of one run, or where some failed
     */
    private function against(array $best, array $before): ?array
    {
        if (count($best) < 2 || count($best) !== count($before)) {
            return null;
        }
        $gains = array_map(
            fn (array $a, array $b): float => ($this->planned->plan->small ? -1.0 : 1.0) * ($this->sumOf($a) - $this->sumOf($b)),
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
     * @param  End  $end
     * @param  list<Kept>  $limits
     * @return list<string>
     */
    private function sentences(array $end, array $limits): array
    {
        $told = $end['isFeasible'] ? [] : ['No choice between these bounds keeps all limits; this one breaks them least.'];
        foreach ($this->planned->chosen as $j => $f) {
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
                    "Before, the limit of `{$this->planned->analysis->nameOf($limit['key'])}` was not kept: it came to ".
                    Shown::brief($was).
                    '. What that came to is no choice here.';
            }
            if ($limit['binds'] && $end['isFeasible']) {
                $told[] =
                    "The limit of `{$this->planned->analysis->nameOf($limit['key'])}` binds, at ".
                    ($limit['least'] ? 'least ' : 'most ').
                    Shown::brief($limit['number']).
                    ': without it the best is another.';
            }
        }

        return $told;
    }
}
