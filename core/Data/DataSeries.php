<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Data;

/** A column of numbers over the times of its table; in the long layout, one for each of what its rows tell of. */
final readonly class DataSeries
{
    /**
     * @param  array<string, string>  $elements  of the long layout, which of which: `{"bay": "North"}`
     * @param  list<float|null>  $values  one for each time; null where nothing was measured
     * @param  int  $line  the column of the file (down, long) or the row (across) that it stands in, from 1
     */
    public function __construct(
        public string $name,
        public string $unit,
        public array $elements,
        public array $values,
        public int $line,
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
}
