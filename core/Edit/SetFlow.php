<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Edit;

use MerryOrbit\Core\Model\Flow;
use MerryOrbit\Core\Model\Model;

/** Whether a flow may run backward, and its place among the outflows of a stock that has too little for all. What is not said stays as it is. */
final readonly class SetFlow extends Edit
{
    /**
     * @param  ?bool  $oneWay  null: as it is
     * @param  float|false|null  $priority  null: by order; false: as it is
     */
    public function __construct(public string $id, public ?bool $oneWay = null, public float|false|null $priority = false)
    {
    }

    public function apply(Model $model): Model
    {
        $flow = $model->element($this->id) ?? throw EditRefused::gone();
        if (! ($flow instanceof Flow)) {
            throw EditRefused::because(
                'flow.kind',
                "Only a flow can be one-way or have a priority; `$flow->name` is a {$flow->kind()->value}.",
            );
        }
        if (is_float($this->priority) && ! is_finite($this->priority)) {
            throw EditRefused::because('flow.priority', 'A priority is a plain number; the smallest takes first.');
        }

        return $model->withElement(
            $flow->with([
                'oneWay' => $this->oneWay ?? $flow->oneWay,
                'priority' => $this->priority === false ? $flow->priority : $this->priority,
            ]),
        );
    }

    public function words(Model $before): string
    {
        $flow = $before->element($this->id);
        $name = '`'.$before->nameOf($this->id).'`';
        if ($flow instanceof Flow && $this->priority !== false && ($this->oneWay === null || $flow->priority !== $this->priority)) {
            return "Priority of $name: ".($this->priority ?? 'by order');
        }

        return $this->oneWay === true ? "Made $name one-way" : "Let $name flow both ways";
    }
}
