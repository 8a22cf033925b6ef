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

    /** @return list<float> the saved moments of a run, evenly thinned to so many where there are more */
    public static function moments(TimeSettings $time, int $most): array
    {
        $every = max(1, (int) ceil($time->steps() / $time->stepsPerSave() / max(1, $most - 1))) * $time->stepsPerSave();
        $moments = [];
        for ($i = 0; $i < $time->steps(); $i += $every) {
            $moments[] = $time->timeAt($i);
        }

        return [...$moments, $time->timeAt($time->steps())];
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
        // As seldom as meets all that is wanted; the start and the end are always saved.
        $every = 0;
        foreach (array_diff($this->times, [$time->start, $time->end]) as $wanted) {
            $steps = ($wanted - $time->start) / $time->step;
            if (abs($steps - round($steps)) > 1e-9 * max(1.0, abs($steps))) {
                return $time->with(['saveEvery' => null]);
            }
            [$a, $b] = [(int) round($steps), $every];
            while ($b !== 0) {
                [$a, $b] = [$b, $a % $b];
            }
            $every = $a;
        }

        return $time->with(['saveEvery' => $every === 0 ? $time->end - $time->start : ($every === 1 ? null : $every * $time->step)]);
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
