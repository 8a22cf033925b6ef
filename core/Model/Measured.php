<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Model;

/** Evidence: what was measured of a variable, at times of the study and in the variable's own unit, and from which column it comes. */
final readonly class Measured implements Readable, Recorded, Settled
{
    public const MOST = 500;

    public const MOST_POINTS = 5_000;

    public const SCHEMA = [
        'type' => 'object',
        'description' => 'What was measured of a variable, at times of the study and in the unit of the variable.',
        'required' => ['id', 'of', 'points'],
        'additionalProperties' => false,
        'properties' => [
            'id' => ['$ref' => '#/$defs/id'],
            'of' => ['type' => 'string', 'description' => 'the name of the variable'],
            'at' => [
                'type' => 'array',
                'items' => ['type' => 'string'],
                'description' => 'of a variable along dimensions, the element of each, in their order, by id or name',
            ],
            'source' => ['type' => 'string', 'maxLength' => 40, 'description' => 'the id of the source'],
            'column' => ['type' => 'string', 'maxLength' => 300, 'description' => 'what it is called there'],
            'unit' => ['type' => 'string', 'maxLength' => 60, 'description' => 'its unit there'],
            'factor' => ['type' => 'number', 'default' => 1, 'description' => 'what its numbers were multiplied with'],
            'points' => [
                'type' => 'array',
                'maxItems' => self::MOST_POINTS,
                'description' => 'times and values, times not falling',
                'items' => [
                    'type' => 'array',
                    'prefixItems' => [['type' => 'number'], ['type' => 'number']],
                    'minItems' => 2,
                    'maxItems' => 2,
                ],
            ],
        ],
        'examples' => [
            ['id' => 'e1', 'of' => 'kelp', 'source' => 's1', 'column' => 'Kelp', 'unit' => 't', 'points' => [[0, 50.2], [2, 47.7]]],
        ],
    ];

    /**
     * @param  list<array{float, float}>  $points
     * @param  list<string>  $at  ids of elements, in the order of the dimensions
     */
    public function __construct(
        public string $id,
        public string $of,
        public array $points,
        public array $at = [],
        public string $source = '',
        public string $column = '',
        public string $unit = '',
        public float $factor = 1.0,
    ) {
    }

    public static function read(mixed $record): self
    {
        $given = Given::of($record, 'evidence');

        return new self(
            $given->id(),
            $given->words('of', 120),
            $given->points('points', self::MOST_POINTS, mayRepeat: true),
            $given->texts('at', 8, 120),
            $given->text('source', 40),
            $given->text('column', 300),
            $given->text('unit', 60),
            $given->number('factor', -1e30, 1e30, 1.0),
        );
    }

    public function settled(Model $model): static
    {
        $over = $model->shapes[$this->of] ?? [];
        $at = [];
        foreach ($this->at as $i => $one) {
            $at[] = (isset($over[$i]) ? $model->dimensions()->elementOf($over[$i], $one) : null) ?? $one;
        }

        return new self($this->id, $this->of, $this->points, $at, $this->source, $this->column, $this->unit, $this->factor);
    }

    public function unfit(Model $model): ?string
    {
        return $model->element($this->of) === null ? 'Evidence is of a variable; there is none of that name.' : null;
    }

    public function toRecord(): array
    {
        $fields = ['source' => $this->source, 'column' => $this->column, 'unit' => $this->unit];

        return [
            'id' => $this->id,
            'of' => $this->of,
            ...$this->at === [] ? [] : ['at' => $this->at],
            ...array_filter($fields, static fn (string $v): bool => $v !== ''),
            ...$this->factor === 1.0 ? [] : ['factor' => $this->factor],
            'points' => $this->points,
        ];
    }
}
