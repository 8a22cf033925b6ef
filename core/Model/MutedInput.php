<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Model;

/** Something that is not nudged any more, because nobody means to change it. */
final readonly class MutedInput implements Readable, Recorded
{
    public const MOST = 2_000;

    public const SCHEMA = [
        'type' => 'object',
        'description' => 'A parameter, stock or curve that is not nudged.',
        'required' => ['id', 'of'],
        'additionalProperties' => false,
        'properties' => ['id' => ['$ref' => '#/$defs/id'], 'of' => ['type' => 'string', 'description' => 'its name']],
        'examples' => [['id' => 'm1', 'of' => 'days of a year']],
    ];

    public function __construct(public string $id, public string $of)
    {
    }

    public static function read(mixed $record): self
    {
        $given = Given::of($record, 'a muted input');

        return new self($given->id(), $given->words('of', 120));
    }

    public function unfit(Model $model): ?string
    {
        return $model->element($this->of) === null ? 'What is muted is not there.' : null;
    }

    public function toRecord(): array
    {
        return ['id' => $this->id, 'of' => $this->of];
    }
}
