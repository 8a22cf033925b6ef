<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Data;

/**
 * Tables as JSON: a list of rows, each an object by the names of its columns or a list; an object of columns, each a list; or an object
 * that holds one of these under one of its keys.
 */
final class JsonReader
{
    private const DEEPEST = 8;

    public static function looksLike(string $text): bool
    {
        return in_array(ltrim(substr($text, 0, 40), "\u{FEFF} \t\r\n")[0] ?? '', ['[', '{'], true);
    }

    /** @throws TableRefused */
    public static function grid(string $text, string $name): Grid
    {
        try {
            $read = json_decode((string) preg_replace('/^\x{FEFF}/u', '', $text), true, self::DEEPEST, JSON_THROW_ON_ERROR);
        } catch (\JsonException $e) {
            throw TableRefused::because(
                $e->getCode() === JSON_ERROR_DEPTH
                    ? 'This JSON holds lists in lists: write one object for each row, as in [{"year": 2001, "catch": 1.5}].'
                    : 'This is no sound JSON: '.lcfirst($e->getMessage()).'.',
            );
        }
        $rows = self::rows($read);
        if ($rows === null && is_array($read)) {
            foreach ($read as $inner) {
                $rows ??= self::rows($inner);
            }
        }

        return $rows === null
            ? throw TableRefused::because('This JSON holds no rows: write one object for each, as in [{"year": 2001, "catch": 1.5}].')
            : new Grid($name, $rows);
    }

    /** @return list<list<string|float|null>>|null */
    private static function rows(mixed $read): ?array
    {
        if (! is_array($read) || $read === []) {
            return null;
        }
        $inner = array_filter($read, is_array(...));
        if (count($inner) !== count($read)) {
            return null;
        }
        if (! array_is_list($read)) {
            // Columns by name.
            $rows = [array_map(strval(...), array_keys($read))];
            $columns = [];
            foreach ($inner as $column) {
                $columns[] = array_values($column);
            }
            for ($i = 0; $i < max(array_map(count(...), $columns)); $i++) {
                $rows[] = array_map(static fn (array $c): string|float|null => self::cell($c[$i] ?? null), $columns);
            }

            return $rows;
        }
        if (array_filter($inner, array_is_list(...)) === $inner) {
            return array_map(static fn (array $row): array => array_map(self::cell(...), $row), array_values($inner));
        }
        $names = [];
        foreach ($inner as $row) {
            $names += array_fill_keys(array_keys($row), true);
        }
        $rows = [array_map(strval(...), array_keys($names))];
        foreach ($inner as $row) {
            $rows[] = array_map(static fn (string|int $n): string|float|null => self::cell($row[$n] ?? null), array_keys($names));
        }

        return $rows;
    }

    private static function cell(mixed $value): string|float|null
    {
        return match (true) {
            is_int($value), is_float($value) => (float) $value,
            is_bool($value) => $value ? 'true' : 'false',
            is_string($value) => $value,
            default => null,
        };
    }
}
