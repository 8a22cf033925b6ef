<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Model;

use MerryOrbit\Core\Law\Distribution;
use MerryOrbit\Core\Problem\NotUnderstood;
use MerryOrbit\Core\Problem\Shown;

/**
 * A calibration that somebody wants: which numbers may move within which bounds, what they are to come near to, and how that is looked for.
 *
 * @phpstan-type Free array{of: string, at: list<string>, low: float, high: float, log: bool, law: string}
 */
final readonly class FitPlan implements Readable, Recorded, Settled
{
    public const MOST = 100;

    public const MOST_FREE = 60;

    public const WAYS = ['least-squares', 'simplex', 'evolution'];

    /** How misses are distributed, for each series; the first where nothing is said. */
    public const MISSES = ['normal', 'factor', 'outliers', 'tails', 'count', 'clustered'];

    public const SCHEMA = [
        'type' => 'object',
        'description' => 'A calibration: which numbers may move, what they are to come near to, and how that is looked for.',
        'required' => ['id', 'name'],
        'additionalProperties' => false,
        'properties' => [
            'id' => ['$ref' => '#/$defs/id'],
            'name' => ['type' => 'string', 'maxLength' => 120],
            'free' => [
                'type' => 'array',
                'maxItems' => self::MOST_FREE,
                'description' => 'parameters, stocks of which the plain initial value may move, and points of curves',
                'items' => [
                    'type' => 'object',
                    'required' => ['of', 'low', 'high'],
                    'additionalProperties' => false,
                    'properties' => [
                        'of' => ['type' => 'string', 'description' => 'the name of a parameter, stock or curve'],
                        'at' => [
                            'type' => 'array',
                            'items' => ['type' => 'string'],
                            'description' => 'of a parameter along dimensions, the element of each, in their order, by id or name; of a curve, the x of the point',
                        ],
                        'low' => ['type' => 'number'],
                        'high' => ['type' => 'number'],
                        'log' => ['type' => 'boolean', 'default' => false, 'description' => 'looked for by its logarithm'],
                        'law' => [
                            'type' => 'string',
                            'maxLength' => 2_000,
                            'description' => 'how likely its values were held to be before, as normal(0.9, 0.1); none: all between the bounds alike',
                        ],
                    ],
                ],
            ],
            'to' => [
                'type' => 'array',
                'description' => 'ids of the evidence that counts, and how its misses are distributed; none: all that the study has',
                'items' => [
                    'type' => 'object',
                    'required' => ['evidence'],
                    'additionalProperties' => false,
                    'properties' => [
                        'evidence' => ['$ref' => '#/$defs/id'],
                        'misses' => [
                            'enum' => self::MISSES,
                            'default' => 'normal',
                            'description' => 'normal; normal as factors (of the logarithm); beyond some errors counted by their size (Huber), or '.
                                'by a t distribution of 4 degrees; counts (Poisson), or counts that come in clusters (negative binomial)',
                        ],
                    ],
                ],
            ],
            'from' => ['type' => 'number', 'description' => 'what was measured before it does not count'],
            'until' => ['type' => 'number', 'description' => 'what was measured after it is held back, and only judged by'],
            'using' => ['enum' => self::WAYS, 'default' => 'least-squares'],
            'starts' => ['type' => 'integer', 'minimum' => 1, 'maximum' => 100, 'default' => 8],
            'seed' => ['type' => 'integer', 'default' => 1],
            'trial' => [
                'type' => 'boolean',
                'default' => false,
                'description' => 'the method is tried: what counts are values that the model makes itself, with noise',
            ],
            'place' => ['type' => 'number', 'default' => 0, 'description' => 'where it stands among the others'],
        ],
        'examples' => [
            [
                'id' => 'c1',
                'name' => 'Two dive series',
                'free' => [
                    ['of' => 'growth rate', 'low' => 0.5, 'high' => 1.5],
                    ['of' => 'bite', 'low' => 0.005, 'high' => 0.05, 'log' => true],
                ],
                'until' => 20,
            ],
        ],
    ];

    /**
     * @param  list<Free>  $free
     * @param  array<string, value-of<self::MISSES>>  $to  by id of the evidence
     * @param  value-of<self::WAYS>  $using
     */
    public function __construct(
        public string $id,
        public string $name,
        public array $free = [],
        public array $to = [],
        public ?float $from = null,
        public ?float $until = null,
        public string $using = 'least-squares',
        public int $starts = 8,
        public int $seed = 1,
        public bool $trial = false,
        public float $place = 0.0,
    ) {
    }

    public static function read(mixed $record): self
    {
        $given = Given::of($record, 'a calibration');
        $time = static fn (string $field): ?float => $given->any($field) === null ? null : $given->number($field, -1e15, 1e15, 0.0);

        return new self(
            $given->id(),
            $given->words('name', 120),
            self::free($given->any('free') ?? []),
            self::to($given->any('to') ?? []),
            $time('from'),
            $time('until'),
            $given->oneOf('using', self::WAYS, 'least-squares'),
            (int) $given->number('starts', 1, 100, 8),
            (int) $given->number('seed', -1e15, 1e15, 1),
            $given->flag('trial'),
            $given->number('place', -1e12, 1e12, 0.0),
        );
    }

    /** @return list<Free> */
    private static function free(mixed $list): array
    {
        if (! is_array($list) || count($list) > self::MOST_FREE) {
            throw NotUnderstood::because('A calibration frees up to '.self::MOST_FREE.' numbers.');
        }
        $free = [];
        foreach ($list as $one) {
            $given = Given::of($one, 'a freed number');
            $of = $given->words('of', 120);
            [$low, $high] = [$given->number('low', -1e300, 1e300, 0.0), $given->number('high', -1e300, 1e300, 1.0)];
            if ($low >= $high) {
                throw NotUnderstood::because("The bounds of a freed number go from the lower to the higher one, not from $low to $high.");
            }
            $isLog = $given->flag('log');
            if ($isLog && $low <= 0.0) {
                throw NotUnderstood::because("By its logarithm a number is looked for above 0 only; its lower bound is $low.");
            }
            $free[] = [
                'of' => $of,
                'at' => $given->texts('at', 8, 120),
                'low' => $low,
                'high' => $high,
                'log' => $isLog,
                'law' => self::law($given),
            ];
        }

        return $free;
    }

    private static function law(Given $given): string
    {
        $law = $given->text('law', 2_000);

        return $law === '' ? '' : Distribution::read($law)->written;
    }

    /** @return array<string, value-of<self::MISSES>> */
    private static function to(mixed $list): array
    {
        $to = [];
        foreach (is_array($list) ? $list : [null] as $one) {
            $given = Given::of($one, 'what a calibration comes near to');
            $to[$given->id('evidence')] = $given->oneOf('misses', self::MISSES, 'normal');
        }

        return $to;
    }

    public function settled(Model $model): static
    {
        return $this->freeing(
            array_map(
                static fn (array $f): array => [
                    ...$f,
                    'at' => $model->element($f['of']) instanceof Curve
                            ? array_map(static fn (string $x): string => is_numeric($x) ? Shown::number((float) $x) : $x, $f['at'])
                            : $model->elementsAt($f['of'], $f['at']),
                ],
                $this->free,
            ),
        );
    }

    /** @param  list<Free>  $free */
    private function freeing(array $free): self
    {
        return new self(
            $this->id,
            $this->name,
            $free,
            $this->to,
            $this->from,
            $this->until,
            $this->using,
            $this->starts,
            $this->seed,
            $this->trial,
            $this->place,
        );
    }

    public function unfit(Model $model): ?string
    {
        $keys = [];
        foreach ($this->free as $f) {
            $element = $model->element($f['of']);
            if ($element instanceof Curve) {
                $xs = array_map(static fn (array $p): string => Shown::number($p[0]), $element->points);
                if (! in_array($f['at'][0] ?? '', $xs, true)) {
                    return "Of the curve `$element->name` one of its points can be freed, by its x: ".implode(', ', $xs).'.';
                }
            } elseif ($element !== null && ! ($element instanceof Parameter) && ! ($element instanceof Stock)) {
                return "The model computes `$element->name`; only parameters, plain initial values and points of curves can be freed.";
            }
            $key = Model::keyAt($f['of'], $f['at']);
            if (in_array($key, $keys, true)) {
                return "`{$model->nameOf($f['of'])}` is freed already.";
            }
            $keys[] = $key;
        }

        return null;
    }

    public function toRecord(): array
    {
        return [
            'id' => $this->id,
            'name' => $this->name,
            'free' => array_map(
                static fn (array $f): array => [
                    'of' => $f['of'],
                    ...$f['at'] === [] ? [] : ['at' => $f['at']],
                    'low' => $f['low'],
                    'high' => $f['high'],
                    ...$f['log'] ? ['log' => true] : [],
                    ...$f['law'] === '' ? [] : ['law' => $f['law']],
                ],
                $this->free,
            ),
            'to' => array_map(
                static fn (string $id, string $misses): array => [
                    'evidence' => $id,
                    ...$misses === 'normal' ? [] : ['misses' => $misses],
                ],
                array_map(strval(...), array_keys($this->to)),
                $this->to,
            ),
            ...$this->from === null ? [] : ['from' => $this->from],
            ...$this->until === null ? [] : ['until' => $this->until],
            'using' => $this->using,
            'starts' => $this->starts,
            'seed' => $this->seed,
            ...$this->trial ? ['trial' => true] : [],
            ...$this->place === 0.0 ? [] : ['place' => $this->place],
        ];
    }
}
