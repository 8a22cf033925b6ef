<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Plan;

use MerryOrbit\Core\Formula\Catalogue;
use MerryOrbit\Core\Formula\Nature;
use MerryOrbit\Core\Formula\Node\Binary;
use MerryOrbit\Core\Formula\Node\Call;
use MerryOrbit\Core\Formula\Node\Node;
use MerryOrbit\Core\Formula\Node\NumberLiteral;
use MerryOrbit\Core\Formula\Node\QuantityUse;
use MerryOrbit\Core\Formula\Operator;
use MerryOrbit\Core\Model\Element;
use MerryOrbit\Core\Model\Flow;
use MerryOrbit\Core\Model\Model;
use MerryOrbit\Core\Model\Parameter;
use MerryOrbit\Core\Model\Relation;
use MerryOrbit\Core\Model\Roster;
use MerryOrbit\Core\Model\Series;
use MerryOrbit\Core\Model\Stock;

/** Puts what a model's formulas were lowered to into the order in which it is computed, and finds the circles that forbid one. */
final class Planner
{
    /** @var list<non-empty-list<string>> element ids that need each other at the same moment */
    public array $circlesNow = [];

    /** @var list<non-empty-list<string>> element ids that need each other to know how the run starts */
    public array $circlesAtStart = [];

    /** @var list<string> */
    private array $order;

    /** @var array<string, Node> */
    private array $starts = [];

    /** @var list<string> */
    private array $startOrder;

    /** @var array<string, true> */
    private array $constants = [];

    /** @var array<string, list<string>> what each equation mentions */
    private array $uses;

    /** @var array<string, bool> whether each equation has a time in it */
    private array $timeless = [];

    /**
     * @param  array<string, Equation>  $equations
     * @param  array<string, State>  $states
     * @param  array<string, Cell>  $cells
     * @param  array<string, Node>  $initials
     * @param  array<string, Node>  $travels  by transit stock
     * @param  list<array{string, Node, int}>  $delays
     * @param  array<string, float>  $hidden  parameters that belong to no element of their own, by key
     * @param  array<string, Relation>  $drawn  courses drawn by hand, by key
     */
    public function __construct(
        private readonly Model $model,
        private readonly array $equations,
        private readonly array $states,
        private readonly array $cells,
        private readonly array $initials,
        private readonly array $travels,
        private readonly array $delays,
        private readonly Keys $keys,
        private readonly array $hidden = [],
        private readonly array $drawn = [],
        private readonly Positions $positions = new Positions(),
    ) {
        // With members that come and go what is looked up among them moves, even if what each has does not.
        $isOpen = array_filter($model->part('rosters'), static fn (mixed $r): bool => $r instanceof Roster && $r->isOpen()) !== [];
        $uses = [];
        foreach ($equations as $key => $equation) {
            $all = $equation->node->all();
            $uses[$key] = Plan::keysOf($all);
            $this->timeless[$key] = self::areTimeless($all, ! $isOpen);
        }
        $this->uses = $uses;
        $circles = new Circles(self::within($this->uses, $equations));
        $this->order = $circles->order;
        $this->circlesNow = array_map($this->owners(...), $circles->circles);
        $this->orderStart();
    }

    /**
     * @param  array<string, list<string>>  $uses
     * @param  array<string, mixed>  $known
     * @return array<string, list<string>> only what is known
     */
    private static function within(array $uses, array $known): array
    {
        foreach ($uses as $key => $keys) {
            foreach ($keys as $i => $one) {
                if (! isset($known[$one])) {
                    unset($keys[$i]);
                }
            }
            $uses[$key] = array_values($keys);
        }

        return $uses;
    }

    private function orderStart(): void
    {
        $needs = [];
        $this->constants = $this->constants();
        $queue = [...array_keys($this->states), ...array_keys($this->initials), ...array_keys($this->constants)];
        foreach ($this->cells as $cell) {
            if ($cell->first !== null) {
                $queue[] = $cell->key;
            }
        }
        foreach ($this->travels as $node) {
            array_push($queue, ...Plan::keys($node));
        }
        $queue = array_reverse($queue);
        while (($key = array_pop($queue)) !== null) {
            if (isset($needs[$key])) {
                continue;
            }
            $node = $this->atStart($key);
            if ($node === null) {
                continue;
            }
            $this->starts[$key] = $node;
            $needs[$key] = $node === ($this->equations[$key]->node ?? null) ? $this->uses[$key] : Plan::keys($node);
            array_push($queue, ...$needs[$key]);
        }
        $circles = new Circles(self::within($needs, $this->starts));
        $this->startOrder = $circles->order;
        foreach ($circles->circles as $way) {
            if (array_filter($way, fn (string $k): bool => ! isset($this->equations[$k]) || isset($this->cells[$k])) !== []) {
                $this->circlesAtStart[] = $this->owners($way);
            }
        }
    }

    /** What a key is worth at the start of a run, before anything is remembered. */
    private function atStart(string $key): ?Node
    {
        $cell = $this->cells[$key] ?? null;
        $node = $this->states[$key]->initial ?? ($this->initials[$key] ?? ($cell->first ?? ($this->equations[$key]->node ?? null)));
        if ($cell === null || $cell->first !== null || ! ($node instanceof Call)) {
            return $node;
        }
        $a = $node->arguments;

        return match ($cell->kind) {
            'highest', 'lowest', 'hold' => $a[0],
            'latch' => new Call(Catalogue::all()['if'], [$a[1], NumberLiteral::of(0.0), self::holds($a[0])], 0, 0),
            'times' => self::holds($a[0]),
            default => $node,
        };
    }

    private static function holds(Node $condition): Binary
    {
        return new Binary(Operator::Unequal, $condition, NumberLiteral::of(0.0));
    }

    /**
     * @param  non-empty-list<string>  $way
     * @return non-empty-list<string>
     */
    private function owners(array $way): array
    {
        $owners = [];
        foreach ($way as $key) {
            $owners[$this->keys->owner($key)] = true;
        }

        return array_map(strval(...), array_keys($owners));
    }

    /** @return array<string, true> keys of equations that stay the same during a run */
    private function constants(): array
    {
        $constants = [];
        foreach ($this->order as $key) {
            $equation = $this->equations[$key];
            $steady = $equation->pace === Pace::Stage && $this->timeless[$key];
            foreach ($steady ? $this->uses[$key] : [] as $used) {
                $steady =
                    $steady &&
                    (isset($constants[$used]) ||
                        isset($this->initials[$used]) ||
                        isset($this->hidden[$used]) ||
                        (! isset($this->equations[$used]) && $this->elementOf($used) instanceof Parameter));
            }
            if ($steady && $this->mayBeConstant($key)) {
                $constants[$key] = true;
            }
        }

        return $constants;
    }

    /** The element that a key stands for, or for one of whose elements along dimensions; null for a hidden part. */
    private function elementOf(string $key): ?Element
    {
        return $this->keys->isHidden($key) ? null : $this->model->elements[$this->keys->owner($key)] ?? null;
    }

    /** What a limited stock may cut is no constant. */
    private function mayBeConstant(string $key): bool
    {
        $flow = $this->elementOf($key);
        if (! ($flow instanceof Flow)) {
            return true;
        }
        foreach (array_filter([$flow->from, $flow->to]) as $end) {
            $stock = $this->model->elements[$end] ?? null;
            if ($stock instanceof Stock && ($stock->neverNegative || $stock->isTransit())) {
                return false;
            }
        }

        return true;
    }

    public static function isTimeless(Node $node): bool
    {
        return self::areTimeless($node->all());
    }

    /**
     * @param  list<Node>  $all
     * @param  bool  $along  whether what looks along dimensions is, too
     */
    private static function areTimeless(array $all, bool $along = false): bool
    {
        foreach ($all as $part) {
            if (
                ($part instanceof QuantityUse && ! $part->quantity->isConstant()) ||
                ($part instanceof Call &&
                    $part->function->nature !== Nature::Plain &&
                    ! ($along && $part->function->nature === Nature::Along))
            ) {
                return false;
            }
        }

        return true;
    }

    /** @return array<string, Relation> by key, the series of each element along dimensions */
    private function courses(Series $series): array
    {
        $own = $this->model->coursesOf($series->id);
        $courses = [];
        foreach ($this->positions->of($series->id) as $key) {
            $points = $own[substr($key, strlen($series->id) + 1, -1)] ?? null;
            $courses[$key] = $points === null ? $series : $series->with(['points' => $points]);
        }

        return $courses;
    }

    /** @param  array<string, mixed>  $waiting  by id, the elements that cannot be computed */
    public function plan(array $waiting, ?Node $endWhen): Plan
    {
        $keep = static fn (Equation|State|Cell $part): bool => ! isset($waiting[$part->owner]);
        $equations = [];
        foreach ($this->order as $key) {
            if (! isset($waiting[$this->equations[$key]->owner])) {
                $equations[$key] = $this->equations[$key];
            }
        }
        $starts = [];
        foreach ($this->startOrder as $key) {
            if ($waiting === [] || ! isset($waiting[$this->keys->owner($key)])) {
                $starts[$key] = $this->starts[$key];
            }
        }
        $parameters = [];
        $curves = [];
        $flows = [];
        $transits = [];
        foreach ($this->model->elements as $id => $element) {
            if (isset($waiting[$id])) {
                continue;
            }
            if ($element instanceof Relation) {
                $curves[$id] = $element;
                $curves += $element instanceof Series && $this->positions->isShaped($id) ? $this->courses($element) : [];
            }
            foreach ($element instanceof Relation ? [] : $this->positions->of($id) as $at => $key) {
                if ($element instanceof Parameter && ! isset($this->equations[$key])) {
                    $parameters[] = $key;
                } elseif ($element instanceof Flow) {
                    $ends = $this->positions->ends($element, $key);
                    $flows[$key] = [
                        'from' => isset($waiting[$element->from ?? '']) ? null : $ends['from'],
                        'to' => isset($waiting[$element->to ?? '']) ? null : $ends['to'],
                        'oneWay' => $element->oneWay,
                    ];
                } elseif ($element instanceof Stock && isset($this->travels[$key])) {
                    $arrival = $this->model->arrival($element)?->id;
                    $transits[$key] = new Transit(
                        $key,
                        $this->travels[$key],
                        $arrival === null ? null : $this->positions->of($arrival)[$at] ?? $arrival,
                    );
                }
            }
        }

        foreach (array_keys($this->hidden) as $key) {
            array_push($parameters, ...isset($waiting[$this->keys->owner($key)]) ? [] : [$key]);
        }

        return new Plan(
            $parameters,
            $waiting === [] ? $this->states : array_filter($this->states, $keep),
            $equations,
            $waiting === [] ? $this->cells : array_filter($this->cells, $keep),
            $starts,
            array_intersect_key($this->constants, $equations),
            [...$curves, ...$this->drawn],
            $this->limited($waiting),
            $transits,
            $flows,
            $endWhen,
            array_values(array_filter($this->delays, static fn (array $d): bool => ! isset($waiting[$d[0]]))),
            $this->drives($equations),
            $this->keys,
        );
    }

    /**
     * @param  array<string, Equation>  $equations
     * @return array<string, true>
     */
    private function drives(array $equations): array
    {
        $drives = [];
        $queue = array_merge(
            ...array_values(array_map(static fn (State $s): array => array_column($s->rates, 0), $this->states)),
            ...[[]],
        );
        while (($key = array_pop($queue)) !== null) {
            if (isset($equations[$key]) && ! isset($drives[$key])) {
                $drives[$key] = true;
                array_push($queue, ...$this->uses[$key]);
            }
        }

        return $drives;
    }

    /**
     * @param  array<string, mixed>  $waiting
     * @return array<string, int> stocks that never go below zero, each after those upstream; those of one circle share a number
     */
    private function limited(array $waiting): array
    {
        $upstream = [];
        foreach ($this->model->elements as $id => $element) {
            if ($element instanceof Stock && ($element->neverNegative || $element->isTransit()) && ! isset($waiting[$id])) {
                foreach ($this->positions->of($id) as $key) {
                    $upstream[$key] = [];
                }
            }
        }
        foreach ($upstream === [] ? [] : $this->model->elements as $id => $element) {
            foreach ($element instanceof Flow ? $this->positions->of($id) : [] as $key) {
                $ends = $element instanceof Flow ? $this->positions->ends($element, $key) : ['from' => null, 'to' => null];
                if ($ends['from'] !== null && $ends['to'] !== null && isset($upstream[$ends['from']], $upstream[$ends['to']])) {
                    $upstream[$ends['to']][] = $ends['from'];
                }
            }
        }
        $circles = new Circles($upstream);

        return array_combine($circles->order, array_map(static fn (string $id): int => $circles->group[$id], $circles->order));
    }
}
