<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Simulate;

use MerryOrbit\Core\Analysis\Analysis;
use MerryOrbit\Core\Compile\AdaptiveCompiler;
use MerryOrbit\Core\Compile\Compiler;
use MerryOrbit\Core\Compile\Program;
use MerryOrbit\Core\Compile\ProgramStore;
use MerryOrbit\Core\Library\RunWatcher;
use MerryOrbit\Core\Model\Method;
use MerryOrbit\Core\Model\TimeSettings;
use MerryOrbit\Core\Plan\Cell;
use MerryOrbit\Core\Plan\Plan;

/**
 * Runs what of a model can be computed.
 *
 *     $trajectory = (new Simulator(ProgramStore::ofUser()))->run(Analyser::analyse($model));
 *     $trajectory->column($id);
 *
 * Running the same analysis again, with other values of its parameters, compiles nothing. For many runs see prepare().
 */
final readonly class Simulator
{
    /** States of a model that Rosenbrock's linear systems are solved for. */
    public const MOST_STIFF = 300;

    /** @var \WeakMap<Plan, array<string, Program>> */
    private \WeakMap $compiled;

    /** @param  ?RunWatcher  $watch  who looks at every run that nobody else looks at */
    public function __construct(
        private ProgramStore $programs,
        private RunLimits $limits = new RunLimits(),
        private ?RunWatcher $watch = null,
    ) {
        $this->compiled = new \WeakMap();
    }

    /** @throws RunRefused when the settings allow no run, or it would be too much */
    public function run(Analysis $analysis, RunOptions $settings = new RunOptions()): Trajectory
    {
        return $this->prepare($analysis, $settings)->run();
    }

    /**
     * @param  ?list<string>  $only  the keys whose values are wanted; null for all
     * @param  int  $times  how often it will be run, about
     *
     * @throws RunRefused when the settings allow no run, or it would be too much
     */
    public function prepare(Analysis $analysis, RunOptions $settings = new RunOptions(), ?array $only = null, int $times = 1): PreparedRun
    {
        if ($settings->watch === null && $this->watch !== null) {
            $settings = new RunOptions($settings->parameters, $settings->time, $settings->seed, $settings->grain, $this->watch);
        }
        $time = $settings->time ?? $analysis->model->time;
        foreach ($time->problems() as $problem) {
            throw RunRefused::because($problem);
        }
        foreach ($time->method->isAdaptive() ? Refusals::of($analysis, $time->method) : [] as $problem) {
            throw RunRefused::because($problem);
        }
        $this->refuseTooMuch($analysis, $time, $only === null ? null : count($only));
        $stages = $time->method->isAdaptive() ? 1 : count($time->method->stages());
        $work = (float) $time->steps() * $stages * count($analysis->plan->equations) * $times;

        return new PreparedRun(
            $analysis,
            $time,
            $this->program($analysis->plan, $time->method, $only),
            $this->programs,
            $this->limits,
            $settings,
            $work,
        );
    }

    /** @param  ?list<string>  $only  the keys whose values are saved; null for all */
    public function program(Plan $plan, Method $method, ?array $only = null): Program
    {
        $known = $this->compiled[$plan] ?? [];
        $name = $method->value.($only === null ? '' : ' '.implode(' ', $only));
        $known[$name] ??= $this->programs->programOf(
            $plan,
            $name,
            static fn (): Program => $method->isAdaptive()
                ? AdaptiveCompiler::compile($plan, $only)
                : Compiler::compile($plan, $method, $only),
        );
        $this->compiled[$plan] = $known;

        return $known[$name];
    }

    /**
     * A walker at the start of a step of the time grid, where everything can be asked for, hidden parts too.
     *
     * @return ?Walker null if the run does not reach that step
     *
     * @throws RunRefused
     */
    public function walkerAt(Analysis $analysis, RunOptions $settings, int $step): ?Walker
    {
        return $this->prepare($analysis, $settings)->walkerAt($step);
    }

    private function refuseTooMuch(Analysis $analysis, TimeSettings $time, ?int $columns): void
    {
        $variables = count($analysis->plan->equations) + 1;
        $states = count($analysis->plan->states);
        if ($time->method === Method::Rosenbrock && $states > self::MOST_STIFF) {
            throw RunRefused::tooMuch(
                'Rosenbrock solves equations for all stocks and delays together and takes at most '.
                    self::MOST_STIFF.
                    " of them; this model has $states. Choose Dormand–Prince or Runge–Kutta 4.",
            );
        }
        $stages = $time->method->isAdaptive() ? 1 : count($time->method->stages());
        if ((float) $time->steps() * $stages * $variables > $this->limits->mostEvaluations) {
            throw RunRefused::tooMuch(
                number_format($time->steps()).
                    ' steps of '.
                    number_format($variables).
                    ' variables are more than one run may take here. Choose a longer step or a shorter span.',
            );
        }
        $remembered =
            count(array_filter($analysis->plan->cells, static fn (Cell $c): bool => $c->kind === 'shift')) +
            count($analysis->plan->transits);
        if ((float) $time->steps() * $remembered > $this->limits->mostValues) {
            throw RunRefused::tooMuch(
                number_format($time->steps()).
                    ' steps are more than `shift` and transit stocks can remember here. Choose a longer step or a shorter span.',
            );
        }
        if ((float) $time->savedCount() * ($columns ?? $variables) > $this->limits->mostValues) {
            throw RunRefused::tooMuch(
                number_format($time->savedCount()).
                    ' saved moments of '.
                    number_format($variables).
                    ' variables are more than one run may keep here. Save less often.',
            );
        }
    }
}
