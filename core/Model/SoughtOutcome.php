<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Model;

/** One number of a run that people look at when they make many: a variable at the end, at a time, at its least or greatest. */
final readonly class SoughtOutcome implements Readable, Recorded, Settled
{
    public const MOST = 100;

    public const KINDS = ['last', 'at', 'min', 'max', 'mean', 'total', 'peak'];

    public const SCHEMA = [
        'type' => 'object',
        'description' => 'One number of a run that is looked at when many are made.',
        'required' => ['id', 'of'],
        'additionalProperties' => false,
        'properties' => [
            'id' => ['$ref' => '#/$defs/id'],
            'of' => ['type' => 'string', 'description' => 'the name of a variable'],
            'at' => [
                'type' => 'array',
                'items' => ['type' => 'string'],
                'description' => 'of a variable along dimensions, the element of each, in their order, by id or name',
            ],
            'kind' => [
                'enum' => self::KINDS,
                'default' => 'last',
                'description' => 'at the end, at a time, its least or greatest value, mean over time, integral, or the time of its greatest value',
            ],
            'time' => ['type' => 'number', 'description' => 'for `at`'],
            'place' => ['type' => 'number', 'default' => 0, 'description' => 'where it stands among the others'],
        ],
        'examples' => [['id' => 'o1', 'of' => 'kelp', 'kind' => 'min']],
    ];

    /**
     * @param  list<string>  $at  ids of elements, in the order of the dimensions
     * @param  value-of<self::KINDS>  $kind
     */
    public function __construct(
        public string $id,
        public string $of,
        public string $kind = 'last',
        public array $at = [],
        public float $time = 0.0,
        public float $place = 0.0,
    ) {
    }

    public static function read(mixed $record): self
    {
        $given = Given::of($record, 'an outcome');

        return new self(
            $given->id(),
            $given->words('of', 120),
            $given->oneOf('kind', self::KINDS, 'last'),
            $given->texts('at', 8, 120),
            $given->number('time', -1e15, 1e15, 0.0),
            $given->number('place', -1e12, 1e12, 0.0),
        );
    }

    public function settled(Model $model): static
    {
        return new self($this->id, $this->of, $this->kind, $model->elementsAt($this->of, $this->at), $this->time, $this->place);
    }

    public function unfit(Model $model): ?string
    {
        return $model->hasCourse($this->of) ? null : 'An outcome is of something that a run computes; there is nothing of that name.';
    }

    /** The variable, or one of its elements. */
    public function key(): string
    {
        return Model::keyAt($this->of, $this->at);
    }

    public function toRecord(): array
    {
        return [
            'id' => $this->id,
            'of' => $this->of,
            'kind' => $this->kind,
            ...$this->at === [] ? [] : ['at' => $this->at],
            ...$this->kind === 'at' ? ['time' => $this->time] : [],
            ...$this->place === 0.0 ? [] : ['place' => $this->place],
        ];
    }
}
