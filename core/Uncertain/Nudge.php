<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Uncertain;

use MerryOrbit\Core\Model\Model;
use MerryOrbit\Core\Model\Setting;
use MerryOrbit\Core\Problem\NotUnderstood;
use MerryOrbit\Core\Reduce\ManyRuns;
use MerryOrbit\Core\Reduce\Reducer;
use MerryOrbit\Core\Simulate\RunRefused;
use MerryOrbit\Core\Simulate\Simulator;

/** Every input down and up, one at a time, all else as it is: what that does to what is wanted of a run. All runs share one seed. */
final readonly class Nudge
{
    /**
     * @param  ?list<float>  $base  what the reducer gives of the run as it is; null where it met a fault
     * @param  list<array{input: NudgedInput, low: ?list<float>, high: ?list<float>}>  $effects  in the order of the inputs
     */
    private function __construct(public ?array $base, public array $effects)
    {
    }

    /**
     * @param  list<NudgedInput>  $inputs  as NudgedInput::all() gives them for this model and setting
     *
     * @throws RunRefused|NotUnderstood
     */
    public static function of(Simulator $simulator, Model $model, Setting $setting, Reducer $reducer, array $inputs, int $jobs = 1): self
    {
        // Curves are part of what is compiled; all others are arguments.
        $plain = array_values(array_filter($inputs, static fn (NudgedInput $i): bool => $i->kind !== 'curve'));
        $extended = Starts::opened(
            $model,
            array_map(
                static fn (NudgedInput $i): string => $i->id,
                array_values(array_filter($plain, static fn (NudgedInput $i): bool => $i->kind === 'initial')),
            ),
        );
        $runs = 2 * count($plain) + 1;
        $many = ManyRuns::of($simulator, $extended, $setting, $reducer, $runs);
        $values = static fn (int $run): array => $run === 0 ? [] : $plain[intdiv($run - 1, 2)]->values($run % 2 === 0);
        $results = $many->all($runs, static fn (int $run): array => [$values($run), null], $jobs);
        $found = [];
        foreach ($plain as $i => $input) {
            $found[$input->id] = [$results[2 * $i + 1], $results[2 * $i + 2]];
        }
        foreach ($inputs as $input) {
            foreach ($input->kind === 'curve' ? [false, true] : [] as $up) {
                $found[$input->id][] = ManyRuns::of($simulator, $input->scaled($model, $up), $setting, $reducer, 1)->one([]);
            }
        }

        return new self(
            $results[0],
            array_map(
                static fn (NudgedInput $i): array => ['input' => $i, 'low' => $found[$i->id][0], 'high' => $found[$i->id][1]],
                $inputs,
            ),
        );
    }

    /**
     * How much one of the numbers that the reducer gives moves at the most.
     *
     * @param  array{low: ?list<float>, high: ?list<float>, ...}  $effect
     * @return ?float null where it is not known
     */
    public function size(array $effect, int $at): ?float
    {
        $sizes = [];
        foreach (['low', 'high'] as $end) {
            $moved = abs(($effect[$end][$at] ?? NAN) - ($this->base[$at] ?? NAN));
            if (is_finite($moved)) {
                $sizes[] = $moved;
            }
        }

        return $sizes === [] ? null : max($sizes);
    }

    /**
     * What is not as one would think of the effect on one number: both ends move it the same way, one end far more than the other.
     *
     * @param  array{low: ?list<float>, high: ?list<float>, ...}  $effect
     * @return 'plain'|'same way'|'one-sided'|'unknown'
     */
    public function shape(array $effect, int $at): string
    {
        $down = ($effect['low'][$at] ?? NAN) - ($this->base[$at] ?? NAN);
        $up = ($effect['high'][$at] ?? NAN) - ($this->base[$at] ?? NAN);
        if (is_nan($down) || is_nan($up) || is_infinite($down) || is_infinite($up)) {
            return 'unknown';
        }
        [$less, $more] = [min(abs($down), abs($up)), max(abs($down), abs($up))];
        // What is only rounding has no direction.
        $noise = 1e-9 * max(abs($this->base[$at] ?? 0.0), $more);

        return match (true) {
            $more <= $noise => 'plain',
            $less > $noise && $down * $up > 0.0 => 'same way',
            $less < 0.25 * $more => 'one-sided',
            default => 'plain',
        };
    }

    /**
     * How often a course turns round; what is less than a fiftieth of all it moves is no turn.
     *
     * @param  list<?float>  $course
     */
    public static function turns(array $course): int
    {
        $known = array_values(array_filter($course, static fn (?float $v): bool => $v !== null && is_finite($v)));
        if ($known === []) {
            return 0;
        }
        $least = 0.02 * (max($known) - min($known));
        [$turns, $way, $furthest] = [0, 0, $known[0]];
        foreach ($known as $v) {
            if ($way === 0 ? abs($v - $furthest) > $least : ($v - $furthest) * $way > 0.0) {
                $way = $way === 0 ? $v <=> $furthest : $way;
                $furthest = $v;
            } elseif ($way !== 0 && ($furthest - $v) * $way > $least) {
                [$turns, $way, $furthest] = [$turns + 1, -$way, $v];
            }
        }

        return $turns;
    }

    /**
     * The effects by their size on one number, largest first, and those without effect last; equals stay in their order.
     *
     * @return list<array{input: NudgedInput, low: ?list<float>, high: ?list<float>}>
     */
    public function ranked(int $at): array
    {
        $effects = $this->effects;
        usort($effects, fn (array $a, array $b): int => ($this->size($b, $at) ?? INF) <=> ($this->size($a, $at) ?? INF));

        return $effects;
    }
}
