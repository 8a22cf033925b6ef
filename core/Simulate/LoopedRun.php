<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Simulate;

use MerryOrbit\Core\Analysis\Analysis;
use MerryOrbit\Core\Compile\Loops\LoopCompiler;
use MerryOrbit\Core\Compile\Program;
use MerryOrbit\Core\Compile\ProgramStore;
use MerryOrbit\Core\Library\Moment;
use MerryOrbit\Core\Model\Dimensions;
use MerryOrbit\Core\Model\TimeSettings;
use MerryOrbit\Core\Roster\Crew;
use MerryOrbit\Core\Roster\OpenRoster;
use MerryOrbit\Core\Shape\ShapedPlan;

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
        } elseif ($run->ending === Program::CROWDED) {
            $fault = $this->crowded($done);
        } elseif ($run->ending === Program::ENDED) {
            $times = [...array_slice($times, 0, max(0, $moments - 1)), $this->time->timeAt($done)];
        }
        $constants = $run->constants === [] ? [] : array_combine($this->program->constants, $run->constants);
        /** @var array<string, float|list<float>> $steady */
        $steady = array_filter(
            [...$this->parameters->values, ...$constants],
            fn (string $k): bool => ! $this->analysis->outline()->keys->isHidden($k) && $this->analysis->shaped?->roster($k) === null,
            ARRAY_FILTER_USE_KEY,
        );
        $single = array_filter($steady, is_float(...));
        [$columns, $moving, $memory] = $this->apart($run, $moments);

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
            $this->crews($run),
            $memory,
        );
    }

    /**
     * @return array{array<string, list<float>>, array<string, list<list<float>>>, array<string, list<float|list<float>>>} columns of
     *     numbers, of lists, and of what is hidden
     */
    private function apart(StepwiseRun $run, int $moments): array
    {
        $columns = $moving = $memory = [];
        foreach ($this->program->columns as $k => $key) {
            $all = array_slice($run->values->column($k), 0, $moments);
            if ($this->analysis->outline()->keys->isHidden($key)) {
                $memory[$key] = $all;
            } elseif ($this->analysis->positions->isShaped($key)) {
                /** @var list<list<float>> $all */
                $moving[$key] = $all;
            } else {
                $columns[$key] = $all;
            }
        }

        return [$columns, $moving, $memory];
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

    /** @return array<string, Crew> by dimension */
    private function crews(StepwiseRun $run): array
    {
        [$told, $values] = $run->members;
        $shaped = $this->analysis->shaped ?? throw new \LogicException('Only what has elements runs in loops.');
        $crews = [];
        foreach ($shaped->extents->rosters->all as $id => $roster) {
            /** @var array{list<array{int, string, int, int}>, list<array{int, int, int}>, array<int, list<int>>, array<string, array{float, float}>, array<string, array<int, float>>, array<string, array<int, int>>, int} $own */
            $own = $told[$id] ?? [[], [], [], [], [], [], 0];
            [$came, $left, $present, $sums, $attributes, $belongs] = $own;
            $mine = array_filter($values, static fn (string $k): bool => $shaped->roster($k) === $roster, ARRAY_FILTER_USE_KEY);
            $ids = [];
            foreach ($roster->belongs as $mapping => $one) {
                $elements = $shaped->extents->dimensions->elements($one->to);
                $ids[(string) $mapping] = array_map(static fn (int $at): string => $elements[$at] ?? '', $belongs[$mapping] ?? []);
            }
            $crews[(string) $id] = new Crew(
                (string) $id,
                $this->members($roster, $came, $left),
                $present,
                $mine,
                $attributes,
                $ids,
                $sums,
            );
        }

        return $crews;
    }

    /**
     * @param  list<array{int, string, int, int}>  $came  number, id, step and entry
     * @param  list<array{int, int, int}>  $left  number, step and exit
     * @return array<int, array{id: string, name: string, from: ?float, to: ?float, how: string, why: string}>
     */
    private function members(OpenRoster $roster, array $came, array $left): array
    {
        $dimensions = $this->analysis->shaped->extents->dimensions ?? new Dimensions([]);
        $members = [];
        foreach ($roster->listed as $number => $id) {
            $name = $dimensions->elementName($roster->dimension, $id);
            $members[$number] = ['id' => $id, 'name' => $name, 'from' => null, 'to' => null, 'how' => '', 'why' => ''];
        }
        foreach ($came as [$number, $id, $step, $entry]) {
            $members[$number] = [
                'id' => $id,
                // Whom nobody named is called by its number.
                'name' => $members[$number]['name'] ?? "$roster->name ".($number + 1),
                'from' => $this->time->timeAt($step),
                'to' => null,
                'how' => $entry < 0 ? '' : $roster->roster->entries[$entry]['words'],
                'why' => '',
            ];
        }
        foreach ($left as [$number, $step, $exit]) {
            $gone = ['to' => $this->time->timeAt($step), 'why' => $roster->roster->exits[$exit - 1]['words']];
            $members[$number] = [...$members[$number] ?? throw new \LogicException('Nobody leaves who was not there.'), ...$gone];
        }

        return $members;
    }

    private function crowded(int $step): NumericFault
    {
        $all = $this->analysis->shaped->extents->rosters->all ?? [];
        $most = static fn (OpenRoster $r): string => 'more than '.number_format($r->roster->most)." of `$r->name`";

        return new NumericFault(
            '',
            $this->analysis->model->name,
            $this->time->timeAt($step),
            'there would be '.
                implode(' or ', array_map($most, array_values($all))).
                '. Look at how many enter and leave, or allow more at a time.',
            [],
            $this->time->unit,
            true,
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

        $first = $keys[0] ?? '';
        $odd = self::chanceBelowZero($shaped, $values);
        if ($odd !== null) {
            return NumericFault::of(
                $this->analysis->model,
                $shaped->plan,
                $odd,
                'a value below 0 for one of the members, which cannot be a chance',
                $moment->time,
                $this->time->unit,
                [],
            );
        }
        if ($shaped->roster($first) !== null) {
            return new NumericFault(
                $shaped->plan->keys->owner($first),
                $shaped->plan->keys->nameOf($first, $this->analysis->model),
                $moment->time,
                'a number that cannot be computed, for one of the members',
                [],
                $this->time->unit,
            );
        }

        return (new LoopFault($this->analysis, $shaped, $this->time, $values, $moment, $run->step === -1))->found($keys, $element);
    }

    /**
     * What rosters go by as a chance and is below zero, by its key.
     *
     * @param  array<string, float|list<float>>  $values
     */
    private static function chanceBelowZero(ShapedPlan $shaped, array $values): ?string
    {
        foreach ($shaped->extents->rosters->all as $roster) {
            $rules = $roster->roster;
            $leaving = array_filter($rules->exits, static fn (array $e): bool => $e['kind'] === 'chance');
            foreach (
                [...array_column($leaving, 'of'), ...array_column($rules->ties, 'made'), ...array_column($rules->ties, 'ended')] as $key
            ) {
                if (array_filter((array) ($values[$key] ?? []), static fn (float $v): bool => $v < 0.0) !== []) {
                    return $key;
                }
            }
        }

        return null;
    }
}
