<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Simulate;

/**
 * Runge–Kutta of order 5 with an embedded estimate of order 4 and dense output of order 4.
 *
 * Source: J. R. Dormand, P. J. Prince, J. Comput. Appl. Math. 6 (1980); dense output after E. Hairer, S. P. Nørsett, G. Wanner,
 * "Solving Ordinary Differential Equations I", II.6.
 */
final readonly class DormandPrince extends Stepper
{
    private const WITHIN = [0.0, 1 / 5, 3 / 10, 4 / 5, 8 / 9, 1.0, 1.0];

    private const STAGES = [
        1 => [1 / 5],
        [3 / 40, 9 / 40],
        [44 / 45, -56 / 15, 32 / 9],
        [19372 / 6561, -25360 / 2187, 64448 / 6561, -212 / 729],
        [9017 / 3168, -355 / 33, 46732 / 5247, 49 / 176, -5103 / 18656],
        [35 / 384, 0.0, 500 / 1113, 125 / 192, -2187 / 6784, 11 / 84],
    ];

    private const ERROR = [71 / 57600, 0.0, -71 / 16695, 71 / 1920, -17253 / 339200, 22 / 525, -1 / 40];

    private const DENSE = [
        -12715105075 / 11282082432,
        0.0,
        87487479700 / 32700410799,
        -10690763975 / 1880347072,
        701980252875 / 199316789632,
        -1453857185 / 822651844,
        69997945 / 29380423,
    ];

    public function errorOrder(): int
    {
        return 5;
    }

    public function step(\Closure $rates, float $t, array $y, array $k, float $h): array
    {
        /** @var non-empty-list<list<float>> $all */
        $all = [$k];
        $x = $y;
        foreach (self::STAGES as $s => $weights) {
            $x = [];
            foreach ($y as $j => $value) {
                $sum = 0.0;
                foreach ($weights as $i => $weight) {
                    $sum += $weight * ($all[$i] ?? $k)[$j];
                }
                $x[] = $value + $h * $sum;
            }
            $all[] = $rates($t + self::WITHIN[$s] * $h, $x);
        }
        $error = [];
        foreach ($y as $j => $_) {
            $sum = 0.0;
            foreach (self::ERROR as $i => $weight) {
                $sum += $weight * $all[$i][$j];
            }
            $error[] = $h * $sum;
        }

        return [$x, $error, $all];
    }

    public function dense(array $y, array $after, array $parts, float $h, float $share): array
    {
        $state = [];
        $rest = 1.0 - $share;
        foreach ($y as $j => $from) {
            $change = $after[$j] - $from;
            $bend = $h * $parts[0][$j] - $change;
            $last = 0.0;
            foreach (self::DENSE as $i => $weight) {
                $last += $weight * $parts[$i][$j];
            }
            $state[] = $from + $share * ($change + $rest * ($bend + $share * ($change - $h * $parts[6][$j] - $bend + $rest * $h * $last)));
        }

        return $state;
    }

    /** Source: E. Hairer, G. Wanner, "Solving Ordinary Differential Equations II", IV.2: two states and their rates at the end of the step. */
    public function reach(array $y, array $after, array $parts, float $h): float
    {
        $rates = $states = 0.0;
        foreach ($y as $j => $value) {
            $sum = 0.0;
            foreach (self::STAGES[5] as $i => $weight) {
                $sum += $weight * $parts[$i][$j];
            }
            $states += ($after[$j] - $value - $h * $sum) ** 2;
            $rates += ($parts[6][$j] - $parts[5][$j]) ** 2;
        }

        return $states > 0.0 ? $h * sqrt($rates / $states) : 0.0;
    }
}
