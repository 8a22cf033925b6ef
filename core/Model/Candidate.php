<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Model;

use MerryOrbit\Core\Problem\NotUnderstood;

/** Values that a parameter may have, of which some are tried: one gives that number, several a dimension of what comes out. */
final readonly class Candidate implements Readable, Recorded
{
    public const MOST = 200;

    private const MOST_VALUES = 100;

    public const SCHEMA = [
        'type' => 'object',
        'description' => 'Values that a parameter may have, of which some are tried together.',
        'required' => ['id', 'of', 'values'],
        'additionalProperties' => false,
        'properties' => [
            'id' => ['$ref' => '#/$defs/id'],
            'of' => ['type' => 'string', 'description' => 'the name of a parameter'],
            'values' => ['type' => 'array', 'minItems' => 1, 'maxItems' => self::MOST_VALUES, 'items' => ['type' => 'number']],
            'ticked' => [
                'type' => 'array',
                'items' => ['type' => 'number'],
                'description' => 'those of them that are tried; none: the model’s own',
            ],
            'place' => ['type' => 'number', 'default' => 0],
        ],
        'examples' => [['id' => 'c1', 'of' => 'boats', 'values' => [1, 2, 3], 'ticked' => [1, 3]]],
    ];

    /**
     * @param  list<float>  $values  in the order in which they are shown, none twice
     * @param  list<float>  $ticked  some of them
     */
    public function __construct(
        public string $id,
        public string $of,
        public array $values,
        public array $ticked = [],
        public float $place = 0.0,
    ) {
    }

    public static function read(mixed $record): self
    {
        $given = Given::of($record, 'a list of candidates');
        $values = array_values(array_unique($given->numbers('values', self::MOST_VALUES)));
        $ticked = $given->numbers('ticked', self::MOST_VALUES);

        return $values === []
            ? throw NotUnderstood::because('Candidates need one value at least.')
            : new self(
                $given->id(),
                $given->words('of', 120),
                $values,
                array_values(array_filter($values, static fn (float $v): bool => in_array($v, $ticked, true))),
                $given->number('place', -1e12, 1e12, 0.0),
            );
    }

    public function unfit(Model $model): ?string
    {
        if (! ($model->element($this->of) instanceof Parameter)) {
            return 'Candidates are values of a parameter; there is none of that name.';
        }
        foreach ($model->part('candidates') as $other) {
            if ($other instanceof self && $other->id !== $this->id && $other->of === $this->of) {
                return "`{$model->nameOf($this->of)}` has candidates already. Change those.";
            }
        }

        return null;
    }

    public function toRecord(): array
    {
        return [
            'id' => $this->id,
            'of' => $this->of,
            'values' => $this->values,
            ...$this->ticked === [] ? [] : ['ticked' => $this->ticked],
            ...$this->place === 0.0 ? [] : ['place' => $this->place],
        ];
    }
}
