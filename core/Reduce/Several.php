<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Reduce;

use MerryOrbit\Core\Model\Model;
use MerryOrbit\Core\Model\TimeSettings;
use MerryOrbit\Core\Simulate\Trajectory;

/** Several things that are wanted of the same runs, one after the other. */
final readonly class Several implements Reducer
{
    /** @param  non-empty-list<Reducer>  $all */
    public function __construct(private array $all)
    {
    }

    public function extended(Model $model): Model
    {
        foreach ($this->all as $one) {
            $model = $one->extended($model);
        }

        return $model;
    }

    public function columns(): array
    {
        return array_values(array_unique(array_merge(...array_map(static fn (Reducer $r): array => $r->columns(), $this->all))));
    }

    public function saving(TimeSettings $time): TimeSettings
    {
        // As often as the one that wants most.
        $least = min(array_map(static fn (Reducer $r): float => $r->saving($time)->saveEvery ?? $time->step, $this->all));

        return $time->with(['saveEvery' => $least <= $time->step ? null : $least]);
    }

    public function names(): array
    {
        return array_merge(...array_map(static fn (Reducer $r): array => $r->names(), $this->all));
    }

    public function reduce(Trajectory $run): array
    {
        return array_merge(...array_map(static fn (Reducer $r): array => $r->reduce($run), $this->all));
    }
}
