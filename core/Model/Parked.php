<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Model;

/** What a workshop puts aside to come back to. */
final readonly class Parked implements Readable, Recorded
{
    public const MOST = 300;

    private const LONGEST = 400;

    public const SCHEMA = [
        'type' => 'object',
        'description' => 'What a workshop puts aside to come back to.',
        'required' => ['id', 'text'],
        'additionalProperties' => false,
        'properties' => [
            'id' => ['$ref' => '#/$defs/id'],
            'text' => ['type' => 'string', 'maxLength' => self::LONGEST],
            'done' => ['type' => 'boolean', 'default' => false],
        ],
        'examples' => [['id' => 'k1', 'text' => 'Who pays for the soundings?']],
    ];

    public function __construct(public string $id, public string $text, public bool $done = false)
    {
    }

    public static function read(mixed $record): self
    {
        $given = Given::of($record, 'what is put aside');

        return new self($given->id(), $given->words('text', self::LONGEST), $given->flag('done'));
    }

    public function unfit(Model $model): ?string
    {
        return null;
    }

    public function toRecord(): array
    {
        return ['id' => $this->id, 'text' => $this->text, ...$this->done ? ['done' => true] : []];
    }
}
