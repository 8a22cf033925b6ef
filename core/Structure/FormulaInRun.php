<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Structure;

use MerryOrbit\Core\Analysis\Analysis;
use MerryOrbit\Core\Formula\Node\Node;
use MerryOrbit\Core\Library\EvaluationError;
use MerryOrbit\Core\Library\Evaluator;
use MerryOrbit\Core\Library\Moment;
use MerryOrbit\Core\Model\Relation;
use MerryOrbit\Core\Simulate\Trajectory;

/** Formulas, and parts of them, computed again from what a run saved. */
final class FormulaInRun
{
    /** @var array<string, Relation> by id */
    private readonly array $curves;

    public function __construct(private readonly Analysis $analysis, private readonly Trajectory $run)
    {
        $curves = [];
        foreach ($analysis->model->elements as $element) {
            if ($element instanceof Relation) {
                $curves[$element->id] = $element;
            }
        }
        $this->curves = $curves;
    }

    /** What an element was worth at a saved moment; null where the run does not know. */
    public function saved(string $id, int $index): ?float
    {
        return $this->run->value($id, $index);
    }

    /**
     * What an element's formula looks at, at a saved moment; curves are left out.
     *
     * @return ?array<string, float> by element id; null if something has no value
     */
    public function inputs(string $id, int $index): ?array
    {
        $values = [];
        foreach ($this->analysis->uses[$id] ?? [] as $used) {
            $element = $this->analysis->model->elements[$used];
            if ($element instanceof Relation) {
                continue;
            }
            $value = $this->saved($used, $index);
            if ($value === null) {
                return null;
            }
            $values[$used] = $value;
        }

        return $values;
    }

    /** A part of an element's formula at a saved moment; null where it has no value. */
    public function value(string $id, Node $part, int $index): ?float
    {
        $inputs = $this->inputs($id, $index);

        return $inputs === null ? null : $this->with($part, $inputs, $index);
    }

    /** @param  array<string, float>  $inputs  by element id */
    public function with(Node $part, array $inputs, int $index): ?float
    {
        $time = $this->analysis->model->time;
        try {
            return (new Evaluator(
                $inputs,
                new Moment($time, (int) round(($this->run->times()[$index] - $time->start) / $time->step)),
                $this->curves,
            ))->value($part);
        } catch (EvaluationError) {
            return null;
        }
    }

    /** The last saved moment that is not after a time; 0 before the first. */
    public function indexAt(float $time): int
    {
        $times = $this->run->times();
        $low = 0;
        $high = count($times) - 1;
        while ($low < $high) {
            $middle = intdiv($low + $high + 1, 2);
            $times[$middle] <= $time + 1e-9 * max(1.0, abs($time)) ? ($low = $middle) : ($high = $middle - 1);
        }

        return $low;
    }
}
