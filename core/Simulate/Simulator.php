<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Simulate;

use MerryOrbit\Core\Compile\Analysis;
use MerryOrbit\Core\Compile\Compiler;
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
        [$rows, $constants, $failed, $state] = $run($time->start, $time->end, $time->step, $time->steps(), $time->stepsPerSave(), ...array_values($parameters));

        $fault = null;
        if ($failed !== null) {
            $fault = (new Diagnosis($analysis, $time, $parameters))->fault($failed, $state === [] ? null : array_combine($program->stocks, $state));
            $rows = self::soundRows($rows, $time->savedTimes(), $fault->time);
        }

        return new Trajectory($rows, $program->columns, [...$parameters, ...($constants === [] ? [] : array_combine($program->constants, $constants))],
            $time->savedTimes(), $fault, $stages * max(0, $failed ?? $time->steps()) + 1);
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
