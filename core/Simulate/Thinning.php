<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Simulate;

/**
 * A run at the resolution of a screen: some of its moments exactly, and for each stretch between them how low and how high
 * every column went, so that no peak is lost.
 */
final readonly class Thinning
{
    /** @param  list<int>  $indices  of the moments that stay */
    private function __construct(private Trajectory $run, private array $indices, private int $last)
    {
    }

    /**
     * @param  int  $most  moments, at least two
     * @param  ?float  $from  only what lies between these times, and one moment beyond on either side
     */
    public static function of(Trajectory $run, int $most, ?float $from = null, ?float $until = null): self
    {
        $times = $run->times();
        $low = 0;
        $high = count($times) - 1;
        while ($from !== null && $low < $high && $times[$low + 1] <= $from) {
            $low++;
        }
        while ($until !== null && $high > $low && $times[$high - 1] >= $until) {
            $high--;
        }
        $count = max(0, $high - $low + 1);
        if ($count <= max(2, $most)) {
            return new self($run, $count === 0 ? [] : range($low, $high), $high);
        }
        $indices = [];
        for ($k = 0; $k < $most - 1; $k++) {
            $indices[] = $low + intdiv($k * ($count - 1), $most - 1);
        }
        $indices[] = $high;

        return new self($run, $indices, $high);
    }

    /** Whether moments were left out. */
    public function isCoarse(): bool
    {
        return $this->indices !== [] && $this->last - $this->indices[0] + 1 > count($this->indices);
    }

    /** @return list<float> */
    public function times(): array
    {
        $times = $this->run->times();

        return array_map(static fn (int $i): float => $times[$i], $this->indices);
    }

    /** @return list<float> as long as times() */
    public function column(string $id): array
    {
        $column = $this->run->column($id);

        return $this->isCoarse()
            ? array_map(static fn (int $i): float => $column[$i], $this->indices)
            : array_slice($column, $this->indices[0] ?? 0, count($this->indices));
    }

    /**
     * The least and the largest value from each moment until just before the next.
     *
     * @return array{list<float>, list<float>} each as long as times()
     */
    public function extremes(string $id): array
    {
        $column = $this->run->column($id);
        $lows = $highs = [];
        foreach ($this->indices as $k => $i) {
            $stretch = array_slice($column, $i, max(1, ($this->indices[$k + 1] ?? $i + 1) - $i));
            $lows[] = min([$column[$i], ...$stretch]);
            $highs[] = max([$column[$i], ...$stretch]);
        }

        return [$lows, $highs];
    }
}
