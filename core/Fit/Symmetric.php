<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Fit;

/** The axes of a symmetric matrix, by Jacobi's rotations (C. G. J. Jacobi, 1846; as in Golub and Van Loan, Matrix Computations, 8.5). */
final readonly class Symmetric
{
    private const SWEEPS = 40;

    /** @return list<list<float>> the axes of the numbers themselves */
    public static function unit(int $n): array
    {
        return array_map(static fn (int $i): array => [...array_fill(0, $n, 0.0), $i => 1.0], range(0, $n - 1));
    }

    /**
     * @param  list<list<float>>  $matrix
     * @return array{list<list<float>>, list<float>} axes of length 1, and the square roots of how far the matrix goes along each
     */
    public static function axes(array $matrix): array
    {
        $n = count($matrix);
        $axes = self::unit($n);
        for ($sweep = 0; $sweep < self::SWEEPS; $sweep++) {
            $off = $all = 0.0;
            foreach ($matrix as $i => $row) {
                foreach ($row as $j => $v) {
                    $all += $v * $v;
                    $off += $i === $j ? 0.0 : $v * $v;
                }
            }
            if ($off <= 1e-30 * $all) {
                break;
            }
            for ($p = 0; $p < $n - 1; $p++) {
                for ($q = $p + 1; $q < $n; $q++) {
                    if ($matrix[$p][$q] == 0.0) {
                        continue;
                    }
                    $turn = ($matrix[$q][$q] - $matrix[$p][$p]) / (2 * $matrix[$p][$q]);
                    $t = ($turn < 0.0 ? -1.0 : 1.0) / (abs($turn) + sqrt($turn * $turn + 1.0));
                    $c = 1.0 / sqrt($t * $t + 1.0);
                    $s = $t * $c;
                    for ($k = 0; $k < $n; $k++) {
                        [$a, $b] = [$matrix[$k][$p], $matrix[$k][$q]];
                        [$matrix[$k][$p], $matrix[$k][$q]] = [$c * $a - $s * $b, $s * $a + $c * $b];
                    }
                    for ($k = 0; $k < $n; $k++) {
                        [$a, $b] = [$matrix[$p][$k], $matrix[$q][$k]];
                        [$matrix[$p][$k], $matrix[$q][$k]] = [$c * $a - $s * $b, $s * $a + $c * $b];
                        [$a, $b] = [$axes[$p][$k], $axes[$q][$k]];
                        [$axes[$p][$k], $axes[$q][$k]] = [$c * $a - $s * $b, $s * $a + $c * $b];
                    }
                }
            }
        }

        return [
            array_map(array_values(...), $axes),
            array_map(static fn (int $i): float => sqrt(max(0.0, $matrix[$i][$i])), range(0, $n - 1)),
        ];
    }

    /**
     * @param  list<list<float>>  $matrix  symmetric and positive
     * @return list<list<float>> rows of a lower triangle whose product with itself turned over it is
     */
    public static function root(array $matrix): array
    {
        $rows = [];
        foreach ($matrix as $i => $row) {
            $own = [];
            for ($j = 0; $j <= $i; $j++) {
                $sum = $row[$j];
                for ($k = 0; $k < $j; $k++) {
                    $sum -= $own[$k] * ($j === $i ? $own[$k] : $rows[$j][$k]);
                }
                $own[] = $j === $i ? sqrt(max($sum, 1e-300)) : $sum / $rows[$j][$j];
            }
            $rows[] = $own;
        }

        return $rows;
    }
}
