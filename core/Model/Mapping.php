<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Model;

use MerryOrbit\Core\Formula\Name;
use MerryOrbit\Core\Problem\NotUnderstood;

/** How the elements of one dimension belong to those of another: pairs with weights. */
final readonly class Mapping implements Readable, Recorded, Settled
{
    public const MOST = 200;

    public const MOST_PAIRS = 400_000;

    public const SCHEMA = [
        'type' => 'object',
        'description' => 'How the elements of one dimension belong to those of another.',
        'required' => ['id', 'name', 'from', 'to', 'pairs'],
        'additionalProperties' => false,
        'properties' => [
            'id' => ['$ref' => '#/$defs/id'],
            'name' => ['type' => 'string', 'minLength' => 1],
            'from' => ['type' => 'string', 'description' => 'the id of the dimension whose elements belong to others'],
            'to' => ['type' => 'string', 'description' => 'the id of the dimension that they belong to'],
            'pairs' => [
                'type' => 'array',
                'description' => 'element, what it belongs to, and with which weight (1 when left out); by ids or names',
                'items' => [
                    'type' => 'array',
                    'prefixItems' => [['type' => 'string'], ['type' => 'string'], ['type' => 'number']],
                    'minItems' => 2,
                    'maxItems' => 3,
                ],
            ],
        ],
        'examples' => [
            [
                'id' => 'home-bay',
                'name' => 'home bay',
                'from' => 'terrace',
                'to' => 'bay',
                'pairs' => [['north', 'east-bay'], ['middle', 'east-bay'], ['south', 'west-bay']],
            ],
        ],
    ];

    /** @param  list<array{string, string, float}>  $pairs  ids of elements, and the weight */
    public function __construct(public string $id, public string $name, public string $from, public string $to, public array $pairs)
    {
    }

    public static function read(mixed $record): self
    {
        $given = is_array($record) ? $record : [];
        [$id, $name, $from, $to] = [$given['id'] ?? null, $given['name'] ?? null, $given['from'] ?? null, $given['to'] ?? null];
        if (! is_string($id) || ! Element::isId($id) || ! is_string($name) || ! is_string($from) || ! is_string($to)) {
            throw NotUnderstood::because(
                'A mapping has an id of up to 40 small letters, digits and hyphens, a name, and leads `from` one dimension `to` another.',
            );
        }
        $name = Name::tidy($name);
        $refusal = Name::refusal($name);
        if ($refusal !== null) {
            throw NotUnderstood::because("A mapping cannot be called so: $refusal");
        }
        $pairs = [];
        $seen = [];
        foreach (is_array($given['pairs'] ?? null) ? array_values($given['pairs']) : [] as $i => $pair) {
            [$a, $b, $weight] = array_pad(is_array($pair) ? array_values($pair) : [], 3, 1);
            $fits = is_string($a) && is_string($b) && (is_int($weight) || is_float($weight)) && is_finite((float) $weight);
            if (! $fits || isset($seen["$a\n$b"]) || $i >= self::MOST_PAIRS) {
                throw NotUnderstood::because(
                    'Pair '.($i + 1)." of the mapping `$name` is not two elements and a weight, or stands there twice.",
                );
            }
            $seen["$a\n$b"] = true;
            $pairs[] = [$a, $b, (float) $weight];
        }

        return new self($id, $name, $from, $to, $pairs);
    }

    public function settled(Model $model): static
    {
        $dimensions = $model->dimensions();
        $from = $dimensions->find($this->from)->id ?? $this->from;
        $to = $dimensions->find($this->to)->id ?? $this->to;
        $pairs = array_map(
            static fn (array $p): array => [
                $dimensions->elementOf($from, $p[0]) ?? $p[0],
                $dimensions->elementOf($to, $p[1]) ?? $p[1],
                $p[2],
            ],
            $this->pairs,
        );

        return new self($this->id, $this->name, $from, $to, $pairs);
    }

    public function unfit(Model $model): ?string
    {
        $dimensions = $model->dimensions();
        $other = $model->mappings()[Name::key($this->name)] ?? null;
        $isTaken = $model->idOf(Name::key($this->name)) !== null || $dimensions->find($this->name) !== null;
        if ($isTaken || ($other !== null && $other->id !== $this->id)) {
            return "A mapping cannot be called `$this->name`: something else is called so already.";
        }
        foreach ([$this->from, $this->to] as $end) {
            if ($dimensions->find($end) === null) {
                return "The mapping `$this->name` leads from one dimension to another; there is none called `$end`.";
            }
        }
        foreach ($this->pairs as [$a, $b]) {
            foreach ([[$this->from, $a], [$this->to, $b]] as [$dimension, $element]) {
                if ($dimensions->elementOf($dimension, $element) === null) {
                    return "The mapping `$this->name` names `$element`, which is no element of the dimension `$dimension`.";
                }
            }
        }

        return null;
    }

    /** @return array<string, mixed> */
    public function toRecord(): array
    {
        return [
            'id' => $this->id,
            'name' => $this->name,
            'from' => $this->from,
            'to' => $this->to,
            'pairs' => array_map(static fn (array $p): array => $p[2] === 1.0 ? [$p[0], $p[1]] : $p, $this->pairs),
        ];
    }
}
