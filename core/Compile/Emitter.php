<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Compile;

use MerryOrbit\Core\Formula\Node\Binary;
use MerryOrbit\Core\Formula\Node\Call;
use MerryOrbit\Core\Formula\Node\NameUse;
use MerryOrbit\Core\Formula\Node\Negative;
use MerryOrbit\Core\Formula\Node\Node;
use MerryOrbit\Core\Formula\Node\Not;
use MerryOrbit\Core\Formula\Node\NumberLiteral;
use MerryOrbit\Core\Formula\Node\QuantityUse;
use MerryOrbit\Core\Formula\Operator;
use MerryOrbit\Core\Formula\Quantity;

/**
 * Writes one formula as a PHP expression on local float variables, made from nodes only.
 *
 * A value is *open* when a non-finite result reaches the sum that is tested in every step; elsewhere (under a
 * comparison, in a denominator, inside a function) it could vanish unseen and is tested on the spot.
 */
final class Emitter
{
    private const SIGNALS = '\\MerryOrbit\\Core\\Compile\\Signals::';

    /** Calls whose result is finite whenever their arguments are. */
    private const BOUNDED = ['sign', 'sin', 'cos', 'atan', 'tanh', 'atan2', 'between'];

    /**
     * What stands for a result that does not exist. It must be a plain value: a variable that is assigned in one branch,
     * with a call in the other, was seen to come out wrong under the JIT's register allocation (PHP 8.2.36).
     */
    private const FAULT = '\\NAN';

    private const RAISE = '(float) \\MerryOrbit\\Core\\Compile\\FaultSignal::raise($i)';

    private int $temporaries = 0;

    /** @param  array<string, string>  $variables by the key of a name, the PHP variable that holds its value */
    private function __construct(private readonly array $variables)
    {
    }

    /** @param  array<string, string>  $variables */
    public static function expression(Node $node, array $variables): string
    {
        return (new self($variables))->value($node, true);
    }

    private function value(Node $node, bool $open): string
    {
        $code = match (true) {
            $node instanceof NumberLiteral => var_export($node->value, true),
            $node instanceof NameUse => $this->variables[$node->key],
            $node instanceof QuantityUse => $this->quantity($node->quantity),
            $node instanceof Negative => '(-1.0 * '.$this->value($node->operand, true).')',
            $node instanceof Not => '('.$this->condition($node->operand).' ? 0.0 : 1.0)',
            $node instanceof Binary => $this->binary($node),
            $node instanceof Call => $this->call($node),
            default => throw new \LogicException('No way to compile '.$node::class),
        };
        if ($open || ! self::canOverflow($node)) {
            return $code;
        }
        $m = $this->temporary();

        return "(($m = $code) - $m === 0.0 ? $m : ".self::RAISE.')';
    }

    private static function canOverflow(Node $node): bool
    {
        return match (true) {
            $node instanceof Binary => in_array($node->operator, [Operator::Add, Operator::Subtract, Operator::Multiply, Operator::Divide, Operator::Power], true),
            $node instanceof Negative => self::canOverflow($node->operand),
            $node instanceof Call => ! in_array($node->function->name, self::BOUNDED, true),
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
            Quantity::Pi => var_export(M_PI, true),
        };
    }

    private function binary(Binary $node): string
    {
        $symbol = $node->operator->value;
        switch ($node->operator) {
            case Operator::Add:
            case Operator::Subtract:
            case Operator::Multiply:
                return '('.$this->value($node->left, true)." $symbol ".$this->value($node->right, true).')';
            case Operator::Divide:
                return $this->division($node->left, $node->right);
            case Operator::Power:
                return $this->power($node->left, $node->right);
            default:
                return '('.$this->condition($node).' ? 1.0 : 0.0)';
        }
    }

    private function division(Node $above, Node $below): string
    {
        if ($below instanceof NumberLiteral && $below->value != 0.0) {
            return '('.$this->value($above, true).' / '.$this->value($below, true).')';
        }

        return $this->guarded($below, fn (string $b): string => "$b != 0.0", fn (string $b): string => $this->value($above, true)." / $b", self::FAULT);
    }

    /** A PHP condition that is true where the value is not zero. */
    private function condition(Node $node): string
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
                return '('.$this->condition($node->left)." $symbol ".$this->condition($node->right).')';
            }
            if ($symbol !== null) {
                return '('.$this->value($node->left, false)." $symbol ".$this->value($node->right, false).')';
            }
        }

        return '('.$this->value($node, false).' != 0.0)';
    }

    private function power(Node $base, Node $exponent): string
    {
        $times = $exponent instanceof NumberLiteral ? $exponent->value : 0.0;
        if (in_array($times, [2.0, 3.0, 4.0], true)) {
            $m = $base instanceof NameUse ? $this->variables[$base->key] : $this->temporary();
            $first = $base instanceof NameUse ? $m : "($m = ".$this->value($base, true).')';

            return "($first".str_repeat(" * $m", (int) $times - 1).')';
        }
        $m = $this->temporary();

        return "(($m = ".$this->value($base, false).' ** '.$this->value($exponent, false).") - $m === 0.0 ? $m : ".self::FAULT.')';
    }

    private function call(Call $node): string
    {
        $a = $node->arguments;
        $name = $node->function->name;

        return match ($name) {
            'if' => '('.$this->condition($a[0]).' ? '.$this->value($a[1], true).' : '.$this->value($a[2], true).')',
            'choose' => $this->choose($a),
            'divide' => $this->guarded($a[1], fn (string $b): string => "$b != 0.0", fn (string $b): string => $this->value($a[0], true)." / $b", $this->value($a[2], true)),
            'between' => $this->between($a),
            'abs' => $this->guarded($a[0], fn (string $x): string => "$x < 0.0", fn (string $x): string => "-1.0 * $x"),
            'sign' => $this->guarded($a[0], fn (string $x): string => "$x > 0.0", fn (string $x): string => '1.0', fn (string $x): string => "($x < 0.0 ? -1.0 : 0.0)"),
            'trunc' => $this->guarded($a[0], fn (string $x): string => "$x < 0.0", fn (string $x): string => "\\ceil($x)", fn (string $x): string => "\\floor($x)"),
            'sqrt' => $this->guarded($a[0], fn (string $x): string => "$x >= 0.0", fn (string $x): string => "\\sqrt($x)", self::FAULT),
            'ln' => $this->guarded($a[0], fn (string $x): string => "$x > 0.0", fn (string $x): string => "\\log($x)", self::FAULT),
            'log10' => $this->guarded($a[0], fn (string $x): string => "$x > 0.0", fn (string $x): string => "\\log10($x)", self::FAULT),
            'asin', 'acos' => $this->guarded($a[0], fn (string $x): string => "($x >= -1.0 && $x <= 1.0)", fn (string $x): string => "\\$name($x)", self::FAULT),
            'exp', 'floor', 'ceil', 'sin', 'cos', 'tan', 'atan', 'sinh', 'cosh', 'tanh', 'atan2' => "\\$name(".$this->closed($a).')',
            'round' => '(float) '.self::SIGNALS.'round('.$this->closed($a).(count($a) === 1 ? ', 0.0' : '').')',
            'mod' => $this->mod($a),
            'min' => $this->least($a, '<'),
            'max' => $this->least($a, '>'),
            'clamp' => $this->clamp($a),
            // Only choices leave arguments uncomputed: everywhere else all are, hence `&` and the products.
            'step' => '(('.$this->value($a[1], false).' - $start <= $begun ? 1.0 : 0.0) * '.$this->value($a[0], true).')',
            'window' => '(((('.$this->value($a[1], false).' - $start <= $begun) & ('.$this->value($a[2], false).' - $start > $begun)) === 1 ? 1.0 : 0.0) * '.$this->value($a[0], true).')',
            'ramp' => '(float) '.self::SIGNALS.'ramp('.$this->closed($a).(count($a) === 2 ? ', $end' : '').', $t)',
            'wave' => $this->wave($a),
            'pulse' => $this->pulse($a),
            default => throw new \LogicException("No way to compile the function $name"),
        };
    }

    /** @param  list<Node>  $arguments */
    private function closed(array $arguments): string
    {
        return implode(', ', array_map(fn (Node $n): string => $this->value($n, false), $arguments));
    }

    /**
     * `(test(x) ? then(x) : otherwise(x))` with x computed once.
     *
     * @param  \Closure(string): string  $test
     * @param  \Closure(string): string  $then
     * @param  string|(\Closure(string): string)|null  $otherwise  null: x itself
     */
    private function guarded(Node $node, \Closure $test, \Closure $then, string|\Closure|null $otherwise = null): string
    {
        [$first, $x] = $this->once($node);
        // The first mention in the test computes it.
        $code = $first === $x ? $test($x) : preg_replace('/'.preg_quote($x, '/').'(?!\d)/', str_replace('$', '\\$', $first), $test($x), 1);
        $else = match (true) {
            $otherwise === null => $x,
            is_string($otherwise) => $otherwise,
            default => $otherwise($x),
        };

        return "($code ? ".$then($x)." : $else)";
    }

    /** @return array{string, string} the code for the first mention, and for all later ones */
    private function once(Node $node): array
    {
        $code = $this->value($node, false);
        if (preg_match('/^(?:\$\w+|[\d.E+-]+)$/D', $code) === 1) {
            return [$code, $code];
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
            $code .= "($tested == ".($i + 1).'.0 ? '.$this->value($choice, true).' : ';
        }

        return $code.self::FAULT.str_repeat(')', count($a) - 1);
    }

    /** @param  list<Node>  $a */
    private function between(array $a): string
    {
        [$first, $x] = $this->once($a[0]);

        return "((($first >= ".$this->value($a[1], false).") & ($x <= ".$this->value($a[2], false).')) === 1 ? 1.0 : 0.0)';
    }

    /** @param  list<Node>  $a */
    private function mod(array $a): string
    {
        [$first, $x] = $this->once($a[0]);

        return $this->guarded($a[1], fn (string $y): string => "$y != 0.0", fn (string $y): string => "$first - $y * \\floor($x / $y)", self::FAULT);
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

        $turn = var_export(2.0 * M_PI, true);

        return $this->guarded($a[1], fn (string $period): string => "$period != 0.0", fn (string $period): string => $this->value($a[0], true)." * \\sin($turn * $shift / $period)", self::FAULT);
    }

    /** @param  list<Node>  $a */
    private function pulse(array $a): string
    {
        $call = fn (string $every): string => '(float) '.self::SIGNALS.'pulse('.$this->closed(array_slice($a, 0, 2)).", $every, ".(isset($a[3]) ? $this->value($a[3], false) : '$end').', $start, $begun, $step)';

        return isset($a[2]) ? $this->guarded($a[2], fn (string $every): string => "$every > 0.0", $call, self::FAULT) : $call('0.0');
    }
}
