<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Uncertain;

/**
 * What some runs came to, packed: outcomes in full precision, one run after the other; then each column over time of all runs, in 32 bits,
 * which keep seven digits. So one column is read without the others.
 */
final class PackedRuns
{
    private const HEAD = 'Vruns/Voutcomes/Vcolumns/Vmoments';

    private const HEAD_BYTES = 16;

    /**
     * @param  list<list<float>|null>  $results  of each run outcomes, then the columns, each at all moments; null where it failed
     * @return string bytes; of a failed run all is NAN
     */
    public static function pack(array $results, int $outcomes, int $columns, int $moments): string
    {
        $width = $outcomes + $columns * $moments;
        $none = array_fill(0, $width, NAN);
        $bytes = pack('V4', count($results), $outcomes, $columns, $moments);
        foreach ($results as $one) {
            $bytes .= $outcomes === 0 ? '' : pack('e*', ...array_slice($one ?? $none, 0, $outcomes));
        }
        for ($c = 0; $c < $columns; $c++) {
            foreach ($results as $one) {
                $bytes .= pack('g*', ...array_slice($one ?? $none, $outcomes + $c * $moments, $moments));
            }
        }

        return $bytes;
    }

    /** @return array{runs: int, outcomes: int, columns: int, moments: int} */
    private static function head(string $bytes): array
    {
        /** @var array{runs: int, outcomes: int, columns: int, moments: int} $head */
        $head = unpack(self::HEAD, substr($bytes, 0, self::HEAD_BYTES));

        return $head;
    }

    /** @return list<list<float>> of each run its outcomes; NAN where it failed */
    public static function outcomes(string $bytes): array
    {
        $head = self::head($bytes);
        if ($head['outcomes'] === 0) {
            return array_fill(0, $head['runs'], []);
        }
        $all = unpack('e*', substr($bytes, self::HEAD_BYTES, 8 * $head['runs'] * $head['outcomes']));

        return self::chunks($all, $head['outcomes']);
    }

    /** @return list<list<float>> of each run its values at all moments */
    public static function column(string $bytes, int $column): array
    {
        $head = self::head($bytes);
        $size = 4 * $head['runs'] * $head['moments'];
        $from = self::HEAD_BYTES + 8 * $head['runs'] * $head['outcomes'] + $column * $size;
        $all = unpack('g*', substr($bytes, $from, $size));

        return self::chunks($all, $head['moments']);
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
