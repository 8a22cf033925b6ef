<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Reduce;

use MerryOrbit\Core\Experiment\Alignment;
use MerryOrbit\Core\Model\Model;
use MerryOrbit\Core\Model\TimeSettings;
use MerryOrbit\Core\Simulate\Trajectory;

/**
 * How far a run is from what was measured: for each series the sum of squares of (simulated − measured) ÷ sd, the run's values
 * taken between steps on straight lines. What was measured outside of the run does not count; nor does what is missing (NAN).
 */
final readonly class Distance implements Reducer
{
    /** @param  non-empty-list<array{id: string, times: list<float>, values: list<float>, sd: float}>  $series  times increasing */
    public function __construct(private array $series)
    {
    }

    public function extended(Model $model): Model
    {
        return $model;
    }

    public function columns(): array
    {
        return array_values(array_unique(array_column($this->series, 'id')));
    }

    public function saving(TimeSettings $time): TimeSettings
    {
        return $time->with(['saveEvery' => null]);
    }

    public function names(): array
    {
        return array_column($this->series, 'id');
    }

    public function reduce(Trajectory $run): array
    {
        return array_map(static function (array $series) use ($run): float {
            if (! $run->has($series['id'])) {
                return NAN;
            }
            $sum = 0.0;
            foreach (Alignment::at($run->times(), $run->column($series['id']), $series['times']) as $i => $simulated) {
                $gap = ($simulated - $series['values'][$i]) / $series['sd'];
                $sum += is_nan($gap) ? 0.0 : $gap * $gap;
            }

            return $sum;
        }, $this->series);
    }
}
