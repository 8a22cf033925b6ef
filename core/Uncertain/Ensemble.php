<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Uncertain;

use MerryOrbit\Core\Model\Model;
use MerryOrbit\Core\Model\Setting;
use MerryOrbit\Core\Reduce\ManyRuns;
use MerryOrbit\Core\Reduce\Reducer;
use MerryOrbit\Core\Simulate\RunRefused;
use MerryOrbit\Core\Simulate\Simulator;

/**
 * Many runs of one model with other values of what is uncertain, and the run with every input at its median. Of each run the first numbers
 * stay in memory; those behind them, courses over time, go to a temporary file and are read in slices.
 */
final class Ensemble
{
    /** Runs that are made at a stretch, before what they come to is put away. */
    private const STRETCH = 500;

    /** Bytes from which on the temporary file lies on the disk. */
    private const IN_MEMORY = 33_554_432;

    /** @var list<list<float>> of each run that came to an end, its first numbers */
    private array $numbers = [];

    /** @var resource of each such run, the numbers behind, packed */
    private $rest;

    private int $failed = 0;

    /**
     * @param  ?list<float>  $central  as the reducer gives; null where that run met a fault
     * @param  int  $first  how many numbers stay in memory
     * @param  int  $width  how many there are behind
     */
    private function __construct(public readonly ?array $central, private readonly int $first, private readonly int $width)
    {
        $file = fopen('php://temp/maxmemory:'.self::IN_MEMORY, 'w+');
        $this->rest = $file === false ? throw new \RuntimeException('No temporary file can be made.') : $file;
    }

    /**
     * @param  int  $first  how many of the reducer's numbers stay in memory
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
        int $first,
        \Closure $inputs,
        array $medians,
        int $count,
        int $seed,
        int $jobs = 1,
    ): self {
        $many = ManyRuns::of($simulator, $model, $setting, $reducer, $count);
        $ensemble = new self($many->one($medians, $seed), $first, count($reducer->names()) - $first);
        for ($from = 0; $from < $count; $from += self::STRETCH) {
            $some = min(self::STRETCH, $count - $from);
            foreach (
                $many->all($some, static fn (int $i): array => [$inputs($from + $i), self::seedOf($seed, $from + $i)], $jobs) as $run
            ) {
                $ensemble->add($run);
            }
        }

        return $ensemble;
    }

    /** @param  ?list<float>  $run */
    private function add(?array $run): void
    {
        if ($run === null) {
            $this->failed++;

            return;
        }
        $this->numbers[] = array_slice($run, 0, $this->first);
        if ($this->width > 0) {
            fwrite($this->rest, pack('e*', ...array_slice($run, $this->first)));
        }
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
        return $this->failed;
    }

    /** @return list<float> one of the first numbers that the reducer gives, of all runs that came to an end */
    public function column(int $at): array
    {
        return array_column($this->numbers, $at);
    }

    /**
     * Some of the numbers behind, in a row.
     *
     * @param  int  $from  from 0, of those behind
     * @return list<list<float>> of each of them, the values of all runs that came to an end
     */
    public function slice(int $from, int $count): array
    {
        $columns = array_fill(0, $count, []);
        foreach (array_keys($this->numbers) as $run) {
            fseek($this->rest, 8 * ($run * $this->width + $from));
            $values = unpack('e*', (string) fread($this->rest, 8 * max(1, $count)));
            foreach ($values === false ? [] : $values as $i => $value) {
                $columns[$i - 1][] = is_float($value) ? $value : NAN;
            }
        }

        return $columns;
    }
}
