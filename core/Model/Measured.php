<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Model;

use MerryOrbit\Core\Problem\NotUnderstood;

/** Evidence: what was measured of a variable, at times of the study and in the variable's own unit, and from which column it comes. */
final readonly class Measured implements Readable, Recorded, Settled
{
    public const MOST = 500;

    public const MOST_POINTS = 5_000;

    /** What the values are of: moments, or periods that begin there. */
    public const OVER = ['', 'mean', 'sum'];

    public const ERROR_IN = ['unit', '%'];

    public const SCHEMA = [
        'type' => 'object',
        'description' => 'What was measured of a variable, at times of the study and in the unit of the variable.',
        'required' => ['id', 'of', 'points'],
        'additionalProperties' => false,
        'properties' => [
            'id' => ['$ref' => '#/$defs/id'],
            'of' => ['type' => 'string', 'description' => 'the name of the variable'],
            'at' => [
                'type' => 'array',
                'items' => ['type' => 'string'],
                'description' => 'of a variable along dimensions, the element of each, in their order, by id or name',
            ],
            'source' => ['type' => 'string', 'maxLength' => 40, 'description' => 'the id of the source'],
            'column' => ['type' => 'string', 'maxLength' => 300, 'description' => 'what it is called there'],
            'unit' => ['type' => 'string', 'maxLength' => 60, 'description' => 'its unit there'],
            'factor' => ['type' => 'number', 'default' => 1, 'description' => 'what its numbers were multiplied with'],
            'over' => [
                'enum' => self::OVER,
                'default' => '',
                'description' => 'empty: of moments; else means or sums of the periods that begin at the times',
            ],
            'ends' => [
                'type' => 'array',
                'items' => ['type' => 'number'],
                'description' => 'of means and sums, when the period of each point ends',
            ],
            'cells' => ['type' => 'array', 'items' => ['type' => 'string'], 'description' => 'where each point stands in the source'],
            'error' => [
                'type' => 'number',
                'minimum' => 0,
                'default' => 0,
                'description' => 'standard deviation of the measurement; 0: not known',
            ],
            'errorIn' => [
                'enum' => self::ERROR_IN,
                'default' => 'unit',
                'description' => 'the unit of the variable, or per cent of each value',
            ],
            'errors' => [
                'type' => 'array',
                'items' => ['type' => 'number', 'minimum' => 0],
                'description' => 'standard deviations of the points, where a column says them; 0: not known',
            ],
            'weight' => ['type' => 'number', 'minimum' => 0, 'default' => 1, 'description' => 'how much it counts beside others'],
            'points' => [
                'type' => 'array',
                'maxItems' => self::MOST_POINTS,
                'description' => 'times and values, times not falling',
                'items' => [
                    'type' => 'array',
                    'prefixItems' => [['type' => 'number'], ['type' => 'number']],
                    'minItems' => 2,
                    'maxItems' => 2,
                ],
            ],
        ],
        'examples' => [
            ['id' => 'e1', 'of' => 'kelp', 'source' => 's1', 'column' => 'Kelp', 'unit' => 't', 'points' => [[0, 50.2], [2, 47.7]]],
        ],
    ];

    /**
     * @param  list<array{float, float}>  $points
     * @param  list<string>  $at  ids of elements, in the order of the dimensions
     * @param  value-of<self::OVER>  $over
     * @param  list<float>  $ends  as many as points, where they are of periods
     * @param  list<string>  $cells  as many as points, or none
     * @param  float  $error  standard deviation of the measurement
     * @param  value-of<self::ERROR_IN>  $errorIn
     * @param  list<float>  $errors  standard deviations of the points, as many, or none
     */
    public function __construct(
        public string $id,
        public string $of,
        public array $points,
        public array $at = [],
        public string $source = '',
        public string $column = '',
        public string $unit = '',
        public float $factor = 1.0,
        public string $over = '',
        public array $ends = [],
        public array $cells = [],
        public float $error = 0.0,
        public string $errorIn = 'unit',
        public float $weight = 1.0,
        public array $errors = [],
    ) {
    }

    public static function read(mixed $record): self
    {
        $given = Given::of($record, 'evidence');
        $points = $given->points('points', self::MOST_POINTS, mayRepeat: true);
        $over = $given->oneOf('over', self::OVER, '');
        $ends = $over === '' ? [] : $given->numbers('ends', self::MOST_POINTS);
        foreach ($over === '' ? [] : $points as $i => [$time]) {
            if (! isset($ends[$i]) || $ends[$i] <= $time) {
                throw NotUnderstood::because("Evidence of means or sums has `ends`, one after each time; there is none after $time.");
            }
        }

        return new self(
            $given->id(),
            $given->words('of', 120),
            $points,
            $given->texts('at', 8, 120),
            $given->text('source', 40),
            $given->text('column', 300),
            $given->text('unit', 60),
            $given->number('factor', -1e30, 1e30, 1.0),
            $over,
            array_slice($ends, 0, count($points)),
            $given->texts('cells', self::MOST_POINTS, 200, keepsEmpty: true),
            $given->number('error', 0.0, 1e30, 0.0),
            $given->oneOf('errorIn', self::ERROR_IN, 'unit'),
            $given->number('weight', 0.0, 1e6, 1.0),
            array_map(
                static fn (float $e): float => max(0.0, $e),
                array_slice($given->numbers('errors', self::MOST_POINTS), 0, count($points)),
            ),
        );
    }

    /** What was measured within a period, its ends included. */
    public function between(?float $from, ?float $until): self
    {
        return $this->having(array_filter($this->points, fn (int $i): bool => $this->isWithin($i, $from, $until), ARRAY_FILTER_USE_KEY));
    }

    public function isWithin(int $point, ?float $from, ?float $until): bool
    {
        [$time] = $this->points[$point];

        return $time >= ($from ?? -INF) && ($this->ends[$point] ?? $time) <= ($until ?? INF);
    }

    /** @param  array<int, array{float, float}>  $points  some of its own, perhaps with other values, by their place */
    public function having(array $points): self
    {
        return new self(
            $this->id,
            $this->of,
            array_values($points),
            $this->at,
            $this->source,
            $this->column,
            $this->unit,
            $this->factor,
            $this->over,
            array_values(array_intersect_key($this->ends, $points)),
            array_values(array_intersect_key($this->cells, $points)),
            $this->error,
            $this->errorIn,
            $this->weight,
            array_values(array_intersect_key($this->errors, $points)),
        );
    }

    /** The standard deviation of a point, in the unit of the variable; null where nobody said. */
    public function errorOf(int $point): ?float
    {
        $own = $this->errors[$point] ?? 0.0;
        $usual = $this->errorIn === '%' ? 0.01 * $this->error * abs($this->points[$point][1]) : $this->error;

        return $own > 0.0 ? $own : ($usual > 0.0 ? $usual : null);
    }

    public function settled(Model $model): static
    {
        return new self(
            $this->id,
            $this->of,
            $this->points,
            $model->elementsAt($this->of, $this->at),
            $this->source,
            $this->column,
            $this->unit,
            $this->factor,
            $this->over,
            $this->ends,
            $this->cells,
            $this->error,
            $this->errorIn,
            $this->weight,
            $this->errors,
        );
    }

    public function unfit(Model $model): ?string
    {
        return $model->nameOf($this->of) === null ? 'Evidence is of a variable; there is none of that name.' : null;
    }

    public function toRecord(): array
    {
        $fields = ['source' => $this->source, 'column' => $this->column, 'unit' => $this->unit];

        return [
            'id' => $this->id,
            'of' => $this->of,
            ...$this->at === [] ? [] : ['at' => $this->at],
            ...array_filter($fields, static fn (string $v): bool => $v !== ''),
            ...$this->factor === 1.0 ? [] : ['factor' => $this->factor],
            ...$this->over === '' ? [] : ['over' => $this->over, 'ends' => $this->ends],
            ...$this->cells === [] ? [] : ['cells' => $this->cells],
            ...$this->error === 0.0 ? [] : ['error' => $this->error],
            ...$this->errorIn === 'unit' ? [] : ['errorIn' => $this->errorIn],
            ...$this->weight === 1.0 ? [] : ['weight' => $this->weight],
            ...$this->errors === [] ? [] : ['errors' => $this->errors],
            'points' => $this->points,
        ];
    }
}
