<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Simulate;

use MerryOrbit\Core\Model\Model;
use MerryOrbit\Core\Plan\Plan;
use MerryOrbit\Core\Problem\Remedy;
use MerryOrbit\Core\Problem\Shown;

/** Where and why a run stopped: arithmetic that has no result. */
final readonly class NumericFault implements \JsonSerializable
{
    /**
     * @param  string  $element  id of the variable
     * @param  float  $time  in the study's time unit
     * @param  array<string, float>  $inputs  by name, the values of what the formula mentions
     * @param  bool  $isMethod  whether it is the method that cannot go on, and no variable that has no value; the reason is a sentence then
     */
    public function __construct(
        public string $element,
        public string $name,
        public float $time,
        public string $reason,
        public array $inputs,
        public string $unit,
        public bool $isMethod = false,
        public ?Remedy $remedy = null,
    ) {
    }

    /**
     * What a part of the plan met.
     *
     * @param  array<string, float>  $values  by key, what it is computed from
     */
    public static function of(Model $model, Plan $plan, string $key, string $reason, float $time, string $unit, array $values): self
    {
        $inputs = [];
        foreach ($values as $used => $value) {
            // A hidden part has no name of its own.
            if (! $plan->keys->isHidden($used)) {
                $inputs[$plan->keys->nameOf($used, $model)] = $value;
            }
        }
        $owner = $plan->keys->owner($key);

        return new self($owner, $plan->keys->nameOf($key, $model), $time, $reason, $inputs, $unit);
    }

    /** One that nobody looked for. */
    public static function somewhere(float $time, string $unit): self
    {
        return new self('', 'the model', $time, 'a number that cannot be computed', [], $unit);
    }

    public function sentence(): string
    {
        if ($this->isMethod) {
            return "The run stopped at $this->unit ".Shown::number($this->time).": $this->reason";
        }
        $inputs = [];
        foreach ($this->inputs as $name => $value) {
            $inputs[] = "$name = ".Shown::number($value);
        }

        return "The run stopped at $this->unit ".
            Shown::number($this->time).
            ": `$this->name` meets $this->reason".
            ($inputs === [] ? '' : ', with '.implode(', ', $inputs)).
            '.';
    }

    /** @return array<string, mixed> */
    public function jsonSerialize(): array
    {
        return [
            'element' => $this->element,
            'name' => $this->name,
            'time' => $this->time,
            'reason' => $this->reason,
            'inputs' => (object) $this->inputs,
            'sentence' => $this->sentence(),
            'remedy' => $this->remedy?->jsonSerialize(),
        ];
    }
}
