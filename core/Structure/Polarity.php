<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Structure;

use MerryOrbit\Core\Analysis\Analysis;
use MerryOrbit\Core\Formula\Name;
use MerryOrbit\Core\Formula\Nature;
use MerryOrbit\Core\Formula\Node\Binary;
use MerryOrbit\Core\Formula\Node\Call;
use MerryOrbit\Core\Formula\Node\Cases;
use MerryOrbit\Core\Formula\Node\CurveCall;
use MerryOrbit\Core\Formula\Node\NameUse;
use MerryOrbit\Core\Formula\Node\Negative;
use MerryOrbit\Core\Formula\Node\Node;
use MerryOrbit\Core\Formula\Node\Not;
use MerryOrbit\Core\Formula\Node\NumberLiteral;
use MerryOrbit\Core\Formula\Node\QuantityUse;
use MerryOrbit\Core\Formula\Operator;
use MerryOrbit\Core\Formula\Quantity;
use MerryOrbit\Core\Model\Beyond;
use MerryOrbit\Core\Model\Element;
use MerryOrbit\Core\Model\Flow;
use MerryOrbit\Core\Model\Parameter;
use MerryOrbit\Core\Model\Relation;
use MerryOrbit\Core\Model\Stock;

/**
 * Whether more of one thing makes more or less of another, as far as the formula alone settles it: by the rules of
 * monotone functions and of signs. What it leaves open is for Effects to find from a run.
 */
final class Polarity
{
    /** By function, the arguments (from 0) in which it never falls; `*` stands for all. */
    private const RISING = [
        'sqrt' => '*',
        'exp' => '*',
        'ln' => '*',
        'log10' => '*',
        'floor' => '*',
        'ceil' => '*',
        'trunc' => '*',
        'sign' => '*',
        'round' => '0',
        'min' => '*',
        'max' => '*',
        'clamp' => '*',
        'asin' => '*',
        'atan' => '*',
        'sinh' => '*',
        'tanh' => '*',
        'if' => '12',
        'step' => '0',
        'ramp' => '0',
        'window' => '0',
        'pulse' => '0',
        'at' => '0',
        'initial' => '*',
        'previous' => '*',
        'smooth' => '03',
        'delay' => '03',
        'shift' => '02',
        'hold' => '0',
        'total' => '*',
        'highest' => '*',
        'lowest' => '*',
        'random' => '*',
        'gaussian' => '0',
        'lognormal' => '0',
        'exponential' => '*',
        'poisson' => '*',
        'binomial' => '*',
        'drift' => '0',
    ];

    /** Functions that are nowhere below zero when this argument is not. */
    private const KEEPING = [
        'round' => 0,
        'floor' => 0,
        'ceil' => 0,
        'trunc' => 0,
        'sign' => 0,
        'sinh' => 0,
        'tanh' => 0,
        'atan' => 0,
        'asin' => 0,
        'step' => 0,
        'window' => 0,
        'pulse' => 0,
        'initial' => 0,
        'previous' => 0,
        'smooth' => 0,
        'delay' => 0,
        'shift' => 0,
        'hold' => 0,
        'total' => 0,
        'highest' => 0,
        'lowest' => 0,
        'clamp' => 1,
        'random' => 0,
        'at' => 0,
    ];

    private const NEVER_NEGATIVE = [
        'exp',
        'abs',
        'sqrt',
        'cosh',
        'acos',
        'between',
        'latch',
        'times',
        'lognormal',
        'exponential',
        'poisson',
        'binomial',
    ];

    private const LATE = ['smooth', 'delay', 'shift', 'previous', 'hold', 'forecast', 'trend'];

    /** @var array<string, ?int> by element id, the sign its value is known to have */
    private array $signs = [];

    /** @var array<string, true> */
    private array $asked = [];

    public function __construct(private readonly Analysis $analysis)
    {
    }

    /**
     * @return array{sign: ?string, late: bool} the sign is `+`, `-`, empty where there is none to tell, null where the formula leaves it open
     */
    public function ofLink(string $from, string $to): array
    {
        $node = $this->analysis->nodes[$to] ?? null;
        $cause = $this->analysis->model->element($from);
        if ($node === null || $cause === null) {
            return ['sign' => '', 'late' => false];
        }
        $key = $cause->id;
        $direction = $cause instanceof Relation && $this->isCurve($node, $key) ? 0 : $this->direction($node, $key);

        return [
            'sign' => match ($direction) {
                1 => '+',
                -1 => '-',
                0 => '',
                default => null,
            },
            'late' => self::isLate($node, $key),
        ];
    }

    private function isCurve(Node $node, string $key): bool
    {
        if ($node instanceof CurveCall && $node->key === $key) {
            return true;
        }
        foreach ($node->parts() as $part) {
            if ($this->isCurve($part, $key)) {
                return true;
            }
        }

        return false;
    }

    private static function mentions(Node $node, string $key): bool
    {
        if ($node instanceof NameUse && $node->key === $key) {
            return true;
        }
        foreach ($node->parts() as $part) {
            if (self::mentions($part, $key)) {
                return true;
            }
        }

        return false;
    }

    private static function isLate(Node $node, string $key): bool
    {
        if ($node instanceof Call && in_array($node->function->name, self::LATE, true) && self::mentions($node, $key)) {
            return true;
        }
        foreach ($node->parts() as $part) {
            if (self::isLate($part, $key)) {
                return true;
            }
        }

        return false;
    }

    /** 1 or -1: the node never falls or never rises with the name; 0: it does not depend on it; null: not settled. */
    private function direction(Node $node, string $key): ?int
    {
        if (! self::mentions($node, $key)) {
            return 0;
        }

        return match (true) {
            $node instanceof NameUse => 1,
            $node instanceof Negative => self::times($this->direction($node->operand, $key), -1),
            $node instanceof Not => null,
            $node instanceof Binary => $this->ofBinary($node, $key),
            $node instanceof CurveCall => self::times($this->direction($node->argument, $key), $this->slope($node->key)),
            $node instanceof Call => $this->ofCall($node, $key),
            $node instanceof Cases => array_reduce(
                $node->exceptions,
                fn (?int $d, Node $e): ?int => self::both($d, $this->direction($e, $key)),
                $this->direction($node->main, $key),
            ),
            default => null,
        };
    }

    private function ofBinary(Binary $node, string $key): ?int
    {
        $left = $this->direction($node->left, $key);
        $right = $this->direction($node->right, $key);

        return match ($node->operator) {
            Operator::Add => self::both($left, $right),
            Operator::Subtract => self::both($left, self::times($right, -1)),
            Operator::Multiply => self::both(self::times($left, $this->sign($node->right)), self::times($right, $this->sign($node->left))),
            // More of the divisor makes the quotient smaller in size, on either side of zero.
            Operator::Divide => self::both(
                self::times($left, $this->sign($node->right)),
                self::times(self::times($right, -1), $this->sign($node->left)),
            ),
            Operator::Power => $right === 0 && $this->sign($node->left) === 1 ? self::times($left, $this->sign($node->right)) : null,
            default => null,
        };
    }

    private function ofCall(Call $node, string $key): ?int
    {
        $name = $node->function->name;
        if ($name === 'divide') {
            $quotient = $this->ofBinary(new Binary(Operator::Divide, $node->arguments[0], $node->arguments[1]), $key);

            return self::both($quotient, $this->direction($node->arguments[2], $key));
        }
        if ($name === 'abs') {
            return self::times($this->direction($node->arguments[0], $key), $this->sign($node->arguments[0]));
        }
        $rising = $name === 'choose' ? '*' : self::RISING[$name] ?? '';
        $direction = 0;
        foreach ($node->arguments as $i => $argument) {
            $one = $this->direction($argument, $key);
            $known = ($rising === '*' && ! ($name === 'choose' && $i === 0)) || str_contains($rising, (string) $i);
            $direction = self::both($direction, $one === 0 || $known ? $one : ($name === 'acos' ? self::times($one, -1) : null));
        }

        return $direction;
    }

    /** Of a curve: 1 where it never falls, -1 where it never rises, else null. */
    private function slope(string $key): ?int
    {
        $curve = $this->analysis->model->element($key);
        if (! ($curve instanceof Relation)) {
            return null;
        }
        $ys = array_column($curve->points, 1);
        $sorted = $ys;
        sort($sorted);

        return match (true) {
            $ys === $sorted => 1,
            $ys === array_reverse($sorted) => -1,
            default => null,
        };
    }

    /** 1 where the value is known to be nowhere below zero, -1 nowhere above, null where it is not known. */
    private function sign(Node $node): ?int
    {
        return match (true) {
            $node instanceof NumberLiteral => $node->value < 0.0 ? -1 : 1,
            $node instanceof NameUse => $this->signOf($node->key),
            $node instanceof QuantityUse => ($node->quantity !== Quantity::Time &&
                $node->quantity !== Quantity::StartTime &&
                $node->quantity !== Quantity::EndTime) ||
            $this->analysis->model->time->start >= 0.0
                ? 1
                : null,
            $node instanceof Negative => self::times($this->sign($node->operand), -1),
            $node instanceof Not => 1,
            $node instanceof Binary => $this->signOfBinary($node),
            $node instanceof CurveCall => $this->signOf($node->key),
            $node instanceof Call => $this->signOfCall($node),
            default => null,
        };
    }

    private function signOfBinary(Binary $node): ?int
    {
        $left = $this->sign($node->left);
        $right = $this->sign($node->right);

        return match ($node->operator) {
            Operator::Add => $left === $right ? $left : null,
            Operator::Subtract => $left !== null && $right !== null && $left === -$right ? $left : null,
            Operator::Multiply, Operator::Divide => self::times($left, $right),
            Operator::Power => $left === 1 ? 1 : null,
            default => 1,
        };
    }

    private function signOfCall(Call $node): ?int
    {
        $name = $node->function->name;
        if (in_array($name, self::NEVER_NEGATIVE, true)) {
            return 1;
        }
        $signs = array_map($this->sign(...), $node->arguments);
        $all = self::same(...);

        return match (true) {
            isset(self::KEEPING[$name]) => $signs[self::KEEPING[$name]] ?? null,
            $name === 'if' => $all([$signs[1], $signs[2]]),
            $name === 'choose' => $all(array_slice($signs, 1)),
            $name === 'min' => in_array(-1, $signs, true) ? -1 : $all($signs),
            $name === 'max' => in_array(1, $signs, true) ? 1 : $all($signs),
            $name === 'divide' => $all([self::times($signs[0], $signs[1]), $signs[2]]),
            $name === 'mod' => $signs[1],
            default => null,
        };
    }

    private function signOf(string $id): ?int
    {
        if (! array_key_exists($id, $this->signs)) {
            if (isset($this->asked[$id])) {
                // A circle of formulas settles nothing.
                return null;
            }
            $this->asked[$id] = true;
            $element = $this->analysis->model->element($id);
            $this->signs[$id] = $element === null ? null : $this->signOfElement($element);
        }

        return $this->signs[$id];
    }

    private function signOfElement(Element $element): ?int
    {
        if ($element instanceof Parameter) {
            $value = $this->analysis->parameters[$element->id] ?? null;

            return $value === null || (($element->low ?? 0.0) < 0.0 && $value >= 0.0) ? null : ($value < 0.0 ? -1 : 1);
        }
        if ($element instanceof Relation) {
            $ys = array_column($element->points, 1);

            return $ys !== [] && $element->beyond === Beyond::Held && min($ys) >= 0.0 ? 1 : null;
        }
        if ($element instanceof Stock) {
            return $element->neverNegative || $element->isTransit() ? 1 : null;
        }
        if ($element instanceof Flow && $element->oneWay) {
            return 1;
        }
        $node = $this->analysis->nodes[$element->id] ?? null;

        return $node === null ? null : $this->sign($node);
    }

    /** @param  array<?int>  $signs */
    private static function same(array $signs): ?int
    {
        return count(array_unique($signs, SORT_REGULAR)) === 1 ? array_values($signs)[0] : null;
    }

    private static function times(?int $a, ?int $b): ?int
    {
        return $a === 0 || $b === 0 ? 0 : ($a === null || $b === null ? null : $a * $b);
    }

    private static function both(?int $a, ?int $b): ?int
    {
        return $a === 0 ? $b : ($b === 0 ? $a : ($a === $b ? $a : null));
    }

    /** Whether a formula can be looked at for itself, at any moment: nothing in it remembers or is drawn. */
    public static function isMomentary(Node $node): bool
    {
        if (
            $node instanceof Call &&
            ($node->function->nature === Nature::Memory || $node->function->nature === Nature::Chance || $node->function->name === 'at')
        ) {
            return false;
        }
        foreach ($node->parts() as $part) {
            if (! self::isMomentary($part)) {
                return false;
            }
        }

        return true;
    }
}
