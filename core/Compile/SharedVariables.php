<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Compile;

use MerryOrbit\Core\Plan\Equation;
use MerryOrbit\Core\Plan\Plan;

/** Decides, for a large model, in which order equations, rates and savings follow each other and which equations share a variable. */
final class SharedVariables
{
    /** Values are saved in portions of so many. */
    private const PORTION = 24;

    /** @var list<array{'equation'|'rate'|'save'|'free', string}> */
    private array $order = [];

    /** @var list<string> */
    private array $columns;

    /** @var array<string, string> variables in use, by key */
    private array $taken = [];

    /** @var list<string> */
    private array $idle = [];

    private int $made = 0;

    /** @param  array<string, true>  $pinned  keys that keep a variable of their own */
    public function __construct(private readonly Frame $frame, private readonly array $pinned)
    {
        $plan = $frame->plan;
        $saved = array_flip($frame->columns());
        $this->columns = $this->savedStates();
        $missing = [];
        $rates = [];
        foreach ($plan->states as $key => $state) {
            $flows = array_unique(
                array_filter(
                    array_column($state->rates, 0),
                    static fn (string $f): bool => isset($plan->equations[$f]) && ! isset($plan->constants[$f]),
                ),
            );
            $missing[$key] = count($flows);
            foreach ($flows as $flow) {
                $rates[$flow][] = $key;
            }
            if ($flows === []) {
                $this->order[] = ['rate', $key];
            }
        }
        $portion = [];
        $drives = static fn (Equation $e): bool => isset($plan->drives[$e->key]);
        $others = array_filter($frame->moving, static fn (Equation $e): bool => ! $drives($e));
        foreach ([...array_filter($frame->moving, $drives), ...$others] as $equation) {
            $this->order[] = ['equation', $equation->key];
            foreach ($rates[$equation->key] ?? [] as $state) {
                if (--$missing[$state] === 0) {
                    $this->order[] = ['rate', $state];
                }
            }
            if (isset($saved[$equation->key])) {
                $portion[] = $equation->key;
            }
            if (count($portion) === self::PORTION) {
                $this->save($portion);
                $portion = [];
            }
        }
        $this->save($portion);
        $this->order = $this->withFrees();
    }

    /** @param  list<string>  $keys */
    private function save(array $keys): void
    {
        if ($keys !== []) {
            $this->order[] = ['save', implode(' ', $keys)];
            array_push($this->columns, ...$keys);
        }
    }

    /** @return list<array{'equation'|'rate'|'save'|'free', string}> with a note behind the last use of every shared value */
    private function withFrees(): array
    {
        $last = [];
        foreach ($this->order as $at => [$kind, $subject]) {
            $used = match ($kind) {
                'equation' => [$subject, ...Plan::keys($this->frame->plan->equations[$subject]->node)],
                'rate' => array_column($this->frame->plan->states[$subject]->rates, 0),
                'save' => explode(' ', $subject),
                default => [],
            };
            foreach ($used as $key) {
                $last[$key] = $at;
            }
        }
        $ends = [];
        foreach ($last as $key => $at) {
            if ($this->isShared((string) $key)) {
                $ends[$at][] = (string) $key;
            }
        }
        $order = [];
        foreach ($this->order as $at => $one) {
            $order[] = $one;
            foreach ($ends[$at] ?? [] as $key) {
                $order[] = ['free', $key];
            }
        }

        return $order;
    }

    private function isShared(string $key): bool
    {
        return isset($this->frame->plan->equations[$key]) && ! isset($this->frame->plan->constants[$key]) && ! isset($this->pinned[$key]);
    }

    /** @return list<array{'equation'|'rate'|'save'|'free', string}> */
    public function order(): array
    {
        return $this->order;
    }

    /** @return list<string> keys in the order in which they are saved */
    public function columns(): array
    {
        return $this->columns;
    }

    /** @return list<string> */
    public function savedStates(): array
    {
        return array_values(array_intersect($this->frame->columns(), array_keys($this->frame->plan->states)));
    }

    /** A variable for the value of an equation; null if it keeps its own. */
    public function take(string $key): ?string
    {
        return $this->isShared($key) ? ($this->taken[$key] = array_pop($this->idle) ?? '$r'.$this->made++) : null;
    }

    public function free(string $key): void
    {
        $this->idle[] = $this->taken[$key];
        unset($this->taken[$key]);
    }
}
