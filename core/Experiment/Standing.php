<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Experiment;

use MerryOrbit\Core\Model\Dimension;
use MerryOrbit\Core\Model\Mapping;
use MerryOrbit\Core\Model\Model;
use MerryOrbit\Core\Model\Parameter;
use MerryOrbit\Core\Model\Roster;
use MerryOrbit\Core\Model\Table;
use MerryOrbit\Core\Problem\NotUnderstood;
use MerryOrbit\Core\Roster\Crew;
use MerryOrbit\Core\Simulate\RunRefused;
use MerryOrbit\Core\Simulate\Simulator;
use MerryOrbit\Core\Simulate\Trajectory;
use MerryOrbit\Core\Simulate\Walker;

/**
 * A model with members that come and go as it stands at one moment of a run: the members that are there are the elements of a dimension
 * as any other, with what each has, and nobody comes or goes. So it can be told what moves a value, through each of them.
 *
 * The moment is the saved one nearest to the time at which it is known what each has.
 */
final readonly class Standing
{
    private function __construct(public Trial $trial, public Walker $walker, public int $index)
    {
    }

    /**
     * @return ?self null if the run does not get there
     *
     * @throws NotUnderstood|RunRefused
     */
    public static function at(Simulator $simulator, Trial $trial, float $time): ?self
    {
        foreach ($trial->analysis->shaped->extents->rosters->all ?? [] as $roster) {
            if ($roster->roster->ties !== []) {
                throw NotUnderstood::because(
                    "Who is related to whom changes among members of `$roster->name`: what a value is made of cannot be followed here.",
                );
            }
        }
        $run = $trial->run($simulator);
        $moment = self::momentAt($run, $time);
        if ($moment === null || $run->crews === []) {
            return null;
        }
        $own = [];
        foreach ($run->crews as $dimension => $crew) {
            foreach ($trial->analysis->extents as $key => $extent) {
                if (in_array((string) $dimension, $extent, true) && $trial->model()->element((string) $key) instanceof Parameter) {
                    $own[] = (string) $key;
                }
            }
        }
        $still = $trial->under(self::still($trial->model(), $run, $moment), $own);
        $plan = $still->analysis->plan();
        foreach ($plan->cells as $cell) {
            $name = $still->model()->nameOf($plan->keys->owner($cell->key)) ?? '';
            throw NotUnderstood::because(
                "`$name` remembers what has been, by `$cell->kind`, and members come and go: what a value is made of cannot be followed here.",
            );
        }
        $states = [];
        foreach (array_keys($plan->states) as $key) {
            $value = self::valueAt($still, $run, (string) $key, $moment);
            if ($value === null) {
                return null;
            }
            $states[(string) $key] = $value;
        }
        $settings = $still->model()->time;
        $index = (int) round(($run->times()[$moment] - $settings->start) / $settings->step);
        $walker = $simulator->walkerFrom($still->analysis, $still->settings, $states, $index);

        return $walker === null ? null : new self($still, $walker, $index);
    }

    private static function momentAt(Trajectory $run, float $time): ?int
    {
        $known = null;
        foreach ($run->crews as $crew) {
            $known = array_intersect($known ?? $crew->moments(), $crew->moments());
        }
        $best = null;
        foreach ($known ?? [] as $moment) {
            $at = $run->times()[$moment] ?? INF;
            $best = $best === null || abs($at - $time) < abs($run->times()[$best] - $time) ? $moment : $best;
        }

        return $best;
    }

    private static function still(Model $model, Trajectory $run, int $moment): Model
    {
        [$dimensions, $tables, $mappings] = [$model->dimensions, $model->part('tables'), $model->part('mappings')];
        foreach ($run->crews as $of => $crew) {
            $there = array_map(
                static fn (int $n): array => $crew->members[$n],
                array_combine($crew->present[$moment], $crew->present[$moment]),
            );
            $ids = array_column($there, 'id');
            $dimensions = array_map(
                static fn (Dimension $d): Dimension => $d->id === (string) $of
                    ? new Dimension($d->id, $d->name, $ids, array_column($there, 'name'))
                    : $d,
                $dimensions,
            );
            foreach ($mappings as $id => $mapping) {
                if ($mapping instanceof Mapping && $mapping->from === (string) $of) {
                    $mappings[$id] = self::mapped($mapping, $crew, $there, $run->crews[$mapping->to] ?? null, $moment);
                }
            }
            foreach (array_keys($crew->attributes) as $key) {
                if ($model->element((string) $key) instanceof Parameter) {
                    $has = $crew->at((string) $key, $moment);
                    $tables = array_filter($tables, static fn (mixed $t): bool => ! ($t instanceof Table) || $t->of !== (string) $key);
                    $values = array_map(
                        static fn (int $n): array => [[$there[$n]['id']], $has[$n]],
                        array_keys(array_intersect_key($there, $has)),
                    );
                    $tables["at-$key"] = new Table("at-$key", (string) $key, $values);
                }
            }
        }
        $closed = array_map(
            static fn (mixed $r): mixed => $r instanceof Roster
                ? $r->changed(['entries' => [], 'exits' => [], 'hands' => [], 'ties' => [], 'since' => ''])
                : $r,
            $model->part('rosters'),
        );

        return $model->with(['dimensions' => $dimensions, 'tables' => $tables, 'mappings' => $mappings, 'rosters' => $closed]);
    }

    /**
     * @param  array<int, array{id: string}>  $there  by number
     * @param  ?Crew  $others  to whom a relation leads
     */
    private static function mapped(Mapping $mapping, Crew $crew, array $there, ?Crew $others, int $moment): Mapping
    {
        $pairs = [];
        if ($others !== null) {
            // Who came later is related to nobody, where ties are not made on the way.
            $ids = array_flip(array_column($there, 'id'));
            $looking = array_flip(array_map(static fn (int $n): string => $others->members[$n]['id'], $others->present[$moment] ?? []));
            $pairs = array_filter($mapping->pairs, static fn (array $p): bool => isset($ids[$p[0]], $looking[$p[1]]));
        } else {
            foreach ($there as $number => $member) {
                $to = $crew->belongs[$mapping->id][$number] ?? '';
                $pairs = $to === '' ? $pairs : [...$pairs, [$member['id'], $to, 1.0]];
            }
        }

        return new Mapping($mapping->id, $mapping->name, $mapping->from, $mapping->to, array_values($pairs));
    }

    /** What a state has at a saved moment: of a member, by what it is known by. */
    private static function valueAt(Trial $still, Trajectory $run, string $key, int $moment): ?float
    {
        $plan = $still->analysis->plan();
        $at = $plan->keys->of($key)->at;
        $whole = $at === [] ? $key : substr($key, 0, -strlen('['.implode(',', $at).']'));
        foreach ($run->crews as $of => $crew) {
            if ($at !== [] && isset($crew->values[$whole])) {
                $number = array_search($at[0], array_column($crew->members, 'id'), true);
                $values = count($at) === 1 && $number !== false ? $crew->at($whole, $moment) : [];

                return $values[$number] ?? null;
            }
        }
        if ($plan->keys->isHidden($key)) {
            $held = $run->memory[$whole][$moment] ?? null;

            return is_float($held) && $at === [] ? $held : null;
        }

        return $run->value($key, $moment);
    }
}
