<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Exchange;

/** Values of a native file, each refused with where it stands when it is of another kind. */
final class NativeFields
{
    /**
     * @return array<string, mixed>
     *
     * @throws FileRefused
     */
    public static function record(mixed $value, string $where): array
    {
        if (! is_array($value) || ($value !== [] && array_is_list($value))) {
            throw FileRefused::asModel("What stands at $where must be an object in curly brackets.");
        }

        return array_filter($value, is_string(...), ARRAY_FILTER_USE_KEY);
    }

    /** @param  array<string, mixed>  $record */
    public static function text(array $record, string $key, string $where, string $default = ''): string
    {
        $value = $record[$key] ?? $default;
        if (! is_string($value)) {
            throw FileRefused::asModel("\"$key\" of $where must be text, in double quotes.");
        }

        return $value;
    }

    /** @param  array<string, mixed>  $record */
    public static function number(array $record, string $key, string $where): ?float
    {
        $value = $record[$key] ?? null;
        if ($value !== null && ! is_int($value) && ! is_float($value)) {
            throw FileRefused::asModel("\"$key\" of $where must be a number.");
        }

        return $value === null ? null : (float) $value;
    }
}
