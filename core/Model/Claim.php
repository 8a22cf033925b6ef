<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Model;

use MerryOrbit\Core\Formula\FormulaText;

/**
 * What one party owes to another: one number, seen from two sides, so that these cannot disagree. A real thing is owned and owed by
 * nobody. As long as nobody says who holds it, or who owes it, a claim stands on one side only.
 */
final readonly class Claim implements Formulated, Leaving, Making, Readable, Recorded, Settled
{
    public const MOST = 1_000;

    public const MOST_DIMENSIONS = 4;

    public const SCHEMA = [
        'type' => 'object',
        'description' => 'What one party owes to another, or a real thing that one owns. It becomes a stock.',
        'required' => ['id', 'name'],
        'additionalProperties' => false,
        'properties' => [
            'id' => ['$ref' => '#/$defs/id'],
            'name' => ['type' => 'string', 'maxLength' => 110],
            'debtor' => ['type' => 'string', 'description' => 'id of the party that owes it'],
            'holder' => ['type' => 'string', 'description' => 'id of the party that owns it'],
            'real' => ['type' => 'boolean', 'default' => false, 'description' => 'a real thing: nobody owes it'],
            'initial' => ['type' => 'string', 'maxLength' => 2_000, 'description' => 'a formula: what it is at the start; 0'],
            'unit' => ['type' => 'string', 'maxLength' => 60],
            'rate' => [
                'type' => 'string',
                'maxLength' => 2_000,
                'description' => 'a formula: what one unit of it is worth in the currency of the books, where it has another one',
            ],
            'over' => [
                'type' => 'array',
                'maxItems' => self::MOST_DIMENSIONS,
                'items' => ['type' => 'string'],
                'description' => 'ids of dimensions: where a party is several, each has its own',
            ],
            'limited' => [
                'type' => 'boolean',
                'default' => false,
                'description' => 'it does not fall below 0: what would lower it further is cut, on all sides that it touches',
            ],
            'note' => ['type' => 'string', 'maxLength' => 4_000],
            'place' => ['type' => 'number', 'default' => 0, 'description' => 'where it stands among the others'],
        ],
        'examples' => [
            [
                'id' => 'loans',
                'name' => 'loans to fishers',
                'debtor' => 'fishers',
                'holder' => 'union',
                'initial' => '180',
                'unit' => 'crown',
            ],
        ],
    ];

    /** @param  list<string>  $over  ids of dimensions */
    public function __construct(
        public string $id,
        public string $name,
        public string $debtor = '',
        public string $holder = '',
        public bool $real = false,
        public FormulaText $initial = new FormulaText(),
        public string $unit = '',
        public bool $limited = false,
        public string $note = '',
        public float $place = 0.0,
        public FormulaText $rate = new FormulaText(),
        public array $over = [],
    ) {
    }

    public static function read(mixed $record): self
    {
        $given = Given::of($record, 'a claim');

        return new self(
            $given->id(),
            $given->words('name', 110),
            $given->text('debtor', 40),
            $given->text('holder', 40),
            $given->flag('real'),
            FormulaText::given($given->any('initial')),
            $given->text('unit', 60),
            $given->flag('limited'),
            $given->text('note', 4_000),
            $given->number('place', -1e12, 1e12, 0.0),
            FormulaText::given($given->any('rate')),
            $given->texts('over', self::MOST_DIMENSIONS, 120),
        );
    }

    public static function stock(string $claim): string
    {
        return "claim-$claim";
    }

    public static function value(string $claim): string
    {
        return "value-$claim";
    }

    public static function revalued(string $claim): string
    {
        return "revalued-$claim";
    }

    /** What it comes to in the currency of the books, as books count it: the stock itself, or its value. */
    public function balance(): string
    {
        return $this->isForeign() ? self::value($this->id) : self::stock($this->id);
    }

    /** Whether it is in another currency than the books. */
    public function isForeign(): bool
    {
        return ! $this->rate->isEmpty();
    }

    public function makes(): array
    {
        return [
            self::stock($this->id) => $this->name,
            ...$this->isForeign()
                ? [self::value($this->id) => "value of $this->name", self::revalued($this->id) => "revaluation of $this->name"]
                : [],
        ];
    }

    public function settled(Model $model): static
    {
        $typed = static fn (FormulaText $f): FormulaText => FormulaText::typed($f->text($model->nameOf(...)), $model->idOf(...));
        $known = $model->dimensions();

        return $this->changed([
            'initial' => $typed($this->initial),
            'rate' => $typed($this->rate),
            'over' => array_values(array_unique(array_map(static fn (string $d): string => $known->find($d)->id ?? $d, $this->over))),
        ]);
    }

    public function withFormulas(\Closure $change): static
    {
        [$initial, $rate] = [$change($this->initial), $change($this->rate)];

        return $initial === $this->initial && $rate === $this->rate ? $this : $this->changed(['initial' => $initial, 'rate' => $rate]);
    }

    /** @param  array<string, mixed>  $fields */
    public function changed(array $fields): static
    {
        return (new \ReflectionClass($this))->newInstanceArgs([...get_object_vars($this), ...$fields]);
    }

    public function left(Model $model): Model
    {
        return Transaction::without($model, 'claim', $this->id);
    }

    public function unfit(Model $model): ?string
    {
        foreach (['owes' => $this->debtor, 'holds' => $this->holder] as $what => $party) {
            if ($party !== '' && ! (($model->part('parties')[$party] ?? null) instanceof Party)) {
                return "Who $what `$this->name` is no party of the study any more. Choose one, or leave it open.";
            }
        }
        if ($this->debtor !== '' && $this->debtor === $this->holder) {
            return "Nobody owes something to himself: `$this->name` has the same party on both sides.";
        }
        if ($this->real && $this->debtor !== '') {
            return "`$this->name` is a real thing, which nobody owes. Say either that it is real, or who owes it.";
        }

        foreach ($this->over as $dimension) {
            if ($model->dimensions()->find($dimension) === null) {
                return "`$this->name` is to extend over `$dimension`, which is no dimension of the study. Choose one that is there.";
            }
        }

        return $model->refusedNames($this->makes());
    }

    public function toRecord(): array
    {
        $texts = ['debtor' => $this->debtor, 'holder' => $this->holder, 'unit' => $this->unit, 'note' => $this->note];

        return [
            'id' => $this->id,
            'name' => $this->name,
            ...array_filter($texts, static fn (string $t): bool => $t !== ''),
            ...$this->real ? ['real' => true] : [],
            ...$this->initial->isEmpty() ? [] : ['initial' => $this->initial->toRecord()],
            ...$this->limited ? ['limited' => true] : [],
            ...$this->rate->isEmpty() ? [] : ['rate' => $this->rate->toRecord()],
            ...$this->over === [] ? [] : ['over' => $this->over],
            ...$this->place === 0.0 ? [] : ['place' => $this->place],
        ];
    }
}
