<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Edit;

use MerryOrbit\Core\Formula\Name;
use MerryOrbit\Core\Model\Model;
use MerryOrbit\Core\Model\Parameter;

/** Gives the values of a parameter names, so that its dial becomes a choice; two make a switch, none a slider again. */
final readonly class SetChoices extends Edit
{
    private const MOST = 40;

    /** @param  list<array{name: string, value: float}>  $choices */
    public function __construct(public string $id, public array $choices)
    {
    }

    public function apply(Model $model): Model
    {
        $element = $model->element($this->id);
        if (! ($element instanceof Parameter)) {
            throw $element === null
                ? EditRefused::gone()
                : EditRefused::because('choices.kind', "`$element->name` is no parameter: only those have values to choose from.");
        }
        $choices = [];
        $names = [];
        foreach ($this->choices as ['name' => $name, 'value' => $value]) {
            $name = trim($name);
            if ($name === '' || mb_strlen($name) > Name::LONGEST || isset($names[mb_strtolower($name)])) {
                throw EditRefused::because('choices.name', 'Each choice needs a name of its own.', 'choices');
            }
            $names[mb_strtolower($name)] = true;
            $choices[] = ['name' => $name, 'value' => $value];
        }
        if (count($choices) === 1 || count($choices) > self::MOST) {
            throw EditRefused::because('choices.many', 'Give two to '.self::MOST.' named values, or none.', 'choices');
        }

        return $model->withElement($element->with(['choices' => $choices]));
    }

    public function words(Model $before): string
    {
        $name = $before->nameOf($this->id);

        return $this->choices === []
            ? "Made the dial of `$name` a slider"
            : "Named the values of `$name`: ".implode(', ', array_column($this->choices, 'name'));
    }
}
