<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Model;

/** Where a thing stands on a sheet: its middle; for a flow its gate, its bends, and its ends that are outside. */
final readonly class Placement implements Recorded
{
    /** The points it may have besides its middle. */
    public const POINTS = ['source', 'target', 'bendIn', 'bendOut'];

    public function __construct(
        public Point $at,
        public ?Point $source = null,
        public ?Point $target = null,
        public string $sheet = Sheet::FIRST,
        /** A bend of a flow between its start and its gate. */
        public ?Point $bendIn = null,
        /** A bend of a flow between its gate and its head. */
        public ?Point $bendOut = null,
        /** Whether a small plot is shown beneath it. */
        public bool $plot = false,
    ) {
    }

    /**
     * The same placement with some fields changed.
     *
     * @param  array<string, mixed>  $fields  by the names of the constructor's arguments
     */
    public function with(array $fields): self
    {
        return (new \ReflectionClass($this))->newInstanceArgs([...get_object_vars($this), ...$fields]);
    }

    /** With all its points moved. */
    public function moved(float $dx, float $dy): self
    {
        $move = static fn (?Point $p): ?Point => $p === null ? null : new Point($p->x + $dx, $p->y + $dy);

        return $this->with([
            'at' => $move($this->at),
            'source' => $move($this->source),
            'target' => $move($this->target),
            'bendIn' => $move($this->bendIn),
            'bendOut' => $move($this->bendOut),
        ]);
    }

    /** @return array<string, mixed> */
    public function toRecord(): array
    {
        return array_filter(
            [
                'at' => $this->at->toRecord(),
                'source' => $this->source?->toRecord(),
                'target' => $this->target?->toRecord(),
                'sheet' => $this->sheet,
                'bendIn' => $this->bendIn?->toRecord(),
                'bendOut' => $this->bendOut?->toRecord(),
                'plot' => $this->plot ?: null,
            ],
            static fn (mixed $value): bool => $value !== null,
        );
    }

    /** @param  array<string, mixed>  $record */
    public static function fromRecord(array $record): self
    {
        /** @var array{at: array{x: int|float, y: int|float}, source?: array{x: int|float, y: int|float}, target?: array{x: int|float, y: int|float}, sheet?: string, bendIn?: array{x: int|float, y: int|float}, bendOut?: array{x: int|float, y: int|float}, plot?: bool} $record */
        $point = static fn (string $key): ?Point => isset($record[$key]) && is_array($record[$key])
            ? Point::fromRecord($record[$key])
            : null;

        return new self(
            Point::fromRecord($record['at']),
            $point('source'),
            $point('target'),
            $record['sheet'] ?? Sheet::FIRST,
            $point('bendIn'),
            $point('bendOut'),
            $record['plot'] ?? false,
        );
    }
}
