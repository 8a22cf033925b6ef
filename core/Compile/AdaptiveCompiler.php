<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Compile;

use MerryOrbit\Core\Library\Moment;
use MerryOrbit\Core\Plan\Pace;
use MerryOrbit\Core\Plan\Plan;
use MerryOrbit\Core\Plan\State;

/**
 * Turns a plan into the source of four PHP functions for methods that choose their own steps. Lists hold values in the order of
 * the program: `$k` what stays the same, `$y` states, `$s` what is kept through a step (events, latches, cells). All take
 * `float $start, float $end, float $step` and the parameters, the last three also `float $t, float $begun, array $k, array $y, array $s`.
 *
 *   f…_start()  returns [test, k, y, s]
 *   f…_begin(…, int $i, bool $onGrid)  the start of a step, perhaps one of the time grid: returns [test, s, whether the end condition holds]
 *   f…_rates(…) returns the rates of the states, then the test
 *   f…_row(…)   returns the values of the columns, then the test, then the first times of the watches
 *
 *   f…_hold(…)  returns y as hands hold it; only where there is such
 *
 * A test is a number that is not finite when something in it went wrong.
 */
final class AdaptiveCompiler
{
    private readonly Frame $frame;

    /** @var array<string, string> by key, the variables of `$s` */
    private readonly array $kept;

    /** @param  ?list<string>  $only */
    private function __construct(private readonly Plan $plan, ?array $only)
    {
        $this->frame = new Frame($plan, $only);
        $names = $this->frame->names('$y');
        $kept = [];
        foreach ($this->frame->moving as $equation) {
            if ($equation->pace === Pace::Step) {
                $kept[$equation->key] = $names[$equation->key];
            }
        }
        foreach ($plan->cells as $key => $cell) {
            foreach (
                match ($cell->kind) {
                    'shift' => ['q'],
                    'highest', 'lowest', 'times' => ['h'],
                    default => [],
                } as $letter
            ) {
                $kept[$key.$letter] = $names[$key.$letter];
            }
        }
        $this->kept = $kept;
    }

    /** @param  ?list<string>  $only  the keys whose values are saved; null for all that move */
    public static function compile(Plan $plan, ?array $only = null): Program
    {
        $compiler = new self($plan, $only);
        $functions = $compiler->functions();
        $name = 'f'.hash('xxh128', implode('', $functions));
        $source =
            "<?php\n\ndeclare(strict_types=1);\n\nnamespace MerryOrbit\\Compiled;\n\n".
            implode("\n", $compiler->frame->watches->functions()).
            "\n\n".
            implode(
                "\n",
                array_map(
                    static fn (string $part, string $code): string => "function {$name}_$part$code",
                    array_keys($functions),
                    $functions,
                ),
            );

        return new Program(
            $name,
            $source,
            $plan->parameters,
            $compiler->frame->columns(),
            $compiler->frame->constants(),
            [...array_keys($plan->states), ...array_keys($compiler->kept)],
            $compiler->frame->watches->subjects(),
            [],
            0.0,
            isset($functions['hold']),
            $only === null,
        );
    }

    /** @return array<string, string> */
    private function functions(): array
    {
        $frame = $this->frame;
        $emitter = $frame->emitter('$y');
        $all = $stage = $driving = [];
        foreach ($frame->moving as $equation) {
            $lines = $frame->equationLines($emitter, $equation, true);
            // A step of the method's own within one of the grid keeps what that one keeps.
            array_push($all, ...$equation->pace === Pace::Step ? ['if ($onGrid) {', ...$lines, '}'] : $lines);
            if ($equation->pace !== Pace::Step) {
                array_push($stage, ...$lines);
                if (isset($this->plan->drives[$equation->key])) {
                    array_push($driving, ...$lines);
                }
            }
        }
        $cells = [];
        foreach ($this->plan->cells as $key => $cell) {
            if ($cell->watched !== null) {
                $n = $frame->number($key);
                array_push(
                    $cells,
                    ...match ($cell->kind) {
                        'shift' => [...$emitter->assign('$next'.$n, $cell->watched), "\$q{$n}->put(\$i, \$next$n);"],
                        default => $emitter->assign('$v'.$n.'h', $cell->watched),
                    },
                );
            }
        }
        $rates = array_map(static fn (State $s): string => $frame->rate($emitter, $s), array_values($this->plan->states));
        $ends = $this->plan->endWhen === null ? 'false' : $emitter->guardedCondition($this->plan->endWhen);
        $columns = array_map($emitter->variable(...), $frame->columns());
        $hoisted = $frame->hoist;
        $names = $frame->names('$y');
        $steady = [...array_map(static fn (string $k): string => $names[$k], $frame->constants()), ...$hoisted->variables()];
        $states = array_map(static fn (string $k): string => $names[$k], array_keys($this->plan->states));
        $start = $frame->startLines();
        $watches = $frame->watches->variables();
        $infinite = implode('', array_map(static fn (string $w): string => "$w = \\INF; ", $watches));
        $forced = $frame->forcedLines($emitter);
        $head =
            $this->unpacked('$k', $steady).
            $this->unpacked('$y', $states).
            $this->unpacked('$s', array_values($this->kept)).
            $infinite.
            '$check = 0.0;';
        $keptStart = array_map(
            static fn (string $v): string => "$v ??= 0.0;",
            array_values(array_filter($this->kept, static fn (string $v): bool => ! str_starts_with($v, '$q'))),
        );

        return [
            ...$forced === [] ? [] : ['hold' => $this->signature([], [$head, ...$forced, 'return '.Emitter::listing($states).';'])],
            'start' => $this->signature(
                [],
                [
                    '$i = 0; $t = $start; $check = 0.0; $begun = '.var_export(Moment::TOLERANCE, true).' * $step; '.$infinite,
                    ...$start,
                    ...$hoisted->lines,
                    '$test += '.implode(' + ', ['$check', ...$hoisted->variables()]).';',
                    ...$keptStart,
                    'return [$test, '.
                    Emitter::listing($steady).
                    ', '.
                    Emitter::listing($states).
                    ', '.
                    Emitter::listing(array_values($this->kept)).
                    '];',
                ],
            ),
            'begin' => $this->signature(
                ['int $i', 'bool $onGrid'],
                [
                    $head,
                    ...$all,
                    ...$cells,
                    "\$ends = $ends;",
                    'return [$check, '.Emitter::listing(array_values($this->kept)).', $ends];',
                ],
            ),
            'rates' => $this->signature([], [$head, ...$forced, ...$driving, 'return '.Emitter::listing([...$rates, '$check']).';']),
            'row' => $this->signature(
                [],
                [$head, ...$forced, ...$stage, 'return '.Emitter::listing([...$columns, '$check', ...$watches]).';'],
            ),
        ];
    }

    /** @param  list<string>  $variables */
    private function unpacked(string $list, array $variables): string
    {
        return $variables === [] ? '' : '['.implode(', ', $variables)."] = $list; ";
    }

    /**
     * @param  list<string>  $more
     * @param  list<string>  $lines
     */
    private function signature(array $more, array $lines): string
    {
        $isStart = $more === [] && str_starts_with($lines[0], '$i = 0');
        $arguments = [
            'float $start',
            'float $end',
            'float $step',
            ...$isStart ? [] : ['float $t', 'float $begun', 'array $k', 'array $y', 'array $s'],
            ...$more,
        ];
        foreach ($this->plan->parameters as $id) {
            $arguments[] = 'float $p'.$this->frame->number($id);
        }

        return '('.implode(', ', $arguments).")\n{\n".implode("\n", $lines)."\n}\n";
    }
}
