<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Model;

/** A course over time that is feared, hoped for, expected or was seen; it lies over the result of what it is of. */
final readonly class ReferenceMode implements Readable, Recorded
{
    public const MOST = 60;

    public const KINDS = ['seen', 'feared', 'hoped', 'expected'];

    private const MOST_POINTS = 2_000;

    public const SCHEMA = [
        'type' => 'object',
        'description' => 'A course over time that is feared, hoped for, expected or was seen.',
        'required' => ['id', 'points'],
        'additionalProperties' => false,
        'properties' => [
            'id' => ['$ref' => '#/$defs/id'],
            'kind' => ['enum' => self::KINDS, 'default' => 'expected'],
            'of' => ['type' => 'string', 'description' => 'the name of what it is of, if that is there'],
            'what' => [
                'type' => 'string',
                'maxLength' => 120,
                'description' => 'in words what it is of, as long as it is of nothing that is there',
            ],
            'unit' => ['type' => 'string', 'maxLength' => 60],
            'words' => ['type' => 'string', 'maxLength' => 400],
            'points' => [
                'type' => 'array',
                'maxItems' => self::MOST_POINTS,
                'description' => 'times and values, times increasing',
                'items' => [
                    'type' => 'array',
                    'prefixItems' => [['type' => 'number'], ['type' => 'number']],
                    'minItems' => 2,
                    'maxItems' => 2,
                ],
            ],
        ],
        'examples' => [
            [
                'id' => 'm1',
                'kind' => 'feared',
                'of' => 'depth at the quay',
                'words' => 'the ferry stays away',
                'points' => [[2026, 4.2], [2060, 1]],
            ],
        ],
    ];

    /**
     * @param  value-of<self::KINDS>  $kind
     * @param  list<array{float, float}>  $points
     */
    public function __construct(
        public string $id,
        public string $kind,
        public array $points,
        public string $of = '',
        public string $what = '',
        public string $unit = '',
        public string $words = '',
    ) {
    }

    public static function read(mixed $record): self
    {
        $given = Given::of($record, 'a reference mode');

        return new self(
            $given->id(),
            $given->oneOf('kind', self::KINDS, 'expected'),
            $given->points('points', self::MOST_POINTS),
            $given->text('of', 120),
            $given->text('what', 120),
            $given->text('unit', 60),
            $given->text('words', 400),
        );
    }

    public function unfit(Model $model): ?string
    {
        return null;
    }

    public function toRecord(): array
    {
        $fields = ['of' => $this->of, 'what' => $this->what, 'unit' => $this->unit, 'words' => $this->words];

        return [
            'id' => $this->id,
            'kind' => $this->kind,
            'points' => $this->points,
            ...array_filter($fields, static fn (string $v): bool => $v !== ''),
        ];
    }
}
