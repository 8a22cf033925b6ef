<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Data;

/** A column of numbers over the times of its table; in the long layout, one for each of what its rows tell of. */
final readonly class DataSeries
{
    /**
     * @param  array<string, string>  $elements  of the long layout, which of which: `{"bay": "North"}`
     * @param  list<float|null>  $values  one for each time; null where nothing was measured
     * @param  int  $line  the column of the file (down, long) or the row (across) that it stands in, from 1; 0 where it was made
     * @param  ''|'mean'|'sum'  $over  whether values are of moments, or means or sums of the periods that begin there
     * @param  list<string>  $cells  where each value comes from, as `B4` or `B4:B15`; empty where nobody asked
     */
    public function __construct(
        public string $name,
        public string $unit,
        public array $elements,
        public array $values,
        public int $line,
        public string $over = '',
        public array $cells = [],
    ) {
    }

    /** @return array{name: string, unit: string, elements: object, values: list<float|null>} */
    public function toRecord(): array
    {
        return ['name' => $this->name, 'unit' => $this->unit, 'elements' => (object) $this->elements, 'values' => $this->values];
    }

    /** With its elements, as a variable is called: `catch[North]`. */
    public function label(): string
    {
        return $this->elements === [] ? $this->name : $this->name.'['.implode(', ', $this->elements).']';
    }

    /** Of how many times there is a value. */
    public function count(): int
    {
        return count(array_filter($this->values, static fn (?float $v): bool => $v !== null));
    }

    /**
     * The same series with other values.
     *
     * @param  list<float|null>  $values
     * @param  ''|'mean'|'sum'|null  $over  null: as before
     * @param  ?list<string>  $cells  null: as before
     */
    public function with(array $values, ?string $unit = null, ?string $over = null, ?array $cells = null): self
    {
        return new self(
            $this->name,
            $unit ?? $this->unit,
            $this->elements,
            $values,
            $this->line,
            $over ?? $this->over,
            $cells ?? $this->cells,
        );
    }

    /** @param  array<string, string>  $elements */
    public function called(string $name, array $elements): self
    {
        return new self($name, $this->unit, $elements, $this->values, $this->line, $this->over, $this->cells);
    }
}
