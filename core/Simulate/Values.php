<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Simulate;

/**
 * The numbers of a run: kept by column, or moment by moment where there are very many variables (writing to thousands of columns in
 * turn takes three times as long); then a column is gathered, every so many numbers apart, when it is asked for.
 */
final class Values
{
    /**
     * @param  array<int, list<float>>  $columns  all of them, or those that were asked for
     * @param  list<list<float>>|null  $moments  of each moment the values of all columns; null where all columns are there
     */
    private function __construct(private array $columns, private readonly ?array $moments)
    {
    }

    /** @param  list<list<float>>  $columns */
    public static function byColumn(array $columns): self
    {
        return new self($columns, null);
    }

    /** @param  list<list<float>>  $moments */
    public static function byMoment(array $moments): self
    {
        return new self([], $moments);
    }

    /** @return list<float> */
    public function column(int $k): array
    {
        return $this->columns[$k] ??= array_column($this->moments ?? [], $k);
    }

    public function at(int $k, int $moment): float
    {
        return $this->moments[$moment][$k] ?? $this->columns[$k][$moment];
    }

    /** @return list<float> the values of all columns */
    public function moment(int $moment): array
    {
        return $this->moments[$moment] ?? array_map(static fn (array $c): float => $c[$moment], array_values($this->columns));
    }

    /** @param  array<int, list<float>>  $more  columns by their place behind all others */
    public function with(array $more): self
    {
        return new self($this->columns + $more, $this->moments);
    }

    /** Only its first moments. */
    public function until(int $moments): self
    {
        return $this->moments === null
            ? new self(array_map(static fn (array $c): array => array_slice($c, 0, $moments), $this->columns), null)
            : new self([], array_slice($this->moments, 0, $moments));
    }
}
