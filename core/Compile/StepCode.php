<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Compile;

use MerryOrbit\Core\Plan\Pace;
use MerryOrbit\Core\Plan\Plan;

/**
 * The lines that compute the rates of one step: with its stages written out, once in a loop over the stages, or so with
 * equations that share variables.
 */
final readonly class StepCode
{
    /** Up to so many equations the stages are written out. */
    private const MOST_UNROLLED = 120;

    /** @param  list<array{float, float}>  $stages  within the step, and weight */
    public function __construct(
        private Plan $plan,
        private Frame $frame,
        private Masses $masses,
        private Saving $saving,
        private array $stages,
        private bool $shared,
    ) {
    }

    /** @return list<string> */
    public function lines(): array
    {
        $size = count($this->frame->moving) + count($this->plan->states);

        return match (true) {
            $this->shared => $this->sharedStep(),
            count($this->stages) > 1 && $size > self::MOST_UNROLLED => $this->loopedStep(),
            default => $this->writtenOutStep(),
        };
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
                array_push($lines, ...$this->saving->savingLines($emitter), ...$this->saving->cellLines($emitter));
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
                            // In brackets, so that it is added up as where the stages run in a loop.
                            : "\$d$n = ".$this->weighted($n).'('.$this->frame->rate($emitter, $state).');';
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
        array_push($lines, ...$this->showing($emitter), ...$this->saving->savingLines($emitter), ...$this->saving->cellLines($emitter));
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
        $this->saving->columns = $shared->columns();
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
                $lines[] = $this->saving->portion(explode(' ', $subject), $emitter);
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
        $closing = [...$this->saving->savingLines($emitter), ...$this->saving->cellLines($emitter)];
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
    public function timed(array $lines, string $time): array
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
