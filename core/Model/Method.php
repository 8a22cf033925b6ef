<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Model;

/** How a run steps through time. */
enum Method: string
{
    case Euler = 'euler';
    case Heun = 'heun';
    case RungeKutta4 = 'rk4';
    case DormandPrince = 'dopri5';
    case Rosenbrock = 'rosenbrock';

    public function title(): string
    {
        return match ($this) {
            self::Euler => 'Euler',
            self::Heun => 'Heun',
            self::RungeKutta4 => 'Runge–Kutta 4',
            self::DormandPrince => 'Dormand–Prince 5(4)',
            self::Rosenbrock => 'Rosenbrock 4(3)',
        };
    }

    /** For places with little room. */
    public function abbreviation(): string
    {
        return match ($this) {
            self::Euler, self::Heun => $this->title(),
            self::RungeKutta4 => 'RK 4',
            self::DormandPrince => 'DP 5(4)',
            self::Rosenbrock => 'RB 4(3)',
        };
    }

    public function sentence(): string
    {
        return match ($this) {
            self::Euler => 'One look per step. Halving the step halves the error.',
            self::Heun => 'Two looks per step. Halving the step quarters the error.',
            self::RungeKutta4 => 'Four looks per step. Halving the step divides the error by sixteen.',
            self::DormandPrince => 'Chooses its own steps to meet the tolerance. It takes no chance, no `previous`, no `hold`, no transit stock and no stock that is never below zero.',
            self::Rosenbrock => 'For stiff models, where fast and slow processes meet. Chooses its own steps to meet the tolerance, with the same limits as Dormand–Prince.',
        };
    }

    /** Whether it chooses its own steps. */
    public function isAdaptive(): bool
    {
        return $this === self::DormandPrince || $this === self::Rosenbrock;
    }

    /**
     * The stages of a method with fixed steps: how far into the step each looks, and its weight.
     *
     * @return list<array{float, float}>
     */
    public function stages(): array
    {
        return match ($this) {
            self::Euler => [[0.0, 1.0]],
            self::Heun => [[0.0, 1.0], [1.0, 1.0]],
            self::RungeKutta4 => [[0.0, 1.0], [0.5, 2.0], [0.5, 2.0], [1.0, 1.0]],
            default => throw new \LogicException($this->title().' has no fixed stages.'),
        };
    }
}
