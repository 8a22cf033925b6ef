<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Model;

use MerryOrbit\Core\Problem\NotUnderstood;

/** What a run is made with besides the model: everything that is not said stays as the model has it. */
final readonly class Setting
{
    private const TIME = ['start', 'end', 'step', 'saveEvery'];

    private const MOST = 2_000;

    /**
     * @param  array<string, float>  $parameters  by element id, or by the key of one of its elements along dimensions: `volume[hot]`
     * @param  array<string, Grip>  $grips  by element id
     * @param  array<string, float|string>  $time  some of start, end, step, saveEvery (numbers) and method (a word)
     * @param  array<string, string>  $curves  by id of a curve or series, the id of the one whose points take the place of its own
     */
    public function __construct(
        public array $parameters = [],
        public array $grips = [],
        public array $time = [],
        public array $curves = [],
        public ?int $seed = null,
        /** @var array<string, list<string>> by dimension, the elements it is limited to */
        public array $limits = [],
        /** @var array<string, string> by roster, at which level its members are: members, classes or one */
        public array $levels = [],
    ) {
    }

    /**
     * Reads a record as toRecord() gives it.
     *
     * @throws NotUnderstood
     */
    public static function read(mixed $record): self
    {
        if (! is_array($record)) {
            throw NotUnderstood::because('A setting is an object with parameters, grips, time, curves.');
        }
        $parameters = [];
        foreach (self::part($record, 'parameters') as $id => $value) {
            if ((! is_int($value) && ! is_float($value)) || ! is_finite((float) $value)) {
                throw NotUnderstood::because('A parameter’s value must be a number.');
            }
            $parameters[$id] = (float) $value;
        }
        $grips = [];
        foreach (self::part($record, 'grips') as $id => $grip) {
            $grips[$id] = Grip::read((string) $id, $grip);
        }
        $time = [];
        foreach (self::part($record, 'time') as $field => $value) {
            if ($field === 'method') {
                $method = is_string($value) ? Method::tryFrom($value) : null;
                $time['method'] = (
                    $method ??
                    throw NotUnderstood::because(
                        'The method must be one of '.implode(', ', array_column(Method::cases(), 'value')).'.',
                    )
                )->value;
            } elseif (in_array($field, self::TIME, true) && (is_int($value) || is_float($value))) {
                $time[$field] = (float) $value;
            } else {
                throw NotUnderstood::because(
                    'Of the time settings a run can change start, end, step and saveEvery, as numbers, and the method.',
                );
            }
        }
        $curves = [];
        foreach (self::part($record, 'curves') as $id => $other) {
            $curves[$id] = is_string($other)
                ? $other
                : throw NotUnderstood::because('`curves` names, for a curve or series, the one whose points it takes.');
        }
        $seed = $record['seed'] ?? null;
        if ($seed !== null && ! is_int($seed)) {
            throw NotUnderstood::because('The seed is a whole number.');
        }

        $limits = [];
        foreach (self::part($record, 'limits') as $dimension => $elements) {
            $limits[$dimension] =
                is_array($elements) && $elements !== [] && array_filter($elements, is_string(...)) === $elements
                    ? array_values($elements)
                    : throw NotUnderstood::because('`limits` lists, for a dimension, the elements that are left of it: one at least.');
        }

        $levels = [];
        foreach (self::part($record, 'levels') as $roster => $level) {
            $levels[$roster] =
                is_string($level) && in_array($level, Roster::LEVELS, true)
                    ? $level
                    : throw NotUnderstood::because('`levels` says of a roster whether it is of '.implode(', ', Roster::LEVELS).'.');
        }

        return new self($parameters, $grips, $time, $curves, $seed, $limits, $levels);
    }

    /**
     * @param  array<mixed>  $record
     * @return array<string, mixed>
     */
    private static function part(array $record, string $part): array
    {
        $value = $record[$part] ?? [];
        if (! is_array($value)) {
            throw NotUnderstood::because("`$part` of a setting is an object.");
        }
        if (count($value) > self::MOST) {
            throw NotUnderstood::because('A setting changes at most '.number_format(self::MOST)." $part.");
        }

        return array_combine(array_map(strval(...), array_keys($value)), $value);
    }

    /** This setting on top of another: what both say, this one decides. */
    public function over(self $below): self
    {
        return new self(
            array_replace($below->parameters, $this->parameters),
            array_replace($below->grips, $this->grips),
            [...$below->time, ...$this->time],
            array_replace($below->curves, $this->curves),
            $this->seed ?? $below->seed,
            array_replace($below->limits, $this->limits),
            array_replace($below->levels, $this->levels),
        );
    }

    /** The same with ids of dimensions and elements where names may stand. */
    public function settled(Dimensions $dimensions): self
    {
        $limits = [];
        foreach ($this->limits as $called => $elements) {
            // What is called by a number is a key of a number.
            $id = $dimensions->find((string) $called)->id ?? (string) $called;
            $limits[$id] = array_map(static fn (string $e): string => $dimensions->elementOf($id, $e) ?? $e, $elements);
        }

        return $this->limits === []
            ? $this
            : new self($this->parameters, $this->grips, $this->time, $this->curves, $this->seed, $limits, $this->levels);
    }

    public function isEmpty(): bool
    {
        return $this->toRecord() === [];
    }

    public function timeOf(TimeSettings $time): TimeSettings
    {
        $fields = $this->time;
        // A step that is longer than what is saved would be refused for the wrong reason.
        if (isset($fields['step']) && ! isset($fields['saveEvery']) && $time->saveEvery !== null && $time->saveEvery < $fields['step']) {
            $fields['saveEvery'] = null;
        }

        return $fields === []
            ? $time
            : $time->with([...$fields, ...isset($fields['method']) ? ['method' => Method::from((string) $fields['method'])] : []]);
    }

    /** @return array<string, mixed> only what is said */
    public function toRecord(): array
    {
        return array_filter(
            [
                'parameters' => $this->parameters,
                'grips' => array_map(static fn (Grip $g): array => $g->toRecord(), $this->grips),
                'time' => $this->time,
                'curves' => $this->curves,
                'seed' => $this->seed,
                'limits' => $this->limits,
                'levels' => $this->levels,
            ],
            static fn (mixed $v): bool => $v !== null && $v !== [],
        );
    }
}
