<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Exchange\Xmile;

use MerryOrbit\Core\Exchange\ImportLog;

/** An element of an XML file. Its name is in small letters; `prefix` is that of a foreign namespace, empty for the standard's own. */
final class XmlNode
{
    /** @var list<XmlNode> */
    public array $children = [];

    public string $text = '';

    /** @var array<string, list<XmlNode>>|null children of the standard by name, when there were as many as */
    private ?array $named = null;

    private int $counted = 0;

    /** @param  array<string, string>  $attributes  by name in small letters, those of foreign namespaces with their prefix */
    public function __construct(public readonly string $name, public readonly string $prefix, public readonly array $attributes)
    {
    }

    /** The first child of this name. */
    public function child(string $name): ?self
    {
        return $this->all($name)[0] ?? null;
    }

    /** @return list<XmlNode> */
    public function all(string $name): array
    {
        if ($this->named === null || $this->counted !== count($this->children)) {
            $this->named = [];
            $this->counted = count($this->children);
            foreach ($this->children as $child) {
                if ($child->prefix === '') {
                    $this->named[$child->name][] = $child;
                }
            }
        }

        return $this->named[$name] ?? [];
    }

    public function textOf(string $name): ?string
    {
        $child = $this->child($name);

        return $child === null ? null : trim($child->text);
    }

    public function attribute(string $name): ?string
    {
        return $this->attributes[$name] ?? null;
    }

    /** Says what of it is no part of the standard. */
    public function noteForeign(ImportLog $log, string $where): void
    {
        $prefixes = [];
        foreach ($this->children as $child) {
            if ($child->prefix !== '') {
                $prefixes[] = "<$child->prefix:$child->name>";
            }
        }
        foreach ($this->attributes as $attribute => $_) {
            if (str_contains($attribute, ':') && ! str_starts_with($attribute, 'xml')) {
                $prefixes[] = "The attribute $attribute";
            }
        }
        foreach (array_unique($prefixes) as $prefix) {
            $log->noted($where, "$prefix is no part of the standard and was left out.");
        }
    }
}
