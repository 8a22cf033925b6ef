<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Fit;

use MerryOrbit\Core\Reduce\ManyRuns;

/** Batches of runs, counted; split over processes where they take long enough for that. */
final class Runner
{
    /** Seconds of runs below which other processes are not worth it. */
    private const WORTH = 0.05;

    public int $evaluations = 0;

    private float $seconds = 0.0;

    public function __construct(private readonly ManyRuns $many, public readonly int $jobs)
    {
    }

    /**
     * @param  callable(int): array{array<string, float>, ?int}  $inputs
     * @param  bool  $alone  whether other processes are busy already
     * @return list<?list<float>> null where a run met a fault, or something of it is not known
     */
    public function all(int $count, callable $inputs, bool $alone = false): array
    {
        $each = $this->evaluations === 0 ? 0.0 : $this->seconds / $this->evaluations;
        $jobs = ! $alone && $each * $count > self::WORTH ? $this->jobs : 1;
        $begun = hrtime(true);
        $all = $this->many->all($count, $inputs, $jobs);
        $this->seconds += ((hrtime(true) - $begun) / 1e9) * $jobs;
        $this->evaluations += $count;

        return array_map(
            static fn (?array $run): ?array => $run === null || array_filter($run, is_finite(...)) !== $run ? null : $run,
            $all,
        );
    }
}
