<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Exchange;

use MerryOrbit\Core\Model\Part;
use MerryOrbit\Core\Model\Parts;

/** What the declared parts of a document look like: in the schema of the native file, and as types of the page. */
final class PartSchemas
{
    /** The schema of the native file with the parts that bring their own. */
    public static function into(\stdClass $schema): \stdClass
    {
        $properties = (array) ($schema->properties ?? []);
        $definitions = (array) ($schema->{'$defs'} ?? []);
        foreach (self::described() as $name => $part) {
            $definition = self::camel($part);
            $old = (array) ($properties[$name] ?? []);
            $said = is_string($old['description'] ?? null) ? ['description' => $old['description']] : [];
            $properties[$name] = ['type' => 'array', ...$said, 'maxItems' => $part->most, 'items' => ['$ref' => "#/\$defs/$definition"]];
            $definitions[$definition] = $part->schema;
        }
        $schema->properties = (object) $properties;
        $schema->{'$defs'} = (object) $definitions;

        return $schema;
    }

    /** TypeScript of the same, of records as the page gets them: with ids where a file has names. */
    public static function typescript(): string
    {
        $text =
            "// Written by bin/write-docs from the parts that core/Model/Parts.php declares.\nimport type { Setting } from './types'\n";
        $fields = '';
        foreach (self::described() as $name => $part) {
            $type = ucfirst(self::camel($part)).'Record';
            $text .= "\nexport interface $type ".self::type(self::recorded($part), '')."\n";
            $fields .= "    $name: Record<string, $type>\n";
        }

        return "$text\nexport interface OtherParts {\n$fields}\n";
    }

    /**
     * As the page gets it: a formula in pieces, where a file has text.
     *
     * @return array<string, mixed>
     */
    private static function recorded(Part $part): array
    {
        $schema = $part->schema;
        $piece = ['type' => 'object', 'required' => ['name'], 'additionalProperties' => false];
        $piece['properties'] = ['name' => ['type' => 'string'], 'id' => ['type' => 'string']];
        foreach ($part->formulas as $field) {
            $schema['properties'] = [
                ...is_array($schema['properties'] ?? null) ? $schema['properties'] : [],
                $field => ['type' => 'array', 'items' => ['anyOf' => [['type' => 'string'], $piece]]],
            ];
        }

        return $schema;
    }

    /** @return array<string, Part> */
    private static function described(): array
    {
        return array_filter(Parts::filed(), static fn (Part $p): bool => $p->schema !== []);
    }

    private static function camel(Part $part): string
    {
        return lcfirst(str_replace(' ', '', ucwords($part->word)));
    }

    private static function type(mixed $schema, string $indent): string
    {
        $s = is_array($schema) ? $schema : [];
        if (is_string($s['$ref'] ?? null)) {
            $definition = ucfirst(basename($s['$ref']));

            return $definition === 'Id' ? 'string' : $definition;
        }
        $items = is_array($s['enum'] ?? null) ? $s['enum'] : [];
        if ($items !== []) {
            return implode(' | ', array_map(static fn (mixed $v): string => is_string($v) ? "'$v'" : (string) json_encode($v), $items));
        }
        if (($s['type'] ?? null) === 'object' && is_array($s['properties'] ?? null)) {
            $required = is_array($s['required'] ?? null) ? $s['required'] : [];
            $lines = '';
            foreach ($s['properties'] as $name => $one) {
                $lines .=
                    $indent.
                    '    '.
                    (preg_match('/^\w+$/', (string) $name) === 1 ? $name : "'$name'").
                    (in_array($name, $required, true) ? '' : '?').
                    ': '.
                    self::type($one, "$indent    ").
                    "\n";
            }

            return "{\n$lines$indent}".(($s['additionalProperties'] ?? true) === false ? '' : ' & Record<string, unknown>');
        }

        if (is_array($s['anyOf'] ?? null)) {
            return implode(' | ', array_map(static fn (mixed $one): string => self::type($one, $indent), $s['anyOf']));
        }
        if (is_array($s['type'] ?? null)) {
            return implode(' | ', array_map(static fn (mixed $type): string => self::type(['type' => $type], $indent), $s['type']));
        }

        return match ($s['type'] ?? 'string') {
            'number', 'integer' => 'number',
            'boolean' => 'boolean',
            'array' => is_array($s['prefixItems'] ?? null)
                ? self::tuple($s, $indent)
                : self::list(self::type($s['items'] ?? [], $indent)),
            'object' => 'Record<string, '.
                (is_array($s['additionalProperties'] ?? null) ? self::type($s['additionalProperties'], $indent) : 'unknown').
                '>',
            default => 'string',
        };
    }

    /** @param  array<mixed>  $s */
    private static function tuple(array $s, string $indent): string
    {
        $types = [];
        foreach (array_values((array) ($s['prefixItems'] ?? [])) as $i => $one) {
            $types[] = self::type((array) $one, $indent).($i < ($s['minItems'] ?? 0) ? '' : '?');
        }

        return '['.implode(', ', $types).']';
    }

    private static function list(string $type): string
    {
        return preg_match('/^\w+$/', $type) === 1 ? "{$type}[]" : "($type)[]";
    }
}
