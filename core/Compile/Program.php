<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Compile;

use MerryOrbit\Core\Library\RunWatcher;

/**
 * Compiled source of one model under one method, and what its arguments and results mean.
 *
 * With fixed steps the function is called as
 * `f(int &$saved, float $start, float $end, float $step, int $steps, int $every, float $close, int $halt, int $seed, int $grain, ?RunWatcher $watch, float ...$parameters)`.
 * `$close` is the time after so many steps, which is the end unless only a part is run; `$halt` is a step before which it stops
 * to hand over what it carries, or -1; `$watch` may stop it behind where values are saved. It returns `[ending, step, constants, carried,
 * first times, counts, columns, moments]`: how it ended, in which step; the values of `constants`; those of `carried`; of the watches;
 * for each of `columns` a list with its value at each saved moment (the other way round in large models: see byMoment); and how many of
 * those there are; with rosters, behind them what became of their members (see LoopMembers). It throws an ArithmeticError
 * where it divides by zero or could not notice a fault otherwise; `$saved` is the step that was saved last, also then.
 *
 * For methods that choose their steps see AdaptiveCompiler.
 */
final readonly class Program
{
    public const DONE = 0;

    /** A number is not finite. */
    public const FAULT = 1;

    /** The end condition holds. */
    public const ENDED = 2;

    public const HALTED = 3;

    /** Someone stopped it. */
    public const STOPPED = 4;

    /** There were more members of a roster than it may have. */
    public const CROWDED = 5;

    /**
     * @param  list<string>  $parameters  ids
     * @param  list<string>  $columns  keys
     * @param  list<string>  $constants  keys
     * @param  list<string>  $carried  keys of states and of what cells hold
     * @param  list<array{string, string}>  $watched  kind and subject of each first time
     * @param  list<string>  $counted  flows of each count
     */
    public function __construct(
        public string $function,
        public string $source,
        public array $parameters,
        public array $columns,
        public array $constants,
        public array $carried,
        public array $watched,
        public array $counted,
        /** How much of what the just-in-time compiler takes of one function this needs: 1 is all. */
        public float $fill,
        /** Whether there are stocks held by hand, for a method that chooses its steps. */
        public bool $holds = false,
        /** Whether all that moves has a column. */
        public bool $isWhole = true,
        /** Whether it gives the values of all columns for each moment, instead of all moments for each column. */
        public bool $byMoment = false,
        /** @var list<list<int|float|string>> the argument `$data` of a function of loops: what it looks up */
        public array $lists = [],
        /** Whether it runs in loops over elements: parameters, constants and columns with elements are lists then. */
        public bool $isLooped = false,
    ) {
    }
}
