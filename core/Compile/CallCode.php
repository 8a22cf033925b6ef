<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Compile;

use MerryOrbit\Core\Formula\Node\Call;
use MerryOrbit\Core\Formula\Node\CurveCall;
use MerryOrbit\Core\Formula\Node\Node;
use MerryOrbit\Core\Library\CurveShape;
use MerryOrbit\Core\Model\Relation;
use MerryOrbit\Core\Plan\Equation;

/** Writes the functions of the language and calls of curves; an emitter writes their arguments. */
final readonly class CallCode
{
    private const SIGNALS = '\\MerryOrbit\\Core\\Library\\Signals::';

    private const CHANCE = '\\MerryOrbit\\Core\\Library\\Chance::';

    /** What stands for a result that does not exist. */
    private const FAULT = '\\NAN';

    /** @param  array<string, Relation>  $curves */
    public function __construct(
        private Emitter $emitter,
        private array $curves,
        private FirstEvents $watches,
        private bool $curvesInline,
    ) {
    }

    public function kept(string $variable, Equation $equation, Call $node, ?string $draw): string
    {
        $a = $node->arguments;
        $name = $node->function->name;
        if ($equation->draw !== null) {
            $before = $name === 'drift' ? "$variable, " : '';
            $length = in_array($name, ['drift', 'poisson'], true) ? ', $step' : '';

            return "$variable = (float) ".
                self::CHANCE.
                "$name($before".
                $this->closedList($a).
                ', $seed, '.
                ($draw ?? var_export($equation->draw, true)).
                ", \$i, \$grain$length);";
        }

        return match ($name) {
            'hold' => "$variable = (float) ".self::SIGNALS.'hold('.$this->closedList($a).", $variable, \$begun, \$step, \$i);",
            'latch' => '$holds = '.
                $this->emitter->condition($a[0]).
                ' ? 1.0 : 0.0; '.
                "$variable = ".
                $this->emitter->condition($a[1]).
                " ? 0.0 : (\$holds > $variable ? \$holds : $variable);",
            'times' => '$holds = '.
                $this->emitter->condition($a[0]).
                ' ? 1.0 : 0.0; '.
                $this->counting($variable, $this->emitter->variable($equation->key.'h')),
            default => "$variable = ".$this->emitter->value($node, true).';',
        };
    }

    private function counting(string $variable, string $before): string
    {
        return "$variable += \$holds > $before ? 1.0 : 0.0; $before = \$holds;";
    }

    public function call(Call $node): string
    {
        $a = $node->arguments;
        $name = $node->function->name;

        return match ($name) {
            'if' => '('.$this->emitter->condition($a[0]).' ? '.$this->emitter->branch($a[1]).' : '.$this->emitter->branch($a[2]).')',
            'choose' => $this->choose($a),
            'divide' => $this->with(
                $a[1],
                fn (string $first, string $b): string => "($first != 0.0 ? ".
                    $this->emitter->branch($a[0]).
                    " / $b : ".
                    $this->emitter->branch($a[2]).
                    ')',
            ),
            'between' => $this->with(
                $a[0],
                fn (string $first, string $x): string => "((($first >= ".
                    $this->emitter->value($a[1], false).
                    ") & ($x <= ".
                    $this->emitter->value($a[2], false).
                    ')) === 1 ? 1.0 : 0.0)',
            ),
            'abs' => $this->with($a[0], static fn (string $first, string $x): string => "($first < 0.0 ? -1.0 * $x : $x)"),
            'sign' => $this->with($a[0], static fn (string $first, string $x): string => "($first > 0.0 ? 1.0 : ($x < 0.0 ? -1.0 : 0.0))"),
            'trunc' => $this->with($a[0], static fn (string $first, string $x): string => "($first < 0.0 ? \\ceil($x) : \\floor($x))"),
            'ln' => '\\log('.$this->closedList($a).')',
            'sqrt',
            'log10',
            'asin',
            'acos',
            'exp',
            'floor',
            'ceil',
            'sin',
            'cos',
            'tan',
            'atan',
            'sinh',
            'cosh',
            'tanh',
            'atan2' => "\\$name(".$this->closedList($a).')',
            'round' => '(float) '.self::SIGNALS.'round('.$this->closedList($a).(count($a) === 1 ? ', 0.0' : '').')',
            'mod' => $this->with(
                $a[0],
                fn (string $first, string $x): string => $this->with(
                    $a[1],
                    static fn (string $second, string $y): string => "($first - $second * \\floor($x / $y))",
                ),
            ),
            'min' => $this->least($a, '<'),
            'max' => $this->least($a, '>'),
            'clamp' => $this->clamp($a),
            'shift' => '(float) '.$this->emitter->value($a[1], true).'->at($t, '.$this->emitter->value($a[0], false).')',
            'highest' => $this->least([$a[0], $a[1]], '>'),
            'lowest' => $this->least([$a[0], $a[1]], '<'),
            // Only choices leave arguments uncomputed: everywhere else all are, hence `&` and the products.
            'step' => '(('.$this->emitter->value($a[1], false).' - $start <= $begun ? 1.0 : 0.0) * '.$this->emitter->value($a[0], true).')',
            'window' => isset($a[3])
                ? '('.
                    $this->emitter->value($a[0], true).
                    ' * (float) '.
                    self::SIGNALS.
                    'repeats('.
                    $this->closedList(array_slice($a, 1)).
                    ', $start, $begun))'
                : '(((('.
                    $this->emitter->value($a[1], false).
                    ' - $start <= $begun) & ('.
                    $this->emitter->value($a[2], false).
                    ' - $start > $begun)) === 1 ? 1.0 : 0.0) * '.
                    $this->emitter->value($a[0], true).
                    ')',
            'ramp' => '(float) '.self::SIGNALS.'ramp('.$this->closedList($a).(count($a) === 2 ? ', $end' : '').', $t)',
            'wave' => $this->wave($a),
            'pulse' => '(float) '.
                self::SIGNALS.
                'pulse('.
                $this->closedList(array_slice($a, 0, 2)).
                ', '.
                (isset($a[2]) ? self::SIGNALS.'every('.$this->emitter->value($a[2], false).')' : '0.0').
                ', '.
                (isset($a[3]) ? $this->emitter->value($a[3], false) : '$end').
                ', $start, $begun, $step)',
            default => throw new \LogicException("No way to compile the function $name"),
        };
    }

    /** @param  list<Node>  $a */
    private function choose(array $a): string
    {
        $m = $this->emitter->temporary();
        $code = '';
        foreach (array_slice($a, 1) as $i => $choice) {
            $tested = $i === 0 ? "($m = \\floor(".$this->emitter->value($a[0], false).' + 0.5))' : $m;
            $code .= "($tested == ".($i + 1).'.0 ? '.$this->emitter->branch($choice).' : ';
        }

        return $code.self::FAULT.str_repeat(')', count($a) - 1);
    }

    /** @param  list<Node>  $a */
    private function least(array $a, string $sign): string
    {
        [$first, $x] = $this->emitter->once($a[0]);
        foreach (array_slice($a, 1) as $i => $node) {
            [$second, $y] = $this->emitter->once($node);
            $code = "($first $sign $second ? $x : $y)";
            if ($i + 2 === count($a)) {
                return $code;
            }
            $x = $this->emitter->temporary();
            $first = "($x = $code)";
        }

        return $first;
    }

    /** @param  list<Node>  $a */
    private function clamp(array $a): string
    {
        [$first, $x] = $this->emitter->once($a[0]);
        [$low, $l] = $this->emitter->once($a[1]);
        [$high, $h] = $this->emitter->once($a[2]);
        $raised = $this->emitter->temporary();

        return "(($raised = ($first > $low ? $x : $l)) < $high ? $raised : $h)";
    }

    /** @param  list<Node>  $a */
    private function wave(array $a): string
    {
        $shift = isset($a[2]) ? '($t - '.$this->emitter->value($a[2], false).')' : '$t';

        return '('.
            $this->emitter->value($a[0], true).
            ' * \\sin('.
            Emitter::literal(2.0 * M_PI).
            " * $shift / ".
            $this->emitter->value($a[1], false).
            '))';
    }

    public function curve(CurveCall $node): string
    {
        [$first, $x] = $this->emitter->once($node->argument);
        $code = new CurveCode(CurveShape::of($this->curves[$node->key]), $this->watches->leaf('curve', $node->key));

        return $this->curvesInline && $code->fitsInline() ? $code->tree($first, $x) : $code->call($first, $x, $this->watches);
    }

    /** @param  list<Node>  $arguments */
    private function closedList(array $arguments): string
    {
        return implode(', ', array_map(fn (Node $n): string => $this->emitter->value($n, false), $arguments));
    }

    /**
     * Code that mentions a value more than once and computes it once.
     *
     * @param  \Closure(string, string): string  $code  from the first mention and all later ones
     */
    private function with(Node $node, \Closure $code): string
    {
        return $code(...$this->emitter->once($node));
    }
}
