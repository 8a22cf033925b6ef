<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Model;

use MerryOrbit\Core\Problem\NotUnderstood;

/**
 * A geographic picture of areas, coloured by values of the model. Its file lies outside of the document, under the hash of its content.
 */
final readonly class AreaMap implements Readable, Recorded
{
    public const MOST = 50;

    private const PAIRS = 3_000;

    public const SCHEMA = [
        'type' => 'object',
        'description' => 'A geographic picture of areas (GeoJSON), and which area is which element of a dimension.',
        'required' => ['id', 'name'],
        'additionalProperties' => false,
        'properties' => [
            'id' => ['$ref' => '#/$defs/id'],
            'name' => ['type' => 'string', 'maxLength' => 200, 'description' => 'what the file is called'],
            'content' => ['type' => 'string', 'pattern' => '^([0-9a-f]{64})?$', 'description' => 'the SHA-256 of the file'],
            'title' => ['type' => 'string', 'maxLength' => 200, 'description' => 'the property that names areas; empty: found'],
            'of' => ['type' => 'string', 'description' => 'the variable that colours it'],
            'steps' => ['type' => 'boolean', 'default' => false, 'description' => 'a few colours with limits in place of many'],
            'joins' => [
                'type' => 'array',
                'maxItems' => 20,
                'description' => 'where the property that says which element an area is was chosen by hand',
                'items' => [
                    'type' => 'object',
                    'required' => ['dimension'],
                    'additionalProperties' => false,
                    'properties' => [
                        'dimension' => ['type' => 'string', 'description' => 'its id'],
                        'property' => ['type' => 'string', 'maxLength' => 200],
                        'pairs' => [
                            'type' => 'object',
                            'additionalProperties' => ['type' => 'string'],
                            'description' => 'ids of elements by value of the property; empty for none',
                        ],
                    ],
                ],
            ],
        ],
        'examples' => [['id' => 'a1', 'name' => 'coves.geojson', 'of' => 'landed']],
    ];

    /** @param  list<array{dimension: string, property: string, pairs: array<string, string>}>  $joins */
    public function __construct(
        public string $id,
        public string $name,
        public string $content = '',
        public string $title = '',
        public string $of = '',
        public bool $isInSteps = false,
        public array $joins = [],
    ) {
    }

    public static function read(mixed $record): self
    {
        $given = Given::of($record, 'an area map');
        $joins = $given->any('joins') ?? [];

        return new self(
            $given->id(),
            $given->words('name', 200),
            $given->hash('content'),
            $given->text('title', 200),
            $given->text('of', 120),
            $given->flag('steps'),
            is_array($joins) && count($joins) <= 20
                ? array_map(self::join(...), array_values($joins))
                : throw NotUnderstood::because('`joins` of an area map is a list of at most 20.'),
        );
    }

    /** @return array{dimension: string, property: string, pairs: array<string, string>} */
    private static function join(mixed $record): array
    {
        $given = Given::of($record, 'a join of an area map');
        $pairs = $given->any('pairs') ?? [];
        $kept = [];
        foreach (is_array($pairs) && count($pairs) <= self::PAIRS ? $pairs : [null] as $value => $element) {
            if (! is_string($element) || mb_strlen($element) > 120 || mb_strlen((string) $value) > 200) {
                throw NotUnderstood::because('`pairs` of an area map says the element for each value of the property.');
            }
            $kept[(string) $value] = $element;
        }

        return ['dimension' => $given->words('dimension', 120), 'property' => $given->text('property', 200), 'pairs' => $kept];
    }

    public function unfit(Model $model): ?string
    {
        return null;
    }

    public function toRecord(): array
    {
        $words = ['content' => $this->content, 'title' => $this->title, 'of' => $this->of];
        $joins = array_map(
            static fn (array $j): array => [
                'dimension' => $j['dimension'],
                ...$j['property'] === '' ? [] : ['property' => $j['property']],
                ...$j['pairs'] === [] ? [] : ['pairs' => $j['pairs']],
            ],
            $this->joins,
        );

        return [
            'id' => $this->id,
            'name' => $this->name,
            ...array_filter($words, static fn (string $w): bool => $w !== ''),
            ...$this->isInSteps ? ['steps' => true] : [],
            ...$joins === [] ? [] : ['joins' => $joins],
        ];
    }
}
