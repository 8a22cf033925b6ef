<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Edit;

use MerryOrbit\Core\Model\Model;
use MerryOrbit\Core\Model\TimeSettings;

/** New time settings; refused as a whole when no run can be made with them. */
final readonly class SetTime extends Edit
{
    public function __construct(public TimeSettings $time)
    {
    }

    public function apply(Model $model): Model
    {
        foreach ($this->time->problems() as $problem) {
            throw EditRefused::because($problem->code, $problem->sentence, $problem->field);
        }

        return $model->with(['time' => $this->time]);
    }

    public function words(Model $before): string
    {
        $was = $before->time->toRecord();
        $now = $this->time->toRecord();
        $changed = [];
        foreach (
            [
                'start' => 'start',
                'end' => 'end',
                'step' => 'step',
                'unit' => 'unit',
                'method' => 'method',
                'saveEvery' => 'save every',
                'startDate' => 'start date',
                'tolerance' => 'tolerance',
                'absoluteTolerance' => 'absolute tolerance',
            ] as $field => $word
        ) {
            if (($was[$field] ?? null) !== ($now[$field] ?? null)) {
                $value = $now[$field] ?? 'each step';
                $changed[] = "$word ".(is_scalar($value) ? (string) $value : '');
            }
        }

        return $changed === [] ? 'Kept the time settings' : 'Time: '.implode(', ', $changed);
    }
}
