<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Simulate;

/**
 * A stiffly accurate Rosenbrock method of order 4 with an embedded estimate of order 3 and dense output, six stages; the
 * Jacobian by differences.
 *
 * Source: E. Hairer, G. Wanner, "Solving Ordinary Differential Equations II", IV.7 and the coefficients of its code RODAS.
 */
final readonly class Rosenbrock extends Stepper
{
    private const GAMMA = 0.25;

    /** The cube root of the rounding unit, best for differences to both sides. */
    private const NUDGE = 6e-6;

    private const WITHIN = [0.0, 0.386, 0.21, 0.63, 1.0, 1.0];

    private const TIME = [0.25, -0.1043, 0.1035, -0.3620000000000023e-1, 0.0, 0.0];

    private const A = [
        1 => [1.544],
        [0.9466785280815826, 0.2557011698983284],
        [3.314825187068521, 2.896124015972201, 0.9986419139977817],
        [1.221224509226641, 6.019134481288629, 12.53708332932087, -0.687886036105895],
        [1.221224509226641, 6.019134481288629, 12.53708332932087, -0.687886036105895, 1.0],
    ];

    private const C = [
        1 => [-5.6688],
        [-2.430093356833875, -0.2063599157091915],
        [-0.1073529058151375, -9.594562251023355, -20.47028614809616],
        [7.496443313967647, -10.24680431464352, -33.99990352819905, 11.7089089320616],
        [8.083246795921522, -7.981132988064893, -31.52159432874371, 16.31930543123136, -6.058818238834054],
    ];

    private const DENSE = [
        [10.12623508344586, -7.487995877610167, -34.80091861555747, -7.992771707568823, 1.025137723295662],
        [-0.6762803392801253, 6.087714651680015, 16.43084320892478, 24.76722511418386, -6.594389125716872],
    ];

    public function errorOrder(): int
    {
        return 4;
    }

    public function step(\Closure $rates, float $t, array $y, array $k, float $h): array
    {
        [$matrix, $byTime] = $this->derivatives($rates, $t, $y, $k, $h);
        $n = count($y);
        foreach ($matrix as $i => $row) {
            foreach ($row as $j => $value) {
                $matrix[$i][$j] = -$value;
            }
            $matrix[$i][$i] += 1.0 / ($h * self::GAMMA);
        }
        $solver = LinearSystem::factored($matrix);
        $u = [];
        $x = $y;
        for ($s = 0; $s < 6; $s++) {
            if ($s > 0) {
                $x = $y;
                foreach (self::A[$s] as $i => $a) {
                    for ($j = 0; $j < $n; $j++) {
                        $x[$j] += $a * $u[$i][$j];
                    }
                }
                $k = $rates($t + self::WITHIN[$s] * $h, array_values($x));
            }
            $right = $k;
            for ($j = 0; $j < $n; $j++) {
                $sum = $h * self::TIME[$s] * $byTime[$j];
                foreach (self::C[$s] ?? [] as $i => $c) {
                    $sum += ($c / $h) * $u[$i][$j];
                }
                $right[$j] += $sum;
            }
            $u[] = $solver->solve(array_values($right));
        }
        $after = [];
        foreach ($x as $j => $value) {
            $after[] = $value + $u[5][$j];
        }

        return [$after, $u[5], $u];
    }

    public function dense(array $y, array $after, array $parts, float $h, float $share): array
    {
        $state = [];
        $rest = 1.0 - $share;
        foreach ($y as $j => $from) {
            [$second, $third] = array_map(static function (array $weights) use ($parts, $j): float {
                $sum = 0.0;
                foreach ($weights as $i => $weight) {
                    $sum += $weight * $parts[$i][$j];
                }

                return $sum;
            }, self::DENSE);
            $state[] = $from * $rest + $share * ($after[$j] + $rest * ($second + $share * $third));
        }

        return $state;
    }

    /**
     * Differences to both sides, exact for quadratic rates: the order of the method rests on a good Jacobian. Where one side
     * cannot be computed, the other serves alone.
     *
     * @param  \Closure(float, list<float>): list<float>  $rates
     * @param  list<float>  $y
     * @param  list<float>  $k
     * @return array{list<list<float>>, list<float>} rows of the Jacobian, and the rates' derivatives by time
     */
    private function derivatives(\Closure $rates, float $t, array $y, array $k, float $h): array
    {
        $matrix = [];
        foreach ($y as $j => $value) {
            $reach = self::NUDGE * max(abs($value), abs($h * $k[$j]));
            $column = self::slope(
                static fn (float $d): array => $rates($t, [...array_slice($y, 0, $j), $value + $d, ...array_slice($y, $j + 1)]),
                $reach > 0.0 ? $reach : self::NUDGE * 1e-6,
                $k,
            );
            foreach ($column as $i => $slope) {
                $matrix[$i][$j] = $slope;
            }
        }
        // Only forward in time: behind may lie an event.
        $reach = sqrt(PHP_FLOAT_EPSILON) * max(abs($t), abs($h));
        $byTime = [];
        foreach ($rates($t + $reach, $y) as $i => $rate) {
            $byTime[] = ($rate - $k[$i]) / $reach;
        }

        return [array_values(array_map(array_values(...), $matrix)), $byTime];
    }

    /**
     * @param  \Closure(float): list<float>  $at
     * @param  list<float>  $here
     * @return list<float>
     */
    private static function slope(\Closure $at, float $reach, array $here): array
    {
        $ahead = $at($reach);
        try {
            $behind = $at(-$reach);
        } catch (NotFinite) {
            return array_map(static fn (float $a, float $b): float => ($a - $b) / $reach, $ahead, $here);
        }

        return array_map(static fn (float $a, float $b): float => ($a - $b) / (2.0 * $reach), $ahead, $behind);
    }
}
