<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Analysis;

use MerryOrbit\Core\Formula\Node\Binary;
use MerryOrbit\Core\Formula\Node\CurveCall;
use MerryOrbit\Core\Formula\Node\NameUse;
use MerryOrbit\Core\Formula\Node\Node;
use MerryOrbit\Core\Formula\Node\NumberLiteral;
use MerryOrbit\Core\Formula\Node\QuantityUse;
use MerryOrbit\Core\Formula\Operator;
use MerryOrbit\Core\Formula\Quantity;
use MerryOrbit\Core\Library\Moment;
use MerryOrbit\Core\Model\Between;
use MerryOrbit\Core\Model\Flow;
use MerryOrbit\Core\Model\Model;
use MerryOrbit\Core\Model\Relation;
use MerryOrbit\Core\Model\Series;
use MerryOrbit\Core\Model\Stock;
use MerryOrbit\Core\Plan\Cell;
use MerryOrbit\Core\Plan\Equation;
use MerryOrbit\Core\Plan\Key;
use MerryOrbit\Core\Plan\Keys;
use MerryOrbit\Core\Plan\Pace;
use MerryOrbit\Core\Plan\Planner;
use MerryOrbit\Core\Plan\Positions;
use MerryOrbit\Core\Plan\State;
use MerryOrbit\Core\Shape\Spread;

/** Puts together what the formulas were lowered to: equations, states with their flows, memory, and what is held by hand. */
final class Assembly
{
    /** @var array<string, Equation> */
    public array $equations = [];

    /** @var array<string, State> */
    public array $states = [];

    /** @var array<string, Cell> */
    public array $cells = [];

    /** @var array<string, Node> */
    public array $initials = [];

    /** @var list<array{string, Node, int}> */
    public array $delays = [];

    /** @var array<string, float> parameters of grips, by key */
    public array $hidden = [];

    /** @var array<string, string> by key of what keeps the values of a parameter over dimensions that is held, the parameter */
    public array $bases = [];

    /**
     * @param  array<string, Node>  $lowered  by element id, what its formula became
     * @param  array<string, Lowering>  $lowerings  by element id, what its formula remembers
     * @param  array<string, float>  $parameters
     * @param  array<string, Holding>  $held  by what is held
     * @param  array<string, list<string>>  $extents  by element id, ids of the dimensions that it extends over
     */
    public function __construct(
        private readonly Model $model,
        private readonly array $lowered,
        private readonly array $lowerings,
        private readonly array $parameters,
        private readonly array $held,
        private readonly Keys $keys,
        private readonly array $extents = [],
    ) {
        foreach ($this->model->elements as $id => $element) {
            if ($element instanceof Stock && isset($this->lowered[$id])) {
                // Memory in an initial value is what it is at the start.
                $this->states[$id] = new State($id, $id, $this->lowered[$id], []);
            }
        }
        foreach ($this->model->elements as $id => $element) {
            if (isset($this->lowerings[$id])) {
                $this->take($this->lowerings[$id]);
            }
            if (! ($element instanceof Stock) && isset($this->lowered[$id])) {
                $this->equations[$id] = new Equation($id, $id, $this->lowered[$id]);
            }
        }
        foreach ($this->model->elements as $id => $element) {
            if ($element instanceof Series) {
                $this->equations[$id] = self::course($element);
            }
        }
        $rates = [];
        foreach ($this->model->elements as $id => $element) {
            if ($element instanceof Flow) {
                if ($this->model->isArrival($element)) {
                    $this->equations[$id] = new Equation($id, $id, new NumberLiteral(0.0, '0', 0, 0), Pace::Step);
                }
                if ($element->to !== null) {
                    $rates[$element->to][] = [$id, 1];
                }
            }
        }
        foreach ($this->model->elements as $id => $element) {
            if ($element instanceof Flow && $element->from !== null) {
                $rates[$element->from][] = [$id, -1];
            }
        }
        foreach ($rates as $id => $flows) {
            $state = $this->states[$id] ?? null;
            if ($state !== null) {
                usort($flows, fn (array $a, array $b): int => [-$a[1], $this->priority($a)] <=> [-$b[1], $this->priority($b)]);
                $this->states[$id] = new State($id, $id, $state->initial, $flows);
            }
        }
        foreach ($this->held as $holding) {
            $this->hold($holding->owner(), $holding);
        }
    }

    /**
     * What a series is now. One that goes in steps changes between two steps of the run, as signals do: a method that looks into a
     * step would else take in part what comes after it.
     */
    private static function course(Series $series): Equation
    {
        $now = new QuantityUse(Quantity::Time, 0, 0);
        if ($series->between !== Between::Stepped) {
            return new Equation($series->id, $series->id, new CurveCall($series->id, $series->name, 0, $now, 0, 0));
        }
        // Times of steps are sums of many parts, and may fall short of a point by a hair.
        $hair = new Binary(Operator::Add, $now, NumberLiteral::of(Moment::TOLERANCE));

        return new Equation($series->id, $series->id, new CurveCall($series->id, $series->name, 0, $hair, 0, 0), Pace::Step);
    }

    /** What a formula remembers. One by one: adding arrays to a property copies all of it, for every formula anew. */
    private function take(Lowering $lowering): void
    {
        foreach ($lowering->equations as $key => $equation) {
            $this->equations[$key] = $equation;
        }
        foreach ($lowering->cells as $key => $cell) {
            $this->cells[$key] = $cell;
        }
        foreach ($lowering->initials as $key => $node) {
            $this->initials[$key] = $node;
        }
        foreach ($lowering->states as $key => $state) {
            $this->states[$key] = $state;
        }
        array_push($this->delays, ...$lowering->delays);
    }

    private function hold(string $id, Holding $holding): void
    {
        $extent = $this->extents[$id] ?? [];
        $this->hidden += $holding->parameters();
        $state = $this->states[$id] ?? null;
        if ($state !== null) {
            $this->states[$id] = new State(
                $id,
                $id,
                $holding->around($state->initial, $extent),
                $state->rates,
                $holding->around($state->forced ?? new NameUse($id, $id, 0, 0), $extent),
            );
        } elseif (isset($this->equations[$id])) {
            $this->equations[$id] = new Equation($id, $id, $holding->around($this->equations[$id]->node, $extent));
        } elseif (isset($this->parameters[$id])) {
            $base = $this->keys->enter(new Key($id, Key::BASE));
            $extent === [] ? ($this->hidden[$base] = $this->parameters[$id]) : ($this->bases[$base] = $id);
            $this->equations[$id] = new Equation($id, $id, $holding->around(new NameUse($base, $id, 0, 0), $extent));
        }
    }

    public function parameterOf(string $id): float
    {
        return $this->parameters[$id] ?? 0.0;
    }

    /**
     * Puts it into order.
     *
     * @param  array<string, Node>  $travels  by transit stock
     * @param  ?Spread  $spread  the same with all elements along dimensions written out
     */
    public function planner(array $travels, ?Spread $spread = null): Planner
    {
        return new Planner(
            $this->model,
            $spread->equations ?? $this->equations,
            $spread->states ?? $this->states,
            $spread->cells ?? $this->cells,
            $spread->initials ?? $this->initials,
            $spread->travels ?? $travels,
            $spread->delays ?? $this->delays,
            $this->keys,
            $this->hidden,
            $this->drawn(),
            $spread->positions ?? new Positions(),
        );
    }

    /** @return array<string, Relation> */
    private function drawn(): array
    {
        $drawn = array_filter(array_map(static fn (Holding $h): ?Relation => $h->drawn(), $this->held));

        return array_combine(array_map(static fn (Relation $r): string => $r->id, $drawn), $drawn);
    }

    /** @param  array{string, int}  $rate */
    private function priority(array $rate): float
    {
        $flow = $this->model->elements[$rate[0]];

        return $rate[1] < 0 && $flow instanceof Flow ? $flow->priority ?? 0.0 : 0.0;
    }
}
