<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Uncertain;

/**
 * What some runs came to, packed: single numbers (inputs, outcomes) in full precision, one run after the other; then each column over
 * time of all runs, in 32 bits, which keep seven digits. So one column is read without the others.
 */
final readonly class PackedRuns
{
    public const HEAD_BYTES = 16;

    private function __construct(public int $runs, public int $numbers, public int $columns, public int $moments)
    {
    }

    /**
     * @param  list<list<float>>  $rows  of each run the numbers, then the columns, each at all moments; NAN for what is not known
     * @return string bytes
     */
    public static function pack(array $rows, int $numbers, int $columns, int $moments): string
    {
        $bytes = pack('V4', count($rows), $numbers, $columns, $moments);
        foreach ($rows as $row) {
            $bytes .= pack('e*', ...array_slice($row, 0, $numbers));
        }
        for ($c = 0; $c < $columns; $c++) {
            foreach ($rows as $row) {
                $bytes .= pack('g*', ...array_slice($row, $numbers + $c * $moments, $moments));
            }
        }

        return $bytes;
    }

    /** @param  string  $bytes  the first HEAD_BYTES of packed runs, or more */
    public static function head(string $bytes): self
    {
        /** @var array{1: int, 2: int, 3: int, 4: int} $head */
        $head = unpack('V4', $bytes);

        return new self($head[1], $head[2], $head[3], $head[4]);
    }

    /** @return array{int, int} where the numbers begin, and how many bytes they take */
    public function atNumbers(): array
    {
        return [self::HEAD_BYTES, 8 * $this->runs * $this->numbers];
    }

    /** @return array{int, int} where the numbers of one run begin, and how many bytes they take */
    public function atRun(int $run): array
    {
        return [self::HEAD_BYTES + 8 * $run * $this->numbers, 8 * $this->numbers];
    }

    /** @return array{int, int} where a column begins, and how many bytes it takes */
    public function atColumn(int $column): array
    {
        $size = 4 * $this->runs * $this->moments;

        return [self::HEAD_BYTES + 8 * $this->runs * $this->numbers + $column * $size, $size];
    }

    /** @return list<list<float>> of each run, its numbers */
    public function numbers(string $bytes): array
    {
        return self::chunks(unpack('e*', $bytes), $this->numbers);
    }

    /**
     * Some of the numbers of all runs, without a list for each run, which takes ten times the room.
     *
     * @param  list<int>  $positions
     * @return list<list<float>> of each position, those of all runs
     */
    public function some(string $bytes, array $positions): array
    {
        /** @var array<int, float> $all from 1 */
        $all = unpack('e*', $bytes) ?: [];
        $of = [];
        foreach ($positions as $position) {
            $values = [];
            for ($i = $position + 1, $last = $this->runs * $this->numbers; $i <= $last; $i += $this->numbers) {
                $values[] = $all[$i];
            }
            $of[] = $values;
        }

        return $of;
    }

    /** @return list<list<float>> of each run, its values at all moments */
    public function column(string $bytes): array
    {
        return self::chunks(unpack('g*', $bytes), $this->moments);
    }

    /**
     * @param  array<mixed>|false  $numbers
     * @return list<list<float>>
     */
    private static function chunks(array|false $numbers, int $size): array
    {
        /** @var list<float> $all */
        $all = array_values($numbers === false ? [] : $numbers);

        return array_chunk($all, max(1, $size));
    }
}
