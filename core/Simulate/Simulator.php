<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Simulate;

use MerryOrbit\Core\Compile\AdaptiveCompiler;
use MerryOrbit\Core\Compile\Analysis;
use MerryOrbit\Core\Compile\Cell;
use MerryOrbit\Core\Compile\Compiler;
use MerryOrbit\Core\Compile\Holding;
use MerryOrbit\Core\Compile\Plan;
use MerryOrbit\Core\Compile\Program;
use MerryOrbit\Core\Compile\ProgramStore;
use MerryOrbit\Core\Compile\Watch;
use MerryOrbit\Core\Model\Method;
use MerryOrbit\Core\Model\TimeSettings;
use MerryOrbit\Core\Problem\Remedy;

/**
 * Runs what of a model can be computed.
 *
 *     $trajectory = (new Simulator(ProgramStore::ofUser()))->run(Analyser::analyse($model));
 *     $trajectory->column($id);
 *
 * Running the same analysis again, with other values of its parameters, compiles nothing.
 */
final readonly class Simulator
{
    /** How near the walker has to begin before a fault. */
    private const WALKED = 4;

    /** States of a model that Rosenbrock's linear systems are solved for. */
    private const MOST_STIFF = 300;

    /** How much longer an evaluation takes that is called one by one. */
    private const CALLED = 20;

    /** @var \WeakMap<Plan, array<string, Program>> */
    private \WeakMap $compiled;

    /** @param  ?Watch  $watch  who looks at every run that nobody else looks at */
    public function __construct(private ProgramStore $programs, private RunLimits $limits = new RunLimits, private ?Watch $watch = null)
    {
        $this->compiled = new \WeakMap;
    }

    /** @throws RunRefused when the settings allow no run, or it would be too much */
    public function run(Analysis $analysis, RunSettings $settings = new RunSettings): Trajectory
    {
        if ($settings->watch === null && $this->watch !== null) {
            $settings = new RunSettings($settings->parameters, $settings->time, $settings->seed, $settings->grain, $this->watch);
        }
        [$time, $program, $parameters] = $this->prepared($analysis, $settings);

        return $time->method->isAdaptive()
            ? $this->adaptive($analysis, $time, $program, $parameters, $settings)
            : $this->stepwise($analysis, $time, $program, $parameters, $settings);
    }

    /**
     * @return array{TimeSettings, Program, array<string, float>} the parameters in the order of the program
     *
     * @throws RunRefused
     */
    private function prepared(Analysis $analysis, RunSettings $settings): array
    {
        $time = $settings->time ?? $analysis->model->time;
        foreach ($time->problems() as $problem) {
            throw RunRefused::because($problem);
        }
        foreach ($time->method->isAdaptive() ? Refusals::of($analysis, $time->method) : [] as $problem) {
            throw RunRefused::because($problem);
        }
        $this->refuseTooMuch($analysis, $time);
        $program = $this->program($analysis->plan, $time->method);
        $parameters = [];
        foreach ($program->parameters as $id) {
            // A parameter that is held keeps its own value beside.
            $own = str_ends_with($id, Holding::BASE) ? substr($id, 0, -strlen(Holding::BASE)) : $id;
            $parameters[$id] = $settings->parameters[$own] ?? $analysis->parameters[$id];
        }

        return [$time, $program, $parameters];
    }

    public function program(Plan $plan, Method $method): Program
    {
        $known = $this->compiled[$plan] ?? [];
        $known[$method->value] ??= $this->programs->programOf($plan, $method, static fn (): Program => $method->isAdaptive() ? AdaptiveCompiler::compile($plan) : Compiler::compile($plan, $method));
        $this->compiled[$plan] = $known;

        return $known[$method->value];
    }

    /**
     * A walker at the start of a step of the time grid, where everything can be asked for, hidden parts too.
     *
     * @return ?Walker null if the run does not reach that step
     *
     * @throws RunRefused
     */
    public function walkerAt(Analysis $analysis, RunSettings $settings, int $step): ?Walker
    {
        [$time, $program, $parameters] = $this->prepared($analysis, $settings);
        if ($time->method->isAdaptive()) {
            $functions = new AdaptiveFunctions($this->programs, $program, $time, array_values($parameters));
            $run = $this->adaptiveRun($analysis, $time, $functions, $parameters, $time->timeAt($step));
            $run->run();
            $carried = $run->halted === null ? null : $functions->carried($run->halted);
            $constants = array_slice($functions->constants(), 0, count($program->constants));
        } else {
            $run = new StepwiseRun($this->programs->forRun($program, (float) $step * count($time->method->stages()) * count($analysis->plan->equations)), $time, $settings, $parameters, $step);
            $carried = $run->ending === Program::HALTED ? $run->carried : null;
            $constants = $run->constants;
        }
        if ($carried === null) {
            return null;
        }
        $walker = new Walker($analysis->model, $analysis->plan, $time, $parameters, $settings->seed, $settings->grain);
        try {
            $walker->start();
            $walker->resume(array_combine($program->carried, $carried), array_combine($program->constants, $constants));
            $walker->look($step);
        } catch (Culprit) {
            return null;
        }

        return $walker;
    }

    /** @param  array<string, float>  $parameters */
    private function stepwise(Analysis $analysis, TimeSettings $time, Program $program, array $parameters, RunSettings $settings): Trajectory
    {
        $compiled = $this->programs->forRun($program, (float) $time->steps() * count($time->method->stages()) * count($analysis->plan->equations));
        $begun = hrtime(true);
        $run = new StepwiseRun($compiled, $time, $settings, $parameters);
        $seconds = (hrtime(true) - $begun) / 1e9;
        $rows = $run->rows;
        $constants = $run->constants;
        $times = $time->savedTimes();
        $fault = null;
        $done = (int) $run->step;
        if ($run->ending === Program::FAULT) {
            $until = static fn (int $step): StepwiseRun => new StepwiseRun($compiled, $time, $settings, $parameters, $step);
            $walker = new Walker($analysis->model, $analysis->plan, $time, $parameters, $settings->seed, $settings->grain);
            [$fault, $constants] = $this->fault($walker, $time, $program, $until, max(0, (count($rows) - 1) * $time->stepsPerSave()), $run->step);
            $done = max(0, (int) floor(($fault->time - $time->start) / $time->step));
            while ($rows !== [] && $times[count($rows) - 1] >= $fault->time) {
                array_pop($rows);
            }
        } elseif ($run->ending === Program::ENDED) {
            $times = [...array_slice($times, 0, max(0, count($rows) - 1)), $time->timeAt($done)];
        }
        $steady = [...$parameters, ...($constants === [] ? [] : array_combine($program->constants, $constants))];
        $notices = (new Notices($analysis->model, $analysis->plan, $time, $steady))->all($program->watched, $run->watches, $run->counts === [] ? [] : array_combine($program->counted, $run->counts), max(1, $done));
        array_push($notices, ...Suspicions::of($analysis->model, $time, $rows, $program->columns, $steady));

        return new Trajectory($rows, $program->columns, $steady, array_slice($times, 0, count($rows)), $fault, count($time->method->stages()) * $done + 1, $time->method, $notices, $run->ending === Program::ENDED, $seconds, $run->ending === Program::STOPPED);
    }

    /**
     * Comes close to a fault with compiled code and walks the rest.
     *
     * @param  \Closure(int): StepwiseRun  $until  runs up to a step
     * @param  int  $low  a step that is known to be reached
     * @param  ?int  $high  the step in which the fault showed, if known
     * @return array{NumericFault, list<float>} and what stays the same during the run
     */
    private function fault(Walker $walker, TimeSettings $time, Program $program, \Closure $until, int $low, ?int $high): array
    {
        $high = max($low, $high ?? min($time->steps(), $low + $time->stepsPerSave()));
        $reaches = static fn (StepwiseRun $run): bool => $run->ending === Program::HALTED;
        while ($high - $low > self::WALKED) {
            $middle = intdiv($low + $high, 2);
            $reaches($until($middle)) ? $low = $middle : $high = $middle;
        }
        // The fault may lie in the step that was thought to be reached.
        $run = null;
        for (; $low > 0; $low = max(0, $low - self::WALKED)) {
            $run = $until($low);
            if ($reaches($run)) {
                break;
            }
            $run = null;
        }
        try {
            if ($run === null) {
                $walker->start();
            } else {
                $walker->resume(array_combine($program->carried, $run->carried), array_combine($program->constants, $run->constants));
            }
            for ($i = $low; $i <= min($high + 1, $time->steps()); $i++) {
                $walker->look($i);
                if ($i < $time->steps()) {
                    $walker->advance($i);
                }
            }
        } catch (Culprit $culprit) {
            return [$culprit->fault, $run->constants ?? []];
        }

        // Every number is finite, but not their sum, which is what the compiled step tests.
        return [new NumericFault('', 'the model', $time->timeAt($high), 'numbers close to the largest that can be computed with', [], $time->unit), $run->constants ?? []];
    }

    /** @param  array<string, float>  $parameters */
    private function adaptive(Analysis $analysis, TimeSettings $time, Program $program, array $parameters, RunSettings $settings): Trajectory
    {
        $functions = new AdaptiveFunctions($this->programs, $program, $time, array_values($parameters));
        $run = $this->adaptiveRun($analysis, $time, $functions, $parameters, watch: $settings->watch);
        $steady = self::steady($program, $functions, $parameters);
        $notices = new Notices($analysis->model, $analysis->plan, $time, $steady);
        $begun = hrtime(true);
        $run->run();
        $seconds = (hrtime(true) - $begun) / 1e9;
        $fault = null;
        if ($run->stuck !== null || $run->rows === []) {
            $fault = $run->hindrance === null || $run->hindrance === Hindrance::Abrupt
                ? $this->adaptiveFault($analysis, $time, $parameters, $steady, $settings, $run->stuck)
                : self::gaveUp($analysis, $time, $run);
            while ($run->times !== [] && end($run->times) > $fault->time) {
                array_pop($run->times);
                array_pop($run->rows);
            }
        }

        return new Trajectory($run->rows, $program->columns, $steady, $run->times, $fault, $functions->evaluations, $time->method, $notices->all($program->watched, $run->watches, [], 1), $run->ended, $seconds, $run->stopped);
    }

    /** @param  array<string, float>  $parameters */
    private function adaptiveRun(Analysis $analysis, TimeSettings $time, AdaptiveFunctions $functions, array $parameters, ?float $halt = null, ?Watch $watch = null): AdaptiveRun
    {
        $functions->start();
        $events = (new Notices($analysis->model, $analysis->plan, $time, self::steady($functions->program, $functions, $parameters)))->eventSteps();

        return new AdaptiveRun($functions, $time, $time->method === Method::Rosenbrock ? new Rosenbrock : new DormandPrince, $events, $this->limits->mostEvaluations / self::CALLED / max(1, count($analysis->plan->equations)), $this->limits->mostSeconds, $halt, $watch);
    }

    /**
     * @param  array<string, float>  $parameters
     * @return array<string, float> what stays the same, by key
     */
    private static function steady(Program $program, AdaptiveFunctions $functions, array $parameters): array
    {
        $known = array_slice($functions->constants(), 0, count($program->constants));

        return [...$parameters, ...($known === [] ? [] : array_combine($program->constants, $known))];
    }

    /**
     * @param  array<string, float>  $parameters
     * @param  array<string, float>  $steady
     * @param  array{float, list<float>}|null  $stuck
     */
    private function adaptiveFault(Analysis $analysis, TimeSettings $time, array $parameters, array $steady, RunSettings $settings, ?array $stuck): NumericFault
    {
        $at = $stuck[0] ?? $time->start;
        // One look of the walker at the moment where the method could not go on; a step of its own for the grid.
        $walker = new Walker($analysis->model, $analysis->plan, $time->with(['start' => $at, 'end' => $at + $time->step, 'method' => Method::Euler, 'saveEvery' => null]), $parameters, $settings->seed, $settings->grain);
        try {
            $walker->start();
            if ($stuck !== null) {
                $walker->resume(array_combine(array_keys($analysis->plan->states), $stuck[1]), $steady);
            }
            $walker->look(0);
            $walker->advance(0);
            $walker->look(1);
        } catch (Culprit $culprit) {
            // What the walker meets in a step of its own could not be reached by ever shorter ones.
            return new NumericFault($culprit->fault->element, $culprit->fault->name, $at, $culprit->fault->reason, $culprit->fault->inputs, $time->unit);
        }

        $reason = "something changes too abruptly or too fast for {$time->method->title()} at this tolerance. Try a larger tolerance, ".($time->method === Method::Rosenbrock ? '' : 'Rosenbrock for a stiff model, ').'or a method with fixed steps.';

        return new NumericFault('', $analysis->model->name, $at, $reason, [], $time->unit, true);
    }

    /** Every number is fine, but the end is out of reach. */
    private static function gaveUp(Analysis $analysis, TimeSettings $time, AdaptiveRun $run): NumericFault
    {
        $steps = number_format((float) sprintf('%.1e', $run->ahead));
        $canBeStiff = $time->method !== Method::Rosenbrock && count($analysis->plan->states) <= self::MOST_STIFF && Refusals::of($analysis, Method::Rosenbrock) === [];
        $why = $run->hindrance === Hindrance::Stiff
            ? "something in this model settles very much faster than the run is long (it is stiff), and {$time->method->title()} would need about $steps more steps to get to the end."
            : "{$time->method->title()} would need about $steps more steps to get to the end, more than one run may take here.";
        $mend = match (true) {
            $canBeStiff => ' '.Method::Rosenbrock->title().' is made for that.',
            $run->hindrance === Hindrance::Stiff => ' Choose a method with fixed steps, or let what is fast follow at once.',
            default => ' Choose a larger tolerance, a shorter span or a method with fixed steps.',
        };
        $remedy = $canBeStiff ? new Remedy('Use '.Method::Rosenbrock->title(), [['kind' => 'time', ...$time->toRecord(), 'method' => Method::Rosenbrock->value]]) : null;

        return new NumericFault('', $analysis->model->name, $run->stuck[0] ?? $time->start, $why.$mend, [], $time->unit, true, $remedy);
    }

    private function refuseTooMuch(Analysis $analysis, TimeSettings $time): void
    {
        $variables = count($analysis->plan->equations) + 1;
        $states = count($analysis->plan->states);
        if ($time->method === Method::Rosenbrock && $states > self::MOST_STIFF) {
            throw RunRefused::tooMuch('Rosenbrock solves equations for all stocks and delays together and takes at most '.self::MOST_STIFF." of them; this model has $states. Choose Dormand–Prince or Runge–Kutta 4.");
        }
        $stages = $time->method->isAdaptive() ? 1 : count($time->method->stages());
        if ((float) $time->steps() * $stages * $variables > $this->limits->mostEvaluations) {
            throw RunRefused::tooMuch(number_format($time->steps()).' steps of '.number_format($variables).' variables are more than one run may take here. Choose a longer step or a shorter span.');
        }
        $remembered = count(array_filter($analysis->plan->cells, static fn (Cell $c): bool => $c->kind === 'shift')) + count($analysis->plan->transits);
        if ((float) $time->steps() * $remembered > $this->limits->mostValues) {
            throw RunRefused::tooMuch(number_format($time->steps()).' steps are more than `shift` and transit stocks can remember here. Choose a longer step or a shorter span.');
        }
        if ((float) $time->savedCount() * $variables > $this->limits->mostValues) {
            throw RunRefused::tooMuch(number_format($time->savedCount()).' saved moments of '.number_format($variables).' variables are more than one run may keep here. Save less often.');
        }
    }
}
