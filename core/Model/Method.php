<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Model;

/** How a run steps through time. */
enum Method: string
{
    case Euler = 'euler';
    case RungeKutta4 = 'rk4';

    public function title(): string
    {
        return match ($this) {
            self::Euler => 'Euler',
            self::RungeKutta4 => 'Runge–Kutta 4',
        };
    }

    /** For places with little room. */
    public function abbreviation(): string
    {
        return match ($this) {
            self::Euler => 'Euler',
            self::RungeKutta4 => 'RK 4',
        };
    }

    public function sentence(): string
    {
        return match ($this) {
            self::Euler => 'One look per step. Halving the step halves the error.',
            self::RungeKutta4 => 'Four looks per step. Halving the step divides the error by sixteen.',
        };
    }
}
