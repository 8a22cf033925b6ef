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
            $properties[$name] = ['type' => 'array', 'maxItems' => $part->most, 'items' => ['$ref' => "#/\$defs/$definition"]];
            $definitions[$definition] = $part->schema;
        }
        $schema->properties = (object) $properties;
        $schema->{'$defs'} = (object) $definitions;

        return $schema;
    }

    /** TypeScript of the same, of records as the page gets them: with ids where a file has names. */
    public static function typescript(): string
    {
        $text = "// Written by bin/write-docs from the parts that core/Model/Parts.php declares.\n";
        $fields = '';
        foreach (self::described() as $name => $part) {
            $type = ucfirst(self::camel($part)).'Record';
            $text .= "\nexport interface $type ".self::type($part->schema, '')."\n";
            $fields .= "    $name: Record<string, $type>\n";
        }

        return "$text\nexport interface OtherParts {\n$fields}\n";
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
        $items = is_array($s['enum'] ?? null) ? $s['enum'] : [];
        if ($items !== []) {
            return implode(' | ', array_map(static fn (mixed $v): string => is_string($v) ? "'$v'" : (string) json_encode($v), $items));
        }
        if (($s['type'] ?? null) === 'object' && is_array($s['properties'] ?? null)) {
            $required = is_array($s['required'] ?? null) ? $s['required'] : [];
            $lines = '';
            foreach ($s['properties'] as $name => $one) {
                $lines .= "$indent    $name".(in_array($name, $required, true) ? '' : '?').': '.self::type($one, "$indent    ")."\n";
            }

            return "{\n$lines$indent}";
        }

        return match ($s['type'] ?? 'string') {
            'number', 'integer' => 'number',
            'boolean' => 'boolean',
            'array' => '('.self::type($s['items'] ?? [], $indent).')[]',
            'object' => 'Record<string, unknown>',
            default => 'string',
        };
    }
}
