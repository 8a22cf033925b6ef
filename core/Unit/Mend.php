<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Unit;

use MerryOrbit\Core\Formula\Node\Binary;
use MerryOrbit\Core\Formula\Node\NameUse;
use MerryOrbit\Core\Formula\Node\Node;
use MerryOrbit\Core\Formula\Node\NumberLiteral;
use MerryOrbit\Core\Formula\Operator;
use MerryOrbit\Core\Formula\Printer;
use MerryOrbit\Core\Model\Element;
use MerryOrbit\Core\Model\Flow;
use MerryOrbit\Core\Model\Model;

/** Says where a formula's unit differs from its element's, and looks for the change that would mend it. */
final readonly class Mend
{
    /** @param  array<string, Unit>  $units  by element id */
    public function __construct(private Model $model, private array $units, private ?Unit $time)
    {
    }

    /** The remark for a formula whose unit is not the one it should have. */
    public function of(Element $element, Node $node, Unit $given, Unit $found): MendedRemark
    {
        $shown = FormulaUnits::short($node);
        $is = "`$element->name` is {$given->words()}, but `$shown` is {$found->words()}.";
        $excess = $found->per($given);
        $factor = self::timeFactor($found, $given);
        if ($factor !== null) {
            return new MendedRemark(
                'unit.time',
                "$is {$factor[0]}",
                Printer::print(new Binary(Operator::Multiply, $node, NumberLiteral::of($factor[1]))),
            );
        }
        foreach (self::factors($node) as [$name, $power]) {
            $unit = $this->units[$name->key] ?? null;
            if ($unit === null || $unit->isPlain() || ! $excess->equals($unit->power(2.0 * $power))) {
                continue;
            }
            // It stands on the wrong side of the fraction.
            $turned = Printer::print(self::turned($node, $name));
            if ($power > 0) {
                $why =
                    $this->time !== null && $unit->equals($this->time)
                        ? "`$name->written` is a duration, not a rate. Divide by `$name->written`."
                        : "Divide by `$name->written`.";

                return new MendedRemark(
                    $this->time !== null && $unit->equals($this->time) ? 'unit.duration' : 'unit.formula',
                    "$is $why",
                    $turned,
                );
            }
            $why =
                $this->time !== null && $unit->equals($this->time->power(-1.0))
                    ? "`$name->written` is a rate, not a duration. Multiply by `$name->written`."
                    : "Multiply by `$name->written`.";

            return new MendedRemark(
                $this->time !== null && $unit->equals($this->time->power(-1.0)) ? 'unit.rate' : 'unit.formula',
                "$is $why",
                $turned,
            );
        }
        if ($this->time !== null && $element instanceof Flow && $excess->equals($this->time)) {
            foreach (self::factors($node) as [$name, $power]) {
                $unit = $this->units[$name->key] ?? null;
                if ($unit !== null && $unit->isPlain() && $power > 0) {
                    return new MendedRemark(
                        'unit.probability',
                        "$is `$name->written` is a plain share, such as a probability; a flow needs a rate, a share per {$this->model->time->unit}. Give `$name->written` the unit `1/{$this->model->time->unit}`, or divide by the time it takes.",
                        null,
                    );
                }
            }
        }
        foreach (self::factors($node) as [$name, $power]) {
            $unit = $this->units[$name->key] ?? null;
            if ($unit !== null && ! $unit->isPlain() && $excess->equals($unit->power($power))) {
                return new MendedRemark(
                    'unit.formula',
                    "$is Leave `$name->written` out, or ".($power > 0 ? 'divide by' : 'multiply with').' something of the same unit.',
                    null,
                );
            }
        }
        $missing = $excess->power(-1.0);
        $number = self::written($node);
        if ($number !== null && ! $missing->isPlain()) {
            return new MendedRemark(
                'unit.formula',
                "$is A factor of {$missing->words()} is missing: if `$number->written` is that, make it a parameter with the unit `{$missing->text()}`.",
                null,
            );
        }

        return new MendedRemark(
            'unit.formula',
            $is.(count($excess->powers) === 0 ? '' : " A factor of {$missing->words()} is missing."),
            null,
        );
    }

    /**
     * If two units differ in nothing but the length of their time, a sentence that offers the conversion, and its factor.
     *
     * @return array{string, float}|null
     */
    public static function timeFactor(Unit $from, Unit $to): ?array
    {
        $excess = $from->per($to)->powers;
        if (count($excess) !== 2 || array_diff_key($excess, UnitBook::DAYS) !== [] || abs(array_sum($excess)) > 1e-9) {
            return null;
        }
        $bases = array_keys($excess);
        [$a, $b] = UnitBook::DAYS[$bases[0]] > UnitBook::DAYS[$bases[1]] ? $bases : [$bases[1], $bases[0]];
        $size = UnitBook::DAYS[$a] / UnitBook::DAYS[$b];
        $factor = 1.0;
        foreach ($excess as $base => $power) {
            $factor *= UnitBook::DAYS[$base] ** $power;
        }
        $count = (string) (float) sprintf('%.6g', $size);
        $mend = $factor >= 1.0 ? 'Multiply by '.(float) sprintf('%.6g', $factor) : 'Divide by '.(float) sprintf('%.6g', 1.0 / $factor);

        return ["A $a and a $b are not the same: there are $count {$b}s in a $a. $mend to convert.", (float) sprintf('%.12g', $factor)];
    }

    /**
     * The names that are multiplied or divided by.
     *
     * @return list<array{NameUse, float}> with 1 above the line and -1 below
     */
    private static function factors(Node $node, float $power = 1.0): array
    {
        if ($node instanceof NameUse) {
            return [[$node, $power]];
        }
        if ($node instanceof Binary && ($node->operator === Operator::Multiply || $node->operator === Operator::Divide)) {
            return [
                ...self::factors($node->left, $power),
                ...self::factors($node->right, $node->operator === Operator::Multiply ? $power : -$power),
            ];
        }

        return [];
    }

    /** A written number among the factors, which has no unit of its own. */
    private static function written(Node $node): ?NumberLiteral
    {
        if ($node instanceof NumberLiteral) {
            return $node;
        }

        return $node instanceof Binary && ($node->operator === Operator::Multiply || $node->operator === Operator::Divide)
            ? self::written($node->right) ?? self::written($node->left)
            : null;
    }

    /** The formula with one factor on the other side of the fraction. */
    private static function turned(Node $node, NameUse $name): Node
    {
        if (! ($node instanceof Binary)) {
            return new Binary(Operator::Divide, NumberLiteral::of(1.0), $node);
        }
        if ($node->right === $name) {
            return new Binary($node->operator === Operator::Multiply ? Operator::Divide : Operator::Multiply, $node->left, $name);
        }
        if ($node->left === $name) {
            return $node->operator === Operator::Multiply
                ? new Binary(Operator::Divide, $node->right, $name)
                : new Binary(Operator::Divide, new Binary(Operator::Divide, NumberLiteral::of(1.0), $name), $node->right);
        }
        $inLeft = array_filter(self::factors($node->left), static fn (array $f): bool => $f[0] === $name) !== [];

        return $inLeft
            ? new Binary($node->operator, self::turned($node->left, $name), $node->right)
            : new Binary($node->operator, $node->left, self::turned($node->right, $name));
    }
}
