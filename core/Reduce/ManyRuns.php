<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Reduce;

use MerryOrbit\Core\Experiment\Trial;
use MerryOrbit\Core\Model\Model;
use MerryOrbit\Core\Model\Setting;
use MerryOrbit\Core\Simulate\PreparedRun;
use MerryOrbit\Core\Simulate\RunOptions;
use MerryOrbit\Core\Simulate\RunRefused;
use MerryOrbit\Core\Simulate\Simulator;

/**
 * One model run many times with other values of some parameters, of which a reducer tells what is wanted. What run i comes to
 * depends on its values and its seed alone: any split over any number of processes gives the same bits.
 */
final readonly class ManyRuns
{
    private function __construct(private PreparedRun $prepared, private Reducer $reducer)
    {
    }

    /**
     * @param  int  $times  how many runs will be made, about
     *
     * @throws RunRefused
     */
    public static function of(Simulator $simulator, Model $model, Setting $setting, Reducer $reducer, int $times): self
    {
        $trial = Trial::of($reducer->extended($model), $setting);
        $s = $trial->settings;
        $settings = new RunOptions(
            $s->parameters,
            $reducer->saving($s->time ?? $trial->analysis->model->time),
            $s->seed,
            $s->grain,
            $s->watch,
        );

        return new self($simulator->prepare($trial->analysis, $settings, $reducer->columns(), $times), $reducer);
    }

    /**
     * @param  array<string, float>  $values  of parameters, by id
     * @return list<float>|null what the reducer gives; null if the run met a fault
     */
    public function one(array $values, ?int $seed = null): ?array
    {
        $run = $this->prepared->run($values, $seed, diagnose: false);

        return $run->fault === null ? $this->reducer->reduce($run) : null;
    }

    /**
     * Runs 0 to `$count` − 1.
     *
     * @param  callable(int): array{array<string, float>, ?int}  $inputs  values of parameters and seed of a run
     * @param  int  $jobs  processes
     * @return list<list<float>|null> as one() gives
     */
    public function all(int $count, callable $inputs, int $jobs = 1): array
    {
        if ($jobs < 2 || $count < 2 * $jobs) {
            return $this->part(0, $count, $inputs);
        }
        // The first run compiles, for all processes.
        $results = $this->part(0, 1, $inputs);
        $parts = [];
        for ($job = 0; $job < $jobs; $job++) {
            [$from, $until] = [self::begin($job, $jobs, $count), self::begin($job + 1, $jobs, $count)];
            $parts[] = fn (): array => $this->part($from, $until, $inputs);
        }

        return [...$results, ...array_merge(...Processes::each($parts))];
    }

    /**
     * One of the numbers that one() gives, as it is told.
     *
     * @param  ?list<float>  $numbers
     * @return ?float null where the run failed, or has no such number
     */
    public static function known(?array $numbers, int $at): ?float
    {
        $value = $numbers[$at] ?? NAN;

        return is_finite($value) ? $value : null;
    }

    /**
     * Some of the numbers that one() gives, as they are told.
     *
     * @param  ?list<float>  $numbers
     * @return ?list<?float> null where the run failed
     */
    public static function told(?array $numbers, int $from, ?int $count = null): ?array
    {
        return $numbers === null
            ? null
            : array_map(static fn (float $v): ?float => is_finite($v) ? $v : null, array_slice($numbers, $from, $count));
    }

    private static function begin(int $job, int $jobs, int $count): int
    {
        return max(1, intdiv($count * $job, $jobs));
    }

    /**
     * @param  callable(int): array{array<string, float>, ?int}  $inputs
     * @return list<list<float>|null>
     */
    private function part(int $from, int $until, callable $inputs): array
    {
        $results = [];
        for ($i = $from; $i < $until; $i++) {
            $results[] = $this->one(...$inputs($i));
        }

        return $results;
    }
}
