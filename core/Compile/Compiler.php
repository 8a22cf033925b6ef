<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Compile;

use MerryOrbit\Core\Library\Moment;
use MerryOrbit\Core\Model\Method;
use MerryOrbit\Core\Plan\Pace;
use MerryOrbit\Core\Plan\Plan;

/**
 * Turns a plan into the source of one PHP function that runs it with a method of fixed steps: everything in local float
 * variables, which the just-in-time compiler handles best. User text never enters it.
 *
 * Small models have their stages written out, as a person would write them. In larger ones the equations stand once, in a loop
 * over the stages, and share variables as soon as a value is needed no more: the just-in-time compiler passes over a
 * function, without a word, whose basic blocks times variables are more than LARGEST.
 *
 * There is no `try` in the function, which would keep it from being compiled. What arithmetic cannot do is NAN or infinite, and
 * stays so: it shows in one sum that is tested where values are saved.
 */
final class Compiler
{
    /** Up to so many equations the stages are written out. */
    private const MOST_UNROLLED = 120;

    /** From so many on variables are shared. */
    private const SHARED_FROM = 400;

    private const LARGEST = 4_194_304;

    private readonly Frame $frame;

    private readonly Masses $masses;

    /** @var list<array{float, float}> */
    private readonly array $stages;

    private float $weights;

    /** @var list<string> */
    private array $columns;

    /** Whether equations share variables, and values are kept moment by moment. */
    private readonly bool $shared;

    /** @param  ?list<string>  $only */
    private function __construct(private readonly Plan $plan, Method $method, ?array $only)
    {
        $this->frame = new Frame($plan, $only);
        $this->masses = new Masses($this->frame);
        $this->stages = $method->stages();
        $this->weights = array_sum(array_column($this->stages, 1));
        $this->columns = $this->frame->columns();
        $this->shared = count($this->frame->moving) + count($plan->states) > self::SHARED_FROM;
    }

    /** @param  ?list<string>  $only  the keys whose values are saved; null for all that move */
    public static function compile(Plan $plan, Method $method, ?array $only = null): Program
    {
        $compiler = new self($plan, $method, $only);
        $frame = $compiler->frame;
        $body = $compiler->body();
        $function = 'f'.hash('xxh128', $body.implode('', $frame->watches->functions()));
        $source =
            "<?php\n\ndeclare(strict_types=1);\n\nnamespace MerryOrbit\\Compiled;\n\n".
            implode("\n", $frame->watches->functions()).
            "\n\nfunction $function$body";

        return new Program(
            $function,
            $source,
            $plan->parameters,
            $compiler->columns,
            $frame->constants(),
            array_keys($compiler->carried()),
            $frame->watches->subjects(),
            $compiler->masses->counted(),
            self::fill($body),
            isWhole: $only === null,
            byMoment: $compiler->shared,
        );
    }

    /** An estimate: a choice makes three basic blocks, a loop or an `if` two. */
    private static function fill(string $body): float
    {
        preg_match_all('/\$\w+/', $body, $variables);
        $blocks =
            3 * substr_count($body, ' ? ') +
            2 * (substr_count($body, 'if (') + substr_count($body, 'for (')) +
            substr_count($body, '&&') +
            substr_count($body, '||');

        return ($blocks * (count(array_unique($variables[0])) + 40)) / self::LARGEST;
    }

    private function body(): string
    {
        $plan = $this->plan;
        $arguments = [
            'int &$saved',
            'float $start',
            'float $end',
            'float $step',
            'int $steps',
            'int $every',
            'float $close',
            'int $halt',
            'int $seed',
            'int $grain',
            '?\\MerryOrbit\\Core\\Library\\RunWatcher $watch',
        ];
        foreach ($plan->parameters as $id) {
            $arguments[] = 'float $p'.$this->frame->number($id);
        }
        $step = match (true) {
            $this->shared => $this->sharedStep(),
            count($this->stages) > 1 && count($this->frame->moving) + count($plan->states) > self::MOST_UNROLLED => $this->loopedStep(),
            default => $this->writtenOutStep(),
        };
        $advance = $this->advanceLines();
        // Only now is it known what has to be watched and what stays the same.
        $start = $this->frame->startLines();
        $hoisted = $this->frame->hoist;
        $watches = implode('', array_map(static fn (string $w): string => "$w = \\INF; ", $this->frame->watches->variables()));
        $text = implode("\n", [...$step, ...$start]);
        $begun = var_export(Moment::TOLERANCE, true);
        $lines = [
            '('.implode(', ', $arguments).'): array',
            '{',
            '$i = 0; $t = $start; $check = 0.0; $begun = '.$begun.' * $step; '.$watches.$this->masses->startLine(),
            $this->noOutputs(),
            ...$start,
            ...$hoisted->lines,
            '$test += '.implode(' + ', ['$check', ...$hoisted->variables()]).';',
            'if ($test - $test !== 0.0) { return ['.Program::FAULT.', -1, [], [], [], [], [], 0]; }',
            '$check = 0.0; $next = 0; $last = -1; $count = 0;',
            '$part = $step / '.Emitter::literal($this->weights).'; $half = 0.5 * $step;',
            'for ($i = 0; ; $i++) {',
            'if ($i === $halt) { '.
            $this->testing('return '.$this->ending(Program::FAULT).';').
            ' return '.
            $this->ending(Program::HALTED).
            '; }',
            ...str_contains($text, '$begun') ? ["\$begun = (\$i + $begun) * \$step;"] : [],
            '$now = $i === $steps ? $close : $start + $i * $step;',
            ...$step,
            ...$advance,
            '}',
            '}',
            '',
        ];

        // Two tests in a row are one addition to a variable less.
        $code = (string) preg_replace('/\$check \+= (\$\w+);\n\$check \+= (\$\w+);/', '$check += $1 + $2;', implode("\n", $lines));

        return str_replace('%watches%', '['.implode(', ', $this->frame->watches->variables()).']', $code);
    }

    /** @return list<string> the stages one after the other, each with variables of its own for the rates */
    private function writtenOutStep(): array
    {
        $lines = [];
        $last = count($this->stages) - 1;
        foreach ($this->stages as $s => [$within, $weight]) {
            $emitter = $this->frame->emitter($s === 0 ? '$y' : '$x', later: $s > 0);
            $lines = [
                ...$lines,
                ...$this->timed(
                    [...$this->look($emitter, $s === 0, $s === 0 ? '$y' : '$x'), ...$s === 0 ? $this->showing($emitter) : []],
                    match ($within) {
                        0.0 => '$now',
                        1.0 => '$now + $step',
                        default => '$now + $half',
                    },
                ),
            ];
            if ($s === 0) {
                array_push($lines, ...$this->savingLines($emitter), ...$this->cellLines($emitter));
            }
            array_push(
                $lines,
                ...$this->masses->gatherLines($emitter, $s === 0 ? '=' : '+=', $weight === 1.0 ? '' : Emitter::literal($weight).' * '),
            );
            foreach ($this->plan->states as $key => $state) {
                $n = $this->frame->number($key);
                $rate = "\$k{$n}_$s = ".$this->frame->rate($emitter, $state);
                if ($s < $last) {
                    $reach = $this->stages[$s + 1][0] === 1.0 ? '$step' : '$half';
                    $lines[] = "$rate; \$x$n = \$y$n + $reach * \$k{$n}_$s;";
                } elseif (! $this->masses->owns($key)) {
                    $lines[] =
                        $last === 0
                            ? "\$d$n = ".$this->frame->rate($emitter, $state).';'
                            : "\$d$n = ".$this->weighted($n).$this->frame->rate($emitter, $state).';';
                }
            }
        }

        return $lines;
    }

    /** The weighted rates of all stages but the last. */
    private function weighted(int $n): string
    {
        $code = '';
        foreach (array_slice($this->stages, 0, -1) as $s => [$_, $weight]) {
            $code .= ($weight === 1.0 ? '' : Emitter::literal($weight).' * ')."\$k{$n}_$s + ";
        }

        return $code;
    }

    /** @return list<string> the equations once, in a loop over the stages */
    private function loopedStep(): array
    {
        $emitter = $this->frame->emitter('$x');
        $lines = $this->look($emitter, null, '$x');
        $lines[] = 'if ($stage === 0) {';
        array_push($lines, ...$this->showing($emitter), ...$this->savingLines($emitter), ...$this->cellLines($emitter));
        $lines[] = '}';
        array_push($lines, ...$this->masses->gatherLines($emitter, '+=', '$weight * '));
        foreach ($this->plan->states as $key => $state) {
            $n = $this->frame->number($key);
            $lines[] = '$k = '.$this->frame->rate($emitter, $state)."; \$d$n += \$weight * \$k; \$x$n = \$y$n + \$reach * \$k;";
        }

        return $this->loop($lines);
    }

    /**
     * As loopedStep, with equations sharing variables. A stock's rate is computed as soon as its flows are known, and values
     * are saved in portions, so that few have to be kept.
     *
     * @return list<string>
     */
    private function sharedStep(): array
    {
        $looped = count($this->stages) > 1;
        $state = $looped ? '$x' : '$y';
        $emitter = $this->frame->emitter($state);
        $shared = new SharedVariables($this->frame, $this->pinned());
        $this->columns = $shared->columns();
        $lines = [
            '$saving = '.
            implode(' && ', array_filter([$looped ? '$stage === 0' : '', $this->plan->endWhen === null ? '$i === $next' : ''])).
            ($looped || $this->plan->endWhen === null ? ';' : 'true;'),
            ...$this->frame->forcedLines($emitter),
            'if ($saving) { $row = ['.
            implode(', ', array_map(fn (string $k): string => $emitter->variable($k), $shared->savedStates())).
            ']; }',
            ...$this->frame->capLines($state),
        ];
        $showing = false;
        foreach ($shared->order() as [$kind, $subject]) {
            if ($kind === 'equation' && ! $showing && $looped && ! isset($this->plan->drives[$subject])) {
                // From here on there is only what shows.
                $lines[] = 'if ($stage === 0) {';
                $showing = true;
            }
            if ($kind === 'free') {
                $shared->free($subject);
            } elseif ($kind === 'save') {
                $lines[] = $this->portion(explode(' ', $subject), $emitter);
            } elseif ($kind === 'rate') {
                $n = $this->frame->number($subject);
                $lines[] = "\$d$n = ".$this->frame->rate($emitter, $this->plan->states[$subject]).';';
            } else {
                $variable = $shared->take($subject);
                if ($variable !== null) {
                    $emitter->rename($subject, $variable);
                }
                $equation = $this->plan->equations[$subject];
                $code = $this->frame->equationLines($emitter, $equation, $looped && ! $showing ? null : true);
                $kept = $looped && ! $showing && $equation->pace === Pace::Step;
                array_push($lines, ...$kept ? ['if ($stage === 0) {'] : [], ...$code, ...$kept ? ['}'] : []);
                array_push($lines, ...$this->masses->gatherOne($emitter, $subject, $looped ? '+=' : '=', $looped ? '$weight * ' : ''));
            }
        }
        $closing = [...$this->savingLines($emitter), ...$this->cellLines($emitter)];
        array_push($lines, ...$looped ? [...$showing ? [] : ['if ($stage === 0) {'], ...$closing, '}'] : $closing);
        if (! $looped) {
            return [...$this->timed($lines, '$now')];
        }
        foreach ($this->plan->states as $key => $_) {
            $n = $this->frame->number($key);
            $lines[] = "\$a$n += \$weight * \$d$n; \$x$n = \$y$n + \$reach * \$d$n;";
        }

        return $this->loop($lines, '$a');
    }

    /**
     * @param  list<string>  $lines
     * @return list<string>
     */
    private function loop(array $lines, string $sum = '$d'): array
    {
        $begin = [];
        foreach ($this->plan->states as $key => $_) {
            $n = $this->frame->number($key);
            $begin[] = "\$x$n = \$y$n; $sum$n = 0.0;";
        }
        $last = count($this->stages) - 1;
        $heun = $last === 1;
        $head = $heun
            ? '$weight = 1.0; $reach = $step;'
            : '$weight = $stage === 1 || $stage === 2 ? 2.0 : 1.0; $reach = $stage === 2 ? $step : $half;';
        $time = $heun ? '$stage === 0 ? $now : $now + $step' : '$stage === 0 ? $now : ($stage === 3 ? $now + $step : $now + $half)';

        array_unshift($begin, ...$this->timed($this->frame->forcedLines($this->frame->emitter('$y')), '$now'));

        return [
            ...$begin,
            ...$this->masses->clearLines(),
            "for (\$stage = 0; \$stage <= $last; \$stage++) {",
            $head,
            ...$this->timed($lines, $time),
            '}',
        ];
    }

    /**
     * @param  list<string>  $lines
     * @return list<string> with the time set before them if any needs it
     */
    private function timed(array $lines, string $time): array
    {
        return preg_match('/\$t\b/', implode("\n", $lines)) === 1 ? ["\$t = $time;", ...$lines] : $lines;
    }

    /**
     * One look at the equations that drive the states.
     *
     * @param  ?bool  $first  whether it is the one at the start of a step; null if that shows while running
     * @return list<string>
     */
    private function look(Emitter $emitter, ?bool $first, string $state): array
    {
        $lines = $this->frame->lookLines($emitter, $state);
        $open = false;
        foreach ($this->frame->moving as $equation) {
            if (! isset($this->plan->drives[$equation->key])) {
                continue;
            }
            $kept = $equation->pace === Pace::Step;
            if ($first === false && $kept) {
                continue;
            }
            if ($first === null && $kept !== $open) {
                $lines[] = $kept ? 'if ($stage === 0) {' : '}';
                $open = $kept;
            }
            array_push($lines, ...$this->frame->equationLines($emitter, $equation, $first));
        }

        return $open ? [...$lines, '}'] : $lines;
    }

    /** @return list<string> the equations that only show, at the start of a step */
    private function showing(Emitter $emitter): array
    {
        $lines = [];
        foreach ($this->frame->moving as $equation) {
            if (! isset($this->plan->drives[$equation->key])) {
                array_push($lines, ...$this->frame->equationLines($emitter, $equation, true));
            }
        }

        return $lines;
    }

    /** @return list<string> what is done at the start of a step if it is to be saved or may end the run */
    private function savingLines(Emitter $emitter): array
    {
        $last = $this->masses->closingLines($this->outputs('$at'));
        $save = $this->savedLine($emitter);
        $test = $this->testing('return '.$this->ending(Program::FAULT).';');
        $stop = '$watch !== null && $watch->stops($i / $steps)) { return '.$this->ending(Program::STOPPED).'; }';
        $lines = [
            'if ($i === $next) {',
            $test,
            '$check = 0.0;',
            "$save \$last = \$saved = \$i; \$count++;",
            "if ($stop",
            'if ($i === $steps) {',
            ...$last,
            'return '.$this->ending(Program::DONE).';',
            '}',
            '$next = $i + $every < $steps ? $i + $every : $steps;',
            '}',
            // A run that saves seldom is looked at between, too.
            "if ((\$i & 4095) === 4095 && $stop",
        ];
        if ($this->plan->endWhen !== null) {
            $lines = [
                ...$lines,
                'if ('.$emitter->guardedCondition($this->plan->endWhen).') {',
                $test,
                "if (\$last !== \$i) { $save \$count++; }",
                ...$last,
                'return '.$this->ending(Program::ENDED).';',
                '}',
            ];
        }

        return $lines;
    }

    /** @return array<string, string> by key, where its values are kept: a list of its own, or a place in that of the last moment */
    private function outputs(string $moment): array
    {
        $outputs = [];
        foreach ($this->columns as $k => $key) {
            $outputs[$key] = $this->shared ? "\$rows[$moment][$k]" : "\$o{$k}[$moment]";
        }

        return $outputs;
    }

    private function noOutputs(): string
    {
        return $this->shared
            ? '$rows = [];'
            : implode(' ', array_map(static fn (int $k): string => "\$o$k = [];", array_keys($this->columns)));
    }

    /**
     * Where equations share variables the values of a moment are gathered in portions.
     *
     * @param  list<string>  $keys
     */
    private function portion(array $keys, Emitter $emitter): string
    {
        $saves = array_map(
            static fn (string $k): string => '$row[] = '.$emitter->variable($k).';',
            array_values(array_intersect($keys, $this->columns)),
        );

        return $saves === [] ? '' : 'if ($saving) { '.implode(' ', $saves).' }';
    }

    private function savedLine(Emitter $emitter): string
    {
        return $this->shared
            ? '$rows[] = $row;'
            : implode(
                ' ',
                array_map(
                    static fn (string $k, string $o): string => "$o = ".$emitter->variable($k).';',
                    $this->columns,
                    $this->outputs(''),
                ),
            );
    }

    /**
     * A number that is not finite stays so, in a state and in the sum of what would vanish unseen: it is enough to look now and then.
     */
    private function testing(string $otherwise): string
    {
        $sum = ['$check'];
        foreach ($this->plan->states as $key => $_) {
            $sum[] = '$y'.$this->frame->number($key);
        }
        foreach ($this->plan->cells as $key => $cell) {
            if ($cell->kind === 'previous') {
                $sum[] = '$v'.$this->frame->number($key);
            }
        }

        return '$test = '.implode(' + ', $sum).'; if ($test - $test !== 0.0) { '.$otherwise.' }';
    }

    /** @return list<string> what cells keep of the start of a step */
    private function cellLines(Emitter $emitter): array
    {
        $lines = [];
        foreach ($this->plan->cells as $key => $cell) {
            $n = $this->frame->number($key);
            if ($cell->watched === null) {
                continue;
            }
            array_push(
                $lines,
                ...match ($cell->kind) {
                    'previous' => $emitter->assign('$next'.$n, $cell->watched),
                    'shift' => [...$emitter->assign('$next'.$n, $cell->watched), "\$q{$n}->put(\$i, \$next$n);"],
                    default => $emitter->assign('$v'.$n.'h', $cell->watched),
                },
            );
        }

        return $lines;
    }

    /** @return list<string> the step itself */
    private function advanceLines(): array
    {
        $lines = $this->masses->advanceLines($this->outputs('$at'));
        $factor = count($this->stages) === 1 ? '$step' : '$part';
        $rate = count($this->stages) > 1 && $this->shared ? '$a' : '$d';
        foreach ($this->plan->states as $key => $_) {
            $n = $this->frame->number($key);
            if (! $this->masses->owns($key)) {
                $lines[] = "\$y$n += $factor * $rate$n;";
            }
        }
        // A hand that lets go leaves the stock where its course has come to.
        array_push($lines, ...$this->timed($this->frame->forcedLines($this->frame->emitter('$y')), '$now + $step'));
        foreach ($this->plan->cells as $key => $cell) {
            if ($cell->kind === 'previous') {
                $n = $this->frame->number($key);
                $lines[] = "\$v$n = \$next$n;";
            }
        }

        return $lines;
    }

    private function ending(int $how): string
    {
        $names = $this->frame->names('$y');
        /** @param  list<string|int>  $codes */

        return Emitter::listing([
            (string) $how,
            '$i',
            Emitter::listing(array_map(static fn (string $k): string => $names[$k], $this->frame->constants())),
            Emitter::listing($how === Program::HALTED ? $this->carried() : []),
            $how === Program::HALTED ? '[]' : '%watches%',
            Emitter::listing($this->masses->counters()),
            $this->shared ? '$rows' : Emitter::listing(array_map(static fn (int $k): string => "\$o$k", array_keys($this->columns))),
            '$count',
        ]);
    }

    /** @return array<string, string> by key, the variables that go from step to step */
    private function carried(): array
    {
        $names = $this->frame->names('$y');
        $carried = [];
        foreach ($this->plan->states as $key => $_) {
            $carried[$key] = $names[$key];
        }
        foreach ($this->plan->cells as $key => $cell) {
            foreach (
                match ($cell->kind) {
                    'shift' => ['q'],
                    'highest', 'lowest' => ['h'],
                    'times' => ['', 'h'],
                    default => [''],
                } as $letter
            ) {
                $carried[$key.$letter] = $names[$key.$letter];
            }
        }
        foreach ($this->plan->transits as $stock => $_) {
            $carried[$stock.'q'] = '$q'.$this->frame->number($stock);
        }

        return $carried;
    }

    /** @return array<string, true> keys that are needed beyond the look that computes them */
    private function pinned(): array
    {
        $pinned = array_fill_keys($this->masses->flows(), true);
        foreach ($this->plan->cells as $key => $cell) {
            $pinned[$key] = true;
            $pinned += $cell->watched === null ? [] : array_fill_keys(Plan::keys($cell->watched), true);
        }
        $pinned += $this->plan->endWhen === null ? [] : array_fill_keys(Plan::keys($this->plan->endWhen), true);
        foreach ($this->frame->moving as $equation) {
            if ($equation->pace === Pace::Step) {
                $pinned[$equation->key] = true;
            }
        }

        return $pinned;
    }
}
