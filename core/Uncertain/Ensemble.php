<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Uncertain;

use MerryOrbit\Core\Model\Model;
use MerryOrbit\Core\Model\Setting;
use MerryOrbit\Core\Reduce\ManyRuns;
use MerryOrbit\Core\Reduce\Reducer;
use MerryOrbit\Core\Simulate\RunRefused;
use MerryOrbit\Core\Simulate\Simulator;

/** Many runs of one model with other values of what is uncertain, and the run with every input at its median. */
final readonly class Ensemble
{
    /**
     * @param  ?list<float>  $central  as the reducer gives; null where that run met a fault
     * @param  list<list<float>|null>  $runs  the same of each run
     */
    private function __construct(public ?array $central, public array $runs)
    {
    }

    /**
     * @param  \Closure(int): array<string, float>  $inputs  values of parameters by id, of run 0 to `$count` − 1
     * @param  array<string, float>  $medians
     *
     * @throws RunRefused
     */
    public static function of(
        Simulator $simulator,
        Model $model,
        Setting $setting,
        Reducer $reducer,
        \Closure $inputs,
        array $medians,
        int $count,
        int $seed,
        int $jobs = 1,
    ): self {
        $many = ManyRuns::of($simulator, $model, $setting, $reducer, $count);
        $runs = $many->all($count, static fn (int $i): array => [$inputs($i), self::seedOf($seed, $i)], $jobs);

        return new self($many->one($medians, $seed), $runs);
    }

    /** The seed of a run's own chance. */
    public static function seedOf(int $seed, int $run): int
    {
        /** @var array{1: int} $bits */
        $bits = unpack('q', hash('xxh3', "run $seed/$run", true));

        return $bits[1] & 0x1FFFFFFFFFFFFF;
    }

    public function failed(): int
    {
        return count(array_filter($this->runs, static fn (?array $r): bool => $r === null));
    }

    /** @return list<float> one of the numbers that the reducer gives, of all runs that came to an end */
    public function column(int $at): array
    {
        $values = [];
        foreach ($this->runs as $run) {
            if ($run !== null) {
                $values[] = $run[$at];
            }
        }

        return $values;
    }
}
