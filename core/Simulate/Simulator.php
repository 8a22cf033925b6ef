<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Simulate;

use MerryOrbit\Core\Analysis\Analysis;
use MerryOrbit\Core\Compile\AdaptiveCompiler;
use MerryOrbit\Core\Compile\Compiler;
use MerryOrbit\Core\Compile\Loops\LoopCompiler;
use MerryOrbit\Core\Compile\Program;
use MerryOrbit\Core\Compile\ProgramStore;
use MerryOrbit\Core\Library\RunWatcher;
use MerryOrbit\Core\Model\Method;
use MerryOrbit\Core\Model\TimeSettings;
use MerryOrbit\Core\Plan\Cell;
use MerryOrbit\Core\Plan\Plan;
use MerryOrbit\Core\Plan\Positions;
use MerryOrbit\Core\Problem\Problem;
use MerryOrbit\Core\Roster\Detail;
use MerryOrbit\Core\Shape\ShapedPlan;
use MerryOrbit\Core\Shape\Spread;

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

    /** So many values of a large model are kept of a run that nobody said more about. */
    private const MOST_KEPT = 4_000_000.0;

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

    /**
     * @param  list<string>  $looked  ids of things, or keys of single elements, that are looked at: where all would be too much, they are kept
     *
     * @throws RunRefused when the settings allow no run, or it would be too much
     */
    public function run(Analysis $analysis, RunOptions $settings = new RunOptions(), array $looked = []): Trajectory
    {
        $seen = $this->seen($analysis, $settings->time ?? $analysis->model->time, $looked);

        return $this->prepare($analysis, $settings, $seen, members: true)->run();
    }

    /**
     * What of a large model is kept: all of it as long as that is not too much, else the first elements of each thing, and what is looked at.
     *
     * @param  list<string>  $looked
     * @return list<string>|null null for all
     */
    private function seen(Analysis $analysis, TimeSettings $time, array $looked): ?array
    {
        if (
            $analysis->shaped === null ||
            $time->problems() !== [] ||
            (float) $time->savedCount() * array_sum($analysis->size()) <= self::MOST_KEPT
        ) {
            return null;
        }
        $keys = [];
        foreach ($analysis->model->elements as $id => $_) {
            array_push(
                $keys,
                ...in_array($id, $looked, true) && $analysis->positions->isShaped($id)
                    ? [$id]
                    : $analysis->positions->first($id, Positions::MOST_TOLD),
            );
        }

        return array_values(
            array_unique([...$keys, ...array_filter($looked, static fn (string $k): bool => ! $analysis->positions->isShaped($k))]),
        );
    }

    /**
     * @param  ?list<string>  $only  the keys whose values are wanted; null for all
     * @param  int  $times  how often it will be run, about
     * @param  bool  $members  whether is kept what became of the members of rosters, and what each had
     * @param  bool  $stepped  whether it is to stop at a step and be walked on from there, for which it is written out element by element
     *
     * @throws RunRefused when the settings allow no run, or it would be too much
     */
    public function prepare(
        Analysis $analysis,
        RunOptions $settings = new RunOptions(),
        ?array $only = null,
        int $times = 1,
        bool $stepped = false,
        bool $members = false,
    ): PreparedRun {
        if ($settings->watch === null && $this->watch !== null) {
            $settings = new RunOptions($settings->parameters, $settings->time, $settings->seed, $settings->grain, $this->watch);
        }
        $time = $settings->time ?? $analysis->model->time;
        foreach ($time->problems() as $problem) {
            throw RunRefused::because($problem);
        }
        self::refuseMembers($analysis, $time->method, $stepped);
        foreach ($time->method->isAdaptive() ? Refusals::of($analysis, $time->method) : [] as $problem) {
            throw RunRefused::because($problem);
        }
        $this->refuseTooMuch($analysis, $time, $only === null ? null : array_sum(array_map($analysis->positions->count(...), $only)));
        $stages = $time->method->isAdaptive() ? 1 : count($time->method->stages());
        $work = (float) $time->steps() * $stages * $analysis->size()[0] * $times;

        return new PreparedRun(
            $analysis,
            $time,
            $analysis->shaped === null || $time->method->isAdaptive() || $stepped
                ? $this->program($analysis->plan(), $time->method, $only)
                : $this->looped($analysis->shaped, $time->method, $only, $members ? self::detail($analysis->shaped, $time) : null),
            $this->programs,
            $this->limits,
            $settings,
            $work,
        );
    }

    /** At which of the saved moments what each member has is kept, so that it is not too much. */
    private static function detail(ShapedPlan $shaped, TimeSettings $time): ?Detail
    {
        $sizes = [];
        foreach ([...array_keys($shaped->plan->states), ...array_keys($shaped->plan->equations)] as $key) {
            $roster = $shaped->roster((string) $key);
            if ($roster !== null) {
                $sizes[$roster->dimension][(string) $key] = $shaped->sizeOf((string) $key);
            }
        }

        return Detail::of($shaped->extents->rosters, $sizes, $time->savedCount());
    }

    /** What cannot be done where members come and go: it would be done as if all of them stayed. */
    private static function refuseMembers(Analysis $analysis, Method $method, bool $stepped): void
    {
        $roster = array_values($analysis->shaped->extents->rosters->all ?? [])[0] ?? null;
        if ($roster === null || (! $stepped && ! $method->isAdaptive())) {
            return;
        }
        throw RunRefused::because(
            new Problem(
                'roster.steps',
                $stepped
                    ? "Members of `$roster->name` come and go, and what a value is made of cannot be followed through them. Look at them in Members."
                    : "{$method->title()} chooses its own steps, and members of `$roster->name` come and go at the ends of steps. ".
                        'Choose Euler, Heun or Runge–Kutta 4.',
            ),
        );
    }

    /** @param  ?list<string>  $only */
    private function looped(ShapedPlan $shaped, Method $method, ?array $only, ?Detail $logged): Program
    {
        $name =
            'loops '.
            $method->value.
            ($logged === null ? '' : " members {$logged->name()}").
            ($only === null ? '' : ' '.implode(' ', $only));
        $known = $this->compiled[$shaped->plan] ?? [];
        $known[$name] ??= $this->programs->programOf(
            $shaped->content(),
            $name,
            static fn (): Program => LoopCompiler::compile($shaped, $method, $only, $logged),
        );
        $this->compiled[$shaped->plan] = $known;

        return $known[$name];
    }

    /** @param  ?list<string>  $only  the keys whose values are saved; null for all */
    public function program(Plan $plan, Method $method, ?array $only = null): Program
    {
        $known = $this->compiled[$plan] ?? [];
        $name = $method->value.($only === null ? '' : ' '.implode(' ', $only));
        $known[$name] ??= $this->programs->programOf(
            serialize($plan),
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
        return $this->prepare($analysis, $settings, stepped: true)->walkerAt($step);
    }

    /**
     * The same from values that are known already.
     *
     * @param  array<string, float>  $states  by key, all that there are
     *
     * @throws RunRefused
     */
    public function walkerFrom(Analysis $analysis, RunOptions $settings, array $states, int $step): ?Walker
    {
        return $this->prepare($analysis, $settings, stepped: true)->walkerFrom($states, $step);
    }

    private function refuseTooMuch(Analysis $analysis, TimeSettings $time, ?int $columns): void
    {
        [$equations, $states] = $analysis->size();
        $variables = $equations + 1;
        if ($time->method === Method::Rosenbrock && $states > self::MOST_STIFF) {
            throw RunRefused::tooMuch(
                'Rosenbrock solves equations for all stocks and delays together and takes at most '.
                    self::MOST_STIFF.
                    " of them; this model has $states. Choose Dormand–Prince or Runge–Kutta 4.",
            );
        }
        if ($time->method->isAdaptive() && $analysis->shaped !== null && $equations + $states > Spread::LARGEST) {
            throw RunRefused::tooMuch(
                "{$time->method->title()} computes every element by itself, at most ".
                    number_format(Spread::LARGEST).
                    ' values; with all its elements this model has '.
                    number_format($equations + $states).
                    '. Choose Runge–Kutta 4, Heun or Euler.',
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
        $shifts = array_filter($analysis->outline()->cells, static fn (Cell $c): bool => $c->kind === 'shift');
        $remembered =
            array_sum(array_map(static fn (Cell $c): int => $analysis->shaped?->sizeOf($c->key) ?? 1, $shifts)) +
            count($analysis->outline()->transits);
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
