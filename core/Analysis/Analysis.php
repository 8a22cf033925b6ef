<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Analysis;

use MerryOrbit\Core\Expand\Expanded;
use MerryOrbit\Core\Expand\Origin;
use MerryOrbit\Core\Formula\Node\Node;
use MerryOrbit\Core\Model\Kind;
use MerryOrbit\Core\Model\Model;
use MerryOrbit\Core\Plan\Key;
use MerryOrbit\Core\Plan\Plan;
use MerryOrbit\Core\Plan\Positions;
use MerryOrbit\Core\Problem\Problem;
use MerryOrbit\Core\Problem\Severity;
use MerryOrbit\Core\Shape\ShapedPlan;

/** What a model means: its formulas read, its links, the order in which it is computed, and what is wrong with it. */
final class Analysis
{
    private ?Plan $plan = null;

    /** @var array<string, array<string, float>> by parameter */
    private array $tables = [];

    /**
     * @param  array<string, Node>  $nodes  the formulas that could be read, by element id
     * @param  array<string, list<string>>  $uses  by element id, the ids its formula mentions
     * @param  array<string, float>  $parameters  the values of the parameters, by id; see parameter() for those of their elements
     * @param  Plan|\Closure(): Plan  $written  what is computed, one by one for every element along dimensions
     * @param  array<string, string>  $waiting  by id of what cannot be computed, the id of what it waits for (perhaps itself)
     * @param  list<Problem>  $problems
     * @param  array<string, list<string>>  $extents  by element id, ids of the dimensions that it extends over; what is not in it is a single number
     * @param  Positions  $positions  which keys stand for an element that has some
     * @param  ?Expanded  $expanded  how `$model` came about, which is the document's in which all has become ordinary elements
     * @param  ?Model  $source  the document's, if it is another
     * @param  ?ShapedPlan  $shaped  what is computed, with one equation for all elements; only of what is large
     */
    public function __construct(
        public readonly Model $model,
        public readonly array $nodes,
        public readonly array $uses,
        public readonly array $parameters,
        private readonly Plan|\Closure $written,
        public readonly array $waiting,
        public readonly array $problems,
        public readonly array $extents = [],
        public readonly Positions $positions = new Positions(),
        public readonly ?Expanded $expanded = null,
        public readonly ?Model $source = null,
        public readonly ?ShapedPlan $shaped = null,
    ) {
    }

    /** What is computed, one by one for every element along dimensions. Of what is large it takes long to write it out. */
    public function plan(): Plan
    {
        return $this->plan ??= $this->written instanceof Plan ? $this->written : ($this->written)();
    }

    /** What is computed: of what is large with one equation for all elements. */
    public function outline(): Plan
    {
        return $this->shaped->plan ?? $this->plan();
    }

    /** @return array{int, int} how many equations and states there are with all their elements */
    public function size(): array
    {
        return $this->shaped?->counted() ?? [count($this->plan()->equations), count($this->plan()->states)];
    }

    /** The value of a parameter, or of an element of it along dimensions; null if it is none. */
    public function parameter(string $key): ?float
    {
        $owner = Key::ownerOf($key);
        if ($owner === $key || ! isset($this->parameters[$owner]) || $this->positions->place($key) === null) {
            return $this->parameters[$key] ?? null;
        }
        $this->tables[$owner] ??= $this->model->table($owner);

        return $this->tables[$owner][substr($key, strlen($owner) + 1, -1)] ?? $this->parameters[$owner];
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
        $roster = $this->shaped?->roster($key);
        if ($roster !== null && $this->model->element($key) !== null) {
            // There are as many as there are members; what is shown of them is their mean.
            return $this->model->nameOf($key)." (mean of $roster->name)";
        }

        return $this->positions->isShaped(Key::ownerOf($key))
            ? $this->model->nameOf(Key::ownerOf($key)).$this->positions->shown($key)
            : $this->outline()->keys->nameOf($key, $this->model);
    }

    /**
     * The elements of a value that extends over dimensions.
     *
     * @return list<array{key: string, name: string}> none of a single number
     */
    public function partsOf(string $id, int $most): array
    {
        return array_map(
            fn (string $key): array => ['key' => $key, 'name' => trim($this->positions->shown($key), '[]')],
            $this->positions->isShaped($id) ? $this->positions->first($id, $most) : [],
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
