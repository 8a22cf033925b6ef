<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Compile;

use MerryOrbit\Core\Formula\Node\Node;
use MerryOrbit\Core\Formula\Node\NumberLiteral;
use MerryOrbit\Core\Plan\Equation;
use MerryOrbit\Core\Plan\Pace;
use MerryOrbit\Core\Plan\Plan;
use MerryOrbit\Core\Plan\State;

/**
 * What all compiled functions of a plan share: the names of their variables, the lines that start a run, and the equations.
 *
 * Variables are numbered: `$p` parameters, `$v` equations and cells, `$y` states at the start of a step, `$x` as a stage sees
 * them, `$c` what stays the same, `$w` watches, `$m` temporaries; a cell's own memory is its variable with an `h`, or `$q` where
 * it is an object.
 */
final class Frame
{
    public readonly FirstEvents $watches;

    public readonly Hoist $hoist;

    /** @var array<string, int> */
    private array $numbers = [];

    /** @var list<Equation> those that move */
    public readonly array $moving;

    /** @var array<string, true> keys whose non-finite values might not reach a state */
    private readonly array $unseen;

    /** @var array<string, true> those of which even one that is no number might not */
    private readonly array $hidden;

    /** @var array<string, int> limited stocks from which something is drawn, or may be drawn backward */
    public readonly array $capped;

    public readonly bool $curvesInline;

    /**
     * @param  ?list<string>  $only  the keys that have a column; null for all that move
     * @param  array<string, string>  $indexed  by key, code for how many elements there are of what is computed in a loop, where `$n` is the present one
     */
    public function __construct(public readonly Plan $plan, private readonly ?array $only = null, private readonly array $indexed = [])
    {
        $this->watches = new FirstEvents();
        $this->hoist = new Hoist();
        foreach (
            [
                ...$plan->parameters,
                ...array_keys($plan->states),
                ...array_keys($plan->starts),
                ...array_keys($plan->equations),
                ...array_keys($plan->cells),
            ] as $key
        ) {
            $this->numbers[$key] ??= count($this->numbers);
        }
        $this->moving = array_values(array_filter($plan->equations, static fn (Equation $e): bool => ! isset($plan->constants[$e->key])));
        $this->curvesInline = count($this->moving) < 250;
        $this->unseen = $this->findUnseen(false);
        $this->hidden = $this->findUnseen(true);
        $capped = [];
        foreach ($plan->flows as $id => $ends) {
            if ($ends['from'] !== null && isset($plan->limited[$ends['from']]) && ! $this->isArrival($id)) {
                $capped[$ends['from']] = true;
            }
            if ($ends['to'] !== null && isset($plan->limited[$ends['to']]) && ! $ends['oneWay']) {
                $capped[$ends['to']] = true;
            }
        }
        $this->capped = array_intersect_key($plan->limited, $capped);
    }

    public function number(string $key): int
    {
        return $this->numbers[$key];
    }

    /** The variable that holds something of a key: `$g12`, and in a loop over elements `$g12[$n]`. */
    public function variable(string $letter, string $key): string
    {
        return '$'.$letter.$this->numbers[$key].(isset($this->indexed[$key]) ? '[$n]' : '');
    }

    /** The variable that holds something of a key, over elements of all of them. */
    public function whole(string $letter, string $key): string
    {
        return '$'.$letter.$this->numbers[$key];
    }

    public function isIndexed(string $key): bool
    {
        return isset($this->indexed[$key]);
    }

    /** The sum of a value's elements. */
    public function sum(string $letter, string $key): string
    {
        $whole = $this->whole($letter, $key);

        return isset($this->indexed[$key]) ? "(float) \\array_sum($whole)" : $whole;
    }

    public function zeros(string $key): string
    {
        return isset($this->indexed[$key]) ? "\\array_fill(0, {$this->indexed[$key]}, 0.0)" : '0.0';
    }

    /**
     * @param  list<string>  $lines  about one element
     * @return list<string> about all of them
     */
    public function each(string $key, array $lines): array
    {
        return isset($this->indexed[$key]) ? ["for (\$n = 0; \$n < {$this->indexed[$key]}; \$n++) {", ...$lines, '}'] : $lines;
    }

    public function isArrival(string $flow): bool
    {
        $from = $this->plan->flows[$flow]['from'] ?? null;

        return $from !== null && ($this->plan->transits[$from]->arrival ?? null) === $flow;
    }

    /** @return array<string, string> by key, the variable that holds its value */
    public function names(string $state): array
    {
        $names = [];
        foreach ($this->numbers as $key => $n) {
            $names[$key] = (isset($this->plan->states[$key]) ? $state : '$v').$n;
        }
        foreach ($this->plan->parameters as $id) {
            $names[$id] = '$p'.$this->numbers[$id];
        }
        foreach ($this->plan->cells as $key => $_) {
            $names[$key.'h'] = '$v'.$this->numbers[$key].'h';
            $names[$key.'q'] = '$q'.$this->numbers[$key];
        }

        return $names;
    }

    public function emitter(string $state, bool $hoisting = true, bool $later = false): Emitter
    {
        return new Emitter(
            $this->names($state),
            array_diff_key(
                [...$this->plan->constants, ...array_fill_keys($this->plan->parameters, true), ...$this->onceKeys()],
                $this->indexed,
            ),
            $this->plan->curves,
            $this->watches,
            $hoisting ? $this->hoist : null,
            $this->curvesInline,
            $later,
        );
    }

    /** @return array<string, true> what `initial` keeps */
    private function onceKeys(): array
    {
        $keys = [];
        foreach ($this->plan->starts as $key => $_) {
            if (! isset($this->plan->states[$key]) && ! isset($this->plan->equations[$key]) && ! isset($this->plan->cells[$key])) {
                $keys[$key] = true;
            }
        }

        return $keys;
    }

    /** @return list<string> keys that stay the same during a run */
    public function constants(): array
    {
        return [...array_keys($this->plan->constants), ...array_keys($this->onceKeys())];
    }

    /**
     * Everything that is known at the start, then what the cells hold before the first step. Needs `$t`, `$begun`, `$i`.
     *
     * @return list<string>
     */
    public function startLines(): array
    {
        $emitter = $this->emitter('$y', false);
        $lines = [];
        $tested = [];
        foreach ($this->plan->starts as $key => $node) {
            $variable = $emitter->variable($key);
            $equation = $this->plan->equations[$key] ?? null;
            if ($equation?->draw !== null) {
                $lines[] = "$variable = 0.0;";
                array_push($lines, ...$emitter->kept($variable, $equation));
            } else {
                array_push($lines, ...$this->guarded($emitter, $key, $node));
            }
            $tested[] = $variable;
        }
        foreach ($this->plan->cells as $key => $cell) {
            $variable = $emitter->variable($key);
            $q = '$q'.$this->numbers[$key];
            if ($cell->kind === 'shift') {
                $lines[] = "$q = new \\MerryOrbit\\Core\\Library\\History($variable, \$start, \$step);";
            } elseif ($cell->kind === 'highest' || $cell->kind === 'lowest') {
                $lines[] = "{$variable}h = ".($cell->kind === 'highest' ? '-\\INF;' : '\\INF;');
            } elseif ($cell->kind === 'times') {
                $lines[] = "$variable = 0.0; {$variable}h = 0.0;";
            } elseif ($cell->kind !== 'previous') {
                $lines[] = "$variable = 0.0;";
            }
        }
        foreach ($this->plan->transits as $stock => $transit) {
            $n = $this->numbers[$stock];
            array_push($lines, ...$emitter->assign('$travel'.$n, $transit->travel));
            $lines[] = "\$q$n = new \\MerryOrbit\\Core\\Library\\Passage(\$y$n, \$travel$n, \$step, \$steps);";
            $tested[] = '$travel'.$n;
        }

        return [...$lines, '$test = '.implode(' + ', ['$check', ...$tested]).';'];
    }

    /**
     * One equation that is computed at every look, cut to what a flow may be.
     *
     * @param  ?bool  $first  whether this is the look at the start of a step; null if that shows while running
     * @param  ?string  $draw  code for which draw of chance it is, if it is another for every element
     * @return list<string>
     */
    public function equationLines(Emitter $emitter, Equation $equation, ?bool $first, ?string $draw = null): array
    {
        $key = $equation->key;
        $variable = $emitter->variable($key);
        if ($this->isArrival($key)) {
            return ["$variable = (float) \$q".$this->numbers[(string) $this->plan->flows[$key]['from']].'->arriving($i) / $step;'];
        }
        if ($equation->pace === Pace::Step) {
            $lines = $emitter->kept($variable, $equation, $draw);
        } else {
            $lines = $emitter->assign($variable, $equation->node);
        }
        $cuts = $this->cutLines($key, $variable, $first);
        if (isset(($first === false ? $this->hidden : $this->unseen)[$key]) || $cuts !== []) {
            $lines[] = "\$check += $variable;";
        }

        return [...$lines, ...$cuts];
    }

    /** @return list<string> */
    private function guarded(Emitter $emitter, string $key, Node $node): array
    {
        if ($this->isArrival($key)) {
            $node = new NumberLiteral(0.0, '0', 0, 0);
        }

        return $emitter->assign($emitter->variable($key), $node);
    }

    /** @return list<string> */
    private function cutLines(string $key, string $variable, ?bool $first): array
    {
        $flow = $this->plan->flows[$key] ?? null;
        if ($flow === null) {
            return [];
        }
        $lines = [];
        if ($flow['oneWay']) {
            $lines[] = "$variable = $variable < 0.0 ? 0.0 + ".$this->watches->leaf('one-way', $key)." : $variable;";
        }
        $from = $flow['from'] ?? '';
        if (isset($this->capped[$from])) {
            $cap = '$cap'.$this->numbers[$from];
            if ($first !== false) {
                $u = $this->variable('u', $key);
                $lines[] = "$u = ".($first ? '' : '$stage > 0 ? '.$u.' : ')."($variable > $cap ? 1.0 : 0.0);";
            }
            $lines[] =
                "$variable = $variable > $cap ? $cap".
                match ($first) {
                    true => ' + '.$this->watches->leaf('limit', $key),
                    false => '',
                    null => ' + ($stage > 0 ? 0.0 : '.$this->watches->leaf('limit', $key).')',
                }.
                " : $variable;";
        }
        $to = $flow['to'] ?? '';
        if (isset($this->capped[$to]) && ! $flow['oneWay']) {
            $cap = '$cap'.$this->numbers[$to];
            $lines[] = "$variable = $variable < -$cap ? -$cap : $variable;";
        }

        return $lines;
    }

    /** @return list<string> what has to be known before a look: stocks held by hand, and what limited ones can give within a step */
    public function lookLines(Emitter $emitter, string $state): array
    {
        return [...$this->forcedLines($emitter), ...$this->capLines($state)];
    }

    /** @return list<string> */
    public function forcedLines(Emitter $emitter): array
    {
        $lines = [];
        foreach ($this->plan->states as $key => $one) {
            array_push($lines, ...$one->forced === null ? [] : $emitter->assign($emitter->variable($key), $one->forced));
        }

        return $lines;
    }

    /** @return list<string> what limited stocks can give within a step */
    public function capLines(string $state): array
    {
        $lines = [];
        foreach ($this->capped as $stock => $_) {
            $n = $this->numbers[$stock];
            $lines[] = "\$cap$n = ($state$n > 0.0 ? $state$n : 0.0) / \$step;";
        }

        return $lines;
    }

    /** The rate of change of a state from its flows. */
    public function rate(Emitter $emitter, State $state): string
    {
        $code = '';
        foreach ($state->rates as [$key, $sign]) {
            $code .= ($sign > 0 ? ($code === '' ? '' : ' + ') : ($code === '' ? '0.0 - ' : ' - ')).$emitter->variable($key);
        }

        return $code === '' ? '0.0' : $code;
    }

    /** @return list<string> elements with a column: stocks, then equations in their order */
    public function columns(): array
    {
        $keys = [...array_keys($this->plan->states), ...array_map(static fn (Equation $e): string => $e->key, $this->moving)];

        return array_values(
            array_filter(
                $keys,
                fn (string $k): bool => ! $this->plan->keys->isHidden($k) && ($this->only === null || in_array($k, $this->only, true)),
            ),
        );
    }

    /** @return array<string, true> */
    private function findUnseen(bool $denominators): array
    {
        $seen = [];
        $unseen = [];
        foreach ($this->plan->states as $state) {
            foreach ($state->rates as [$key, $_]) {
                $seen[$key] = true;
            }
        }
        foreach (array_reverse($this->moving) as $equation) {
            if (! isset($seen[$equation->key])) {
                $unseen[$equation->key] = true;
            }
            foreach (OpenUses::keys($equation->node, $denominators) as $key) {
                // What only shows is not looked at within a step, and shows nothing then.
                if (isset($this->plan->drives[$equation->key]) || ! isset($this->plan->drives[$key])) {
                    $seen[$key] = true;
                }
            }
        }

        return $unseen;
    }
}
