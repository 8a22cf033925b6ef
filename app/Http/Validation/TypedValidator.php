<?php

declare(strict_types=1);

namespace App\Http\Validation;

use Illuminate\Validation\Validator;

/**
 * Rules of types hold for an empty text too. The framework lets it pass all rules that do not ask for presence, so that what is said
 * to be a number or a list could be a text after all.
 */
final class TypedValidator extends Validator
{
    private const TYPES = ['Array', 'Boolean', 'Integer', 'List', 'Numeric', 'Uuid'];

    /** True is no 1. */
    public function validateInteger($attribute, $value, array $parameters = []): bool
    {
        return ! is_bool($value) && parent::validateInteger($attribute, $value, $parameters);
    }

    public function validateNumeric($attribute, $value, $parameters): bool
    {
        return ! is_bool($value) && parent::validateNumeric($attribute, $value, $parameters);
    }

    protected function presentOrRuleIsImplicit($rule, $attribute, $value): bool
    {
        return (is_string($value) && trim($value) === '' && is_string($rule) && in_array($rule, self::TYPES, true)) ||
            parent::presentOrRuleIsImplicit($rule, $attribute, $value);
    }
}
