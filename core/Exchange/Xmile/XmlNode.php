<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Exchange\Xmile;

/** An element of an XML file. Its name is in small letters; `prefix` is that of a foreign namespace, empty for the standard's own. */
final class XmlNode
{
    /** @var list<XmlNode> */
    public array $children = [];

    public string $text = '';

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
        return array_values(array_filter($this->children, static fn (self $c): bool => $c->name === $name && $c->prefix === ''));
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
}
