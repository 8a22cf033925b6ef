<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Reduce;

use MerryOrbit\Core\Model\Model;
use MerryOrbit\Core\Model\TimeSettings;
use MerryOrbit\Core\Simulate\Trajectory;

/** What is wanted of each of many runs, said beforehand, so that nothing else of them is saved. */
interface Reducer
{
    /** The model with what has to be computed besides, such as totals. */
    public function extended(Model $model): Model;

    /** @return list<string> ids in the extended model whose values are wanted */
    public function columns(): array;

    /** The time settings with which the wanted moments are saved. */
    public function saving(TimeSettings $time): TimeSettings;

    /** @return list<string> of each number it gives, what it is */
    public function names(): array;

    /** @return list<float> as many as names; NAN where the run does not know */
    public function reduce(Trajectory $run): array;
}
