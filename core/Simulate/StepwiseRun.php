<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Simulate;

use MerryOrbit\Core\Compile\History;
use MerryOrbit\Core\Compile\Passage;
use MerryOrbit\Core\Compile\Program;
use MerryOrbit\Core\Model\TimeSettings;

/** One call of a compiled function with fixed steps, and what it gave; see Program for the meaning of all of it. */
final readonly class StepwiseRun
{
    /** @var list<list<float>> */
    public array $rows;

    public int $ending;

    /** The step in which it ended; null if arithmetic broke off somewhere behind the last row. */
    public ?int $step;

    /** @var list<float> */
    public array $constants;

    /** @var list<float|History|Passage> */
    public array $carried;

    /** @var list<float> */
    public array $watches;

    /** @var list<float> */
    public array $counts;

    /**
     * @param  array<string, float>  $parameters  in the order of the program
     * @param  int  $halt  a step before which to stop and hand over what is carried; -1 for none
     */
    public function __construct(callable $compiled, TimeSettings $time, RunSettings $settings, array $parameters, int $halt = -1)
    {
        $rows = [];
        $steps = $time->steps();
        try {
            /** @var array{int, int, list<float>, list<float|History|Passage>, list<float>, list<float>} $end */
            $end = $compiled($rows, $time->start, $time->end, $time->step, $steps, $time->stepsPerSave(), $time->timeAt($steps), $halt, $settings->seed, $settings->grain, $halt < 0 ? $settings->watch : null, ...array_values($parameters));
            [$this->ending, $this->step, $this->constants, $this->carried, $this->watches, $this->counts] = $end;
        } catch (\ArithmeticError) {
            [$this->ending, $this->step, $this->constants, $this->carried, $this->watches, $this->counts] = [Program::FAULT, null, [], [], [], []];
        }
        /** @var list<list<float>> $rows */
        $this->rows = $rows;
    }
}
