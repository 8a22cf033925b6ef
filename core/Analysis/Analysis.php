<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Analysis;

use MerryOrbit\Core\Expand\Expanded;
use MerryOrbit\Core\Expand\Origin;
use MerryOrbit\Core\Formula\Node\Node;
use MerryOrbit\Core\Model\Kind;
use MerryOrbit\Core\Model\Model;
use MerryOrbit\Core\Plan\Plan;
use MerryOrbit\Core\Plan\Positions;
use MerryOrbit\Core\Problem\Problem;
use MerryOrbit\Core\Problem\Severity;

/** What a model means: its formulas read, its links, the order in which it is computed, and what is wrong with it. */
final readonly class Analysis
{
    /**
     * @param  array<string, Node>  $nodes  the formulas that could be read, by element id
     * @param  array<string, list<string>>  $uses  by element id, the ids its formula mentions
     * @param  array<string, float>  $parameters  the values of the parameters, by id
     * @param  array<string, string>  $waiting  by id of what cannot be computed, the id of what it waits for (perhaps itself)
     * @param  list<Problem>  $problems
     * @param  array<string, list<string>>  $extents  by element id, ids of the dimensions that it extends over; what is not in it is a single number
     * @param  Positions  $positions  which keys stand for an element that has some
     * @param  ?Expanded  $expanded  how `$model` came about, which is the document's in which all has become ordinary elements
     * @param  ?Model  $source  the document's, if it is another
     */
    public function __construct(
        public Model $model,
        public array $nodes,
        public array $uses,
        public array $parameters,
        public Plan $plan,
        public array $waiting,
        public array $problems,
        public array $extents = [],
        public Positions $positions = new Positions(),
        public ?Expanded $expanded = null,
        public ?Model $source = null,
    ) {
    }

    /** @return array<string, Origin> by element id, of what was made of something else */
    public function origins(): array
    {
        return $this->expanded->origins ?? [];
    }

    /**
     * @param  list<Problem>  $problems
     * @return list<Problem> leading to where what they are about comes from
     */
    public function led(array $problems): array
    {
        return $this->expanded?->led($problems) ?? $problems;
    }

    /**
     * The columns of results: an element, or each of its elements along dimensions as `name[north, old]`.
     *
     * @param  list<string>|null  $only  ids of elements, or keys; null for all
     * @return array<string, string> names by key, in the order of definition
     */
    public function columns(?array $only = null): array
    {
        $wanted = $only === null ? null : array_flip($only);
        $columns = [];
        foreach ($this->model->elements as $id => $element) {
            foreach ($this->positions->of($id) as $key) {
                if ($wanted === null || isset($wanted[$id]) || isset($wanted[$key])) {
                    $columns[$key] = $this->nameOf($key);
                }
            }
        }

        return $columns;
    }

    /** What a key is called: the name of its element, and behind it where along its dimensions it stands. */
    public function nameOf(string $key): string
    {
        return $this->plan->keys->nameOf($key, $this->model);
    }

    /**
     * The elements of a value that extends over dimensions.
     *
     * @return list<array{key: string, name: string}> none of a single number
     */
    public function partsOf(string $id, int $most): array
    {
        return array_map(
            fn (string $key): array => ['key' => $key, 'name' => trim($this->plan->keys->of($key)->shown, '[]')],
            array_slice($this->positions->keys[$id] ?? [], 0, $most),
        );
    }

    public function canCompute(string $id): bool
    {
        return ! isset($this->waiting[$id]);
    }

    /** @return list<Problem> those because of which something cannot be computed */
    public function blockers(): array
    {
        return array_values(array_filter($this->problems, static fn (Problem $p): bool => $p->severity !== Severity::Remark));
    }

    /**
     * The causal links: `now` from a formula, `start` from an initial value, `unused` drawn and waiting.
     *
     * @return list<array{from: string, to: string, kind: 'now'|'start'|'unused'}>
     */
    public function links(): array
    {
        $links = [];
        foreach ($this->model->elements as $id => $element) {
            foreach ($this->uses[$id] ?? [] as $used) {
                if ($used !== $id) {
                    $links[] = ['from' => $used, 'to' => $id, 'kind' => $element->kind() === Kind::Stock ? 'start' : 'now'];
                }
            }
        }
        foreach ($this->model->links as $link) {
            $links[] = ['from' => $link->from, 'to' => $link->to, 'kind' => 'unused'];
        }

        return $links;
    }
}
