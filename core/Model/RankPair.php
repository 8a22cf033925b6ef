<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Model;

/** Two uncertain inputs whose draws go together: where one is high among its draws, the other is high, or low, among its own. */
final readonly class RankPair implements Readable, Recorded
{
    public const MOST = 500;

    public const SCHEMA = [
        'type' => 'object',
        'description' => 'How the draws of two uncertain inputs go together.',
        'required' => ['id', 'one', 'other', 'rank'],
        'additionalProperties' => false,
        'properties' => [
            'id' => ['$ref' => '#/$defs/id'],
            'one' => ['type' => 'string', 'description' => 'the name of a parameter'],
            'other' => ['type' => 'string', 'description' => 'the name of another'],
            'rank' => ['type' => 'number', 'minimum' => -0.99, 'maximum' => 0.99, 'description' => 'the correlation of their ranks'],
        ],
        'examples' => [['id' => 'k1', 'one' => 'bite', 'other' => 'half hunger', 'rank' => 0.6]],
    ];

    public function __construct(public string $id, public string $one, public string $other, public float $rank)
    {
    }

    public static function read(mixed $record): self
    {
        $given = Given::of($record, 'a rank correlation');

        return new self($given->id(), $given->words('one', 120), $given->words('other', 120), $given->number('rank', -0.99, 0.99, 0.0));
    }

    public function unfit(Model $model): ?string
    {
        $isParameter = static fn (string $id): bool => $model->element($id) instanceof Parameter;
        if (! $isParameter($this->one) || ! $isParameter($this->other) || $this->one === $this->other) {
            return 'Two different parameters go together; one of them is not there, or both are the same.';
        }
        foreach ($model->part('rankPairs') as $pair) {
            if ($pair instanceof self && $pair->id !== $this->id && $pair->isOf($this->one, $this->other)) {
                return "`{$model->nameOf($this->one)}` and `{$model->nameOf($this->other)}` go together already. Change that number.";
            }
        }

        return null;
    }

    private function isOf(string $one, string $other): bool
    {
        return ($this->one === $one && $this->other === $other) || ($this->one === $other && $this->other === $one);
    }

    public function toRecord(): array
    {
        return ['id' => $this->id, 'one' => $this->one, 'other' => $this->other, 'rank' => $this->rank];
    }
}
