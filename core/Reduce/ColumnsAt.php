<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Reduce;

use MerryOrbit\Core\Experiment\Alignment;
use MerryOrbit\Core\Model\Model;
use MerryOrbit\Core\Model\TimeSettings;
use MerryOrbit\Core\Problem\Shown;
use MerryOrbit\Core\Simulate\Trajectory;

/** Some variables at some times, between steps on straight lines: the first at all its times, then the next. */
final readonly class ColumnsAt implements Reducer
{
    /**
     * @param  list<string>  $ids
     * @param  list<float>  $times  increasing
     */
    public function __construct(private array $ids, private array $times)
    {
    }

    public function extended(Model $model): Model
    {
        return $model;
    }

    public function columns(): array
    {
        return $this->ids;
    }

    public function saving(TimeSettings $time): TimeSettings
    {
        $wanted = array_diff($this->times, [$time->start, $time->end]);

        return $time->with(['saveEvery' => $wanted === [] ? $time->end - $time->start : null]);
    }

    public function names(): array
    {
        return array_merge(
            ...array_map(
                fn (string $id): array => array_map(static fn (float $t): string => "$id@".Shown::number($t), $this->times),
                $this->ids,
            ),
            ...[[]],
        );
    }

    public function reduce(Trajectory $run): array
    {
        $values = [];
        foreach ($this->ids as $id) {
            $values[] = $run->has($id)
                ? Alignment::at($run->times(), $run->column($id), $this->times)
                : array_fill(0, count($this->times), NAN);
        }

        return array_merge(...$values, ...[[]]);
    }
}
