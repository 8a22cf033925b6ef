<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Model;

use MerryOrbit\Core\Formula\FormulaText;
use MerryOrbit\Core\Formula\Name;
use MerryOrbit\Core\Formula\Reference;
use MerryOrbit\Core\Problem\NotUnderstood;

/** A sentence that a model must satisfy: under which conditions, of what, which shape. What the shapes mean is said in Uncertain\Watch. */
final readonly class Expectation implements Readable, Recorded, Settled
{
    public const MOST = 500;

    /** Of the runs under uncertainty in which one must hold. */
    public const MOST_RUNS = 10_000;

    /** Which numbers and formulas each shape takes. */
    public const SHAPES = [
        'never-below' => ['value'],
        'never-above' => ['value'],
        'within' => ['value', 'high'],
        'near' => ['other', 'share'],
        'always' => [],
        'never' => [],
        'reaches' => ['value', 'until'],
        'rises' => ['share'],
        'falls' => ['share'],
        'swings' => ['value'],
        'rests' => ['until', 'share'],
        'peaks' => ['from', 'until', 'share'],
        'never-more' => ['share'],
        'never-less' => ['share'],
        'sound' => [],
    ];

    private const FORMULA = ['type' => 'string', 'maxLength' => 2_000];

    private const NUMBERS = ['type' => 'object', 'additionalProperties' => ['type' => 'number']];

    public const SCHEMA = [
        'type' => 'object',
        'description' => 'A sentence that the model must satisfy.',
        'required' => ['id', 'shape'],
        'additionalProperties' => false,
        'properties' => [
            'id' => ['$ref' => '#/$defs/id'],
            'name' => ['type' => 'string', 'maxLength' => 200, 'description' => 'what people call it; else the sentence itself'],
            'when' => ['$ref' => '#/$defs/setting'],
            'factors' => [...self::NUMBERS, 'description' => 'by name of a parameter, what its own value is multiplied with'],
            'starts' => [...self::NUMBERS, 'description' => 'by name of a stock with a plain initial value, another one'],
            'of' => [...self::FORMULA, 'description' => 'a variable or a formula; of `always` and `never` a condition'],
            'shape' => [
                'enum' => [
                    'never-below',
                    'never-above',
                    'within',
                    'near',
                    'always',
                    'never',
                    'reaches',
                    'rises',
                    'falls',
                    'swings',
                    'rests',
                    'peaks',
                    'never-more',
                    'never-less',
                    'sound',
                ],
                'description' => 'never-more and never-less: than without the conditions; sound: no fault, and no stock below 0 that begins above',
            ],
            'value' => ['type' => 'number', 'description' => 'the limit, the lower one of `within`, how many turns of `swings`'],
            'high' => ['type' => 'number', 'description' => 'the upper limit of `within`'],
            'other' => [...self::FORMULA, 'description' => 'of `near`, what it stays near'],
            'share' => ['type' => 'number', 'minimum' => 0, 'description' => 'how far off is still right, as a part of its size'],
            'from' => ['type' => 'number', 'description' => 'from when on it is looked at'],
            'until' => ['type' => 'number', 'description' => 'until when; of `reaches` and `rests` by when'],
            'runs' => [
                'type' => 'integer',
                'minimum' => 0,
                'maximum' => self::MOST_RUNS,
                'description' => 'in how many runs with draws of what is uncertain it is looked at; 0: in the run as it is',
            ],
            'part' => [
                'type' => 'number',
                'minimum' => 0,
                'maximum' => 1,
                'description' => 'in which part of those runs it must hold; 1',
            ],
            'off' => ['type' => 'boolean', 'default' => false],
            'place' => ['type' => 'number', 'default' => 0],
        ],
        'examples' => [
            ['id' => 'x1', 'of' => 'kelp', 'shape' => 'never-below', 'value' => 0],
            ['id' => 'x2', 'factors' => ['boats' => 0.5], 'of' => 'visitors', 'shape' => 'never-more'],
            ['id' => 'x3', 'of' => 'kelp + lost kelp', 'shape' => 'near', 'other' => 'all kelp', 'share' => 0.001],
        ],
    ];

    /**
     * @param  array<string, float>  $factors  by parameter
     * @param  array<string, float>  $starts  by stock
     * @param  key-of<self::SHAPES>  $shape
     */
    public function __construct(
        public string $id,
        public string $name = '',
        public Setting $when = new Setting(),
        public array $factors = [],
        public array $starts = [],
        public FormulaText $of = new FormulaText(),
        public string $shape = 'never-below',
        public float $value = 0.0,
        public float $high = 0.0,
        public FormulaText $other = new FormulaText(),
        public float $share = 0.0,
        public ?float $from = null,
        public ?float $until = null,
        public bool $off = false,
        public float $place = 0.0,
        public int $runs = 0,
        public float $part = 1.0,
    ) {
    }

    public static function read(mixed $record): self
    {
        $given = Given::of($record, 'an expectation');
        $fields = is_array($record) ? $record : [];
        $time = static fn (string $f): ?float => isset($fields[$f]) ? $given->number($f, -1e15, 1e15, 0.0) : null;

        return new self(
            $given->id(),
            $given->text('name', 200),
            Setting::read($fields['when'] ?? []),
            self::numbers($fields['factors'] ?? [], 'factors'),
            self::numbers($fields['starts'] ?? [], 'starts'),
            FormulaText::given($fields['of'] ?? ''),
            $given->oneOf('shape', array_keys(self::SHAPES), 'never-below'),
            $given->number('value', -1e300, 1e300, 0.0),
            $given->number('high', -1e300, 1e300, 0.0),
            FormulaText::given($fields['other'] ?? ''),
            $given->number('share', 0.0, 1e6, 0.0),
            $time('from'),
            $time('until'),
            $given->flag('off'),
            $given->number('place', -1e12, 1e12, 0.0),
            (int) $given->number('runs', 0, self::MOST_RUNS, 0.0),
            $given->number('part', 0.0, 1.0, 1.0),
        );
    }

    /** @return array<string, float> */
    private static function numbers(mixed $given, string $field): array
    {
        $numbers = [];
        foreach (is_array($given) ? $given : [] as $id => $value) {
            $numbers[(string) $id] =
                (is_int($value) || is_float($value)) && is_finite((float) $value)
                    ? (float) $value
                    : throw NotUnderstood::because("`$field` of an expectation holds plain numbers.");
        }

        return $numbers;
    }

    public function settled(Model $model): static
    {
        $bound = static function (FormulaText $f) use ($model): FormulaText {
            $text = trim($f->text($model->nameOf(...)));
            $id = $model->idOf(Name::key($text));

            // A name alone is that thing, also where it is called like a function.
            return $id === null
                ? FormulaText::typed($text, $model->idOf(...))
                : new FormulaText([new Reference(Name::written($text), $id)]);
        };

        return $this->with([
            'of' => $bound($this->of),
            'other' => $bound($this->other),
            'when' => $this->when->settled($model->dimensions()),
        ]);
    }

    /** @param  array<string, mixed>  $fields */
    private function with(array $fields): static
    {
        return (new \ReflectionClass($this))->newInstanceArgs([...get_object_vars($this), ...$fields]);
    }

    public function unfit(Model $model): ?string
    {
        if ($this->of->isEmpty() && $this->shape !== 'sound') {
            return 'An expectation is of a variable or a formula. Say which.';
        }
        if ($this->shape === 'near' && $this->other->isEmpty()) {
            return 'Say what it is to stay near.';
        }
        if ($this->shape === 'within' && $this->high < $this->value) {
            return 'The upper limit lies below the lower one.';
        }
        if ($this->from !== null && $this->until !== null && $this->until < $this->from) {
            return 'It ends before it begins: the first time is the smaller one.';
        }

        return in_array($this->shape, ['never-more', 'never-less'], true) && $this->isUnconditional()
            ? 'More or less than without which condition? Say what is changed.'
            : null;
    }

    /** The same of the run as it is, where it is expected of many. */
    public function inOneRun(): self
    {
        return $this->with(['runs' => 0]);
    }

    /** Whether it is of the model as it is. */
    public function isUnconditional(): bool
    {
        return $this->when->isEmpty() && $this->factors === [] && $this->starts === [];
    }

    public function toRecord(): array
    {
        $takes = self::SHAPES[$this->shape];
        $numbers = ['value' => $this->value, 'high' => $this->high, 'share' => $this->share];

        return [
            'id' => $this->id,
            ...$this->name === '' ? [] : ['name' => $this->name],
            ...$this->when->isEmpty() ? [] : ['when' => $this->when->toRecord()],
            ...$this->factors === [] ? [] : ['factors' => $this->factors],
            ...$this->starts === [] ? [] : ['starts' => $this->starts],
            ...$this->of->isEmpty() ? [] : ['of' => $this->of->toRecord()],
            'shape' => $this->shape,
            ...array_filter($numbers, static fn (string $f): bool => in_array($f, $takes, true), ARRAY_FILTER_USE_KEY),
            ...$this->other->isEmpty() ? [] : ['other' => $this->other->toRecord()],
            ...$this->from === null ? [] : ['from' => $this->from],
            ...$this->until === null ? [] : ['until' => $this->until],
            ...$this->runs === 0 ? [] : ['runs' => $this->runs],
            ...$this->runs === 0 || $this->part === 1.0 ? [] : ['part' => $this->part],
            ...$this->off ? ['off' => true] : [],
            ...$this->place === 0.0 ? [] : ['place' => $this->place],
        ];
    }
}
