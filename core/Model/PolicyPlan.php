<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Model;

use MerryOrbit\Core\Problem\NotUnderstood;

/**
 * A policy that somebody looks for: which numbers can be chosen, what is to be large or small, which limits must hold, and what many runs
 * under uncertainty come to as one number.
 *
 * @phpstan-type Sought array{of: string, at: list<string>, kind: value-of<self::KINDS>, time: float, from: string}
 * @phpstan-type Lever array{of: string, at: list<string>, low: float, high: float}
 */
final readonly class PolicyPlan implements Readable, Recorded, Settled
{
    public const MOST = 100;

    public const MOST_LEVERS = 20;

    private const MOST_LIMITS = 50;

    public const MOST_RUNS = 5_000;

    /** Besides the numbers that are looked at elsewhere, how far it stays apart from a course that is wanted. */
    public const KINDS = [...SoughtOutcome::KINDS, 'apart'];

    public const OVER = ['mean', 'p5', 'p95', 'worst', 'worst-twentieth', 'regret'];

    private const OUTCOME = [
        'of' => ['type' => 'string', 'description' => 'the name of a variable'],
        'at' => [
            'type' => 'array',
            'items' => ['type' => 'string'],
            'description' => 'of a variable along dimensions, the element of each, in their order, by id or name',
        ],
        'kind' => [
            'enum' => self::KINDS,
            'default' => 'last',
            'description' => 'as of outcomes; or how far it stays apart from a course, as the root of the mean square',
        ],
        'time' => ['type' => 'number', 'description' => 'for `at`'],
        'from' => ['type' => 'string', 'description' => 'for `apart`, the name of another variable, or the id of a reference mode'],
    ];

    public const SCHEMA = [
        'type' => 'object',
        'description' => 'A policy that is looked for: what can be chosen, what is to be large or small, and what must hold.',
        'required' => ['id', 'name'],
        'additionalProperties' => false,
        'properties' => [
            'id' => ['$ref' => '#/$defs/id'],
            'name' => ['type' => 'string', 'maxLength' => 120],
            'choose' => [
                'type' => 'array',
                'maxItems' => self::MOST_LEVERS,
                'items' => [
                    'type' => 'object',
                    'required' => ['of', 'low', 'high'],
                    'additionalProperties' => false,
                    'properties' => [
                        'of' => ['type' => 'string', 'description' => 'the name of a parameter'],
                        'at' => self::OUTCOME['at'],
                        'low' => ['type' => 'number'],
                        'high' => ['type' => 'number'],
                    ],
                ],
            ],
            'sum' => [
                'type' => 'array',
                'description' => 'outcomes that are added up, each so many times',
                'items' => [
                    'type' => 'object',
                    'required' => ['of'],
                    'additionalProperties' => false,
                    'properties' => [...self::OUTCOME, 'weight' => ['type' => 'number', 'default' => 1]],
                ],
            ],
            'small' => ['type' => 'boolean', 'default' => false, 'description' => 'the sum is to be small; else large'],
            'limits' => [
                'type' => 'array',
                'maxItems' => self::MOST_LIMITS,
                'description' => 'outcomes that are at most, or at least, so much in every run',
                'items' => [
                    'type' => 'object',
                    'required' => ['of', 'number'],
                    'additionalProperties' => false,
                    'properties' => [
                        ...self::OUTCOME,
                        'least' => ['type' => 'boolean', 'default' => false, 'description' => 'at least; else at most'],
                        'number' => ['type' => 'number'],
                    ],
                ],
            ],
            'expect' => [
                'type' => 'array',
                'maxItems' => self::MOST_LIMITS,
                'description' => 'ids of expectations of the study that must hold too',
                'items' => ['$ref' => '#/$defs/id'],
            ],
            'over' => [
                'enum' => self::OVER,
                'default' => 'mean',
                'description' => 'what many runs come to: their mean, a percentile, the worst, the mean of the worst twentieth, or the largest regret',
            ],
            'runs' => [
                'type' => 'integer',
                'minimum' => 0,
                'maximum' => self::MOST_RUNS,
                'default' => 0,
                'description' => 'under the study’s uncertain inputs; 0: one run, as all stands',
            ],
            'seed' => ['type' => 'integer', 'default' => 1],
            'place' => ['type' => 'number', 'default' => 0, 'description' => 'where it stands among the others'],
        ],
        'examples' => [
            [
                'id' => 'p1',
                'name' => 'A price and a cap',
                'choose' => [['of' => 'ticket price', 'low' => 5, 'high' => 40]],
                'sum' => [['of' => 'income', 'kind' => 'total']],
                'limits' => [['of' => 'fresh water', 'kind' => 'min', 'least' => true, 'number' => 10]],
            ],
        ],
    ];

    /**
     * @param  list<Lever>  $choose
     * @param  list<array{Sought, float}>  $sum  outcomes with their weights
     * @param  list<array{Sought, bool, float}>  $limits  outcomes, whether at least, and the number
     * @param  value-of<self::OVER>  $over
     * @param  list<string>  $expect  ids of expectations
     */
    public function __construct(
        public string $id,
        public string $name,
        public array $choose = [],
        public array $sum = [],
        public bool $small = false,
        public array $limits = [],
        public string $over = 'mean',
        public int $runs = 0,
        public int $seed = 1,
        public float $place = 0.0,
        public array $expect = [],
    ) {
    }

    public static function read(mixed $record): self
    {
        $given = Given::of($record, 'a policy');

        return new self(
            $given->id(),
            $given->words('name', 120),
            self::each($given->any('choose'), self::MOST_LEVERS, self::lever(...)),
            self::each(
                $given->any('sum'),
                self::MOST_LIMITS,
                static fn (Given $one): array => [self::outcome($one), $one->number('weight', -1e30, 1e30, 1.0)],
            ),
            $given->flag('small'),
            self::each(
                $given->any('limits'),
                self::MOST_LIMITS,
                static fn (Given $one): array => [self::outcome($one), $one->flag('least'), $one->number('number', -1e300, 1e300, 0.0)],
            ),
            $given->oneOf('over', self::OVER, 'mean'),
            (int) $given->number('runs', 0, self::MOST_RUNS, 0),
            (int) $given->number('seed', -1e15, 1e15, 1),
            $given->number('place', -1e12, 1e12, 0.0),
            $given->texts('expect', self::MOST_LIMITS, 40),
        );
    }

    /**
     * @template T
     *
     * @param  \Closure(Given): T  $read
     * @return list<T>
     */
    private static function each(mixed $list, int $most, \Closure $read): array
    {
        $list ??= [];
        if (! is_array($list) || count($list) > $most) {
            throw NotUnderstood::because("A policy has lists of at most $most lines.");
        }

        return array_map(static fn (mixed $one): mixed => $read(Given::of($one, 'a line of a policy')), array_values($list));
    }

    /** @return Lever */
    private static function lever(Given $given): array
    {
        [$low, $high] = [$given->number('low', -1e300, 1e300, 0.0), $given->number('high', -1e300, 1e300, 1.0)];
        if ($low >= $high) {
            throw NotUnderstood::because("The bounds of what is chosen go from the lower to the higher one, not from $low to $high.");
        }

        return ['of' => $given->words('of', 120), 'at' => $given->texts('at', 8, 120), 'low' => $low, 'high' => $high];
    }

    /** @return Sought */
    private static function outcome(Given $given): array
    {
        return [
            'of' => $given->words('of', 120),
            'at' => $given->texts('at', 8, 120),
            'kind' => $given->oneOf('kind', self::KINDS, 'last'),
            'time' => $given->number('time', -1e15, 1e15, 0.0),
            'from' => $given->text('from', 120),
        ];
    }

    public function settled(Model $model): static
    {
        $choose = $sum = $limits = [];
        foreach ($this->choose as $lever) {
            $choose[] = [...$lever, 'at' => $model->elementsAt($lever['of'], $lever['at'])];
        }
        foreach ($this->sum as [$one, $weight]) {
            $sum[] = [self::at($model, $one), $weight];
        }
        foreach ($this->limits as [$one, $isLeast, $number]) {
            $limits[] = [self::at($model, $one), $isLeast, $number];
        }

        return new self(
            $this->id,
            $this->name,
            $choose,
            $sum,
            $this->small,
            $limits,
            $this->over,
            $this->runs,
            $this->seed,
            $this->place,
            $this->expect,
        );
    }

    /**
     * @param  Sought  $one
     * @return Sought
     */
    private static function at(Model $model, array $one): array
    {
        return [...$one, 'at' => $model->elementsAt($one['of'], $one['at'])];
    }

    public function unfit(Model $model): ?string
    {
        foreach ($this->choose as $lever) {
            $element = $model->element($lever['of']);
            if ($element !== null && ! ($element instanceof Parameter)) {
                return "The model computes `$element->name`; only parameters can be chosen.";
            }
        }
        foreach ([...array_column($this->sum, 0), ...array_column($this->limits, 0)] as $outcome) {
            $element = $model->element($outcome['of']);
            if ($element instanceof Relation || $element instanceof Factor) {
                return "`$element->name` is nothing that a run computes, so it is no outcome.";
            }
        }

        return null;
    }

    public function toRecord(): array
    {
        $sought = static fn (array $one): array => [
            'of' => $one['of'],
            ...$one['at'] === [] ? [] : ['at' => $one['at']],
            'kind' => $one['kind'],
            ...$one['kind'] === 'at' ? ['time' => $one['time']] : [],
            ...$one['kind'] === 'apart' && $one['from'] !== '' ? ['from' => $one['from']] : [],
        ];

        return [
            'id' => $this->id,
            'name' => $this->name,
            'choose' => array_map(
                static fn (array $l): array => [
                    'of' => $l['of'],
                    ...$l['at'] === [] ? [] : ['at' => $l['at']],
                    'low' => $l['low'],
                    'high' => $l['high'],
                ],
                $this->choose,
            ),
            'sum' => array_map(
                static fn (array $one): array => [...$sought($one[0]), ...$one[1] === 1.0 ? [] : ['weight' => $one[1]]],
                $this->sum,
            ),
            ...$this->small ? ['small' => true] : [],
            'limits' => array_map(
                static fn (array $one): array => [...$sought($one[0]), ...$one[1] ? ['least' => true] : [], 'number' => $one[2]],
                $this->limits,
            ),
            ...$this->expect === [] ? [] : ['expect' => $this->expect],
            'over' => $this->over,
            'runs' => $this->runs,
            'seed' => $this->seed,
            ...$this->place === 0.0 ? [] : ['place' => $this->place],
        ];
    }
}
