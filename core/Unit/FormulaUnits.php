<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Unit;

use MerryOrbit\Core\Formula\Node\Binary;
use MerryOrbit\Core\Formula\Node\Call;
use MerryOrbit\Core\Formula\Node\Cases;
use MerryOrbit\Core\Formula\Node\CurveCall;
use MerryOrbit\Core\Formula\Node\NameUse;
use MerryOrbit\Core\Formula\Node\Negative;
use MerryOrbit\Core\Formula\Node\Node;
use MerryOrbit\Core\Formula\Node\Not;
use MerryOrbit\Core\Formula\Node\NumberLiteral;
use MerryOrbit\Core\Formula\Node\Pick;
use MerryOrbit\Core\Formula\Node\QuantityUse;
use MerryOrbit\Core\Formula\Operator;
use MerryOrbit\Core\Formula\Printer;
use MerryOrbit\Core\Formula\Quantity;
use MerryOrbit\Core\Model\Model;
use MerryOrbit\Core\Model\Relation;

/** The units inside formulas, and where they clash. The rule of each function stands in the catalogue. */
final class FormulaUnits
{
    /** @var list<array{Node, string, string}> where, code, sentence */
    public array $clashes = [];

    /** @param  array<string, Unit>  $units  by element id */
    public function __construct(
        private readonly Model $model,
        private readonly UnitBook $book,
        private readonly ?Unit $time,
        private array $units = [],
    ) {
    }

    /** @param  array<string, Unit>  $units */
    public function know(array $units): void
    {
        $this->units = $units;
        $this->clashes = [];
    }

    /** The unit of a formula's result; null if it is unknown. */
    public function of(Node $node): ?Unit
    {
        return match (true) {
            $node instanceof NumberLiteral => Unit::flexible(),
            $node instanceof NameUse => $this->units[$node->key] ?? null,
            $node instanceof QuantityUse => $node->quantity === Quantity::Pi ? Unit::plain() : $this->time,
            $node instanceof Negative => $this->of($node->operand),
            $node instanceof Not => $this->plainAfter($node->operand),
            $node instanceof Binary => $this->binary($node),
            $node instanceof CurveCall => $this->curve($node),
            $node instanceof Call => $this->call($node),
            $node instanceof Pick => $this->pick($node),
            $node instanceof Cases => $this->cases($node),
            default => null,
        };
    }

    /** Exceptions have the unit of what they are exceptions of. */
    private function cases(Cases $node): ?Unit
    {
        $unit = $this->of($node->main);
        foreach ($node->exceptions as $exception) {
            $unit = $this->same($exception, $node->main, $unit, $exception, $this->of($exception), 'the same thing');
        }

        return $unit;
    }

    private function plainAfter(Node ...$nodes): Unit
    {
        foreach ($nodes as $node) {
            $this->of($node);
        }

        return Unit::plain();
    }

    private function binary(Binary $node): ?Unit
    {
        if ($node->operator === Operator::And || $node->operator === Operator::Or) {
            return $this->plainAfter($node->left, $node->right);
        }
        if ($node->operator === Operator::Power) {
            return $this->power($node);
        }
        $left = $this->of($node->left);
        $right = $this->of($node->right);
        if ($node->operator === Operator::Multiply || $node->operator === Operator::Divide) {
            return $left === null || $right === null ? null : $left->times($right, $node->operator === Operator::Multiply ? 1.0 : -1.0);
        }
        $both = $this->same(
            $node,
            $node->left,
            $left,
            $node->right,
            $right,
            $node->operator->isComparison() ? 'compared' : ($node->operator === Operator::Add ? 'added' : 'subtracted'),
        );

        return $node->operator->isComparison() ? Unit::plain() : $both;
    }

    /** What two parts that need one unit have in common. */
    private function same(Node $where, Node $a, ?Unit $left, Node $b, ?Unit $right, string $what): ?Unit
    {
        if ($left !== null && $right !== null && ! $left->isFlexible && ! $right->isFlexible && ! $left->equals($right)) {
            $this->clash(
                $where,
                'unit.unequal',
                '`'.
                    self::short($a).
                    "` is {$left->words()} and `".
                    self::short($b).
                    "` is {$right->words()}: only equal units can be $what.".
                    $this->convert($left, $right),
            );
        }

        return $left === null || $left->isFlexible ? $right ?? $left : $left;
    }

    private function power(Binary $node): ?Unit
    {
        $base = $this->of($node->left);
        $exponent = $this->of($node->right);
        if ($exponent !== null && ! $exponent->isFlexible && ! $exponent->isPlain()) {
            $this->clash(
                $node->right,
                'unit.plain',
                '`'.
                    self::short($node->right).
                    "` is {$exponent->words()}, but an exponent is a plain number. Divide it by something of the same unit.",
            );
        }
        $number = match (true) {
            $node->right instanceof NumberLiteral => $node->right->value,
            $node->right instanceof Negative && $node->right->operand instanceof NumberLiteral => -$node->right->operand->value,
            default => null,
        };
        if ($base === null || $base->isPlain() || $number !== null) {
            return $base?->power($number ?? 1.0);
        }
        $this->clash(
            $node->left,
            'unit.plain',
            '`'.
                self::short($node->left).
                "` is {$base->words()}; only a plain number can be raised to a power that may vary. Divide it by something of the same unit first.",
        );

        return null;
    }

    private function curve(CurveCall $node): ?Unit
    {
        $curve = $this->model->element($node->key);
        $wanted = $curve instanceof Relation ? $this->book->read($curve->inputUnit) : null;
        $this->need($node->argument, $this->of($node->argument), $wanted, "the input of the curve `$node->written`");

        return $this->units[$node->key] ?? null;
    }

    /** What holds over the edge has the unit of what is picked. */
    private function pick(Pick $node): ?Unit
    {
        $unit = $this->of($node->of);

        return $node->otherwise === null
            ? $unit
            : $this->same($node, $node->of, $unit, $node->otherwise, $this->of($node->otherwise), 'taken one for the other');
    }

    private function call(Call $node): ?Unit
    {
        $known = $this->time === null ? [] : ['t' => $this->time];
        $first = [];
        $rules = $node->function->unitRules;
        foreach ($node->arguments as $i => $argument) {
            $rule = $rules[min($i, count($rules) - 1)];
            if ($node->function->takesDimension($i)) {
                continue;
            }
            $unit = $this->of($argument);
            if ($rule === '*') {
                continue;
            }
            if (strlen($rule) === 1 && ctype_alpha($rule) && $rule !== 't') {
                if (isset($first[$rule])) {
                    $this->same(
                        $node,
                        $first[$rule],
                        $known[$rule] ?? null,
                        $argument,
                        $unit,
                        "used together in `{$node->function->name}`",
                    );
                }
                if ($unit !== null && (! isset($known[$rule]) || $known[$rule]->isFlexible)) {
                    $known[$rule] = $unit;
                    $first[$rule] = $argument;
                }
            } else {
                $what = $rule === 't' ? "a time, in {$this->model->time->unit}s," : 'this';
                $this->need(
                    $argument,
                    $unit,
                    self::rule($rule, $known),
                    "the {$node->function->parameters[min($i, count($node->function->parameters) - 1)]} of `{$node->function->name}`",
                    $what,
                );
            }
        }

        return self::rule($node->function->resultUnit, $known);
    }

    /**
     * @param  array<string, Unit>  $known  by letter
     */
    private static function rule(string $rule, array $known): ?Unit
    {
        $unit = Unit::plain();
        $power = 1.0;
        preg_match_all('/[a-z1]|[*\/]|\^[\d.]+/', $rule, $m);
        foreach ($m[0] as $i => $part) {
            if ($part === '*' || $part === '/') {
                $power = $part === '*' ? 1.0 : -1.0;
            } elseif ($part !== '1' && $part[0] !== '^') {
                if (! isset($known[$part])) {
                    return null;
                }
                $exponent = isset($m[0][$i + 1]) && $m[0][$i + 1][0] === '^' ? (float) substr($m[0][$i + 1], 1) : 1.0;
                // The result of a function on a written number alone may still take on a unit.
                $unit = $rule === $part ? $known[$part] : $unit->times($known[$part], $power * $exponent);
            }
        }

        return $unit;
    }

    private function need(Node $argument, ?Unit $unit, ?Unit $wanted, string $what, string $as = 'this'): void
    {
        if ($unit !== null && $wanted !== null && ! $unit->isFlexible && ! $wanted->isFlexible && ! $unit->equals($wanted)) {
            $words = $as === 'this' ? $wanted->words() : $as;
            $words = rtrim($words, ',');
            $this->clash(
                $argument,
                $wanted->isPlain() ? 'unit.plain' : 'unit.argument',
                '`'.
                    self::short($argument).
                    "` is {$unit->words()}, but $what is $words.".
                    ($wanted->isPlain() ? ' Divide it by something of the same unit.' : $this->convert($unit, $wanted)),
            );
        }
    }

    /** What to say where two units differ in nothing but the length of their time. */
    private function convert(Unit $from, Unit $to): string
    {
        $factor = Mend::timeFactor($from, $to);

        return $factor === null ? '' : ' '.ucfirst($factor[0]);
    }

    private function clash(Node $where, string $code, string $sentence): void
    {
        $this->clashes[] = [$where, $code, $sentence];
    }

    public static function short(Node $node): string
    {
        $text = Printer::print($node);

        return mb_strlen($text) > 60 ? mb_substr($text, 0, 57).'…' : $text;
    }

    /**
     * The units of names that follow if the formula has this unit: those that stand alone as the only unknown.
     *
     * @return array<string, Unit> by element id
     */
    public function implied(Node $node, Unit $unit): array
    {
        if ($node instanceof NameUse) {
            return $node->key === '' || isset($this->units[$node->key]) ? [] : [$node->key => $unit];
        }
        if ($node instanceof Negative) {
            return $this->implied($node->operand, $unit);
        }
        if ($node instanceof Binary) {
            return match ($node->operator) {
                Operator::Add, Operator::Subtract => [...$this->implied($node->left, $unit), ...$this->implied($node->right, $unit)],
                Operator::Multiply, Operator::Divide => $this->impliedByProduct($node, $unit),
                default => [],
            };
        }
        if ($node instanceof Call) {
            $implied = [];
            foreach ($node->arguments as $i => $argument) {
                $rules = $node->function->unitRules;
                $rule = $rules[min($i, count($rules) - 1)];
                $wanted = match (true) {
                    $rule === 't' => $this->time,
                    $rule === $node->function->resultUnit => $unit,
                    default => null,
                };
                $implied = $wanted === null ? $implied : [...$implied, ...$this->implied($argument, $wanted)];
            }

            return $implied;
        }

        return [];
    }

    /** @return array<string, Unit> */
    private function impliedByProduct(Binary $node, Unit $unit): array
    {
        $left = $this->of($node->left);
        $right = $this->of($node->right);
        if ($left === null && $right !== null) {
            return $this->implied($node->left, $unit->times($right, $node->operator === Operator::Multiply ? -1.0 : 1.0));
        }
        if ($left !== null && $right === null) {
            return $this->implied($node->right, $node->operator === Operator::Multiply ? $unit->per($left) : $left->per($unit));
        }

        return [];
    }
}
