<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Simulate;

/** One step of an adaptive method, with an estimate of its error and a polynomial through it. */
abstract readonly class Stepper
{
    /** The error estimate falls with this power of the step. */
    abstract public function errorOrder(): int;

    /**
     * @param  \Closure(float, list<float>): list<float>  $rates  throws NotFinite
     * @param  list<float>  $y
     * @param  list<float>  $k  the rates at the start
     * @return array{list<float>, list<float>, list<list<float>>} the state after the step, the estimated error, and what dense() needs
     *
     * @throws NotFinite
     */
    abstract public function step(\Closure $rates, float $t, array $y, array $k, float $h): array;

    /**
     * The state within the step.
     *
     * @param  list<float>  $y
     * @param  list<float>  $after
     * @param  list<list<float>>  $parts  as step() gave them
     * @param  float  $share  how far into the step, from 0 to 1
     * @return list<float>
     */
    abstract public function dense(array $y, array $after, array $parts, float $h, float $share): array;

    /**
     * How far the step reaches along the fastest change that it meets, in units of that change's own time; beyond its limit an
     * explicit method is held back by stability and not by the error. 0 where that does not matter.
     *
     * @param  list<float>  $y
     * @param  list<float>  $after
     * @param  list<list<float>>  $parts  as step() gave them
     */
    public function reach(array $y, array $after, array $parts, float $h): float
    {
        return 0.0;
    }
}
