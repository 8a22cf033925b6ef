<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Structure;

use MerryOrbit\Core\Compile\Analysis;
use MerryOrbit\Core\Compile\EvaluationError;
use MerryOrbit\Core\Compile\Evaluator;
use MerryOrbit\Core\Compile\Moment;
use MerryOrbit\Core\Formula\Name;
use MerryOrbit\Core\Formula\Node\Node;
use MerryOrbit\Core\Model\Kind;
use MerryOrbit\Core\Model\Relation;
use MerryOrbit\Core\Simulate\Trajectory;

/**
 * How strongly causal links act in a run: the partial effect of a cause on what it feeds, everything else held, by a
 * central difference of the formula at saved moments.
 */
final class Effects
{
    /** Moments at which a sign is looked for. */
    private const LOOKS = 25;

    /** The change of the cause, as a share of its size in the run. */
    private const CHANGE = 1e-4;

    /** @var array<string, Relation> by name key, as formulas mention them */
    private readonly array $curves;

    /** @var array<string, int> by id, the column */
    private readonly array $positions;

    /** @var array<string, float> by id, the largest size in the run */
    private array $sizes = [];

    public function __construct(private readonly Analysis $analysis, private readonly Trajectory $run)
    {
        $curves = [];
        foreach ($analysis->model->elements as $element) {
            if ($element instanceof Relation) {
                $curves[Name::key($element->name)] = $element;
            }
        }
        $this->curves = $curves;
        $this->positions = array_flip($run->columns);
    }

    /**
     * The sign of every causal link: from its formula where that settles it, else from the run; `±` where it changes,
     * empty where nothing is known or nothing acts.
     *
     * @return array<string, string> by key of the link
     */
    public function signs(): array
    {
        $polarity = new Polarity($this->analysis);
        $signs = [];
        foreach ($this->analysis->links() as ['from' => $from, 'to' => $to, 'kind' => $kind]) {
            if ($kind !== 'unused') {
                $signs["$from>$to"] = $polarity->ofLink($from, $to)['sign'] ?? ($kind === 'now' ? $this->seen($from, $to) : '');
            }
        }

        return $signs;
    }

    private function seen(string $from, string $to): string
    {
        $node = $this->analysis->nodes[$to];
        $length = $this->run->length();
        if ($length === 0 || ! Polarity::isMomentary($node)) {
            return '';
        }
        $rises = $falls = false;
        $looks = min($length, self::LOOKS);
        for ($i = 0; $i < $looks; $i++) {
            $effect = $this->effect($from, $to, $looks === 1 ? 0 : intdiv($i * ($length - 1), $looks - 1));
            $rises = $rises || $effect > 0.0;
            $falls = $falls || $effect < 0.0;
        }

        return $rises && $falls ? '±' : ($rises ? '+' : ($falls ? '-' : ''));
    }

    /**
     * At one saved moment, the partial effect of each cause, and its share in what its target's causes do together:
     * |∂y/∂x · x| as a part of their sum.
     *
     * @param  int  $index  of the saved moment
     * @return array<string, array{effect: float, share: float}> by key of the link; links that cannot be told are left out
     */
    public function at(int $index): array
    {
        $effects = [];
        $weights = [];
        foreach ($this->analysis->links() as ['from' => $from, 'to' => $to, 'kind' => $kind]) {
            if ($kind !== 'now' || ! isset($this->analysis->nodes[$to]) || ! Polarity::isMomentary($this->analysis->nodes[$to])) {
                continue;
            }
            $effect = $this->effect($from, $to, $index);
            $value = $this->value($from, $index);
            if ($effect !== null && $value !== null) {
                $effects[$to]["$from>$to"] = $effect;
                $weights[$to]["$from>$to"] = abs($effect * $value);
            }
        }
        $result = [];
        foreach ($effects as $to => $some) {
            $sum = array_sum($weights[$to]);
            foreach ($some as $key => $effect) {
                $result[$key] = ['effect' => $effect, 'share' => $sum > 0.0 ? $weights[$to][$key] / $sum : 0.0];
            }
        }

        return $result;
    }

    private function value(string $id, int $index): ?float
    {
        return isset($this->positions[$id]) ? $this->run->row($index)[$this->positions[$id]] : $this->run->steady[$id] ?? null;
    }

    private function size(string $id): float
    {
        return $this->sizes[$id] ??= $this->run->has($id) && $this->run->length() > 0 ? max([0.0, ...array_map(abs(...), $this->run->column($id))]) : 0.0;
    }

    /** @return ?float the partial effect; null where the formula has no value around that moment */
    private function effect(string $from, string $to, int $index): ?float
    {
        $model = $this->analysis->model;
        $values = [];
        foreach ($this->analysis->uses[$to] ?? [] as $used) {
            $value = $model->elements[$used]->kind() === Kind::Curve ? 0.0 : $this->value($used, $index);
            if ($value === null) {
                return null;
            }
            $values[Name::key($model->elements[$used]->name)] = $value;
        }
        $key = Name::key($model->elements[$from]->name);
        if (! isset($values[$key]) || $model->elements[$from]->kind() === Kind::Curve) {
            return null;
        }
        $step = self::CHANGE * ($this->size($from) ?: 1.0);
        $time = $model->time;
        $moment = new Moment($time, (int) round(($this->run->times()[$index] - $time->start) / $time->step));
        $node = $this->analysis->nodes[$to];
        $more = $this->formula($node, [...$values, $key => $values[$key] + $step], $moment);
        $less = $this->formula($node, [...$values, $key => $values[$key] - $step], $moment);
        if ($more !== null && $less !== null) {
            return ($more - $less) / (2.0 * $step);
        }
        $here = $this->formula($node, $values, $moment);

        return $here === null || ($more === null && $less === null) ? null : ($more !== null ? $more - $here : $here - $less) / $step;
    }

    /** @param  array<string, float>  $values  by name key */
    private function formula(Node $node, array $values, Moment $moment): ?float
    {
        try {
            return (new Evaluator($values, $moment, $this->curves))->value($node);
        } catch (EvaluationError) {
            return null;
        }
    }
}
