<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Compile;

/**
 * Compiled source of one model under one method, and what its arguments and results mean.
 *
 * The function is called as `f(float $start, float $end, float $step, int $steps, int $stepsPerSave, float ...$parameters)`
 * and returns `[rows, constants, step, state]`: rows of floats in the order of `columns`, one per saved moment; the
 * values of `constants` (none when the fault came before the first step); and, when a step met a number it cannot go on with, that step (-1: before the first)
 * and the stocks at its start in the order of `stocks`; else `null` and an empty list.
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
