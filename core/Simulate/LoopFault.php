<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Simulate;

use MerryOrbit\Core\Analysis\Analysis;
use MerryOrbit\Core\Formula\Nature;
use MerryOrbit\Core\Formula\Node\Call;
use MerryOrbit\Core\Formula\Node\NameUse;
use MerryOrbit\Core\Formula\Node\Node;
use MerryOrbit\Core\Library\EvaluationError;
use MerryOrbit\Core\Library\Evaluator;
use MerryOrbit\Core\Library\Moment;
use MerryOrbit\Core\Model\TimeSettings;
use MerryOrbit\Core\Plan\Equation;
use MerryOrbit\Core\Plan\Key;
use MerryOrbit\Core\Plan\Plan;
use MerryOrbit\Core\Shape\ShapedPlan;

/** Finds which element of what met a number that cannot be computed, from what a careful run in loops left behind. */
final class LoopFault
{
    /** How often a formula is looked at, at most. */
    private const MOST = 100_000;

    private int $looks = 0;

    /** @param  array<string, float|list<float>>  $values  all there are, by key; of what has elements the list of them */
    public function __construct(
        private readonly Analysis $analysis,
        private readonly ShapedPlan $shaped,
        private readonly TimeSettings $time,
        private array $values,
        private readonly Moment $moment,
        private readonly bool $starting,
    ) {
    }

    /**
     * @param  list<string>  $keys  of what was computed when it showed
     * @param  int  $element  its number, or −1 where it is not known
     */
    public function found(array $keys, int $element): NumericFault
    {
        foreach ([true, false] as $shown) {
            foreach ($keys as $key) {
                $fault = $this->within($key, $element, $shown);
                if ($fault !== null) {
                    return $fault;
                }
            }
        }

        return new NumericFault(
            '',
            'the model',
            $this->moment->time,
            'numbers close to the largest that can be computed with',
            [],
            $this->time->unit,
        );
    }

    /** @param  bool  $shown  whether only elements are looked at whose value shows it */
    private function within(string $key, int $element, bool $shown): ?NumericFault
    {
        $node = $this->starting ? $this->shaped->plan->starts[$key] ?? null : $this->shaped->plan->equations[$key]->node ?? null;
        if ($node === null) {
            return isset($this->shaped->plan->states[$key]) ? $this->level($key) : $this->lookedUp($key);
        }
        $size = $this->shaped->sizeOf($key);
        for ($n = $element < 0 ? 0 : $element; $n < ($element < 0 ? $size : min($size, $element + 1)); $n++) {
            $own = $this->values[$key] ?? 0.0;
            if ($element < 0 && $shown && is_finite(is_array($own) ? $own[$n] ?? 0.0 : $own)) {
                continue;
            }
            $fault = $this->at($node, $key, $this->shaped->place($key, $n), $this->shaped->plan->keys->owner($key));
            if ($fault !== null) {
                return $fault;
            }
        }

        return null;
    }

    /** A state that went beyond all numbers. */
    private function level(string $key): ?NumericFault
    {
        $own = $this->values[$key] ?? 0.0;
        foreach (is_array($own) ? $own : [$own] as $n => $value) {
            if (! is_finite($value)) {
                $place = $this->shaped->place($key, $n);
                $flows = array_map(static fn (array $r): Node => new NameUse($r[0], $r[0], 0, 0), $this->shaped->plan->states[$key]->rates);

                return $this->told($key, $place, 'a level larger than the largest number that can be computed with', $flows);
            }
        }

        return null;
    }

    /** What was looked up along dimensions for formulas: it is told of the first in whose formula it lies. */
    private function lookedUp(string $key): ?NumericFault
    {
        $plan = $this->shaped->plan;
        $nodes = $this->starting ? $plan->starts : array_map(static fn (Equation $e): Node => $e->node, $plan->equations);
        foreach ($nodes as $owner => $node) {
            foreach ($node->all() as $part) {
                if (! ($part instanceof Call) || $part->function->nature !== Nature::Along) {
                    continue;
                }
                $extent = $this->shaped->extents->of($part);
                for ($n = 0; $n < $this->shaped->sizeOver($extent); $n++) {
                    $fault = $this->at(
                        $part,
                        (string) $owner,
                        $this->shaped->placeOver($extent, $n),
                        $this->shaped->plan->keys->owner((string) $owner),
                    );
                    if ($fault !== null) {
                        return $this->within((string) $owner, -1, false) ?? $fault;
                    }
                }
            }
        }

        return null;
    }

    /** @param  array<string, string>  $place */
    private function at(Node $node, string $key, array $place, string $owner): ?NumericFault
    {
        $isOwn = static fn (Node $part): bool => $part instanceof Call &&
            in_array($part->function->nature, [Nature::Chance, Nature::Memory], true);
        if (++$this->looks > self::MOST || array_filter($node->all(), $isOwn) !== []) {
            // Chance and what has a memory is computed by the compiled function alone.
            return null;
        }
        $plain = $node;
        try {
            $plain = $this->shaped->at($node, $place, function (Node $named): NameUse {
                $name = 'named '.count($this->values);
                $this->values[$name] = $this->evaluated($named);

                return new NameUse($name, $name, 0, 0);
            });
            $this->evaluated($plain);
        } catch (EvaluationError $e) {
            $isInitial = $this->starting && isset($this->shaped->plan->states[$key]) && $key === $owner;

            return $this->told($key, $place, $e->getMessage().($isInitial ? ' in its initial value' : ''), [$plain]);
        }

        return null;
    }

    /** @throws EvaluationError */
    private function evaluated(Node $node): float
    {
        $values = [];
        foreach (Plan::keys($node) as $key) {
            $value = $this->value($key);
            $values += $value === null ? [] : [$key => $value];
        }

        return (new Evaluator($values, $this->moment, $this->shaped->plan->curves))->value($node);
    }

    /** The value of an element by its own key. */
    private function value(string $key): ?float
    {
        $own = $this->values[$key] ?? null;
        if (is_float($own)) {
            return $own;
        }
        $whole = Key::ownerOf($key);
        $list = $this->values[$whole] ?? null;
        $index = is_array($list) ? $this->shaped->index($whole, explode(',', substr($key, strlen($whole) + 1, -1))) : null;

        return is_array($list) && $index !== null ? $list[$index] ?? null : $this->analysis->parameter($key);
    }

    /**
     * @param  array<string, string>  $place
     * @param  list<Node>  $from  what it is computed from
     */
    private function told(string $key, array $place, string $reason, array $from): NumericFault
    {
        $values = [];
        foreach ($from as $node) {
            foreach (Plan::keys($node) as $used) {
                $own = $this->shaped->keyAt($used, $place);
                $value = $own === null ? null : $this->value($own);
                $values += $value === null || ! is_finite($value) || str_starts_with($used, 'named ') ? [] : [$own => $value];
            }
        }
        $own = $this->shaped->keyAt($key, $place) ?? $key;

        return NumericFault::of(
            $this->analysis->model,
            $this->shaped->plan,
            $own,
            $reason,
            $this->moment->time,
            $this->time->unit,
            array_slice($values, 0, 8),
        );
    }
}
