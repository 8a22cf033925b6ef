<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Simulate;

use MerryOrbit\Core\Compile\Program;
use MerryOrbit\Core\Library\History;
use MerryOrbit\Core\Library\Passage;
use MerryOrbit\Core\Library\RunWatcher;
use MerryOrbit\Core\Model\TimeSettings;

/** One call of a compiled function with fixed steps, and what it gave; see Program for the meaning of all of it. */
final readonly class StepwiseRun
{
    public Values $values;

    public int $moments;

    public int $ending;

    /** The step in which it ended; null if arithmetic broke off somewhere behind the last saved moment. */
    public ?int $step;

    /** @var list<float> of a function of loops, those with elements are lists of floats */
    public array $constants;

    /** @var list<float|History|Passage> */
    public array $carried;

    /** @var list<float> */
    public array $watches;

    /** @var list<float> */
    public array $counts;

    /** @var array{array<string, list<mixed>>, array<string, array<int, list<float>>>} of rosters what became of their members, and what each had */
    public array $members;

    /**
     * @param  list<float|list<float>>  $parameters  in the order of the program
     * @param  int  $halt  a step before which to stop and hand over what is carried; -1 for none
     */
    public function __construct(
        callable $compiled,
        TimeSettings $time,
        RunOptions $settings,
        array $parameters,
        Program $program,
        int $halt = -1,
    ) {
        $saved = -1;
        $steps = $time->steps();
        $lists = $program->isLooped ? [$program->lists] : [];
        $run = static function (?RunWatcher $watch) use (
            &$saved,
            $lists,
            $compiled,
            $time,
            $settings,
            $parameters,
            $steps,
            $halt,
        ): array {
            /** @var array{int, int, list<float>, list<float|History|Passage>, list<float>, list<float>, list<list<float>>, int, 8?: array{array<string, list<mixed>>, array<string, array<int, list<float>>>}} $end */
            $end = $compiled(
                $saved,
                $time->start,
                $time->end,
                $time->step,
                $steps,
                $time->stepsPerSave(),
                $time->timeAt($steps),
                $halt,
                $settings->seed,
                $settings->grain,
                $watch,
                ...$lists,
                ...$parameters,
            );

            return $end;
        };
        try {
            $end = $run($halt < 0 ? $settings->watch : null);
            [$this->ending, $this->step, $this->constants, $this->carried, $this->watches, $this->counts, $values, $moments] = $end;
            $members = $end[8] ?? [[], []];
        } catch (\ArithmeticError) {
            [$this->ending, $this->step, $this->constants, $this->carried, $this->watches, $this->counts] = [
                Program::FAULT,
                null,
                [],
                [],
                [],
                [],
            ];
            // What was saved until then went with the call: it is made once more, up to there.
            /** @var int $saved */
            $end = $saved < 0 ? null : $run(RunWatcher::until($saved / $steps));
            [$values, $moments] = $end === null ? [[], 0] : [$end[6], $end[7]];
            $members = $end[8] ?? [[], []];
        }
        $this->values = $program->byMoment
            ? Values::byMoment($values)
            : Values::byColumn($values === [] ? array_fill(0, count($program->columns), []) : $values);
        $this->moments = $moments;
        $this->members = $members;
    }
}
