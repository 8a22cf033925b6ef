<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Compile;

use MerryOrbit\Core\Formula\Node\Binary;
use MerryOrbit\Core\Formula\Node\Call;
use MerryOrbit\Core\Formula\Node\CurveCall;
use MerryOrbit\Core\Formula\Node\NameUse;
use MerryOrbit\Core\Formula\Node\Negative;
use MerryOrbit\Core\Formula\Node\Node;
use MerryOrbit\Core\Formula\Node\Not;
use MerryOrbit\Core\Formula\Node\NumberLiteral;
use MerryOrbit\Core\Formula\Node\QuantityUse;
use MerryOrbit\Core\Formula\Operator;
use MerryOrbit\Core\Formula\Quantity;
use MerryOrbit\Core\Library\CurveShape;
use MerryOrbit\Core\Library\EvaluationError;
use MerryOrbit\Core\Library\Evaluator;
use MerryOrbit\Core\Library\Moment;
use MerryOrbit\Core\Model\Relation;
use MerryOrbit\Core\Plan\Equation;
use MerryOrbit\Core\Plan\Plan;

/**
 * Writes formulas as PHP statements on local float variables, made from nodes only.
 *
 * A value is *open* when a non-finite result reaches the sum that is tested where values are saved. Elsewhere (under a comparison, in a
 * denominator, inside a function) it could vanish unseen: it is added to that sum as well, or, inside a branch that may not be
 * taken, tested on the spot. A division by zero leaves the function as PHP's own exception.
 */
final class Emitter
{
    private const SIGNALS = '\\MerryOrbit\\Core\\Library\\Signals::';

    private const CHANCE = '\\MerryOrbit\\Core\\Library\\Chance::';

    /** Calls whose result is finite whenever their arguments are. */
    private const BOUNDED = ['sign', 'sin', 'cos', 'atan', 'tanh', 'atan2', 'between', 'abs', 'min', 'max', 'clamp'];

    /** What stands for a result that does not exist. */
    private const FAULT = '\\NAN';

    private const RAISE = '(float) \\MerryOrbit\\Core\\Library\\FaultSignal::raise()';

    private int $temporaries = 0;

    /** How many branches that may not be taken the present node lies in. */
    private int $lazy = 0;

    /** @var list<string> temporaries of this statement that have to be tested */
    private array $closed = [];

    /** @var array<int, bool> by object id of a node */
    private array $steadyNodes = [];

    /**
     * @param  array<string, string>  $variables  by key, the PHP variable that holds its value
     * @param  array<string, true>  $steady  keys that stay the same during a run
     * @param  array<string, Relation>  $curves
     * @param  bool  $later  whether this is a later look within a step, where infinite denominators need not be tested again
     * @param  ?Hoist  $hoist  where sub-expressions go that stay the same during a run; null to leave them in place
     */
    public function __construct(
        private array $variables,
        private readonly array $steady,
        private readonly array $curves,
        private readonly FirstEvents $watches,
        private readonly ?Hoist $hoist = null,
        private readonly bool $curvesInline = true,
        private readonly bool $later = false,
    ) {
    }

    public function rename(string $key, string $variable): void
    {
        $this->variables[$key] = $variable;
    }

    public function variable(string $key): string
    {
        return $this->variables[$key];
    }

    /**
     * A statement that gives the variable its value, and one that adds to the tested sum what could vanish unseen.
     *
     * @return list<string>
     */
    public function assign(string $variable, Node $node): array
    {
        return $this->statement(fn (): string => "$variable = ".$this->value($node, true).';');
    }

    /**
     * @param  \Closure(): string  $code
     * @return list<string>
     */
    private function statement(\Closure $code): array
    {
        $this->temporaries = 0;
        $this->closed = [];
        $this->steadyNodes = [];
        $lines = [$code()];
        if ($this->closed !== []) {
            $lines[] = '$check += '.implode(' + ', $this->closed).';';
        }

        return $lines;
    }

    /**
     * The statement for what is computed at the start of a step only.
     *
     * @return list<string>
     */
    public function kept(string $variable, Equation $equation): array
    {
        $node = $equation->node;
        if (! ($node instanceof Call)) {
            return $this->assign($variable, $node);
        }

        return $this->statement(fn (): string => $this->keptCode($variable, $equation, $node));
    }

    private function keptCode(string $variable, Equation $equation, Call $node): string
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
                var_export($equation->draw, true).
                ", \$i, \$grain$length);";
        }

        return match ($name) {
            'hold' => "$variable = (float) ".self::SIGNALS.'hold('.$this->closedList($a).", $variable, \$begun, \$step, \$i);",
            'latch' => '$holds = '.
                $this->condition($a[0]).
                ' ? 1.0 : 0.0; '.
                "$variable = ".
                $this->condition($a[1]).
                " ? 0.0 : (\$holds > $variable ? \$holds : $variable);",
            'times' => '$holds = '.
                $this->condition($a[0]).
                " ? 1.0 : 0.0; $variable += \$holds > {$variable}h ? 1.0 : 0.0; {$variable}h = \$holds;",
            default => "$variable = ".$this->value($node, true).';',
        };
    }

    /** A condition outside of a statement. */
    public function guardedCondition(Node $node): string
    {
        return $this->lazily(fn (): string => $this->condition($node));
    }

    public function condition(Node $node): string
    {
        if ($node instanceof Not) {
            return '!'.$this->condition($node->operand);
        }
        if ($node instanceof Binary) {
            $symbol = match ($node->operator) {
                Operator::Or => '||',
                Operator::And => '&&',
                Operator::Equal => '==',
                Operator::Unequal => '!=',
                Operator::Less, Operator::AtMost, Operator::Greater, Operator::AtLeast => $node->operator->value,
                default => null,
            };
            if ($symbol === '||' || $symbol === '&&') {
                return '('.
                    $this->condition($node->left).
                    " $symbol ".
                    $this->lazily(fn (): string => $this->condition($node->right)).
                    ')';
            }
            if ($symbol !== null) {
                return '('.$this->value($node->left, false)." $symbol ".$this->value($node->right, false).')';
            }
        }

        return '('.$this->value($node, false).' != 0.0)';
    }

    /** @param  \Closure(): string  $code */
    private function lazily(\Closure $code): string
    {
        $this->lazy++;
        try {
            return $code();
        } finally {
            $this->lazy--;
        }
    }

    private function branch(Node $node): string
    {
        return $this->lazily(fn (): string => $this->value($node, true));
    }

    private function value(Node $node, bool $open): string
    {
        $hoisted = $this->hoisted($node);
        if ($hoisted !== null) {
            return $hoisted;
        }
        $code = match (true) {
            $node instanceof NumberLiteral => self::literal($node->value),
            $node instanceof NameUse => $this->variables[$node->key],
            $node instanceof QuantityUse => $this->quantity($node->quantity),
            $node instanceof Negative => '(-1.0 * '.$this->value($node->operand, true).')',
            $node instanceof Not => '('.$this->condition($node->operand).' ? 0.0 : 1.0)',
            $node instanceof Binary => $this->binary($node),
            $node instanceof CurveCall => $this->curve($node),
            $node instanceof Call => $this->call($node),
            default => throw new \LogicException('No way to compile '.$node::class),
        };
        if ($open || ! self::canOverflow($node)) {
            return $code;
        }
        $m = $this->temporary();
        if ($this->lazy > 0) {
            return "(($m = $code) - $m === 0.0 ? $m : ".self::RAISE.')';
        }
        $this->closed[] = $m;

        return "($m = $code)";
    }

    public static function literal(float $value): string
    {
        return var_export($value, true);
    }

    /** @param  array<string>  $codes */
    public static function listing(array $codes): string
    {
        return '['.implode(', ', $codes).']';
    }

    /** A literal or variable for what stays the same during a run; null for what does not, or might not be needed. */
    private function hoisted(Node $node): ?string
    {
        if (
            $this->hoist === null ||
            $this->lazy > 0 ||
            $node instanceof NameUse ||
            $node instanceof NumberLiteral ||
            $node instanceof QuantityUse ||
            ! $this->isSteady($node)
        ) {
            return null;
        }
        if (Plan::keys($node) === [] && ! self::mentionsQuantity($node)) {
            try {
                return self::literal(
                    (new Evaluator([], new Moment(new \MerryOrbit\Core\Model\TimeSettings()), $this->curves))->value($node),
                );
            } catch (EvaluationError) {
                // It is met when the run starts.
            }
        }
        $plain = new self($this->variables, $this->steady, $this->curves, $this->watches, null, $this->curvesInline, $this->later);

        return $this->hoist->variable($plain->assign('', $node));
    }

    private static function mentionsQuantity(Node $node): bool
    {
        if ($node instanceof QuantityUse) {
            return $node->quantity !== Quantity::Pi;
        }
        foreach ($node->parts() as $part) {
            if (self::mentionsQuantity($part)) {
                return true;
            }
        }

        return false;
    }

    private function isSteady(Node $node): bool
    {
        $id = spl_object_id($node);
        if (isset($this->steadyNodes[$id])) {
            return $this->steadyNodes[$id];
        }
        $steady = match (true) {
            $node instanceof NameUse => isset($this->steady[$node->key]),
            $node instanceof QuantityUse => $node->quantity->isConstant(),
            $node instanceof Call => $node->function->isTimeless(),
            default => true,
        };
        foreach ($steady ? $node->parts() : [] as $part) {
            $steady = $steady && $this->isSteady($part);
        }

        return $this->steadyNodes[$id] = $steady;
    }

    private static function canOverflow(Node $node): bool
    {
        return match (true) {
            $node instanceof Binary => in_array(
                $node->operator,
                [Operator::Add, Operator::Subtract, Operator::Multiply, Operator::Divide, Operator::Power],
                true,
            ),
            $node instanceof Negative => self::canOverflow($node->operand),
            $node instanceof Call => ! in_array($node->function->name, self::BOUNDED, true),
            $node instanceof CurveCall => true,
            default => false,
        };
    }

    private function temporary(): string
    {
        return '$m'.$this->temporaries++;
    }

    private function quantity(Quantity $quantity): string
    {
        return match ($quantity) {
            Quantity::Time => '$t',
            Quantity::TimeStep => '$step',
            Quantity::StartTime => '$start',
            Quantity::EndTime => '$end',
            Quantity::Pi => self::literal(M_PI),
        };
    }

    private function binary(Binary $node): string
    {
        $symbol = $node->operator->value;

        return match ($node->operator) {
            Operator::Add, Operator::Subtract, Operator::Multiply => '('.
                $this->value($node->left, true).
                " $symbol ".
                $this->value($node->right, true).
                ')',
            Operator::Divide => '('.$this->value($node->left, true).' / '.$this->value($node->right, $this->later).')',
            Operator::Power => $this->power($node->left, $node->right),
            default => '('.$this->condition($node).' ? 1.0 : 0.0)',
        };
    }

    private function power(Node $base, Node $exponent): string
    {
        $times = $exponent instanceof NumberLiteral ? $exponent->value : 0.0;
        if (in_array($times, [2.0, 3.0, 4.0], true)) {
            [$first, $x] = $this->once($base, true);

            return "($first".str_repeat(" * $x", (int) $times - 1).')';
        }

        return '('.$this->value($base, false).' ** '.$this->value($exponent, false).')';
    }

    private function call(Call $node): string
    {
        $a = $node->arguments;
        $name = $node->function->name;

        return match ($name) {
            'if' => '('.$this->condition($a[0]).' ? '.$this->branch($a[1]).' : '.$this->branch($a[2]).')',
            'choose' => $this->choose($a),
            'divide' => $this->with(
                $a[1],
                fn (string $first, string $b): string => "($first != 0.0 ? ".
                    $this->branch($a[0]).
                    " / $b : ".
                    $this->branch($a[2]).
                    ')',
            ),
            'between' => $this->with(
                $a[0],
                fn (string $first, string $x): string => "((($first >= ".
                    $this->value($a[1], false).
                    ") & ($x <= ".
                    $this->value($a[2], false).
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
            'shift' => '(float) '.$this->value($a[1], true).'->at($t, '.$this->value($a[0], false).')',
            'highest' => $this->least([$a[0], $a[1]], '>'),
            'lowest' => $this->least([$a[0], $a[1]], '<'),
            // Only choices leave arguments uncomputed: everywhere else all are, hence `&` and the products.
            'step' => '(('.$this->value($a[1], false).' - $start <= $begun ? 1.0 : 0.0) * '.$this->value($a[0], true).')',
            'window' => isset($a[3])
                ? '('.
                    $this->value($a[0], true).
                    ' * (float) '.
                    self::SIGNALS.
                    'repeats('.
                    $this->closedList(array_slice($a, 1)).
                    ', $start, $begun))'
                : '(((('.
                    $this->value($a[1], false).
                    ' - $start <= $begun) & ('.
                    $this->value($a[2], false).
                    ' - $start > $begun)) === 1 ? 1.0 : 0.0) * '.
                    $this->value($a[0], true).
                    ')',
            'ramp' => '(float) '.self::SIGNALS.'ramp('.$this->closedList($a).(count($a) === 2 ? ', $end' : '').', $t)',
            'wave' => $this->wave($a),
            'pulse' => '(float) '.
                self::SIGNALS.
                'pulse('.
                $this->closedList(array_slice($a, 0, 2)).
                ', '.
                (isset($a[2]) ? self::SIGNALS.'every('.$this->value($a[2], false).')' : '0.0').
                ', '.
                (isset($a[3]) ? $this->value($a[3], false) : '$end').
                ', $start, $begun, $step)',
            default => throw new \LogicException("No way to compile the function $name"),
        };
    }

    /** @param  list<Node>  $arguments */
    private function closedList(array $arguments): string
    {
        return implode(', ', array_map(fn (Node $n): string => $this->value($n, false), $arguments));
    }

    /**
     * Code that mentions a value more than once and computes it once.
     *
     * @param  \Closure(string, string): string  $code  from the first mention and all later ones
     */
    private function with(Node $node, \Closure $code): string
    {
        return $code(...$this->once($node));
    }

    /** @return array{string, string} the code for the first mention, and for all later ones */
    private function once(Node $node, bool $open = false): array
    {
        $code = $this->value($node, $open);
        if (preg_match('/^(?:\$\w+|[\d.E+-]+)$/D', $code) === 1) {
            return [$code, $code];
        }
        if (preg_match('/^\((\$m\d+) = /', $code, $m) === 1 && end($this->closed) === $m[1]) {
            return [$code, $m[1]];
        }
        $m = $this->temporary();

        return ["($m = $code)", $m];
    }

    /** @param  list<Node>  $a */
    private function choose(array $a): string
    {
        $m = $this->temporary();
        $code = '';
        foreach (array_slice($a, 1) as $i => $choice) {
            $tested = $i === 0 ? "($m = \\floor(".$this->value($a[0], false).' + 0.5))' : $m;
            $code .= "($tested == ".($i + 1).'.0 ? '.$this->branch($choice).' : ';
        }

        return $code.self::FAULT.str_repeat(')', count($a) - 1);
    }

    /** @param  list<Node>  $a */
    private function least(array $a, string $sign): string
    {
        [$first, $x] = $this->once($a[0]);
        foreach (array_slice($a, 1) as $i => $node) {
            [$second, $y] = $this->once($node);
            $code = "($first $sign $second ? $x : $y)";
            if ($i + 2 === count($a)) {
                return $code;
            }
            $x = $this->temporary();
            $first = "($x = $code)";
        }

        return $first;
    }

    /** @param  list<Node>  $a */
    private function clamp(array $a): string
    {
        [$first, $x] = $this->once($a[0]);
        [$low, $l] = $this->once($a[1]);
        [$high, $h] = $this->once($a[2]);
        $raised = $this->temporary();

        return "(($raised = ($first > $low ? $x : $l)) < $high ? $raised : $h)";
    }

    /** @param  list<Node>  $a */
    private function wave(array $a): string
    {
        $shift = isset($a[2]) ? '($t - '.$this->value($a[2], false).')' : '$t';

        return '('.
            $this->value($a[0], true).
            ' * \\sin('.
            self::literal(2.0 * M_PI).
            " * $shift / ".
            $this->value($a[1], false).
            '))';
    }

    private function curve(CurveCall $node): string
    {
        [$first, $x] = $this->once($node->argument);
        $code = new CurveCode(CurveShape::of($this->curves[$node->key]), $this->watches->leaf('curve', $node->key));

        return $this->curvesInline && $code->fitsInline() ? $code->tree($first, $x) : $code->call($first, $x, $this->watches);
    }
}
