<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Data;

/** A column of numbers over the times of its table; in the long layout, one for each of what its rows tell of. */
final readonly class DataSeries
{
    /**
     * @param  array<string, string>  $elements  of the long layout, which of which: `{"bay": "North"}`
     * @param  list<float|null>  $values  one for each time; null where nothing was measured
     * @param  list<int>  $cells  for each time the row of the file (down, long) or the column (across), from 1; 0 for none
     * @param  int  $line  the column of the file (down, long) or the row (across) that it stands in, from 1
     */
    public function __construct(
        public string $name,
        public string $unit,
        public array $elements,
        public array $values,
        public array $cells,
        public int $line,
    ) {
    }

    /** With its elements, as a variable is called: `catch[North]`. */
    public function label(): string
    {
        return $this->elements === [] ? $this->name : $this->name.'['.implode(', ', $this->elements).']';
    }
}
