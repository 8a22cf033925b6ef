<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Model;

/** Somebody who keeps a ledger: who owns and owes, and is worth what is left. */
final readonly class Party implements Leaving, Making, Readable, Recorded
{
    public const MOST = 100;

    public const SCHEMA = [
        'type' => 'object',
        'description' => 'Somebody who keeps a ledger.',
        'required' => ['id', 'name'],
        'additionalProperties' => false,
        'properties' => [
            'id' => ['$ref' => '#/$defs/id'],
            'name' => ['type' => 'string', 'maxLength' => 80, 'description' => 'unlike that of any other party'],
            'note' => ['type' => 'string', 'maxLength' => 4_000],
            'place' => ['type' => 'number', 'default' => 0, 'description' => 'where it stands among the others'],
        ],
        'examples' => [['id' => 'union', 'name' => 'credit union']],
    ];

    public function __construct(public string $id, public string $name, public string $note = '', public float $place = 0.0)
    {
    }

    public static function read(mixed $record): self
    {
        $given = Given::of($record, 'a party');

        return new self($given->id(), $given->words('name', 80), $given->text('note', 4_000), $given->number('place', -1e12, 1e12, 0.0));
    }

    public static function worth(string $party): string
    {
        return "worth-$party";
    }

    public function makes(): array
    {
        return [self::worth($this->id) => "net worth of $this->name"];
    }

    public function left(Model $model): Model
    {
        $open = fn (mixed $c): mixed => $c instanceof Claim && in_array($this->id, [$c->debtor, $c->holder], true)
            ? $c->changed([
                'debtor' => $c->debtor === $this->id ? '' : $c->debtor,
                'holder' => $c->holder === $this->id ? '' : $c->holder,
            ])
            : $c;

        return Transaction::without($model->with(['claims' => array_map($open, $model->part('claims'))]), 'worth', $this->id);
    }

    public function unfit(Model $model): ?string
    {
        return $model->refusedNames($this->makes());
    }

    public function toRecord(): array
    {
        return [
            'id' => $this->id,
            'name' => $this->name,
            ...$this->note === '' ? [] : ['note' => $this->note],
            ...$this->place === 0.0 ? [] : ['place' => $this->place],
        ];
    }
}
