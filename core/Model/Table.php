<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Model;

use MerryOrbit\Core\Problem\NotUnderstood;

/** The values of a parameter over its dimensions. Where none is given it has the value that it had before it had dimensions. */
final readonly class Table implements Readable, Recorded, Settled
{
    public const MOST = 20_000;

    public const MOST_VALUES = 400_000;

    public const SCHEMA = [
        'type' => 'object',
        'description' => 'The values of a parameter over its dimensions; elsewhere its formula holds.',
        'required' => ['id', 'of', 'values'],
        'additionalProperties' => false,
        'properties' => [
            'id' => ['$ref' => '#/$defs/id'],
            'of' => ['type' => 'string', 'description' => 'the name of the parameter'],
            'values' => [
                'type' => 'array',
                'description' => 'elements in the order of its dimensions, by id or name, and the value',
                'items' => [
                    'type' => 'array',
                    'prefixItems' => [['type' => 'array', 'items' => ['type' => 'string']], ['type' => 'number']],
                    'minItems' => 2,
                    'maxItems' => 2,
                ],
            ],
        ],
        'examples' => [['id' => 't1', 'of' => 'volume', 'values' => [[['children'], 40], [['hot'], 12.5]]]],
    ];

    /** @param  list<array{list<string>, float}>  $values  ids of elements in the order of the dimensions, and the value */
    public function __construct(public string $id, public string $of, public array $values)
    {
    }

    public static function read(mixed $record): self
    {
        $given = is_array($record) ? $record : [];
        [$id, $of] = [$given['id'] ?? null, $given['of'] ?? null];
        if (! is_string($id) || ! Element::isId($id) || ! is_string($of) || $of === '') {
            throw NotUnderstood::because('A table has an id of up to 40 small letters, digits and hyphens, and is `of` a parameter.');
        }
        $values = [];
        foreach (is_array($given['values'] ?? null) ? array_values($given['values']) : [] as $i => $line) {
            [$at, $value] = array_pad(is_array($line) ? array_values($line) : [], 2, null);
            $isPlace = is_array($at) && $at !== [] && array_filter($at, is_string(...)) === $at;
            if (! $isPlace || ! (is_int($value) || is_float($value)) || ! is_finite((float) $value) || $i >= self::MOST_VALUES) {
                throw NotUnderstood::because('Value '.($i + 1).' of a table is not a list of elements and a number.');
            }
            $values[] = [array_values($at), (float) $value];
        }

        return new self($id, $of, $values);
    }

    public function settled(Model $model): static
    {
        $over = $model->shapes[$this->of] ?? [];
        $dimensions = $model->dimensions();
        $values = [];
        foreach ($this->values as [$at, $value]) {
            foreach ($at as $i => $one) {
                $at[$i] = (isset($over[$i]) ? $dimensions->elementOf($over[$i], $one) : null) ?? $one;
            }
            $values[] = [$at, $value];
        }

        return new self($this->id, $this->of, $values);
    }

    public function unfit(Model $model): ?string
    {
        $element = $model->element($this->of);
        if (! ($element instanceof Parameter)) {
            return 'A table gives the values of a parameter; there is none of that name.';
        }
        $over = $model->shapes[$this->of] ?? [];
        foreach ($this->values as [$at]) {
            if (count($at) !== count($over)) {
                return "`$element->name` extends over ".
                    count($over).
                    ' dimensions, but its table names '.
                    count($at).
                    ' elements for a value.';
            }
            foreach ($at as $i => $one) {
                if ($model->dimensions()->elementOf($over[$i], $one) === null) {
                    return "The table of `$element->name` names `$one`, which is no element of the dimension `{$over[$i]}`.";
                }
            }
        }

        return null;
    }

    /** @return array<string, mixed> */
    public function toRecord(): array
    {
        return ['id' => $this->id, 'of' => $this->of, 'values' => $this->values];
    }
}
