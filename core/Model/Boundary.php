<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Model;

/** On which side of the boundary of a study something stands: inside, taken as given from outside, or left out. */
final readonly class Boundary implements Readable, Recorded
{
    public const MOST = 500;

    public const SIDES = ['inside', 'given', 'left'];

    private const LONGEST = 400;

    public const SCHEMA = [
        'type' => 'object',
        'description' => 'On which side of the boundary something stands.',
        'required' => ['id', 'name'],
        'additionalProperties' => false,
        'properties' => [
            'id' => ['$ref' => '#/$defs/id'],
            'name' => ['type' => 'string', 'maxLength' => 120],
            'side' => ['enum' => self::SIDES, 'default' => 'inside', 'description' => 'inside, given from outside, or left out'],
            'why' => ['type' => 'string', 'maxLength' => self::LONGEST],
            'of' => ['type' => 'string', 'description' => 'the name of the thing that it became'],
            'place' => ['type' => 'number', 'description' => 'where it stands in its list'],
        ],
        'examples' => [['id' => 'b1', 'name' => 'the tides', 'side' => 'left', 'why' => 'the same each year']],
    ];

    /** @param  value-of<self::SIDES>  $side */
    public function __construct(
        public string $id,
        public string $name,
        public string $side = 'inside',
        public string $why = '',
        public string $of = '',
        public float $place = 0.0,
    ) {
    }

    public static function read(mixed $record): self
    {
        $given = Given::of($record, 'a boundary line');

        return new self(
            $given->id(),
            $given->words('name', 120),
            $given->oneOf('side', self::SIDES, 'inside'),
            $given->text('why', self::LONGEST),
            $given->text('of', 120),
            $given->number('place', -1e9, 1e9, 0.0),
        );
    }

    public function unfit(Model $model): ?string
    {
        return null;
    }

    public function toRecord(): array
    {
        $fields = ['side' => $this->side === 'inside' ? '' : $this->side, 'why' => $this->why, 'of' => $this->of];

        return [
            'id' => $this->id,
            'name' => $this->name,
            ...array_filter($fields, static fn (string $v): bool => $v !== ''),
            ...$this->place === 0.0 ? [] : ['place' => $this->place],
        ];
    }
}
