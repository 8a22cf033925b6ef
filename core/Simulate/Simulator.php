<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Simulate;

use MerryOrbit\Core\Compile\Analysis;
use MerryOrbit\Core\Compile\Compiler;
use MerryOrbit\Core\Compile\FaultSignal;
use MerryOrbit\Core\Compile\ProgramStore;
use MerryOrbit\Core\Model\Method;
use MerryOrbit\Core\Model\TimeSettings;

/**
 * Runs what of a model can be computed.
 *
 *     $trajectory = (new Simulator(ProgramStore::ofUser()))->run(Analyser::analyse($model));
 *     $trajectory->column($id);
 */
final readonly class Simulator
{
    public function __construct(private ProgramStore $programs, private RunLimits $limits = new RunLimits)
    {
    }

    /** @throws RunRefused when the settings allow no run, or it would be too much */
    public function run(Analysis $analysis, RunSettings $settings = new RunSettings): Trajectory
    {
        $time = $settings->time ?? $analysis->model->time;
        foreach ($time->problems() as $problem) {
            throw RunRefused::because($problem);
        }
        $stages = $time->method === Method::RungeKutta4 ? 4 : 1;
        $this->refuseTooMuch($analysis, $time, $stages);

        $program = Compiler::compile($analysis, $time->method);
        $parameters = [];
        foreach ($program->parameters as $id) {
            $parameters[$id] = $settings->parameters[$id] ?? $analysis->parameters[$id];
        }
        $run = $this->programs->load($program);
        $until = static fn (int $steps): array => $run($time->start, $time->end, $time->step, $steps, $time->stepsPerSave(), $time->timeAt($steps), ...array_values($parameters));
        [$rows, $constants, $failed, $state] = self::untilFault($until, $time->steps());

        $fault = null;
        if ($failed !== null) {
            $fault = (new Diagnosis($analysis, $time, $parameters))->fault($failed, $state === [] ? null : array_combine($program->stocks, $state));
            $rows = self::soundRows($rows, $time->savedTimes(), $fault->time);
        }

        return new Trajectory($rows, $program->columns, [...$parameters, ...($constants === [] ? [] : array_combine($program->constants, $constants))],
            $time->savedTimes(), $fault, $stages * max(0, $failed ?? $time->steps()) + 1);
    }

    /**
     * A run, or as much of one as leads to a step shortly before a fault.
     *
     * @param  \Closure(int): array{list<list<float>>, list<float>, int|null, list<float>}  $until
     * @return array{list<list<float>>, list<float>, int|null, list<float>}
     */
    private static function untilFault(\Closure $until, int $steps): array
    {
        try {
            return $until($steps);
        } catch (FaultSignal $signal) {
            $steps = $signal->step;
        }
        // Up to the step that met the fault; if it is met at the very start of that step, up to the one before.
        while ($steps >= 0) {
            try {
                [$rows, $constants, , $state] = $until($steps);

                return [$rows, $constants, $steps, $state];
            } catch (FaultSignal) {
                $steps--;
            }
        }

        return [[], [], -1, []];
    }

    /**
     * Those before the fault.
     *
     * @param  list<list<float>>  $rows
     * @param  list<float>  $times
     * @return list<list<float>>
     */
    private static function soundRows(array $rows, array $times, float $fault): array
    {
        while ($rows !== [] && $times[count($rows) - 1] >= $fault) {
            array_pop($rows);
        }

        return $rows;
    }

    private function refuseTooMuch(Analysis $analysis, TimeSettings $time, int $stages): void
    {
        $variables = count($analysis->order) + 1;
        if ((float) $time->steps() * $stages * $variables > $this->limits->mostEvaluations) {
            throw RunRefused::tooMuch(number_format($time->steps()).' steps of '.number_format($variables).' variables are more than one run may take here. Choose a longer step or a shorter span.');
        }
        if ((float) $time->savedCount() * $variables > $this->limits->mostValues) {
            throw RunRefused::tooMuch(number_format($time->savedCount()).' saved moments of '.number_format($variables).' variables are more than one run may keep here. Save less often.');
        }
    }
}
