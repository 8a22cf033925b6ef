<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Reduce;

use MerryOrbit\Core\Experiment\Alignment;
use MerryOrbit\Core\Model\Model;
use MerryOrbit\Core\Model\TimeSettings;
use MerryOrbit\Core\Problem\Shown;
use MerryOrbit\Core\Simulate\Trajectory;

/** Some variables at some times, between steps on straight lines: the first at all its times, then the next. */
final class ColumnsAt implements Reducer
{
    /**
     * @param  list<string>  $ids
     * @param  list<float>  $times  increasing
     */
    public function __construct(private readonly array $ids, private readonly array $times)
    {
    }

    /** @var list<float> the saved moments of the last run */
    private array $saved = [];

    /** @var list<int>|null where the wanted ones stand among them */
    private ?array $places = null;

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
        $times = $run->times();
        // Runs of one model mostly save the same moments, and those that are wanted among them.
        if ($times !== $this->saved) {
            [$this->saved, $this->places] = [$times, self::places($times, $this->times)];
        }
        $all = [];
        foreach ($this->ids as $id) {
            if (! $run->has($id)) {
                array_push($all, ...array_fill(0, count($this->times), NAN));
            } elseif ($this->places === null) {
                array_push($all, ...Alignment::at($times, $run->column($id), $this->times));
            } elseif (count($this->places) === count($times)) {
                array_push($all, ...$run->column($id));
            } else {
                $column = $run->column($id);
                foreach ($this->places as $place) {
                    $all[] = $column[$place];
                }
            }
        }

        return $all;
    }

    /**
     * @param  list<float>  $saved
     * @param  list<float>  $wanted
     * @return list<int>|null where each stands; null if one lies between or beside
     */
    private static function places(array $saved, array $wanted): ?array
    {
        $places = [];
        $i = 0;
        foreach ($wanted as $time) {
            for (; $i < count($saved) && $saved[$i] < $time; $i++);
            if (! isset($saved[$i]) || $saved[$i] !== $time) {
                return null;
            }
            $places[] = $i;
        }

        return $places;
    }
}
