<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Uncertain;

use MerryOrbit\Core\Analysis\Analyser;
use MerryOrbit\Core\Analysis\Analysis;
use MerryOrbit\Core\Experiment\Trial;
use MerryOrbit\Core\Formula\Name;
use MerryOrbit\Core\Formula\Reference;
use MerryOrbit\Core\Model\Auxiliary;
use MerryOrbit\Core\Model\Expectation;
use MerryOrbit\Core\Model\Model;
use MerryOrbit\Core\Model\Setting;
use MerryOrbit\Core\Model\Stock;
use MerryOrbit\Core\Plan\Key;
use MerryOrbit\Core\Problem\NotUnderstood;
use MerryOrbit\Core\Problem\Shown;
use MerryOrbit\Core\Simulate\RunOptions;
use MerryOrbit\Core\Simulate\RunRefused;
use MerryOrbit\Core\Simulate\Simulator;
use MerryOrbit\Core\Simulate\Trajectory;

/**
 * Checks what a model is expected to satisfy. What expectations speak of is added to the model as auxiliaries, so that one compiled
 * program serves all that take the same things by hand; the conditions are its arguments.
 */
final class Expectations
{
    /** @var array<string, string> by expectation and field, the id of what is looked at */
    private array $ids = [];

    /** @var array<string, string> by expectation, why it cannot be checked */
    private array $unreadable = [];

    /** @var array<string, Trajectory|string> runs by what they are of, or why there is none */
    private array $runs = [];

    private Model $model;

    private Analysis $analysis;

    /** @param  list<Expectation>  $all */
    private function __construct(
        private readonly Simulator $simulator,
        private readonly Model $own,
        private readonly array $all,
        private readonly Setting $base,
    ) {
        $this->model = $this->extended();
        $this->analysis = Analyser::analyse($this->model);
        foreach ($this->all as $e) {
            foreach (['of', 'other'] as $field) {
                $id = $this->ids["$e->id $field"] ?? null;
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
     * @return list<array{id: string, name: string, holds: ?bool, at: ?float, by: ?float, sentence: string}> `holds` is null where it cannot be checked
     */
    public static function check(Simulator $simulator, Model $model, ?array $all = null, Setting $base = new Setting()): array
    {
        $all ??= array_values(
            array_filter($model->part('expectations'), static fn (mixed $e): bool => $e instanceof Expectation && ! $e->off),
        );
        usort($all, static fn (Expectation $a, Expectation $b): int => $a->place <=> $b->place);
        $checks = new self($simulator, $model, $all, $base);

        return array_map($checks->one(...), $all);
    }

    /** The model with an auxiliary for each formula that is more than a name, and a parameter for each start that is another. */
    private function extended(): Model
    {
        $elements = $this->own->elements;
        $starts = [];
        foreach ($this->all as $e) {
            foreach (['of' => $e->of, 'other' => $e->other] as $field => $formula) {
                if ($formula->isEmpty()) {
                    continue;
                }
                $name = count($formula->pieces) === 1 ? $formula->pieces[0] : null;
                if ($name instanceof Reference && $name->id !== null && isset($elements[$name->id])) {
                    $this->ids["$e->id $field"] = $name->id;

                    continue;
                }
                $id = "$field-expected-of-$e->id";
                $elements[$id] = new Auxiliary($id, $this->free("expected of $e->id, $field"), $formula);
                $this->ids["$e->id $field"] = $id;
            }
            array_push($starts, ...array_map(strval(...), array_keys($e->starts)));
        }
        $model = $elements === $this->own->elements ? $this->own : $this->own->with(['elements' => $elements]);

        return Starts::opened($model, $starts);
    }

    private function free(string $name): string
    {
        while ($this->own->idOf(Name::key($name)) !== null) {
            $name .= ' x';
        }

        return $name;
    }

    /** @return array{id: string, name: string, holds: ?bool, at: ?float, by: ?float, sentence: string} */
    private function one(Expectation $e): array
    {
        $told = static fn (?bool $holds, ?float $at, ?float $by, string $sentence): array => [
            'id' => $e->id,
            'name' => $e->name,
            'holds' => $holds,
            'at' => $at === null ? null : Shown::time($at),
            'by' => $by,
            'sentence' => $sentence,
        ];
        $unit = $this->own->time->unit;
        $moment = static fn (float $t): string => trim("$unit ".Shown::number((float) sprintf('%.6g', $t)));
        $hindrance = $this->unreadable[$e->id] ?? $this->hindrance($e);
        if ($hindrance !== null) {
            return $told(null, null, null, $hindrance);
        }
        $run = $this->run($this->conditions($e));
        if (is_string($run)) {
            return $told(null, null, null, $run);
        }
        if ($run->fault !== null) {
            return $told(false, $run->fault->time, null, $run->fault->sentence());
        }
        if ($e->shape === 'sound') {
            return $this->sound($run, $told, $moment);
        }
        $of = $this->ids["$e->id of"] ?? '';
        $others = [];
        if ($e->shape === 'near') {
            $others = $run->column($this->ids["$e->id other"] ?? $of);
        } elseif (in_array($e->shape, ['never-more', 'never-less'], true)) {
            $without = $this->run($this->without($e));
            if (is_string($without) || $without->fault !== null || $without->length() !== $run->length()) {
                return $told(
                    null,
                    null,
                    null,
                    'The run without the change cannot be compared: '.
                        (is_string($without) ? $without : 'it ends elsewhere, or meets a fault.'),
                );
            }
            $others = $without->column($of);
        }
        $watch = Watch::of($e, $run->times(), $run->column($of), $others, $moment);
        $subject = $e->of->text($this->own->nameOf(...));

        return $told($watch->holds, $watch->at, $watch->by, $watch->words === '' ? 'It holds.' : ucfirst("$subject: $watch->words."));
    }

    /**
     * @param  \Closure(?bool, ?float, ?float, string): array{id: string, name: string, holds: ?bool, at: ?float, by: ?float, sentence: string}  $told
     * @param  \Closure(float): string  $moment
     * @return array{id: string, name: string, holds: ?bool, at: ?float, by: ?float, sentence: string}
     */
    private function sound(Trajectory $run, \Closure $told, \Closure $moment): array
    {
        foreach ($this->stocks() as $key) {
            $values = $run->has($key) ? $run->column($key) : [0.0];
            $noise = 1e-9 * max(array_map(abs(...), $values) ?: [0.0]);
            if ($values[0] < 0.0 || min($values) >= -$noise) {
                continue;
            }
            foreach ($values as $i => $v) {
                if ($v < -$noise) {
                    $at = $run->times()[$i];

                    return $told(false, $at, -min($values), "`{$this->analysis->nameOf($key)}` is below 0 from {$moment($at)} on.");
                }
            }
        }

        return $told(true, null, null, 'The run comes to its end, and no stock that begins above 0 falls below.');
    }

    /** @return list<string> */
    private function stocks(): array
    {
        $keys = [];
        foreach ($this->own->elements as $id => $element) {
            if ($element instanceof Stock && $this->analysis->canCompute($id)) {
                array_push($keys, ...$this->analysis->positions->first($id, 50));
            }
        }

        return $keys;
    }

    /** What of its conditions cannot be met; null where all can. */
    private function hindrance(Expectation $e): ?string
    {
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
        $parameters = self::values($this->analysis, $e);
        foreach ($e->starts as $id => $value) {
            $parameters[Starts::parameter((string) $id)] = $value;
        }

        return (new Setting($parameters))->over($e->when)->over($this->base);
    }

    /**
     * What an expectation gives to parameters.
     *
     * @return array<string, float>
     */
    private static function values(Analysis $analysis, Expectation $e): array
    {
        $values = $e->when->parameters;
        foreach ($e->factors as $id => $factor) {
            $values[$id] = ($values[$id] ?? (float) $analysis->parameter($id)) * $factor;
        }

        return $values;
    }

    /** The run that an expectation is about, as a setting of the model itself; null where that cannot be: with another start. */
    public static function setting(Analysis $analysis, Expectation $e): ?Setting
    {
        return $e->starts === [] ? (new Setting(self::values($analysis, $e)))->over($e->when) : null;
    }

    /** What it is held against: the run as it is, but over the same time. */
    private function without(Expectation $e): Setting
    {
        return (new Setting(time: $e->when->time, seed: $e->when->seed, limits: $e->when->limits))->over($this->base);
    }

    /** @return Trajectory|string the run at every step, or why there is none */
    private function run(Setting $setting): Trajectory|string
    {
        $key = json_encode($setting->toRecord(), JSON_PARTIAL_OUTPUT_ON_ERROR) ?: '';

        return $this->runs[$key] ??= $this->made($setting);
    }

    private function made(Setting $setting): Trajectory|string
    {
        try {
            $trial = Trial::of($this->model, $setting);
            $s = $trial->settings;
            $time = ($s->time ?? $trial->analysis->model->time)->with(['saveEvery' => null]);
            $wanted = array_values(
                array_filter(array_unique([...array_values($this->ids), ...$this->stocks()]), $trial->analysis->canCompute(...)),
            );
            $wanted = array_values(
                array_filter(
                    $wanted,
                    static fn (string $k): bool => ($trial->analysis->extents[$k] ?? []) === [] || str_contains($k, '['),
                ),
            );

            return $this->simulator
                ->prepare($trial->analysis, new RunOptions($s->parameters, $time, $s->seed, $s->grain, $s->watch), $wanted)
                ->run();
        } catch (RunRefused|NotUnderstood $e) {
            return $e->getMessage();
        }
    }
}
