<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Model;

use MerryOrbit\Core\Formula\FormulaText;
use MerryOrbit\Core\Problem\NotUnderstood;

/**
 * A row of the ledgers: one amount for each time unit, which enters claims and net worths, once on each side that it touches.
 *
 * @phpstan-type Entry array{claim: string, worth: string, sign: 1|-1}
 */
final readonly class Transaction implements Formulated, Making, Readable, Recorded, Settled
{
    public const MOST = 2_000;

    public const MOST_ENTRIES = 40;

    public const SCHEMA = [
        'type' => 'object',
        'description' => 'A row of the ledgers: an amount for each time unit that enters claims and net worths. It becomes flows.',
        'required' => ['id', 'name'],
        'additionalProperties' => false,
        'properties' => [
            'id' => ['$ref' => '#/$defs/id'],
            'name' => ['type' => 'string', 'maxLength' => 100],
            'formula' => [
                'type' => 'string',
                'maxLength' => 4_000,
                'description' => 'the amount, as repaid = loans to fishers / time to repay',
            ],
            'entries' => [
                'type' => 'array',
                'maxItems' => self::MOST_ENTRIES,
                'description' => 'each in a claim, or in what a party is worth',
                'items' => [
                    'type' => 'object',
                    'additionalProperties' => false,
                    'properties' => [
                        'claim' => ['type' => 'string', 'description' => 'id of a claim'],
                        'worth' => ['type' => 'string', 'description' => 'id of a party'],
                        'sign' => ['enum' => ['+', '-'], 'default' => '+', 'description' => 'whether it becomes more or less'],
                    ],
                ],
            ],
            'oneWay' => ['type' => 'boolean', 'default' => false, 'description' => 'it never turns round: below 0 it is 0'],
            'note' => ['type' => 'string', 'maxLength' => 4_000],
            'place' => ['type' => 'number', 'default' => 0, 'description' => 'where it stands among the others'],
        ],
        'examples' => [
            [
                'id' => 'interest',
                'name' => 'interest on loans',
                'formula' => 'loan rate * loans to fishers',
                'entries' => [
                    ['claim' => 'account', 'sign' => '-'],
                    ['worth' => 'union', 'sign' => '+'],
                    ['worth' => 'fishers', 'sign' => '-'],
                ],
            ],
        ],
    ];

    /** @param  list<Entry>  $entries  each of a claim or of a party, the other being empty */
    public function __construct(
        public string $id,
        public string $name,
        public FormulaText $formula = new FormulaText(),
        public array $entries = [],
        public bool $oneWay = false,
        public string $note = '',
        public float $place = 0.0,
    ) {
    }

    public static function read(mixed $record): self
    {
        $given = Given::of($record, 'a transaction');

        return new self(
            $given->id(),
            $given->words('name', 100),
            FormulaText::given($given->any('formula')),
            self::entries($given->any('entries') ?? []),
            $given->flag('oneWay'),
            $given->text('note', 4_000),
            $given->number('place', -1e12, 1e12, 0.0),
        );
    }

    /** @return list<Entry> */
    private static function entries(mixed $list): array
    {
        if (! is_array($list) || count($list) > self::MOST_ENTRIES) {
            throw NotUnderstood::because('A transaction has a list of up to '.self::MOST_ENTRIES.' entries.');
        }
        $entries = [];
        foreach (array_values($list) as $one) {
            $given = Given::of($one, 'an entry');
            [$claim, $worth] = [$given->text('claim', 40), $given->text('worth', 40)];
            if (($claim === '') === ($worth === '')) {
                throw NotUnderstood::because('An entry is in a claim, or in the net worth of a party: in one of them.');
            }
            $entries[] = ['claim' => $claim, 'worth' => $worth, 'sign' => $given->oneOf('sign', ['+', '-'], '+') === '+' ? 1 : -1];
        }

        return self::ordered($entries);
    }

    /**
     * In an order that says nothing, so that the same entries are the same record: claims first, by id.
     *
     * @param  list<Entry>  $entries
     * @return list<Entry>
     */
    public static function ordered(array $entries): array
    {
        usort($entries, static fn (array $a, array $b): int => [$a['worth'], $a['claim']] <=> [$b['worth'], $b['claim']]);

        return $entries;
    }

    /** A model in which no row enters a claim, or what a party is worth, any more. */
    public static function without(Model $model, string $what, string $id): Model
    {
        $stripped = static fn (mixed $row): mixed => $row instanceof self && in_array($id, array_column($row->entries, $what), true)
            ? $row->changed([
                'entries' => array_values(array_filter($row->entries, static fn (array $e): bool => ($e[$what] ?? '') !== $id)),
            ])
            : $row;

        return $model->with(['transactions' => array_map($stripped, $model->part('transactions'))]);
    }

    public static function flow(string $transaction): string
    {
        return "row-$transaction";
    }

    public function makes(): array
    {
        return [self::flow($this->id) => $this->name];
    }

    public function settled(Model $model): static
    {
        return $this->changed(['formula' => FormulaText::typed($this->formula->text($model->nameOf(...)), $model->idOf(...))]);
    }

    public function withFormulas(\Closure $change): static
    {
        $formula = $change($this->formula);

        return $formula === $this->formula ? $this : $this->changed(['formula' => $formula]);
    }

    /** @param  array<string, mixed>  $fields */
    public function changed(array $fields): static
    {
        return (new \ReflectionClass($this))->newInstanceArgs([...get_object_vars($this), ...$fields]);
    }

    public function unfit(Model $model): ?string
    {
        foreach ($this->entries as $i => $entry) {
            [$claim, $worth] = [$model->part('claims')[$entry['claim']] ?? null, $model->part('parties')[$entry['worth']] ?? null];
            if (! ($claim instanceof Claim) && ! ($worth instanceof Party)) {
                return "`$this->name` enters something that is no claim and no party of the study any more. Take that entry out.";
            }
            foreach (array_slice($this->entries, $i + 1) as $other) {
                if ($other['claim'] === $entry['claim'] && $other['worth'] === $entry['worth']) {
                    $what = $claim instanceof Claim ? "`$claim->name`" : 'the same net worth';

                    return "`$this->name` enters $what twice. Once is enough: an entry has the whole amount.";
                }
            }
        }

        return $model->refusedNames($this->makes());
    }

    /**
     * @param  list<Entry>  $entries
     * @return list<array<string, string>> as they stand in records
     */
    public static function recorded(array $entries): array
    {
        return array_map(
            static fn (array $e): array => [
                ...$e['claim'] === '' ? ['worth' => $e['worth']] : ['claim' => $e['claim']],
                'sign' => $e['sign'] === 1 ? '+' : '-',
            ],
            $entries,
        );
    }

    public function toRecord(): array
    {
        return [
            'id' => $this->id,
            'name' => $this->name,
            ...$this->formula->isEmpty() ? [] : ['formula' => $this->formula->toRecord()],
            'entries' => self::recorded($this->entries),
            ...$this->oneWay ? ['oneWay' => true] : [],
            ...$this->note === '' ? [] : ['note' => $this->note],
            ...$this->place === 0.0 ? [] : ['place' => $this->place],
        ];
    }
}
