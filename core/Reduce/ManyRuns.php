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
        if ($jobs < 2 || $count < 2 * $jobs || ! function_exists('pcntl_fork')) {
            return $this->part(0, $count, $inputs);
        }
        // The first run compiles, for all processes.
        $results = $this->part(0, 1, $inputs);
        $pipes = $children = [];
        for ($job = 1; $job < $jobs; $job++) {
            $pipe = stream_socket_pair(STREAM_PF_UNIX, STREAM_SOCK_STREAM, STREAM_IPPROTO_IP);
            $child = $pipe === false ? -1 : pcntl_fork();
            if ($pipe === false || $child < 0) {
                // Where no more processes can be had, this one does their part.
                $pipes[$job] = null;
            } elseif ($child === 0) {
                fclose($pipe[0]);
                fwrite($pipe[1], serialize($this->part(self::begin($job, $jobs, $count), self::begin($job + 1, $jobs, $count), $inputs)));
                fclose($pipe[1]);
                // Nothing of the parent's is to be tidied up by the child.
                posix_kill(posix_getpid(), SIGKILL);
            } else {
                fclose($pipe[1]);
                [$pipes[$job], $children[$job]] = [$pipe[0], $child];
            }
        }
        array_push($results, ...$this->part(1, self::begin(1, $jobs, $count), $inputs));
        foreach ($pipes as $job => $pipe) {
            $part = $pipe === null ? false : @unserialize((string) stream_get_contents($pipe), ['allowed_classes' => false]);
            if (isset($children[$job])) {
                pcntl_waitpid($children[$job], $status);
            }
            /** @var list<list<float>|null> $made a process that was killed is made good for */
            $made = is_array($part)
                ? $part
                : $this->part(self::begin($job, $jobs, $count), self::begin($job + 1, $jobs, $count), $inputs);
            array_push($results, ...$made);
        }

        return $results;
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
