<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Library;

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
use MerryOrbit\Core\Model\Relation;

/**
 * Computes one formula by walking its nodes, checking every operation. Slow and plain: it finds the culprit when
 * compiled code meets a number it cannot go on with, and tests compare compiled code with it.
 */
final readonly class Evaluator
{
    /**
     * @param  array<string, float>  $values  by the keys that names have in a plan
     * @param  array<string, Relation>  $curves  by id
     */
    public function __construct(private array $values, private Moment $moment, private array $curves = [])
    {
    }

    /** @throws EvaluationError */
    public function value(Node $node): float
    {
        $value = match (true) {
            $node instanceof NumberLiteral => $node->value,
            $node instanceof NameUse => $this->values[$node->key] ?? throw new EvaluationError("`{$node->written}` has no value here"),
            $node instanceof QuantityUse => $this->quantity($node->quantity),
            $node instanceof Negative => -$this->value($node->operand),
            $node instanceof Not => $this->holds($node->operand) ? 0.0 : 1.0,
            $node instanceof Binary => $this->binary($node),
            $node instanceof CurveCall => CurveShape::of($this->curves[$node->key])->value($this->value($node->argument)),
            $node instanceof Call => $this->call($node),
            default => throw new \LogicException('No way to evaluate '.$node::class),
        };
        if (! is_finite($value)) {
            throw new EvaluationError('a result larger than the largest number that can be computed with');
        }

        return $value;
    }

    public function holds(Node $node): bool
    {
        return $this->value($node) != 0.0;
    }

    private function quantity(Quantity $quantity): float
    {
        return match ($quantity) {
            Quantity::Time => $this->moment->time,
            Quantity::TimeStep => $this->moment->settings->step,
            Quantity::StartTime => $this->moment->settings->start,
            Quantity::EndTime => $this->moment->settings->end,
            Quantity::Pi => M_PI,
        };
    }

    private function binary(Binary $node): float
    {
        if ($node->operator === Operator::And) {
            return $this->holds($node->left) && $this->holds($node->right) ? 1.0 : 0.0;
        }
        if ($node->operator === Operator::Or) {
            return $this->holds($node->left) || $this->holds($node->right) ? 1.0 : 0.0;
        }
        $a = $this->value($node->left);
        $b = $this->value($node->right);

        return match ($node->operator) {
            Operator::Add => $a + $b,
            Operator::Subtract => $a - $b,
            Operator::Multiply => $a * $b,
            Operator::Divide => $b == 0.0 ? throw new EvaluationError('a division by zero') : $a / $b,
            Operator::Power => self::power($a, $b),
            Operator::Equal => $a == $b ? 1.0 : 0.0,
            Operator::Unequal => $a != $b ? 1.0 : 0.0,
            Operator::Less => $a < $b ? 1.0 : 0.0,
            Operator::AtMost => $a <= $b ? 1.0 : 0.0,
            Operator::Greater => $a > $b ? 1.0 : 0.0,
            Operator::AtLeast => $a >= $b ? 1.0 : 0.0,
        };
    }

    private static function power(float $a, float $b): float
    {
        if ($a == 0.0 && $b < 0.0) {
            throw new EvaluationError('zero to a negative power');
        }
        $value = $a ** $b;
        if (is_nan($value)) {
            throw new EvaluationError('a negative number to a power that is not whole');
        }

        return $value;
    }

    private function call(Call $node): float
    {
        $name = $node->function->name;
        $part = $node->arguments;
        // In these only what is chosen is computed.
        switch ($name) {
            case 'if':
                return $this->value($this->holds($part[0]) ? $part[1] : $part[2]);
            case 'divide':
                $b = $this->value($part[1]);

                return $b == 0.0 ? $this->value($part[2]) : $this->value($part[0]) / $b;
            case 'choose':
                $n = (int) floor($this->value($part[0]) + 0.5);
                if ($n < 1 || ! isset($part[$n])) {
                    throw new EvaluationError("`choose` asked for number $n of ".(count($part) - 1));
                }

                return $this->value($part[$n]);
        }
        $x = array_map($this->value(...), $part);
        $m = $this->moment;
        $start = $m->settings->start;

        return match ($name) {
            'abs' => abs($x[0]),
            'sign' => (float) ($x[0] <=> 0.0),
            'sqrt' => $x[0] < 0.0 ? throw new EvaluationError('the square root of a negative number') : sqrt($x[0]),
            'exp' => exp($x[0]),
            'ln' => $x[0] <= 0.0 ? throw new EvaluationError('the logarithm of a number that is not above zero') : log($x[0]),
            'log10' => $x[0] <= 0.0 ? throw new EvaluationError('the logarithm of a number that is not above zero') : log10($x[0]),
            'floor' => floor($x[0]),
            'ceil' => ceil($x[0]),
            'trunc' => $x[0] < 0.0 ? ceil($x[0]) : floor($x[0]),
            'round' => Signals::round($x[0], $x[1] ?? 0.0),
            'min' => min([$x[0], ...$x]),
            'max' => max([$x[0], ...$x]),
            'mod' => $x[1] == 0.0 ? throw new EvaluationError('`mod` by zero') : $x[0] - $x[1] * floor($x[0] / $x[1]),
            'clamp' => min(max($x[0], $x[1]), $x[2]),
            'sin' => sin($x[0]),
            'cos' => cos($x[0]),
            'tan' => tan($x[0]),
            'asin' => abs($x[0]) > 1.0 ? throw new EvaluationError('`asin` of a number outside -1 to 1') : asin($x[0]),
            'acos' => abs($x[0]) > 1.0 ? throw new EvaluationError('`acos` of a number outside -1 to 1') : acos($x[0]),
            'atan' => atan($x[0]),
            'sinh' => sinh($x[0]),
            'cosh' => cosh($x[0]),
            'tanh' => tanh($x[0]),
            'atan2' => atan2($x[0], $x[1]),
            'between' => $x[0] >= $x[1] && $x[0] <= $x[2] ? 1.0 : 0.0,
            'step' => $m->begun >= $x[1] - $start ? $x[0] : 0.0,
            'ramp' => Signals::ramp($x[0], $x[1], $x[2] ?? $m->settings->end, $m->time),
            'window' => isset($x[3])
                ? $x[0] *
                    ($x[3] <= 0.0
                        ? throw new EvaluationError('windows with no time between them')
                        : Signals::repeats($x[1], $x[2], $x[3], $start, $m->begun))
                : ($m->begun >= $x[1] - $start && $m->begun < $x[2] - $start
                    ? $x[0]
                    : 0.0),
            'wave' => $x[1] == 0.0
                ? throw new EvaluationError('a wave with a period of zero')
                : $x[0] * sin((2.0 * M_PI * ($m->time - ($x[2] ?? 0.0))) / $x[1]),
            'pulse' => $this->pulse($x),
            default => throw new \LogicException("No way to evaluate the function $name"),
        };
    }

    /** @param  list<float>  $x */
    private function pulse(array $x): float
    {
        if (isset($x[2]) && $x[2] <= 0.0) {
            throw new EvaluationError('pulses with no time between them');
        }

        return Signals::pulse(
            $x[0],
            $x[1],
            $x[2] ?? 0.0,
            $x[3] ?? $this->moment->settings->end,
            $this->moment->settings->start,
            $this->moment->begun,
            $this->moment->settings->step,
        );
    }
}
