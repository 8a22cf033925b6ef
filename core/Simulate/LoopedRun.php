<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Simulate;

use MerryOrbit\Core\Analysis\Analysis;
use MerryOrbit\Core\Compile\Loops\LoopCompiler;
use MerryOrbit\Core\Compile\Program;
use MerryOrbit\Core\Compile\ProgramStore;
use MerryOrbit\Core\Library\Moment;
use MerryOrbit\Core\Model\TimeSettings;

/** A run of a large model in loops over its elements. */
final readonly class LoopedRun
{
    public function __construct(
        private Analysis $analysis,
        private TimeSettings $time,
        private Program $program,
        private ProgramStore $programs,
        private RunOptions $settings,
        private RunParameters $parameters,
    ) {
    }

    /**
     * @param  list<float>  $times  the moments that are saved
     * @param  bool  $diagnose  whether a fault is looked for
     */
    public function trajectory(callable $compiled, array $times, bool $diagnose): Trajectory
    {
        $begun = hrtime(true);
        $run = new StepwiseRun($compiled, $this->time, $this->settings, array_values($this->parameters->values), $this->program);
        $seconds = (hrtime(true) - $begun) / 1e9;
        $moments = $run->moments;
        $done = (int) $run->step;
        $fault = null;
        if ($run->ending === Program::FAULT) {
            $fault = $diagnose ? $this->fault() : NumericFault::somewhere($times[max(0, $moments - 1)], $this->time->unit);
            while ($diagnose && $moments > 0 && $times[$moments - 1] >= $fault->time) {
                $moments--;
            }
        } elseif ($run->ending === Program::ENDED) {
            $times = [...array_slice($times, 0, max(0, $moments - 1)), $this->time->timeAt($done)];
        }
        $constants = $run->constants === [] ? [] : array_combine($this->program->constants, $run->constants);
        /** @var array<string, float|list<float>> $steady */
        $steady = array_filter(
            [...$this->parameters->values, ...$constants],
            fn (string $k): bool => ! $this->analysis->outline()->keys->isHidden($k),
            ARRAY_FILTER_USE_KEY,
        );
        $single = array_filter($steady, is_float(...));
        [$columns, $moving] = $this->apart($run, $moments);

        return new Trajectory(
            Values::byColumn(array_values($columns)),
            array_map(strval(...), array_keys($columns)),
            $single,
            array_slice($times, 0, $moments),
            $fault,
            count($this->time->method->stages()) * $done + 1,
            $this->time->method,
            $this->notices($run, $single, max(1, $done)),
            $run->ending === Program::ENDED,
            $seconds,
            $run->ending === Program::STOPPED,
            new ElementValues($this->analysis->positions, $moving, array_filter($steady, is_array(...))),
        );
    }

    /** @return array{array<string, list<float>>, array<string, list<list<float>>>} columns of numbers, and of lists */
    private function apart(StepwiseRun $run, int $moments): array
    {
        $columns = $moving = [];
        foreach ($this->program->columns as $k => $key) {
            $all = array_slice($run->values->column($k), 0, $moments);
            if ($this->analysis->positions->isShaped($key)) {
                /** @var list<list<float>> $all */
                $moving[$key] = $all;
            } else {
                $columns[$key] = $all;
            }
        }

        return [$columns, $moving];
    }

    /**
     * @param  array<string, float>  $steady
     * @return list<Notice>
     */
    private function notices(StepwiseRun $run, array $steady, int $steps): array
    {
        return (new Notices($this->analysis->model, $this->analysis->outline(), $this->time, $steady))->all(
            $this->program->watched,
            $run->watches,
            $run->counts === [] ? [] : array_combine($this->program->counted, $run->counts),
            $steps,
        );
    }

    /** Runs once more, carefully, to see where it begins. */
    private function fault(): NumericFault
    {
        $shaped = $this->analysis->shaped ?? throw new \LogicException('Only what has elements runs in loops.');
        $program = LoopCompiler::careful($shaped, $this->time->method);
        $run = new StepwiseRun(
            $this->programs->forRun($program, 0.0),
            $this->time,
            $this->settings,
            array_values($this->parameters->values),
            $program,
        );
        if ($run->ending !== Program::FAULT || $run->carried === []) {
            return NumericFault::somewhere($this->time->start, $this->time->unit);
        }
        /** @var array<string, float|list<float>> $values */
        $values = [...$this->parameters->values, ...$run->constants];
        /** @var list<string> $keys */
        $keys = $run->carried;
        [$element, $stage] = [(int) $run->watches[0], (int) $run->watches[1]];
        $within = count($this->time->method->stages()) === 2 ? (float) $stage : [0.0, 0.5, 0.5, 1.0][$stage];
        $step = max(0, (int) $run->step);
        $moment = new Moment($this->time, $step, $within);

        return (new LoopFault($this->analysis, $shaped, $this->time, $values, $moment, $run->step === -1))->found($keys, $element);
    }
}
