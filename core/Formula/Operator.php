<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Formula;

/** The operators between two operands. */
enum Operator: string
{
    case Or = 'or';
    case And = 'and';
    case Equal = '=';
    case Unequal = '<>';
    case Less = '<';
    case AtMost = '<=';
    case Greater = '>';
    case AtLeast = '>=';
    case Add = '+';
    case Subtract = '-';
    case Multiply = '*';
    case Divide = '/';
    case Power = '^';

    /** Higher binds tighter; `not` is 3 and a sign is 7. */
    public function binding(): int
    {
        return match ($this) {
            self::Or => 1,
            self::And => 2,
            self::Equal, self::Unequal, self::Less, self::AtMost, self::Greater, self::AtLeast => 4,
            self::Add, self::Subtract => 5,
            self::Multiply, self::Divide => 6,
            self::Power => 8,
        };
    }

    public function isComparison(): bool
    {
        return $this->binding() === 4;
    }
}
