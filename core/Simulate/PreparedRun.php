<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Simulate;

use MerryOrbit\Core\Analysis\Analysis;
use MerryOrbit\Core\Compile\Program;
use MerryOrbit\Core\Compile\ProgramStore;
use MerryOrbit\Core\Library\RunWatcher;
use MerryOrbit\Core\Model\Method;
use MerryOrbit\Core\Model\TimeSettings;
use MerryOrbit\Core\Problem\Remedy;

/**
 * A model and its settings, ready to be run again and again with other values of its parameters and other seeds: nothing is read,
 * analysed or compiled any more.
 *
 *     $prepared = $simulator->prepare($analysis);
 *     $trajectory = $prepared->run(['islanders' => 6000.0]);
 */
final class PreparedRun
{
    /** How much longer an evaluation takes that is called one by one. */
    private const CALLED = 20;

    private readonly RunParameters $parameters;

    /** @var callable|null */
    private $compiled = null;

    /** @var list<float>|null */
    private ?array $times = null;

    /** @param  float  $work  how often all runs to come will evaluate an equation */
    public function __construct(
        public readonly Analysis $analysis,
        public readonly TimeSettings $time,
        public readonly Program $program,
        private readonly ProgramStore $programs,
        private readonly RunLimits $limits,
        private readonly RunOptions $settings,
        private readonly float $work,
    ) {
        $this->parameters = RunParameters::of($analysis, $program, $settings);
    }

    /**
     * @param  array<string, float>  $values  of parameters, by id, instead of those it was prepared with; others are passed over
     * @param  ?int  $seed  of chance, instead of the one it was prepared with
     * @param  bool  $diagnose  whether a fault is looked for; else it is only told that there is one, behind the last moment
     */
    public function run(array $values = [], ?int $seed = null, bool $diagnose = true): Trajectory
    {
        $parameters = $this->parameters->with($values);
        $settings = $seed === null ? $this->settings : $this->settings->seeded($seed);
        if ($this->program->isLooped) {
            $this->times ??= $this->time->savedTimes();

            return (new LoopedRun($this->analysis, $this->time, $this->program, $this->programs, $settings, $parameters))->trajectory(
                $this->compiled(),
                $this->times,
                $diagnose,
            );
        }

        return $this->time->method->isAdaptive()
            ? $this->adaptive($parameters->single(), $settings, $diagnose)
            : $this->stepwise($parameters->single(), $settings, $diagnose);
    }

    private function somewhere(float $time): NumericFault
    {
        return NumericFault::somewhere($time, $this->time->unit);
    }

    private function compiled(): callable
    {
        return $this->compiled ??= $this->programs->forRun($this->program, $this->work);
    }

    /** @param  array<string, float>  $parameters */
    private function stepwise(array $parameters, RunOptions $settings, bool $diagnose): Trajectory
    {
        [$analysis, $time, $program] = [$this->analysis, $this->time, $this->program];
        $compiled = $this->compiled();
        $arguments = array_values($parameters);
        $begun = hrtime(true);
        $run = new StepwiseRun($compiled, $time, $settings, $arguments, $program);
        $seconds = (hrtime(true) - $begun) / 1e9;
        [$values, $moments, $constants] = [$run->values, $run->moments, $run->constants];
        $times = $this->times ??= $time->savedTimes();
        $fault = null;
        $done = (int) $run->step;
        if ($run->ending === Program::FAULT && ! $diagnose) {
            $fault = $this->somewhere($times[max(0, $moments - 1)]);
        } elseif ($run->ending === Program::FAULT) {
            $until = static fn (int $step): StepwiseRun => new StepwiseRun($compiled, $time, $settings, $arguments, $program, $step);
            [$fault, $constants] = $this->fault(
                $parameters,
                $settings,
                $until,
                max(0, ($moments - 1) * $time->stepsPerSave()),
                $run->step,
            );
            $done = max(0, (int) floor(($fault->time - $time->start) / $time->step));
            while ($moments > 0 && $times[$moments - 1] >= $fault->time) {
                $moments--;
            }
            $values = $values->until($moments);
        } elseif ($run->ending === Program::ENDED) {
            $times = [...array_slice($times, 0, max(0, $moments - 1)), $time->timeAt($done)];
        }
        $steady = $this->steady($parameters, $constants);
        $notices = [];
        if ($program->isWhole) {
            $notices = (new Notices($analysis->model, $analysis->plan(), $time, $steady))->all(
                $program->watched,
                $run->watches,
                $run->counts === [] ? [] : array_combine($program->counted, $run->counts),
                max(1, $done),
            );
            array_push($notices, ...Suspicions::of($analysis->model, $time, $values, array_flip($program->columns), $moments, $steady));
        }

        return new Trajectory(
            $values,
            $program->columns,
            $this->told($steady),
            count($times) === $moments ? $times : array_slice($times, 0, $moments),
            $fault,
            count($time->method->stages()) * $done + 1,
            $time->method,
            $notices,
            $run->ending === Program::ENDED,
            $seconds,
            $run->ending === Program::STOPPED,
        );
    }

    /**
     * @param  array<string, float>  $parameters
     * @param  list<float>  $constants
     * @return array<string, float> what stays the same, by key
     */
    private function steady(array $parameters, array $constants): array
    {
        return [...$parameters, ...$constants === [] ? [] : array_combine($this->program->constants, $constants)];
    }

    /**
     * Without the hidden parts of elements.
     *
     * @param  array<string, float>  $steady
     * @return array<string, float>
     */
    private function told(array $steady): array
    {
        return array_filter($steady, fn (string $key): bool => ! $this->analysis->plan()->keys->isHidden($key), ARRAY_FILTER_USE_KEY);
    }

    /** How near the walker has to begin before a fault. */
    private const WALKED = 4;

    /**
     * Comes close to a fault with compiled code and walks the rest.
     *
     * @param  array<string, float>  $parameters
     * @param  \Closure(int): StepwiseRun  $until  runs up to a step
     * @param  int  $low  a step that is known to be reached
     * @param  ?int  $high  the step in which the fault showed, if known
     * @return array{NumericFault, list<float>} and what stays the same during the run
     */
    private function fault(array $parameters, RunOptions $settings, \Closure $until, int $low, ?int $high): array
    {
        [$time, $program] = [$this->time, $this->program];
        $walker = new Walker($this->analysis->model, $this->analysis->plan(), $time, $parameters, $settings->seed, $settings->grain);
        $high = max($low, $high ?? min($time->steps(), $low + $time->stepsPerSave()));
        $reaches = static fn (StepwiseRun $run): bool => $run->ending === Program::HALTED;
        while ($high - $low > self::WALKED) {
            $middle = intdiv($low + $high, 2);
            $reaches($until($middle)) ? ($low = $middle) : ($high = $middle);
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
        return [
            new NumericFault(
                '',
                'the model',
                $time->timeAt($high),
                'numbers close to the largest that can be computed with',
                [],
                $time->unit,
            ),
            $run->constants ?? [],
        ];
    }

    /** @param  array<string, float>  $parameters */
    private function adaptive(array $parameters, RunOptions $settings, bool $diagnose): Trajectory
    {
        [$analysis, $time, $program] = [$this->analysis, $this->time, $this->program];
        $functions = new AdaptiveFunctions($this->programs, $program, $time, array_values($parameters));
        $run = $this->adaptiveRun($functions, $parameters, watch: $settings->watch);
        $steady = $this->steady($parameters, array_slice($functions->constants(), 0, count($program->constants)));
        $begun = hrtime(true);
        $run->run();
        $seconds = (hrtime(true) - $begun) / 1e9;
        $fault = null;
        [$times, $columns] = [$run->times, $run->columns];
        if ($run->stuck !== null || $times === []) {
            $fault = match (true) {
                ! $diagnose => $this->somewhere($run->stuck[0] ?? $time->start),
                $run->hindrance === null || $run->hindrance === Hindrance::Abrupt => $this->adaptiveFault(
                    $parameters,
                    $steady,
                    $settings,
                    $run->stuck,
                ),
                default => $this->gaveUp($run),
            };
            while ($times !== [] && end($times) > $fault->time) {
                array_pop($times);
            }
            $columns = array_map(static fn (array $c): array => array_slice($c, 0, count($times)), $columns);
        }
        $notices = $program->isWhole
            ? (new Notices($analysis->model, $analysis->plan(), $time, $steady))->all($program->watched, $run->watches, [], 1)
            : [];

        return new Trajectory(
            Values::byColumn($columns),
            $program->columns,
            $this->told($steady),
            $times,
            $fault,
            $functions->evaluations,
            $time->method,
            $notices,
            $run->ended,
            $seconds,
            $run->stopped,
        );
    }

    /** @param  array<string, float>  $parameters */
    private function adaptiveRun(
        AdaptiveFunctions $functions,
        array $parameters,
        ?float $halt = null,
        ?RunWatcher $watch = null,
    ): AdaptiveRun {
        $functions->start();
        $steady = $this->steady($parameters, array_slice($functions->constants(), 0, count($this->program->constants)));
        $events = (new Notices($this->analysis->model, $this->analysis->plan(), $this->time, $steady))->eventSteps();
        $stepper = $this->time->method === Method::Rosenbrock ? new Rosenbrock() : new DormandPrince();

        return new AdaptiveRun(
            $functions,
            $this->time,
            $stepper,
            $events,
            $this->limits->mostEvaluations / self::CALLED / max(1, count($this->analysis->plan()->equations)),
            $this->limits->mostSeconds,
            $halt,
            $watch,
        );
    }

    /**
     * A walker at the start of a step of the time grid, where everything can be asked for, hidden parts too.
     *
     * @return ?Walker null if the run does not reach that step
     */
    public function walkerAt(int $step): ?Walker
    {
        [$analysis, $time, $program, $settings] = [$this->analysis, $this->time, $this->program, $this->settings];
        if ($time->method->isAdaptive()) {
            $functions = new AdaptiveFunctions($this->programs, $program, $time, array_values($this->parameters->single()));
            $run = $this->adaptiveRun($functions, $this->parameters->single(), $time->timeAt($step));
            $run->run();
            $carried = $run->halted === null ? null : $functions->carried($run->halted);
            $constants = array_slice($functions->constants(), 0, count($program->constants));
        } else {
            $run = new StepwiseRun($this->compiled(), $time, $settings, array_values($this->parameters->single()), $program, $step);
            $carried = $run->ending === Program::HALTED ? $run->carried : null;
            $constants = $run->constants;
        }
        if ($carried === null) {
            return null;
        }
        $walker = new Walker($analysis->model, $analysis->plan(), $time, $this->parameters->single(), $settings->seed, $settings->grain);
        try {
            $walker->start();
            $walker->resume(array_combine($program->carried, $carried), array_combine($program->constants, $constants));
            $walker->look($step);
        } catch (Culprit) {
            return null;
        }

        return $walker;
    }

    /**
     * As walkerAt(), from values that are known already.
     *
     * @param  array<string, float>  $states  by key, all that there are
     */
    public function walkerFrom(array $states, int $step): ?Walker
    {
        [$analysis, $settings] = [$this->analysis, $this->settings];
        $parameters = $this->parameters->single();
        $walker = new Walker($analysis->model, $analysis->plan(), $this->time, $parameters, $settings->seed, $settings->grain);
        try {
            $walker->start();
            $walker->resume($states, []);
            $walker->look($step);
        } catch (Culprit) {
            return null;
        }

        return $walker;
    }

    /**
     * @param  array<string, float>  $parameters
     * @param  array<string, float>  $steady
     * @param  array{float, list<float>}|null  $stuck
     */
    private function adaptiveFault(array $parameters, array $steady, RunOptions $settings, ?array $stuck): NumericFault
    {
        [$analysis, $time] = [$this->analysis, $this->time];
        $at = $stuck[0] ?? $time->start;
        // One look of the walker at the moment where the method could not go on; a step of its own for the grid.
        $walker = new Walker(
            $analysis->model,
            $analysis->plan(),
            $time->with(['start' => $at, 'end' => $at + $time->step, 'method' => Method::Euler, 'saveEvery' => null]),
            $parameters,
            $settings->seed,
            $settings->grain,
        );
        try {
            $walker->start();
            if ($stuck !== null) {
                $walker->resume(array_combine(array_keys($analysis->plan()->states), $stuck[1]), $steady);
            }
            $walker->look(0);
            $walker->advance(0);
            $walker->look(1);
        } catch (Culprit $culprit) {
            // What the walker meets in a step of its own could not be reached by ever shorter ones.
            return new NumericFault(
                $culprit->fault->element,
                $culprit->fault->name,
                $at,
                $culprit->fault->reason,
                $culprit->fault->inputs,
                $time->unit,
            );
        }

        $reason =
            "something changes too abruptly or too fast for {$time->method->title()} at this tolerance. Try a larger tolerance, ".
            ($time->method === Method::Rosenbrock ? '' : 'Rosenbrock for a stiff model, ').
            'or a method with fixed steps.';

        return new NumericFault('', $analysis->model->name, $at, $reason, [], $time->unit, true);
    }

    /** Every number is fine, but the end is out of reach. */
    private function gaveUp(AdaptiveRun $run): NumericFault
    {
        [$analysis, $time] = [$this->analysis, $this->time];
        $steps = number_format((float) sprintf('%.1e', $run->ahead));
        $canBeStiff =
            $time->method !== Method::Rosenbrock &&
            count($analysis->plan()->states) <= Simulator::MOST_STIFF &&
            Refusals::of($analysis, Method::Rosenbrock) === [];
        $why =
            $run->hindrance === Hindrance::Stiff
                ? "something in this model settles very much faster than the run is long (it is stiff), and {$time->method->title()} would need about $steps more steps to get to the end."
                : "{$time->method->title()} would need about $steps more steps to get to the end, more than one run may take here.";
        $mend = match (true) {
            $canBeStiff => ' '.Method::Rosenbrock->title().' is made for that.',
            $run->hindrance === Hindrance::Stiff => ' Choose a method with fixed steps, or let what is fast follow at once.',
            default => ' Choose a larger tolerance, a shorter span or a method with fixed steps.',
        };
        $remedy = $canBeStiff
            ? new Remedy('Use '.Method::Rosenbrock->title(), [
                ['kind' => 'time', ...$time->toRecord(), 'method' => Method::Rosenbrock->value],
            ])
            : null;

        return new NumericFault('', $analysis->model->name, $run->stuck[0] ?? $time->start, $why.$mend, [], $time->unit, true, $remedy);
    }
}
