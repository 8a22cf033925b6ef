<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Uncertain;

/**
 * A problem of least squares, solved by reflections: column by column, each reflected onto one axis, and all that follow with it.
 *
 * Source: G. H. Golub, "Numerical methods for solving linear least squares problems", Numerische Mathematik 7 (1965).
 */
final readonly class Householder
{
    /** A column of which less than this part is its own is a combination of those before. */
    private const OWN = 1e-12;

    /**
     * @param  list<float>  $solution  a coefficient for each column
     * @param  float  $rest  the sum of squares that is left
     * @param  list<list<float>>  $upper  the triangle: of each column its entries up to the diagonal
     */
    private function __construct(public array $solution, public float $rest, private array $upper)
    {
    }

    /**
     * @param  list<list<float>>  $columns  at least as long as there are of them
     * @param  list<float>  $wanted  as long as each
     * @return ?self null where a column is a combination of those before
     */
    public static function of(array $columns, array $wanted): ?self
    {
        $k = count($columns);
        $upper = [];
        for ($j = 0; $j < $k; $j++) {
            $mirror = array_slice($columns[$j], $j);
            $size = sqrt(self::square($mirror));
            if (! ($size > self::OWN * sqrt(self::square($columns[$j])))) {
                return null;
            }
            $size = $mirror[0] > 0.0 ? -$size : $size;
            $mirror[0] -= $size;
            $square = self::square($mirror);
            for ($c = $j + 1; $c < $k; $c++) {
                $columns[$c] = self::reflected($columns[$c], $mirror, $square, $j);
            }
            $wanted = self::reflected($wanted, $mirror, $square, $j);
            $upper[] = [...array_slice($columns[$j], 0, $j), $size];
        }
        $solution = [];
        for ($j = $k - 1; $j >= 0; $j--) {
            $value = $wanted[$j];
            for ($c = $j + 1; $c < $k; $c++) {
                $value -= $upper[$c][$j] * $solution[$c];
            }
            $solution[$j] = $value / $upper[$j][$j];
        }
        ksort($solution);

        return new self(array_values($solution), self::square(array_slice($wanted, $k)), $upper);
    }

    /** @return list<list<float>> the inverse of the columns' products with each other */
    public function inverseOfProducts(): array
    {
        $k = count($this->upper);
        // The inverse of the triangle, column by column, and that times itself turned over.
        $inverse = [];
        for ($c = 0; $c < $k; $c++) {
            $column = array_fill(0, $k, 0.0);
            for ($r = $c; $r >= 0; $r--) {
                $value = $r === $c ? 1.0 : 0.0;
                for ($i = $r + 1; $i <= $c; $i++) {
                    $value -= $this->upper[$i][$r] * $column[$i];
                }
                $column[$r] = $value / $this->upper[$r][$r];
            }
            $inverse[] = $column;
        }
        $products = [];
        for ($a = 0; $a < $k; $a++) {
            $row = [];
            for ($b = 0; $b < $k; $b++) {
                $sum = 0.0;
                foreach ($inverse as $column) {
                    $sum += $column[$a] * $column[$b];
                }
                $row[] = $sum;
            }
            $products[] = $row;
        }

        return $products;
    }

    /**
     * @param  list<float>  $column
     * @param  list<float>  $mirror
     * @return list<float>
     */
    private static function reflected(array $column, array $mirror, float $square, int $from): array
    {
        $along = 0.0;
        foreach ($mirror as $r => $m) {
            $along += $m * $column[$from + $r];
        }
        $along *= 2.0 / $square;
        foreach ($mirror as $r => $m) {
            $column[$from + $r] -= $along * $m;
        }

        return array_values($column);
    }

    /** @param  array<float>  $values */
    private static function square(array $values): float
    {
        $sum = 0.0;
        foreach ($values as $v) {
            $sum += $v * $v;
        }

        return $sum;
    }
}
