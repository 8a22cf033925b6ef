<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Compile;

use MerryOrbit\Core\Library\Moment;
use MerryOrbit\Core\Model\Method;
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
    /** What every compiled run is called with, before what is its own. */
    public const ARGUMENTS = [
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

    /** From so many on variables are shared. */
    private const SHARED_FROM = 400;

    private const LARGEST = 4_194_304;

    private readonly Frame $frame;

    private readonly Masses $masses;

    /** @var list<array{float, float}> */
    private readonly array $stages;

    private float $weights;

    private readonly Saving $saving;

    private readonly StepCode $steps;

    /** Whether equations share variables, and values are kept moment by moment. */
    private readonly bool $shared;

    /** @param  ?list<string>  $only */
    private function __construct(private readonly Plan $plan, Method $method, ?array $only)
    {
        $this->frame = new Frame($plan, $only);
        $this->masses = new Masses($this->frame);
        $this->stages = $method->stages();
        $this->weights = array_sum(array_column($this->stages, 1));
        $this->shared = count($this->frame->moving) + count($plan->states) > self::SHARED_FROM;
        $this->saving = new Saving($plan, $this->frame, $this->masses, $this->frame->columns(), $this->shared);
        $this->steps = new StepCode($plan, $this->frame, $this->masses, $this->saving, $this->stages, $this->shared);
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
            $compiler->saving->columns,
            $frame->constants(),
            array_keys($compiler->saving->carried()),
            $frame->watches->subjects(),
            $compiler->masses->counted(),
            self::fill($body),
            isWhole: $only === null,
            byMoment: $compiler->shared,
        );
    }

    /** An estimate: a choice makes three basic blocks, a loop or an `if` two. */
    public static function fill(string $body): float
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
        $arguments = self::ARGUMENTS;
        foreach ($plan->parameters as $id) {
            $arguments[] = 'float $p'.$this->frame->number($id);
        }
        $step = $this->steps->lines();
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
            $this->saving->noOutputs(),
            ...$start,
            ...$hoisted->lines,
            '$test += '.implode(' + ', ['$check', ...$hoisted->variables()]).';',
            'if ($test - $test !== 0.0) { return ['.Program::FAULT.', -1, [], [], [], [], [], 0]; }',
            '$check = 0.0; $next = 0; $last = -1; $count = 0;',
            '$part = $step / '.Emitter::literal($this->weights).'; $half = 0.5 * $step;',
            'for ($i = 0; ; $i++) {',
            'if ($i === $halt) { '.
            $this->saving->testing('return '.$this->saving->ending(Program::FAULT).';').
            ' return '.
            $this->saving->ending(Program::HALTED).
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

    /** @return list<string> the step itself */
    private function advanceLines(): array
    {
        $lines = $this->masses->advanceLines($this->saving->reported(...));
        $factor = count($this->stages) === 1 ? '$step' : '$part';
        $rate = count($this->stages) > 1 && $this->shared ? '$a' : '$d';
        foreach ($this->plan->states as $key => $_) {
            $n = $this->frame->number($key);
            if (! $this->masses->owns($key)) {
                $lines[] = "\$y$n += $factor * $rate$n;";
            }
        }
        // A hand that lets go leaves the stock where its course has come to.
        array_push($lines, ...$this->steps->timed($this->frame->forcedLines($this->frame->emitter('$y')), '$now + $step'));
        foreach ($this->plan->cells as $key => $cell) {
            if ($cell->kind === 'previous') {
                $n = $this->frame->number($key);
                $lines[] = "\$v$n = \$next$n;";
            }
        }

        return $lines;
    }
}
