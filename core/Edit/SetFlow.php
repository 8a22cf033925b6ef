<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Edit;

use MerryOrbit\Core\Model\Flow;
use MerryOrbit\Core\Model\Model;

/** Whether a flow may run backward, and its place among the outflows of a stock that has too little for all. */
final readonly class SetFlow extends Edit
{
    public function __construct(public string $id, public bool $oneWay, public ?float $priority)
    {
    }

    public function apply(Model $model): Model
    {
        $flow = $model->element($this->id) ?? throw EditRefused::gone();
        if (! $flow instanceof Flow) {
            throw EditRefused::because('flow.kind', "Only a flow can be one-way or have a priority; `$flow->name` is a {$flow->kind()->value}.");
        }
        if ($this->priority !== null && ! is_finite($this->priority)) {
            throw EditRefused::because('flow.priority', 'A priority is a plain number; the smallest takes first.');
        }

        return $model->withElement($flow->with(['oneWay' => $this->oneWay, 'priority' => $this->priority]));
    }

    public function words(Model $before): string
    {
        $flow = $before->element($this->id);
        $name = '`'.$before->nameOf($this->id).'`';
        if ($flow instanceof Flow && $flow->priority !== $this->priority) {
            return "Priority of $name: ".($this->priority ?? 'by order');
        }

        return $this->oneWay ? "Made $name one-way" : "Let $name flow both ways";
    }
}
