<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Model;

use MerryOrbit\Core\Problem\NotUnderstood;

/** The points of a series over its dimensions, for each element a course of its own. Where none is given the series' own points hold. */
final readonly class Courses implements Readable, Recorded, Settled
{
    public const MOST = 2_000;

    private const MOST_COURSES = 5_000;

    private const MOST_POINTS = 400_000;

    public const SCHEMA = [
        'type' => 'object',
        'description' => 'The points of a series over its dimensions; elsewhere its own points hold.',
        'required' => ['id', 'of', 'values'],
        'additionalProperties' => false,
        'properties' => [
            'id' => ['$ref' => '#/$defs/id'],
            'of' => ['type' => 'string', 'description' => 'the name of the series'],
            'values' => [
                'type' => 'array',
                'description' => 'elements in the order of its dimensions, by id or name, and points of a time and a value, with increasing times',
                'items' => [
                    'type' => 'array',
                    'prefixItems' => [
                        ['type' => 'array', 'items' => ['type' => 'string']],
                        [
                            'type' => 'array',
                            'items' => ['type' => 'array', 'items' => ['type' => 'number'], 'minItems' => 2, 'maxItems' => 2],
                        ],
                    ],
                    'minItems' => 2,
                    'maxItems' => 2,
                ],
            ],
        ],
        'examples' => [['id' => 'c1', 'of' => 'rain', 'values' => [[['north'], [[0, 5], [10, 7.5]]]]]],
    ];

    /** @param  list<array{list<string>, list<array{float, float}>}>  $values  ids of elements in the order of the dimensions, and points */
    public function __construct(public string $id, public string $of, public array $values)
    {
    }

    public static function read(mixed $record): self
    {
        $given = is_array($record) ? $record : [];
        [$id, $of] = [$given['id'] ?? null, $given['of'] ?? null];
        if (! is_string($id) || ! Element::isId($id) || ! is_string($of) || $of === '') {
            throw NotUnderstood::because('Courses have an id of up to 40 small letters, digits and hyphens, and are `of` a series.');
        }
        $values = [];
        $count = 0;
        foreach (is_array($given['values'] ?? null) ? array_values($given['values']) : [] as $i => $line) {
            [$at, $points] = array_pad(is_array($line) ? array_values($line) : [], 2, null);
            $points = self::points($points);
            $count += count($points ?? []);
            $isPlace = is_array($at) && $at !== [] && array_filter($at, is_string(...)) === $at;
            if (! $isPlace || $points === null || $i >= self::MOST_COURSES) {
                throw NotUnderstood::because(
                    'Course '.($i + 1).' of a series is not a list of elements and a list of times and values.',
                );
            }
            $refusal =
                $count > self::MOST_POINTS
                    ? 'There are more than '.number_format(self::MOST_POINTS).' points.'
                    : Relation::refusal($points);
            if ($refusal !== null) {
                throw NotUnderstood::because('Course '.($i + 1).": $refusal");
            }
            $values[] = [array_values($at), $points];
        }

        return new self($id, $of, $values);
    }

    /** @return list<array{float, float}>|null */
    private static function points(mixed $given): ?array
    {
        $points = [];
        foreach (is_array($given) ? $given : [null] as $pair) {
            [$time, $value] = array_pad(is_array($pair) ? array_values($pair) : [], 2, null);
            if (! (is_int($time) || is_float($time)) || ! (is_int($value) || is_float($value))) {
                return null;
            }
            $points[] = [(float) $time, (float) $value];
        }

        return $points;
    }

    public function settled(Model $model): static
    {
        $over = $model->shapes[$this->of] ?? [];
        $dimensions = $model->dimensions();
        $values = [];
        foreach ($this->values as [$at, $points]) {
            foreach ($at as $i => $one) {
                $at[$i] = (isset($over[$i]) ? $dimensions->elementOf($over[$i], $one) : null) ?? $one;
            }
            $values[] = [$at, $points];
        }

        return new self($this->id, $this->of, $values);
    }

    public function unfit(Model $model): ?string
    {
        return $model->element($this->of) instanceof Series
            ? null
            : 'Courses by element are those of a series; there is none of that name.';
    }

    /** @return array<string, mixed> */
    public function toRecord(): array
    {
        return ['id' => $this->id, 'of' => $this->of, 'values' => $this->values];
    }
}
