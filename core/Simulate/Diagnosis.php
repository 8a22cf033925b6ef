<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Simulate;

use MerryOrbit\Core\Compile\Analysis;
use MerryOrbit\Core\Compile\EvaluationError;
use MerryOrbit\Core\Compile\Evaluator;
use MerryOrbit\Core\Compile\Moment;
use MerryOrbit\Core\Formula\Name;
use MerryOrbit\Core\Model\Method;
use MerryOrbit\Core\Model\Stock;
use MerryOrbit\Core\Model\TimeSettings;

/** Repeats, slowly and with every operation watched, the step in which compiled code met a number it cannot go on with. */
final class Diagnosis
{
    /** Compiled code may hand over the state of the step before the one with the fault. */
    private const STEPS_AHEAD = 1;

    /** @var array<string, string> */
    private array $ids = [];

    /** @var array<string, float> */
    private array $values;

    /** @param  array<string, float>  $parameters by id */
    public function __construct(private readonly Analysis $analysis, private readonly TimeSettings $time, private readonly array $parameters)
    {
        foreach ($analysis->model->elements as $id => $element) {
            $this->ids[Name::key($element->name)] = $id;
        }
        $this->values = $parameters;
    }

    /**
     * @param  int  $step  -1 for before the first
     * @param  array<string, float>|null  $state  the stocks at the step's start, by id; null before the first
     */
    public function fault(int $step, ?array $state): NumericFault
    {
        try {
            $moment = new Moment($this->time, max(0, $step));
            $constants = array_values(array_filter($this->analysis->order, fn (string $id): bool => isset($this->analysis->constants[$id])));
            $this->evaluate($constants, $moment);
            if ($step < 0) {
                $this->evaluate($this->analysis->startOrder, $moment);
                $state = array_filter($this->values, fn (string $id): bool => $this->analysis->model->elements[$id] instanceof Stock, ARRAY_FILTER_USE_KEY);
            }
            for ($i = max(0, $step); $i <= min(max(0, $step) + self::STEPS_AHEAD, $this->time->steps()); $i++) {
                $state = $this->advance($i, $state ?? []);
            }
        } catch (Culprit $culprit) {
            return $culprit->fault;
        }

        // Every number is finite, but not their sum, which is what the compiled step tests.
        return new NumericFault('', $this->analysis->model->name, $this->time->timeAt(max(0, $step)), 'numbers close to the largest that can be computed with', [], $this->time->unit);
    }

    /**
     * @param  array<string, float>  $state
     * @return array<string, float> the stocks after the step
     */
    private function advance(int $step, array $state): array
    {
        $h = $this->time->step;
        $stages = $this->time->method === Method::Euler ? [[0.0, 1.0]] : [[0.0, 1.0], [0.5, 2.0], [0.5, 2.0], [1.0, 1.0]];
        $weights = array_sum(array_column($stages, 1));
        $sum = array_fill_keys(array_keys($state), 0.0);
        $rates = $sum;
        foreach ($stages as [$within, $weight]) {
            $moment = new Moment($this->time, $step, $within);
            foreach ($state as $id => $value) {
                $this->values[$id] = $this->finite($id, $value + $within * $h * $rates[$id], $moment);
            }
            $this->evaluate($this->analysis->order, $moment);
            foreach ($state as $id => $_) {
                $rates[$id] = $this->rate($id);
                $sum[$id] += $weight * $rates[$id];
            }
            if ($step === $this->time->steps()) {
                return $state;
            }
        }
        foreach ($state as $id => $value) {
            $state[$id] = $this->finite($id, $value + $h / $weights * $sum[$id], new Moment($this->time, $step, 1.0));
        }

        return $state;
    }

    private function rate(string $stock): float
    {
        $rate = 0.0;
        foreach ($this->analysis->model->inflows($stock) as $flow) {
            $rate += $this->values[$flow->id];
        }
        foreach ($this->analysis->model->outflows($stock) as $flow) {
            $rate -= $this->values[$flow->id];
        }

        return $rate;
    }

    private function finite(string $stock, float $value, Moment $moment): float
    {
        if (is_finite($value)) {
            return $value;
        }
        $inputs = [];
        foreach ([...$this->analysis->model->inflows($stock), ...$this->analysis->model->outflows($stock)] as $flow) {
            $inputs[$flow->name] = $this->values[$flow->id];
        }
        throw new Culprit($this->faultOf($stock, 'a level larger than the largest number that can be computed with', $inputs, $moment));
    }

    /** @param  list<string>  $ids */
    private function evaluate(array $ids, Moment $moment): void
    {
        foreach ($ids as $id) {
            try {
                $this->values[$id] = (new Evaluator($this->values, $this->ids, $moment))->value($this->analysis->nodes[$id]);
            } catch (EvaluationError $e) {
                $inputs = [];
                foreach ($this->analysis->uses[$id] as $used) {
                    $inputs[(string) $this->analysis->model->nameOf($used)] = $this->values[$used];
                }
                $isStart = $this->analysis->model->elements[$id] instanceof Stock;
                throw new Culprit($this->faultOf($id, $e->getMessage().($isStart ? ' in its initial value' : ''), $inputs, $moment));
            }
        }
    }

    /** @param  array<string, float>  $inputs */
    private function faultOf(string $id, string $reason, array $inputs, Moment $moment): NumericFault
    {
        return new NumericFault($id, (string) $this->analysis->model->nameOf($id), $moment->time, $reason, $inputs, $this->time->unit);
    }
}
