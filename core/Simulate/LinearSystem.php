<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Simulate;

/** A square system of linear equations, factored once by elimination with partial pivoting. */
final readonly class LinearSystem
{
    /**
     * @param  list<list<float>>  $rows
     * @param  list<int>  $order  which row of the system stands in each place
     */
    private function __construct(private array $rows, private array $order)
    {
    }

    /**
     * @param  list<list<float>>  $a
     *
     * @throws NotFinite when it has no single solution
     */
    public static function factored(array $a): self
    {
        $n = count($a);
        $order = $n === 0 ? [] : range(0, $n - 1);
        for ($c = 0; $c < $n; $c++) {
            $best = $c;
            for ($r = $c + 1; $r < $n; $r++) {
                $best = abs($a[$r][$c]) > abs($a[$best][$c]) ? $r : $best;
            }
            [$a[$c], $a[$best]] = [$a[$best], $a[$c]];
            [$order[$c], $order[$best]] = [$order[$best], $order[$c]];
            $pivot = $a[$c][$c];
            if ($pivot == 0.0 || ! is_finite($pivot)) {
                throw new NotFinite();
            }
            for ($r = $c + 1; $r < $n; $r++) {
                if ($a[$r][$c] == 0.0) {
                    continue;
                }
                $share = $a[$r][$c] /= $pivot;
                for ($j = $c + 1; $j < $n; $j++) {
                    $a[$r][$j] -= $share * $a[$c][$j];
                }
            }
        }

        return new self($a, array_values($order));
    }

    /**
     * @param  list<float>  $b
     * @return list<float>
     */
    public function solve(array $b): array
    {
        $n = count($this->rows);
        $x = [];
        foreach ($this->order as $r => $from) {
            $sum = $b[$from];
            for ($j = 0; $j < $r; $j++) {
                $sum -= $this->rows[$r][$j] * $x[$j];
            }
            $x[] = $sum;
        }
        for ($r = $n - 1; $r >= 0; $r--) {
            $sum = $x[$r];
            for ($j = $r + 1; $j < $n; $j++) {
                $sum -= $this->rows[$r][$j] * $x[$j];
            }
            $x[$r] = $sum / $this->rows[$r][$r];
        }

        return array_values($x);
    }
}
