<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Compile;

use MerryOrbit\Core\Formula\Name;
use MerryOrbit\Core\Model\Flow;
use MerryOrbit\Core\Model\Method;
use MerryOrbit\Core\Model\Parameter;
use MerryOrbit\Core\Model\Stock;

/**
 * Turns an analysed model into the source of one PHP function: equations once inside a loop over stages, everything
 * in local float variables, which the just-in-time compiler handles best. User text never enters it.
 *
 * There is no `try` in it, which would keep it from being compiled to machine code. What arithmetic cannot do is NAN, and
 * shows in one sum that is tested in every step; where it would vanish unseen, a FaultSignal names the step, and the
 * caller runs once more up to it.
 *
 * Only what can be computed is compiled. Variables are numbered: `$p` parameters, `$v` flows and auxiliaries, `$y` stocks at
 * the start of a step, `$x` stocks as a stage sees them, `$d` their rates of change, `$a` the weighted sum of those, `$m` temporaries.
 */
final class Compiler
{
    /** Up to so many equations the four stages are written out, which the machine runs faster; beyond, they are a loop. */
    private const MOST_UNROLLED = 120;

    /** @var array<string, int> */
    private array $numbers = [];

    /** @var list<string> */
    private array $parameters = [];

    /** @var list<string> */
    private array $stocks = [];

    /** @var list<string> flows and auxiliaries that move */
    private array $moving = [];

    /** @var list<string> */
    private array $constants = [];

    private function __construct(private readonly Analysis $analysis)
    {
        foreach ($analysis->model->elements as $id => $element) {
            $this->numbers[$id] = count($this->numbers);
            if (! $analysis->canCompute($id)) {
                continue;
            }
            if ($element instanceof Parameter) {
                $this->parameters[] = $id;
            } elseif ($element instanceof Stock) {
                $this->stocks[] = $id;
            }
        }
        foreach ($analysis->order as $id) {
            if (isset($analysis->constants[$id])) {
                $this->constants[] = $id;
            } else {
                $this->moving[] = $id;
            }
        }
    }

    public static function compile(Analysis $analysis, Method $method): Program
    {
        $compiler = new self($analysis);
        $body = $compiler->body($method);
        $function = 'f'.hash('xxh128', $body);
        $source = "<?php\n\ndeclare(strict_types=1);\n\nnamespace MerryOrbit\\Compiled;\n\nfunction $function$body";
        $order = array_flip(array_keys($analysis->model->elements));
        $columns = [...$compiler->stocks, ...$compiler->moving];
        usort($columns, static fn (string $a, string $b): int => $order[$a] <=> $order[$b]);

        return new Program($function, $source, $compiler->parameters, $columns, $compiler->constants, $compiler->stocks);
    }

    private function body(Method $method): string
    {
        $arguments = ['float $start', 'float $end', 'float $step', 'int $steps', 'int $every', 'float $close'];
        foreach ($this->parameters as $id) {
            $arguments[] = 'float $p'.$this->numbers[$id];
        }
        $lines = [
            '('.implode(', ', $arguments).'): array',
            '{',
            '$rows = []; $i = -1;',
            '$t = $start; $begun = '.var_export(Moment::TOLERANCE, true).' * $step; $check = 0.0;',
            ...$this->startLines(),
            '$half = 0.5 * $step; $sixth = $step / 6.0;',
            'for ($i = 0; ; $i++) {',
            ...($this->mentions('$begun') ? ['$begun = ($i + '.var_export(Moment::TOLERANCE, true).') * $step;'] : []),
            '$now = $i === $steps ? $close : $start + $i * $step;',
            '$check = 0.0;',
            ...($method === Method::RungeKutta4 ? $this->rungeKuttaLines() : $this->eulerLines()),
            '}',
            '}',
            '',
        ];

        return implode("\n", $lines);
    }

    /** @return list<string> constants, then initial values and what they need */
    private function startLines(): array
    {
        $names = $this->names('$y');
        $lines = [];
        $tested = [];
        foreach ([...$this->constants, ...$this->analysis->startOrder] as $id) {
            $variable = ($this->analysis->model->elements[$id] instanceof Stock ? '$y' : '$v').$this->numbers[$id];
            if (isset($tested[$variable])) {
                continue;
            }
            $lines[] = "$variable = ".Emitter::expression($this->analysis->nodes[$id], $names).';';
            $tested[$variable] = true;
        }
        if ($tested !== []) {
            $lines[] = '$test = $check + '.implode(' + ', array_keys($tested)).';';
            $lines[] = 'if ($test - $test !== 0.0) { return [[], [], -1, []]; }';
        }

        return $lines;
    }

    /** @return list<string> */
    private function rungeKuttaLines(): array
    {
        $lines = [];
        foreach ($this->stocks as $id) {
            $n = $this->numbers[$id];
            $lines[] = "\$x$n = \$y$n; \$a$n = 0.0;";
        }
        if (count($this->moving) + count($this->stocks) <= self::MOST_UNROLLED) {
            array_push($lines, ...$this->stageLines('$now', '', '$half', $this->savingLines('$x')));
            array_push($lines, ...$this->stageLines('$now + $half', '2.0 * ', '$half'));
            array_push($lines, ...$this->stageLines('$now + $half', '2.0 * ', '$step'));
            array_push($lines, ...$this->stageLines('$now + $step', '', null));
        } else {
            array_push($lines, 'for ($stage = 0; $stage < 4; $stage++) {',
                '$weight = $stage === 1 || $stage === 2 ? 2.0 : 1.0; $reach = $stage === 2 ? $step : $half;',
                ...$this->stageLines('$stage === 0 ? $now : ($stage === 3 ? $now + $step : $now + $half)', '$weight * ', '$reach', ['if ($stage === 0) {', ...$this->savingLines('$x'), '}']),
            );
            $lines[] = '}';
        }

        return [...$lines, ...$this->advanceLines(static fn (int $n): string => "\$sixth * \$a$n")];
    }

    /**
     * One look at the equations.
     *
     * @param  ?string  $reach  how far from the step's start the next stage looks; null after the last
     * @param  list<string>  $saving
     * @return list<string>
     */
    private function stageLines(string $time, string $weight, ?string $reach, array $saving = []): array
    {
        $lines = [...($this->mentions('$t') ? ["\$t = $time;"] : []), ...$this->equationLines('$x'), ...$saving];
        // Rates are sums of flows only, so a stock's new stage value cannot enter the rate of another.
        foreach ($this->stocks as $id) {
            $n = $this->numbers[$id];
            $lines[] = "\$d$n = ".$this->rate($id)."; \$a$n += $weight\$d$n;".($reach === null ? '' : " \$x$n = \$y$n + $reach * \$d$n;");
        }

        return $lines;
    }

    /** @return list<string> */
    private function eulerLines(): array
    {
        $lines = ['$t = $now;', ...$this->equationLines('$y'), ...$this->savingLines('$y')];
        foreach ($this->stocks as $id) {
            $lines[] = '$d'.$this->numbers[$id].' = '.$this->rate($id).';';
        }

        return [...$lines, ...$this->advanceLines(static fn (int $n): string => "\$step * \$d$n")];
    }

    /**
     * The step itself. A number that is not finite shows in one sum; the state before it is handed back.
     *
     * @param  \Closure(int): string  $change
     * @return list<string>
     */
    private function advanceLines(\Closure $change): array
    {
        $lines = [];
        $sum = '$check';
        foreach ($this->stocks as $id) {
            $n = $this->numbers[$id];
            $lines[] = "\$b$n = \$y$n; \$y$n += ".$change($n).';';
            $sum .= " + \$y$n";
        }
        $lines[] = "\$test = $sum;";
        $lines[] = 'if ($test - $test !== 0.0) { return [$rows, '.$this->listing('$v', $this->constants).', $i, '.$this->listing('$b', $this->stocks).']; }';

        return $lines;
    }

    /** @return list<string> */
    private function equationLines(string $state): array
    {
        $names = $this->names($state);
        $unseen = $this->unseen();
        $lines = [];
        foreach ($this->moving as $id) {
            $variable = '$v'.$this->numbers[$id];
            $lines[] = "$variable = ".Emitter::expression($this->analysis->nodes[$id], $names).';';
            if (isset($unseen[$id])) {
                $lines[] = "\$check += $variable;";
            }
        }

        return $lines;
    }

    /** @return list<string> */
    private function savingLines(string $state): array
    {
        $cells = [];
        foreach ($this->analysis->model->elements as $id => $element) {
            if ($this->analysis->canCompute($id) && ! $element instanceof Parameter && ! isset($this->analysis->constants[$id])) {
                $cells[] = ($element instanceof Stock ? $state : '$v').$this->numbers[$id];
            }
        }

        return [
            'if ($i === $steps || $i % $every === 0) { $rows[] = ['.implode(', ', $cells).']; }',
            'if ($i === $steps) {',
            'if ($check - $check !== 0.0) { return [$rows, '.$this->listing('$v', $this->constants).', $i, '.$this->listing('$y', $this->stocks).']; }',
            'return [$rows, '.$this->listing('$v', $this->constants).', null, '.$this->listing('$y', $this->stocks).'];',
            '}',
        ];
    }

    private function rate(string $stock): string
    {
        $code = '';
        foreach ($this->analysis->model->inflows($stock) as $flow) {
            $code .= ($code === '' ? '' : ' + ').'$v'.$this->numbers[$flow->id];
        }
        foreach ($this->analysis->model->outflows($stock) as $flow) {
            $code .= ($code === '' ? '0.0 - ' : ' - ').'$v'.$this->numbers[$flow->id];
        }

        return $code === '' ? '0.0' : $code;
    }

    /** Whether any equation needs this variable of the loop. */
    private function mentions(string $variable): bool
    {
        return preg_match('/'.preg_quote($variable, '/').'\b/', implode("\n", $this->equationLines('$x'))) === 1;
    }

    /** @return array<string, string> by the key of a name, the variable that holds its value */
    private function names(string $state): array
    {
        $names = [];
        foreach ($this->analysis->model->elements as $id => $element) {
            $names[Name::key($element->name)] = match (true) {
                $element instanceof Parameter => '$p',
                $element instanceof Stock => $state,
                default => '$v',
            }.$this->numbers[$id];
        }

        return $names;
    }

    /**
     * The moving variables whose non-finite values might not reach a stock, and so are tested themselves.
     *
     * @return array<string, true>
     */
    private function unseen(): array
    {
        $seen = [];
        $unseen = [];
        foreach (array_reverse($this->moving) as $id) {
            $element = $this->analysis->model->elements[$id];
            $attached = $element instanceof Flow && array_filter([$element->from, $element->to], fn (?string $s): bool => $s !== null && $this->analysis->canCompute($s)) !== [];
            if (! isset($seen[$id]) && ! $attached) {
                $unseen[$id] = true;
            }
            foreach (OpenUses::keys($this->analysis->nodes[$id]) as $key) {
                $seen[(string) $this->analysis->model->idOf($key)] = true;
            }
        }

        return $unseen;
    }

    /** @param  list<string>  $ids */
    private function listing(string $prefix, array $ids): string
    {
        return '['.implode(', ', array_map(fn (string $id): string => $prefix.$this->numbers[$id], $ids)).']';
    }
}
