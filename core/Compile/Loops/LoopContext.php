<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Compile\Loops;

use MerryOrbit\Core\Compile\Emitter;
use MerryOrbit\Core\Compile\Frame;
use MerryOrbit\Core\Compile\Masses;
use MerryOrbit\Core\Compile\Program;
use MerryOrbit\Core\Plan\Equation;
use MerryOrbit\Core\Plan\Plan;
use MerryOrbit\Core\Roster\OpenRoster;
use MerryOrbit\Core\Shape\Lifting;
use MerryOrbit\Core\Shape\ShapedPlan;

/** What all parts of a function of loops share: the plan, its variables, and what has to be kept beyond the loop that computes it. */
final class LoopContext
{
    public readonly ShapedPlan $shaped;

    public readonly Plan $plan;

    public readonly Frame $frame;

    public readonly Masses $masses;

    public readonly LoopData $data;

    public readonly Lifting $lifting;

    /** Whether there are several looks in a step. */
    public readonly bool $looped;

    /** @var array<string, string> the lists of what was lifted, by key */
    private array $lists = [];

    /** @var array<string, true> what is saved, or looked at where values are saved */
    public array $looked = [];

    /** @var array<string, true> keys that are read behind the loop which computes them */
    public array $kept = [];

    /**
     * @param  list<array{float, float}>  $stages  within the step, and weight
     * @param  bool  $careful  whether every value is kept and tested at once, so that it shows where a fault began
     */
    public function __construct(ShapedPlan $given, public readonly array $stages, public readonly bool $careful = false)
    {
        // Its own extents: what is lifted out of formulas has some, too.
        $this->shaped = $shaped = new ShapedPlan($given->plan, clone $given->extents);
        $this->plan = $plan = $shaped->plan;
        $indexed = [];
        foreach (
            [$plan->parameters, ...array_map(array_keys(...), [$plan->states, $plan->equations, $plan->cells, $plan->starts])] as $keys
        ) {
            foreach ($keys as $key) {
                if ($shaped->extent((string) $key) !== []) {
                    $indexed[(string) $key] = $shaped->sizeCode($shaped->extent((string) $key));
                }
            }
        }
        $this->data = new LoopData();
        $this->lifting = new Lifting($shaped->extents);
        $this->frame = new Frame($plan, null, $indexed);
        $this->masses = new Masses($this->frame);
        $this->looped = count($stages) > 1;
    }

    public function isState(string $key): bool
    {
        return isset($this->plan->states[$key]);
    }

    /**
     * Lines under the eye of someone who looks for a fault: at one, the function returns all values there are, with the keys of what was
     * computed, and which element.
     *
     * @param  list<string>  $lines
     * @param  list<string>  $keys  of what they compute
     * @return list<string>
     */
    public function watched(array $lines, array $keys, string $state, bool $starting = false): array
    {
        if (! $this->careful) {
            return $lines;
        }
        $values = [];
        foreach (
            [
                ...array_keys($this->plan->states),
                ...array_keys($this->plan->equations),
                ...array_keys($this->plan->cells),
                ...array_keys($this->plan->starts),
            ] as $key
        ) {
            $values[(string) $key] = var_export((string) $key, true).' => '.$this->whole((string) $key, $state).' ?? 0.0';
        }
        $return = fn (string $n): string => 'return ['.
            Program::FAULT.
            ', '.
            ($starting ? '-1' : '$i').
            ', ['.
            implode(', ', $values).
            '], '.
            Emitter::listing(array_map(static fn (string $k): string => var_export($k, true), $keys)).
            ", [$n, ".
            ($this->looped && ! $starting ? '$stage' : '0').
            '], [], [], 0];';
        $sums = array_map(
            fn (string $k): string => $this->shaped->extent($k) === []
                ? $this->whole($k, $state)
                : "\\array_sum({$this->whole($k, $state)})",
            $keys,
        );

        return [
            '$n = -1;',
            'try {',
            ...$lines,
            '} catch (\\ArithmeticError) { '.$return('$n').' }',
            '$test = '.implode(' + ', ['$check', ...$sums])."; if (\$test - \$test !== 0.0) { {$return('-1')} }",
        ];
    }

    /** Whether a key stands for what a cell itself keeps. */
    public function isMemory(string $key): bool
    {
        $isOther = isset($this->plan->equations[$key]) || isset($this->plan->starts[$key]);

        return ! $isOther && isset($this->plan->cells[substr($key, 0, -1)]);
    }

    /** The variable with all elements of a key, or with its single number. */
    public function whole(string $key, string $state): string
    {
        if (isset($this->lifting->lifted[$key])) {
            return $this->lists[$key] ??= '$h'.count($this->lists);
        }

        return match (true) {
            $this->isState($key) => $this->frame->whole($state, $key),
            in_array($key, $this->plan->parameters, true) => $this->frame->whole('p', $key),
            $this->isMemory($key) && str_ends_with($key, 'q') => $this->frame->whole('q', substr($key, 0, -1)),
            $this->isMemory($key) => $this->frame->whole('v', substr($key, 0, -1)).'h',
            default => $this->frame->whole('v', $key),
        };
    }

    public static function local(string $whole): string
    {
        return '$l'.substr($whole, 1);
    }

    /** @param  list<string>  $extent */
    public function nest(array $extent): LoopNest
    {
        return new LoopNest($this->shaped, $extent);
    }

    /** @param  'x'|'y'  $state */
    public function formula(Emitter $emitter, string $state, LoopNest $nest): LoopFormula
    {
        foreach ($this->lifting->lifted as $key => $_) {
            $emitter->rename($key, $this->whole($key, $state));
        }

        $index = new LoopIndex($this->shaped, $this->data, fn (string $key): string => $this->whole($key, $state), $nest);

        return new LoopFormula($this->shaped, $this->data, $emitter, $index);
    }

    /** Every element draws for itself, by the ids of its elements. */
    public function drawCode(Equation $equation): ?string
    {
        if ($equation->draw === null || ! $this->frame->isIndexed($equation->key)) {
            return null;
        }
        $roster = $this->shaped->roster($equation->key);
        if ($roster !== null) {
            return $this->memberDraw($equation->draw, $roster, $equation->key);
        }
        $draws = [];
        for ($n = 0; $n < $this->shaped->sizeOf($equation->key); $n++) {
            $draws[] = $equation->draw.'['.implode(',', $this->shaped->place($equation->key, $n)).']';
        }

        return $this->data->add($draws).'[$n]';
    }

    /** A member draws by what it is known by, so that another one more or less changes nothing for it. */
    private function memberDraw(string $draw, OpenRoster $roster, string $key): string
    {
        $inner = array_values(array_diff($this->shaped->extent($key), [$roster->dimension]));
        $size = $this->shaped->sizeOver($inner);
        $named = $roster->variable('name');
        if ($inner === []) {
            return var_export("{$draw}[", true)." . {$named}[\$n] . ']'";
        }
        $ends = [];
        for ($k = 0; $k < $size; $k++) {
            $ends[] = ','.implode(',', $this->shaped->placeOver($inner, $k)).']';
        }

        return var_export("{$draw}[", true)." . {$named}[\\intdiv(\$n, $size)] . {$this->data->add($ends)}[\$n % $size]";
    }

    /** @return list<string> the limited stocks that cut a flow */
    public function capsOf(string $key): array
    {
        $flow = $this->plan->flows[$key] ?? null;
        $ends = $flow === null ? [] : [$flow['from'], $flow['oneWay'] ? null : $flow['to']];

        return array_values(array_filter($ends, fn (?string $s): bool => $s !== null && isset($this->frame->capped[$s])));
    }
}
