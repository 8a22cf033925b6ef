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
    /** Calls whose result is finite whenever their arguments are. */
    private const BOUNDED = ['sign', 'sin', 'cos', 'atan', 'tanh', 'atan2', 'between', 'abs', 'min', 'max', 'clamp'];

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

    /** Made anew each time: two that hold each other would stay in memory. */
    private function calls(): CallCode
    {
        return new CallCode($this, $this->curves, $this->watches, $this->curvesInline);
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
     * @param  ?string  $draw  code for which draw it is, if it is another for every element
     * @return list<string>
     */
    public function kept(string $variable, Equation $equation, ?string $draw = null): array
    {
        $node = $equation->node;
        if (! ($node instanceof Call)) {
            return $this->assign($variable, $node);
        }

        return $this->statement(fn (): string => $this->calls()->kept($variable, $equation, $node, $draw));
    }

    /** A condition outside of a statement. */
    public function guardedCondition(Node $node): string
    {
        return $this->lazily(fn (): string => $this->condition($node));
    }

    public function condition(Node $node): string
    {
        if ($node instanceof Code && $node->isCondition) {
            return "($node->text)";
        }
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

    public function branch(Node $node): string
    {
        return $this->lazily(fn (): string => $this->value($node, true));
    }

    public function value(Node $node, bool $open): string
    {
        $hoisted = $this->hoisted($node);
        if ($hoisted !== null) {
            return $hoisted;
        }
        $code = match (true) {
            $node instanceof NumberLiteral => self::literal($node->value),
            $node instanceof NameUse => $this->variables[$node->key],
            $node instanceof Code => $node->isCondition ? "($node->text ? 1.0 : 0.0)" : $node->text,
            $node instanceof QuantityUse => $this->quantity($node->quantity),
            $node instanceof Negative => '(-1.0 * '.$this->value($node->operand, true).')',
            $node instanceof Not => '('.$this->condition($node->operand).' ? 0.0 : 1.0)',
            $node instanceof Binary => $this->binary($node),
            $node instanceof CurveCall => $this->calls()->curve($node),
            $node instanceof Call => $this->calls()->call($node),
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
            $node instanceof Code ||
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
            $node instanceof Code => false,
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

    public function temporary(): string
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

    /** @return array{string, string} the code for the first mention, and for all later ones */
    public function once(Node $node, bool $open = false): array
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
}
