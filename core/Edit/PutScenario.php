<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Edit;

use MerryOrbit\Core\Formula\Name;
use MerryOrbit\Core\Model\Model;
use MerryOrbit\Core\Model\Scenario;

/** Keeps a scenario, new or in place of the one with its id. */
final readonly class PutScenario extends Edit
{
    public function __construct(public Scenario $scenario)
    {
    }

    public function apply(Model $model): Model
    {
        $name = Name::tidy($this->scenario->name);
        if ($name === '' || mb_strlen($name) > Name::LONGEST) {
            throw EditRefused::because('scenario.name', 'Give the scenario a name of at most '.Name::LONGEST.' characters.', 'name');
        }
        foreach ($model->scenarios as $other) {
            if ($other->id !== $this->scenario->id && mb_strtolower($other->name) === mb_strtolower($name)) {
                throw EditRefused::because(
                    'scenario.name',
                    "There is a scenario called “{$other->name}” already. Choose another name.",
                    'name',
                );
            }
        }
        if (! isset($model->scenarios[$this->scenario->id]) && count($model->scenarios) >= Scenario::MOST) {
            throw EditRefused::because('scenario.many', 'A study has at most '.Scenario::MOST.' scenarios. Remove some first.');
        }
        $all = [
            ...$model->scenarios,
            $this->scenario->id => new Scenario(
                $this->scenario->id,
                $name,
                $this->scenario->note,
                $this->scenario->on,
                $this->scenario->setting->settled($model->dimensions()),
                $this->scenario->place,
            ),
        ];
        foreach ($this->scenario->on as $below) {
            foreach (Scenario::stack($all, $below) as $one) {
                if ($one->id === $this->scenario->id) {
                    $other = $all[$below]->name;
                    throw EditRefused::because(
                        'scenario.circle',
                        $below === $this->scenario->id
                            ? 'A scenario cannot build on itself.'
                            : "“{$name}” cannot build on “{$other}”, which builds on it.",
                        'on',
                    );
                }
            }
        }

        return $model->with(['scenarios' => $all]);
    }

    public function words(Model $before): string
    {
        $known = $before->scenarios[$this->scenario->id] ?? null;

        return match (true) {
            $known === null => "Kept the scenario “{$this->scenario->name}”",
            $known->name !== $this->scenario->name => "Renamed the scenario “{$known->name}” to “{$this->scenario->name}”",
            default => "Changed the scenario “{$known->name}”",
        };
    }
}
