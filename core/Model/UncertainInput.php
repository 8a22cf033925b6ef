<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Model;

use MerryOrbit\Core\Law\Distribution;

/** A parameter of which it is known how likely its values are, rather than what it is. */
final readonly class UncertainInput implements Readable, Recorded, Settled
{
    public const MOST = 500;

    public const SCHEMA = [
        'type' => 'object',
        'description' => 'How likely the values of a parameter are.',
        'required' => ['id', 'of', 'law'],
        'additionalProperties' => false,
        'properties' => [
            'id' => ['$ref' => '#/$defs/id'],
            'of' => ['type' => 'string', 'description' => 'the name of the parameter'],
            'at' => [
                'type' => 'array',
                'items' => ['type' => 'string'],
                'description' => 'of a parameter along dimensions, the element of each, in their order, by id or name; none: all of them alike',
            ],
            'law' => [
                'type' => 'string',
                'maxLength' => 20_000,
                'description' => 'its distribution: normal(mean, sd), lognormal(mean, sd), uniform(low, high), triangular(low, mode, high), '.
                    'beta(a, b, low, high), gamma(shape, scale), weibull(shape, scale), exponential(mean), discrete(value: weight, …), '.
                    'empirical(value, …); each perhaps cut off, as in normal(3.5, 1.3) within 0..10',
            ],
            'off' => ['type' => 'boolean', 'default' => false, 'description' => 'left out of what is drawn'],
            'note' => ['type' => 'string', 'maxLength' => 4_000],
        ],
        'examples' => [['id' => 'u1', 'of' => 'growth rate', 'law' => 'normal(0.9, 0.06) within 0..2']],
    ];

    /** @param  list<string>  $at  ids of elements, in the order of the dimensions */
    public function __construct(
        public string $id,
        public string $of,
        public string $law,
        public array $at = [],
        public bool $off = false,
        public string $note = '',
    ) {
    }

    public static function read(mixed $record): self
    {
        $given = Given::of($record, 'an uncertain input');
        // As the engine writes it, so that the same is the same.
        $law = Distribution::read($given->words('law', 20_000))->written;

        return new self(
            $given->id(),
            $given->words('of', 120),
            $law,
            $given->texts('at', 8, 120),
            $given->flag('off'),
            $given->text('note', 4_000),
        );
    }

    public function settled(Model $model): static
    {
        return new self($this->id, $this->of, $this->law, $model->elementsAt($this->of, $this->at), $this->off, $this->note);
    }

    public function unfit(Model $model): ?string
    {
        if (! ($model->element($this->of) instanceof Parameter)) {
            return 'What is uncertain is a parameter; there is none of that name.';
        }
        foreach ($model->part('uncertain') as $other) {
            if ($other instanceof self && $other->id !== $this->id && $other->key() === $this->key()) {
                return "`{$model->nameOf($this->of)}` has a distribution already. Change that one.";
            }
        }

        return null;
    }

    /** What is drawn: the parameter, or one of its elements. */
    public function key(): string
    {
        return Model::keyAt($this->of, $this->at);
    }

    public function toRecord(): array
    {
        return [
            'id' => $this->id,
            'of' => $this->of,
            'law' => $this->law,
            ...$this->at === [] ? [] : ['at' => $this->at],
            ...$this->off ? ['off' => true] : [],
            ...$this->note === '' ? [] : ['note' => $this->note],
        ];
    }
}
