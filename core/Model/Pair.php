<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Model;

/** Two things that people in a workshop believe to be connected, and how many of them: no direction, and no sign yet. */
final readonly class Pair implements Readable, Recorded
{
    public const MOST = 500;

    private const MOST_VOTES = 10_000.0;

    public const SCHEMA = [
        'type' => 'object',
        'description' => 'Two things that people believe to be connected.',
        'required' => ['id', 'one', 'other'],
        'additionalProperties' => false,
        'properties' => [
            'id' => ['$ref' => '#/$defs/id'],
            'one' => ['type' => 'string', 'description' => 'a name'],
            'other' => ['type' => 'string', 'description' => 'a name'],
            'votes' => ['type' => 'number', 'minimum' => 0, 'default' => 0],
        ],
        'examples' => [['id' => 'p1', 'one' => 'storm waves', 'other' => 'silt settling', 'votes' => 9]],
    ];

    public function __construct(public string $id, public string $one, public string $other, public int $votes = 0)
    {
    }

    public static function read(mixed $record): self
    {
        $given = Given::of($record, 'a pair');

        return new self(
            $given->id(),
            $given->words('one', 120),
            $given->words('other', 120),
            (int) round($given->number('votes', 0.0, self::MOST_VOTES, 0.0)),
        );
    }

    public function unfit(Model $model): ?string
    {
        if ($model->element($this->one) === null || $model->element($this->other) === null || $this->one === $this->other) {
            return 'A pair is of two things of the study; one of them is not there, or both are the same.';
        }
        foreach ($model->part('pairs') as $pair) {
            if ($pair instanceof self && $pair->id !== $this->id && $pair->isOf($this->one, $this->other)) {
                return "`{$model->nameOf($this->one)}` and `{$model->nameOf($this->other)}` are a pair already. Change its votes.";
            }
        }

        return null;
    }

    public function isOf(string $one, string $other): bool
    {
        return ($this->one === $one && $this->other === $other) || ($this->one === $other && $this->other === $one);
    }

    public function toRecord(): array
    {
        return ['id' => $this->id, 'one' => $this->one, 'other' => $this->other, ...$this->votes === 0 ? [] : ['votes' => $this->votes]];
    }
}
