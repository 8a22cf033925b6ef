<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Data;

/** What a table holds: series over common times. */
final readonly class DataTable
{
    /**
     * @param  'down'|'across'|'long'  $layout
     * @param  'number'|'date'  $timeKind
     * @param  list<float>  $times  numbers, or seconds since 1970; increasing, one may come twice
     * @param  list<string>  $timeWords  of dates, as they are told; empty for numbers
     * @param  list<DataSeries>  $series
     * @param  list<int>  $apart  of the long layout, the columns that tell apart the rows of one time, from 0
     * @param  list<DataRemark>  $remarks
     * @param  Understood  $understood  how the table was read
     * @param  list<array{row: int, column: int, series: string, at: string, value: float}>  $slips  cells of the file that were written
     *   wrong, and what they seem to mean; rows and columns from 1
     * @param  string  $spacing  how far apart its times are, where a step says so: `month`, or a number; empty where it is to be found
     */
    public function __construct(
        public string $layout,
        public string $timeName,
        public string $timeKind,
        public array $times,
        public array $timeWords,
        public array $series,
        public array $apart,
        public array $remarks,
        public Understood $understood,
        public string $spacing = '',
        public array $slips = [],
    ) {
    }

    /**
     * The same table with other series, over its own times or others.
     *
     * @param  list<DataSeries>  $series
     * @param  ?list<float>  $times  null: as before
     * @param  ?string  $spacing  null: as before
     */
    public function with(array $series, ?array $times = null, ?string $spacing = null): self
    {
        return new self(
            $this->layout,
            $this->timeName,
            $this->timeKind,
            $times ?? $this->times,
            $times === null ? $this->timeWords : self::words($this->timeKind, $times),
            $series,
            $this->apart,
            $this->remarks,
            $this->understood,
            $spacing ?? $this->spacing,
            $this->slips,
        );
    }

    /**
     * @param  'number'|'date'  $kind
     * @param  list<float>  $moments
     * @return list<string> of dates, as they are told; empty for numbers
     */
    public static function words(string $kind, array $moments): array
    {
        if ($kind === 'number') {
            return [];
        }
        $hasClock = array_filter($moments, static fn (float $m): bool => fmod($m, 86_400.0) !== 0.0) !== [];

        return array_map(static fn (float $m): string => (new Moment($m, $hasClock))->text(), $moments);
    }

    /** A time of it as it is told. */
    public function word(int $at): string
    {
        return $this->timeKind === 'date' ? $this->timeWords[$at] : Grid::text($this->times[$at]);
    }

    /** @return array<string, mixed> */
    public function toRecord(): array
    {
        return [
            'layout' => $this->layout,
            'time' => [
                'name' => $this->timeName,
                'kind' => $this->timeKind,
                'values' => $this->timeKind === 'date' ? $this->timeWords : $this->times,
            ],
            'series' => array_map(static fn (DataSeries $s): array => $s->toRecord(), $this->series),
            'remarks' => $this->remarks,
        ];
    }
}
