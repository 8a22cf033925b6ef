<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Model;

/** What a study asks, for whom, what will be decided, and what would count as an answer. A study has one at most. */
final readonly class Question implements Readable, Recorded
{
    public const MOST = 1;

    private const LONGEST = 1_000;

    private const MOST_ANSWERS = 12;

    public const SCHEMA = [
        'type' => 'object',
        'description' => 'What the study asks. A file has one at most.',
        'required' => ['id'],
        'additionalProperties' => false,
        'properties' => [
            'id' => ['$ref' => '#/$defs/id'],
            'text' => ['type' => 'string', 'maxLength' => self::LONGEST],
            'of' => ['type' => 'string', 'description' => 'the name of what is followed'],
            'who' => ['type' => 'string', 'maxLength' => self::LONGEST, 'description' => 'who asks'],
            'decision' => ['type' => 'string', 'maxLength' => self::LONGEST, 'description' => 'what will be decided, and when'],
            'answers' => [
                'type' => 'array',
                'maxItems' => self::MOST_ANSWERS,
                'description' => 'what would count as an answer',
                'items' => ['type' => 'string', 'maxLength' => self::LONGEST],
            ],
        ],
        'examples' => [['id' => 'q', 'text' => 'Why does the harbour silt up faster than we dredge it?', 'of' => 'depth at the quay']],
    ];

    /** @param  list<string>  $answers */
    public function __construct(
        public string $id,
        public string $text = '',
        public string $of = '',
        public string $who = '',
        public string $decision = '',
        public array $answers = [],
    ) {
    }

    public static function read(mixed $record): self
    {
        $given = Given::of($record, 'a question');

        return new self(
            $given->id(),
            $given->text('text', self::LONGEST),
            $given->text('of', self::LONGEST),
            $given->text('who', self::LONGEST),
            $given->text('decision', self::LONGEST),
            $given->texts('answers', self::MOST_ANSWERS, self::LONGEST),
        );
    }

    public function unfit(Model $model): ?string
    {
        return null;
    }

    public function toRecord(): array
    {
        $fields = [
            'text' => $this->text,
            'of' => $this->of,
            'who' => $this->who,
            'decision' => $this->decision,
            'answers' => $this->answers,
        ];

        return ['id' => $this->id, ...array_filter($fields, static fn (mixed $v): bool => $v !== '' && $v !== [])];
    }
}
