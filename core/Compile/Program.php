<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Compile;

/**
 * Compiled source of one model under one method, and what its arguments and results mean.
 *
 * The function is called as `f(float $start, float $end, float $step, int $steps, int $stepsPerSave, float $close, float ...$parameters)`;
 * `$close` is the time after so many steps, which is the end unless only a part is run. It returns `[rows, constants, step, state]`:
 * rows of floats in the order of `columns`, one per saved moment; the values of `constants` (none when a fault came before the
 * first step); the step in which a fault came (-1: before the first), else `null`; and the stocks at the start of that step
 * or at the close, in the order of `stocks`. It throws a FaultSignal where a number it cannot go on with would go unseen.
 */
final readonly class Program
{
    /**
     * @param  list<string>  $parameters  element ids
     * @param  list<string>  $columns  element ids
     * @param  list<string>  $constants  element ids
     * @param  list<string>  $stocks  element ids
     */
    public function __construct(
        public string $function,
        public string $source,
        public array $parameters,
        public array $columns,
        public array $constants,
        public array $stocks,
    ) {
    }
}
