<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Simulate;

use MerryOrbit\Core\Model\Method;
use MerryOrbit\Core\Roster\Crew;

/**
 * What a run gave: a time column and a float column for every variable that could be computed, all of one length.
 * After a numeric fault they end with the last moment before it.
 */
final class Trajectory
{
    /** @var array<string, int> */
    private readonly array $positions;

    /**
     * @param  Values  $values  of `$columns`, at `$times`
     * @param  list<string>  $columns  element ids, or keys of elements along dimensions
     * @param  array<string, float>  $steady  by element id, what stays the same
     * @param  list<float>  $times  the saved moments
     * @param  list<Notice>  $notices  what happened besides
     */
    public function __construct(
        private readonly Values $values,
        private readonly array $columns,
        private readonly array $steady,
        private readonly array $times,
        public readonly ?NumericFault $fault,
        /** How often the equations were looked at. */
        public readonly int $evaluations,
        public readonly Method $method = Method::Euler,
        public readonly array $notices = [],
        /** Whether the end condition ended it early. */
        public readonly bool $ended = false,
        /** How long the integration itself took, without reading, compiling and diagnosis. */
        public readonly float $seconds = 0.0,
        /** Whether someone stopped it on its way. */
        public readonly bool $stopped = false,
        /** What is kept with all its elements besides. */
        private readonly ?ElementValues $elements = null,
        /** @var array<string, Crew> by dimension, what became of the members of rosters */
        public readonly array $crews = [],
        /** @var array<string, list<float|list<float>>> by key, at saved moments, what delays and averages hold beside members */
        public readonly array $memory = [],
    ) {
        $this->positions = array_flip($columns);
    }

    /**
     * What has a column.
     *
     * @param  int  $most  of a thing that is kept with all its elements, at most so many
     * @return list<string> keys
     */
    public function columns(int $most = PHP_INT_MAX): array
    {
        return [...$this->columns, ...$this->elements?->keys($most) ?? []];
    }

    /**
     * @param  int  $most  of a thing that is kept with all its elements, at most so many
     * @return array<string, float> by key, what stays the same
     */
    public function steady(int $most = PHP_INT_MAX): array
    {
        return $this->elements === null ? $this->steady : [...$this->steady, ...$this->elements->steady($most)];
    }

    /** What stays the same; null of what does not. */
    public function steadyOf(string $key): ?float
    {
        return $this->steady[$key] ?? $this->elements?->steadyOf($key);
    }

    /**
     * The same run with columns besides, which are computed from its own.
     *
     * @param  array<string, list<float>>  $columns
     * @param  array<string, float>  $steady
     */
    public function with(array $columns, array $steady): self
    {
        $more = array_combine(array_keys(array_fill(count($this->columns), count($columns), 0)), array_values($columns));

        return new self(
            $this->values->with($more),
            [...$this->columns, ...array_map(strval(...), array_keys($columns))],
            [...$this->steady, ...$steady],
            $this->times,
            $this->fault,
            $this->evaluations,
            $this->method,
            $this->notices,
            $this->ended,
            $this->seconds,
            $this->stopped,
            $this->elements,
            $this->crews,
            $this->memory,
        );
    }

    public function length(): int
    {
        return count($this->times);
    }

    /** @return list<float> */
    public function times(): array
    {
        return $this->times;
    }

    public function has(string $id): bool
    {
        return isset($this->positions[$id]) || isset($this->steady[$id]) || $this->elements?->has($id) === true;
    }

    /** @return list<float> as long as times() */
    public function column(string $id): array
    {
        return isset($this->positions[$id])
            ? $this->values->column($this->positions[$id])
            : $this->elements?->column($id) ??
                    array_fill(0, count($this->times), $this->steadyOf($id) ?? throw new \OutOfBoundsException("No column $id"));
    }

    /** @return list<list<float>>|null of a thing that is kept with all its elements, at each saved moment the values of all of them */
    public function moments(string $id): ?array
    {
        $moments = $this->elements?->moments($id);

        return $moments === null ? null : array_slice($moments, 0, count($this->times));
    }

    /** The value at one saved moment; null if there is no such column. */
    public function value(string $id, int $index): ?float
    {
        return isset($this->positions[$id])
            ? $this->values->at($this->positions[$id], $index)
            : $this->steady[$id] ?? $this->elements?->value($id, $index);
    }

    /** @return list<float> values of $columns at one saved moment */
    public function row(int $index): array
    {
        return $this->values->moment($index);
    }
}
