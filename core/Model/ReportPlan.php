<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Model;

use MerryOrbit\Core\Problem\NotUnderstood;

/**
 * What a report of a study tells, in which order, with which words of its author between. The report itself is made anew from the model.
 *
 * @phpstan-type Section array{kind: value-of<self::SECTIONS>, words: string}
 */
final readonly class ReportPlan implements Readable, Recorded
{
    public const MOST = 20;

    public const SECTIONS = [
        'question',
        'map',
        'structure',
        'runs',
        'data',
        'fits',
        'tests',
        'uncertainty',
        'findings',
        'variables',
        'history',
    ];

    public const PAPERS = ['a4', 'letter'];

    private const LONGEST = 20_000;

    private const WORDS = ['type' => 'string', 'maxLength' => self::LONGEST];

    public const SCHEMA = [
        'type' => 'object',
        'description' => 'What a report of the study tells.',
        'required' => ['id', 'title'],
        'additionalProperties' => false,
        'properties' => [
            'id' => ['$ref' => '#/$defs/id'],
            'title' => ['type' => 'string', 'maxLength' => 200],
            'words' => [...self::WORDS, 'description' => 'what stands first (Markdown)'],
            'paper' => ['enum' => self::PAPERS, 'default' => 'a4'],
            'sections' => [
                'type' => 'array',
                'description' => 'in their order; without any, all of them',
                'items' => [
                    'type' => 'object',
                    'required' => ['kind'],
                    'additionalProperties' => false,
                    'properties' => [
                        'kind' => ['enum' => self::SECTIONS],
                        'words' => [...self::WORDS, 'description' => 'what the author says before it (Markdown)'],
                    ],
                ],
            ],
            'place' => ['type' => 'number'],
        ],
        'examples' => [
            ['id' => 'council', 'title' => 'What keeps the harbour deep', 'sections' => [['kind' => 'question'], ['kind' => 'map']]],
        ],
    ];

    /** @param  list<Section>  $sections */
    public function __construct(
        public string $id,
        public string $title,
        public string $words = '',
        public string $paper = 'a4',
        public array $sections = [],
        public float $place = 0.0,
    ) {
    }

    /** @throws NotUnderstood */
    public static function read(mixed $record): self
    {
        $given = Given::of($record, 'a report');
        $sections = $given->any('sections') ?? [];
        if (! is_array($sections) || count($sections) > 2 * count(self::SECTIONS)) {
            throw NotUnderstood::because('The `sections` of a report are a list of what it tells.');
        }

        return new self(
            $given->id(),
            $given->words('title', 200),
            $given->text('words', self::LONGEST),
            $given->oneOf('paper', self::PAPERS, 'a4'),
            array_map(static function (mixed $one): array {
                $section = Given::of($one, 'a section of a report');

                return [
                    'kind' => $section->oneOf('kind', self::SECTIONS, self::SECTIONS[0]),
                    'words' => $section->text('words', self::LONGEST),
                ];
            }, array_values($sections)),
            $given->number('place', -1e9, 1e9, 0.0),
        );
    }

    public function unfit(Model $model): ?string
    {
        return null;
    }

    /** @return list<Section> those that it tells */
    public function told(): array
    {
        return $this->sections !== []
            ? $this->sections
            : array_map(static fn (string $kind): array => ['kind' => $kind, 'words' => ''], self::SECTIONS);
    }

    public function toRecord(): array
    {
        return [
            'id' => $this->id,
            'title' => $this->title,
            ...array_filter(
                [
                    'words' => $this->words,
                    'paper' => $this->paper === 'a4' ? '' : $this->paper,
                    'sections' => array_map(
                        static fn (array $s): array => array_filter($s, static fn (string $v): bool => $v !== ''),
                        $this->sections,
                    ),
                ],
                static fn (mixed $v): bool => $v !== '' && $v !== [],
            ),
            ...$this->place === 0.0 ? [] : ['place' => $this->place],
        ];
    }
}
