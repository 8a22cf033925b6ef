<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Experiment;

use MerryOrbit\Core\Analysis\Analysis;
use MerryOrbit\Core\Model\Dimension;
use MerryOrbit\Core\Model\Mapping;
use MerryOrbit\Core\Model\Model;
use MerryOrbit\Core\Model\Roster;
use MerryOrbit\Core\Problem\NotUnderstood;
use MerryOrbit\Core\Roster\Crew;
use MerryOrbit\Core\Simulate\Trajectory;

/**
 * The members of a roster during a run: who there was, who was there when, and what each had. The same for those that come and go and for
 * those that all stay.
 *
 * @phpstan-import-type Member from Crew
 *
 * @phpstan-type Row array{id: string, name: string, from: ?float, to: ?float, how: string, why: string, number: int, belongs: array<string, string>, values: array<string, ?float>}
 */
final class Muster
{
    private readonly ?Crew $crew;

    /** @var array<string, string>|null */
    private ?array $columns = null;

    private function __construct(public readonly Analysis $analysis, public readonly Trajectory $run, public readonly Dimension $of)
    {
        $this->crew = $run->crews[$of->id] ?? null;
    }

    /**
     * @param  string  $called  a roster, by the name or the id of its dimension, or its own id
     *
     * @throws NotUnderstood
     */
    public static function of(Analysis $analysis, Trajectory $run, string $called): self
    {
        return new self($analysis, $run, self::find($analysis->model, $called));
    }

    /** @throws NotUnderstood */
    public static function find(Model $model, string $called): Dimension
    {
        $rosters = array_filter($model->part('rosters'), static fn (mixed $r): bool => $r instanceof Roster);
        $dimensions = $model->dimensions();
        $wanted = $dimensions->find($called)->id ?? null;
        foreach ($rosters as $roster) {
            $own = $dimensions->find($roster->of);
            if ($own !== null && ($roster->id === $called || $own->id === $wanted)) {
                return $own;
            }
        }
        $names = array_map(static fn (Roster $r): string => '`'.$dimensions->nameOf($r->of).'`', array_values($rosters));
        throw NotUnderstood::because(
            $names === []
                ? 'This study has no roster: no dimension of it has members.'
                : "There is no roster called `$called`. There ".
                    (count($names) === 1 ? "is $names[0]." : 'are '.implode(', ', $names).'.'),
        );
    }

    /** @return array<string, string> what each member has: names by key, attributes first */
    public function columns(): array
    {
        if ($this->columns === null) {
            $first = $then = [];
            foreach ($this->analysis->model->elements as $id => $element) {
                $id = (string) $id;
                if (($this->analysis->extents[$id] ?? []) === [$this->of->id] && $this->analysis->canCompute($id)) {
                    $isSteady = isset($this->analysis->parameters[$id]);
                    $isSteady ? ($first[$id] = $element->name) : ($then[$id] = $element->name);
                }
            }
            $this->columns = [...$first, ...$then];
        }

        return $this->columns;
    }

    /** @return array<string, Mapping> where members belong, by id of the mapping */
    public function belongs(): array
    {
        $all = [];
        foreach ($this->analysis->model->mappings() as $mapping) {
            if ($mapping->from === $this->of->id && $mapping->to !== $this->of->id && ! isset($this->run->crews[$mapping->to])) {
                $all[$mapping->id] = $mapping;
            }
        }

        return $all;
    }

    /** @return array<int, Member> by number */
    public function members(): array
    {
        if ($this->crew !== null) {
            return $this->crew->members;
        }
        $dimensions = $this->analysis->model->dimensions();

        return array_map(
            fn (string $id): array => [
                'id' => $id,
                'name' => $dimensions->elementName($this->of->id, $id),
                'from' => null,
                'to' => null,
                'how' => '',
                'why' => '',
            ],
            $dimensions->elements($this->of->id),
        );
    }

    /**
     * The saved moments at which it is known what each has.
     *
     * @param  ?string  $key  of what; null for all that they have
     * @return list<int>
     */
    public function moments(?string $key = null): array
    {
        return $this->crew?->moments($key) ?? array_keys($this->run->times());
    }

    /** The saved moment nearest to a time of those at which it is known what each has. */
    public function momentAt(float $time): int
    {
        $times = $this->run->times();
        $best = 0;
        foreach ($this->moments() as $moment) {
            $best = abs(($times[$moment] ?? INF) - $time) <= abs(($times[$best] ?? INF) - $time) ? $moment : $best;
        }

        return $best;
    }

    /** @return list<int> numbers of those who are there at a saved moment, in the order in which they came */
    public function present(int $moment): array
    {
        $there = $this->crew === null ? array_keys($this->members()) : $this->crew->present[$moment] ?? [];
        sort($there);

        return $there;
    }

    /** @return array<int, float> by number, what those have who are there at a saved moment */
    public function at(string $key, int $moment): array
    {
        if ($this->crew !== null) {
            return $this->crew->at($key, $moment);
        }
        $all = [];
        foreach ($this->members() as $number => $member) {
            $value = $this->run->value("{$key}[{$member['id']}]", $moment) ?? $this->analysis->parameter("{$key}[{$member['id']}]");
            $all += $value === null ? [] : [$number => $value];
        }

        return $all;
    }

    /** @return array<int, string> by number, the name of what each belongs to */
    public function belonging(Mapping $mapping): array
    {
        $dimensions = $this->analysis->model->dimensions();
        $ids = $this->crew->belongs[$mapping->id] ?? [];
        foreach ($this->crew === null ? $this->members() : [] as $number => $member) {
            foreach ($mapping->pairs as [$one, $to]) {
                if ($one === $member['id']) {
                    $ids[$number] = $to;
                }
            }
        }

        return array_map(static fn (string $id): string => $dimensions->elementName($mapping->to, $id), $ids);
    }

    /**
     * One row for each who is there at a saved moment.
     *
     * @return list<Row>
     */
    public function rows(int $moment): array
    {
        $members = $this->members();
        $values = [];
        foreach (array_keys($this->columns()) as $key) {
            $values[$key] = $this->at($key, $moment);
        }
        $belongs = array_map($this->belonging(...), $this->belongs());
        $rows = [];
        foreach ($this->present($moment) as $number) {
            $rows[] = [
                ...$members[$number],
                'number' => $number,
                'belongs' => array_map(static fn (array $all): string => $all[$number] ?? '', $belongs),
                'values' => array_map(static fn (array $all): ?float => $all[$number] ?? null, $values),
            ];
        }

        return $rows;
    }
}
