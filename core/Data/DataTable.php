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
    ) {
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
