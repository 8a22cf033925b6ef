<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Uncertain;

use MerryOrbit\Core\Analysis\Analyser;
use MerryOrbit\Core\Analysis\Analysis;
use MerryOrbit\Core\Experiment\Trial;
use MerryOrbit\Core\Model\Expectation;
use MerryOrbit\Core\Model\Model;
use MerryOrbit\Core\Model\Setting;
use MerryOrbit\Core\Model\Stock;
use MerryOrbit\Core\Plan\Key;
use MerryOrbit\Core\Problem\NotUnderstood;
use MerryOrbit\Core\Problem\Shown;
use MerryOrbit\Core\Simulate\PreparedRun;
use MerryOrbit\Core\Simulate\RunOptions;
use MerryOrbit\Core\Simulate\RunRefused;
use MerryOrbit\Core\Simulate\Simulator;
use MerryOrbit\Core\Simulate\Trajectory;

/**
 * Checks what a model is expected to satisfy. What expectations speak of is added to the model as auxiliaries, so that one compiled
 * program serves all that take the same things by hand; the conditions are its arguments.
 *
 * @phpstan-type Told array{id: string, name: string, holds: ?bool, at: ?float, by: ?float, sentence: string,
 *     worst: array{failed: int, values: array<string, float>, seed: int}|null}
 */
final class Expectations
{
    private readonly Subjects $subjects;

    /** @var array<string, string> by expectation, why it cannot be checked */
    private array $unreadable = [];

    /** @var array<string, PreparedRun|string> by the setting, or why there is none */
    private array $prepared = [];

    /** @var array<string, Trajectory> by the setting, as it is without draws */
    private array $runs = [];

    /** @var array<int, EnsemblePlan> by how many runs */
    private array $plans = [];

    private Model $model;

    private Analysis $analysis;

    /** @param  list<Expectation>  $all */
    private function __construct(
        private readonly Simulator $simulator,
        private readonly Model $own,
        private readonly array $all,
        private readonly Setting $base,
        private readonly ?int $until,
    ) {
        $this->subjects = Subjects::of($own, $all);
        $starts = array_merge(
            ...array_map(static fn (Expectation $e): array => array_map(strval(...), array_keys($e->starts)), $all),
            ...[[]],
        );
        // Starts that are others are parameters, by which one compiled program serves all.
        $this->model = Starts::opened($this->subjects->model, $starts);
        $this->analysis = Analyser::analyse($this->model);
        foreach ($this->all as $e) {
            foreach (['of', 'other'] as $field) {
                $id = $this->subjects->id($e, $field);
                if ($id !== null && ! $this->analysis->canCompute($id)) {
                    $this->unreadable[$e->id] = $this->reason($id);
                } elseif ($id !== null && ($this->analysis->extents[$id] ?? []) !== []) {
                    $this->unreadable[$e->id] =
                        'It is about one number, and this has one for each element: name an element, or gather them.';
                }
            }
        }
    }

    private function reason(string $id): string
    {
        foreach ($this->analysis->problems as $problem) {
            if ($problem->element === $id) {
                return $problem->sentence;
            }
        }
        $waits = $this->analysis->waiting[$id] ?? null;

        return $waits === null ? 'It cannot be computed.' : "It waits for `{$this->model->nameOf($waits)}`.";
    }

    /**
     * @param  ?list<Expectation>  $all  those of the model where nothing is said
     * @param  Setting  $base  under which all are looked at, where they say nothing else themselves
     * @param  ?int  $until  nanoseconds of hrtime() after which no more of many runs are made
     * @return list<Told> `holds` is null where it cannot be checked
     */
    public static function check(
        Simulator $simulator,
        Model $model,
        ?array $all = null,
        Setting $base = new Setting(),
        ?int $until = null,
    ): array {
        $all ??= array_values(
            array_filter($model->part('expectations'), static fn (mixed $e): bool => $e instanceof Expectation && ! $e->off),
        );
        usort($all, static fn (Expectation $a, Expectation $b): int => $a->place <=> $b->place);
        $checks = new self($simulator, $model, $all, $base, $until);

        return array_map($checks->checked(...), $all);
    }

    /** @return Told */
    private function checked(Expectation $e): array
    {
        try {
            return $this->one($e);
        } catch (RunRefused|NotUnderstood $refused) {
            return $this->told($e, null, null, null, $refused->getMessage());
        }
    }

    /**
     * @return Told
     *
     * @throws RunRefused|NotUnderstood
     */
    private function one(Expectation $e): array
    {
        $hindrance = $this->unreadable[$e->id] ?? $this->hindrance($e);
        if ($hindrance !== null) {
            return $this->told($e, null, null, null, $hindrance);
        }
        $isAgainst = in_array($e->shape, ['never-more', 'never-less'], true);
        $with = $this->prepared($this->conditions($e));
        $without = $isAgainst ? $this->prepared($this->without($e)) : null;
        if (is_string($with) || is_string($without)) {
            return $this->told($e, null, null, null, is_string($with) ? $with : $without);
        }
        if ($e->runs > 0) {
            return $this->inRuns($e, $with, $without);
        }
        $verdict = $this->verdict($e, $this->run($this->conditions($e)), $without === null ? null : $this->run($this->without($e)));

        return $this->told($e, ...$verdict);
    }

    /**
     * @param  array{failed: int, values: array<string, float>, seed: int}|null  $worst  of many runs
     * @return Told
     */
    private function told(Expectation $e, ?bool $holds, ?float $at, ?float $by, string $sentence, ?array $worst = null): array
    {
        return [
            'id' => $e->id,
            'name' => $e->name,
            'holds' => $holds,
            'at' => $at === null ? null : Shown::time($at),
            'by' => $by,
            'sentence' => $sentence,
            'worst' => $worst,
        ];
    }

    /**
     * In many runs with draws of what is uncertain, all of them under the same for each expectation.
     *
     * @return Told
     */
    private function inRuns(Expectation $e, PreparedRun $with, ?PreparedRun $without): array
    {
        $plan = $this->plan($e->runs);
        if ($plan->laws === []) {
            return $this->told($e, null, null, null, 'Nothing is uncertain in this model, so that there are no such runs.');
        }
        $allowed = Watch::mayFail($e->part, $e->runs);
        $failed = $done = 0;
        $worst = null;
        $most = -INF;
        for (; $done < $e->runs && ($this->until === null || hrtime(true) < $this->until); $done++) {
            $drawn = $plan->values($done);
            $values = [...$drawn, ...self::values($this->analysis, $e, [...$this->base->parameters, ...$drawn])];
            $seed = $plan->seedOf($done);
            $verdict = $this->verdict($e, $with->run($values, $seed), $without?->run($drawn, $seed));
            $size = $verdict[2] ?? 0.0;
            if ($verdict[0] !== true) {
                $failed++;
                if ($size > $most) {
                    [$most, $worst] = [$size, [$verdict, ['values' => $values, 'seed' => $seed, 'drawn' => $drawn]]];
                }
            }
        }
        $isKnown = $done === $e->runs || $failed > $allowed;
        $held = number_format($done - $failed).' of '.number_format($done).' runs';
        if ($worst === null) {
            $sentence = $isKnown
                ? 'It holds in all '.number_format($done).' runs.'
                : "It held in $held, then time was up: expect it of fewer.";

            return $this->told($e, $isKnown ? true : null, null, null, $sentence);
        }
        [[, $at, $by, $words], $run] = $worst;
        $names = array_map(fn (string $key): string => $this->analysis->nameOf($key), array_map(strval(...), array_keys($run['drawn'])));
        $drawn = implode(', ', array_map(static fn (string $n, float $v): string => "$n ".Shown::brief($v), $names, $run['drawn']));
        $sentence = "It holds in $held".($isKnown ? '' : ', then time was up')."; at the worst, with $drawn: $words";

        return $this->told($e, $isKnown ? $failed <= $allowed : null, $at, $by, $sentence, [
            'failed' => $failed,
            'values' => $run['values'],
            'seed' => $run['seed'],
        ]);
    }

    private function plan(int $runs): EnsemblePlan
    {
        return $this->plans[$runs] ??= EnsemblePlan::ofStudy(
            $this->own->part('uncertain'),
            $this->own->part('rankPairs'),
            array_map(strval(...), array_keys($this->base->parameters)),
            'latin',
            $runs,
            $this->base->seed ?? 1,
        );
    }

    /**
     * Whether one run is as it must be.
     *
     * @return array{?bool, ?float, ?float, string} whether it is; when, by how much it is not, and a sentence
     */
    private function verdict(Expectation $e, Trajectory $run, ?Trajectory $without): array
    {
        if ($run->fault !== null) {
            return [false, $run->fault->time, null, $run->fault->sentence()];
        }
        if ($e->shape === 'sound') {
            return $this->sound($run);
        }
        $of = $this->subjects->id($e, 'of') ?? '';
        $others = $e->shape === 'near' ? $run->column($this->subjects->id($e, 'other') ?? $of) : [];
        if ($without !== null) {
            if ($without->fault !== null || $without->length() !== $run->length()) {
                return [null, null, null, 'The run without the change cannot be compared: it ends elsewhere, or meets a fault.'];
            }
            $others = $without->column($of);
        }
        $watch = Watch::of($e, $run->times(), $run->column($of), $others, $this->moment(...));
        $subject = $e->of->text($this->own->nameOf(...));

        return [$watch->holds, $watch->at, $watch->by, $watch->words === '' ? 'It holds.' : ucfirst("$subject: $watch->words.")];
    }

    private function moment(float $time): string
    {
        return trim("{$this->own->time->unit} ".Shown::number((float) sprintf('%.6g', $time)));
    }

    /** @return array{bool, ?float, ?float, string} */
    private function sound(Trajectory $run): array
    {
        foreach ($this->stocks() as $key) {
            $values = $run->has($key) ? $run->column($key) : [];
            $fallen = Watch::fallen($values);
            foreach ($fallen > 0.0 ? $values : [] as $i => $v) {
                if ($v < -Watch::noise($values)) {
                    $at = $run->times()[$i];

                    return [false, $at, $fallen, "`{$this->analysis->nameOf($key)}` is below 0 from {$this->moment($at)} on."];
                }
            }
        }

        return [true, null, null, 'The run comes to its end, and no stock that begins above 0 falls below.'];
    }

    /** @return list<string> */
    private function stocks(): array
    {
        $keys = [];
        foreach ($this->own->elements as $id => $element) {
            if ($element instanceof Stock && $this->analysis->canCompute($id)) {
                array_push($keys, ...$this->analysis->positions->first($id, Watch::MOST_ELEMENTS));
            }
        }

        return $keys;
    }

    /** What of its conditions cannot be met; null where all can. */
    private function hindrance(Expectation $e): ?string
    {
        if ($e->shape !== 'sound' && $e->of->isEmpty()) {
            return 'It does not say of what yet. Choose a variable, or write an expression.';
        }
        if ($e->shape === 'near' && $e->other->isEmpty()) {
            return 'It does not say near to what yet. Choose a variable, or write an expression.';
        }
        foreach ([...array_keys($e->when->parameters), ...array_keys($e->factors)] as $key) {
            if ($this->analysis->parameter((string) $key) === null) {
                return 'It is about another value of a parameter that is not there any more. Take this condition away, or choose another.';
            }
        }
        foreach (array_keys($e->factors) as $key) {
            if (($this->analysis->extents[$key] ?? []) !== []) {
                return "`{$this->own->nameOf((string) $key)}` has several elements: say for each which value it has.";
            }
        }
        foreach (array_keys($e->starts) as $id) {
            if (Starts::plain($this->own, (string) $id) === null) {
                $name = $this->own->nameOf((string) $id);

                return $name === null
                    ? 'It is about another start of a stock that is not there any more. Take this condition away, or choose another.'
                    : "The initial value of `$name` is no plain number, so it cannot start elsewhere. Change what it follows from instead.";
            }
        }
        foreach (array_keys($e->when->grips) as $key) {
            if ($this->own->element(Key::ownerOf((string) $key)) === null) {
                return 'It takes something by hand that is not there any more. Take this condition away, or choose another.';
            }
        }

        return null;
    }

    /** The setting in which it must hold; other starts are parameters of the model that is looked at. */
    private function conditions(Expectation $e): Setting
    {
        $parameters = self::values($this->analysis, $e, $this->base->parameters);
        foreach ($e->starts as $id => $value) {
            $parameters[Starts::parameter((string) $id)] = $value;
        }

        return (new Setting($parameters))->over($e->when)->over($this->base);
    }

    /**
     * What an expectation gives to parameters.
     *
     * @param  array<string, float>  $own  what they have without it, where that is not what the model says
     * @return array<string, float>
     */
    private static function values(Analysis $analysis, Expectation $e, array $own = []): array
    {
        $values = $e->when->parameters;
        foreach ($e->factors as $id => $factor) {
            $values[$id] = ($values[$id] ?? ($own[$id] ?? (float) $analysis->parameter($id))) * $factor;
        }

        return $values;
    }

    /**
     * The run that an expectation is about, as a setting of the model itself; null where that cannot be: with another start.
     *
     * @param  array{failed: int, values: array<string, float>, seed: int}|null  $worst  of many runs the one that check() told
     */
    public static function setting(Analysis $analysis, Expectation $e, ?array $worst = null): ?Setting
    {
        return match (true) {
            $e->starts !== [] => null,
            $worst === null => (new Setting(self::values($analysis, $e)))->over($e->when),
            default => (new Setting($worst['values'], seed: $worst['seed']))->over($e->when),
        };
    }

    /** What it is held against: the run as it is, but over the same time. */
    private function without(Expectation $e): Setting
    {
        return (new Setting(time: $e->when->time, seed: $e->when->seed, limits: $e->when->limits))->over($this->base);
    }

    /** Only of what prepared() gave. */
    private function run(Setting $setting): Trajectory
    {
        $prepared = $this->prepared($setting);
        assert($prepared instanceof PreparedRun);

        return $this->runs[self::keyOf($setting)] ??= $prepared->run();
    }

    private static function keyOf(Setting $setting): string
    {
        return json_encode($setting->toRecord(), JSON_PARTIAL_OUTPUT_ON_ERROR) ?: '';
    }

    /** @return PreparedRun|string a run at every step, or why there is none */
    private function prepared(Setting $setting): PreparedRun|string
    {
        return $this->prepared[self::keyOf($setting)] ??= $this->making($setting);
    }

    private function making(Setting $setting): PreparedRun|string
    {
        try {
            $trial = Trial::of($this->model, $setting);
            $s = $trial->settings;
            $time = ($s->time ?? $trial->analysis->model->time)->with(['saveEvery' => null]);
            $wanted = array_values(
                array_filter(array_unique([...$this->subjects->all(), ...$this->stocks()]), $trial->analysis->canCompute(...)),
            );
            $wanted = array_values(
                array_filter(
                    $wanted,
                    static fn (string $k): bool => ($trial->analysis->extents[$k] ?? []) === [] || str_contains($k, '['),
                ),
            );

            return $this->simulator->prepare(
                $trial->analysis,
                new RunOptions($s->parameters, $time, $s->seed, $s->grain, $s->watch),
                $wanted,
                max([1, ...array_map(static fn (Expectation $e): int => $e->runs, $this->all)]),
            );
        } catch (RunRefused|NotUnderstood $e) {
            return $e->getMessage();
        }
    }
}
