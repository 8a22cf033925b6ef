<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Structure;

use MerryOrbit\Core\Analysis\Analysis;
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

    private readonly FormulaInRun $formulas;

    /** @var array<string, float> by id, the largest size in the run */
    private array $sizes = [];

    public function __construct(private readonly Analysis $analysis, private readonly Trajectory $run)
    {
        $this->formulas = new FormulaInRun($analysis, $run);
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
            $value = $this->formulas->saved($from, $index);
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

    private function size(string $id): float
    {
        return $this->sizes[$id] ??=
            $this->run->has($id) && $this->run->length() > 0 ? max([0.0, ...array_map(abs(...), $this->run->column($id))]) : 0.0;
    }

    /** @return ?float the partial effect; null where the formula has no value around that moment */
    private function effect(string $from, string $to, int $index): ?float
    {
        $model = $this->analysis->model;
        $values = $this->formulas->inputs($to, $index);
        if (! isset($values[$from])) {
            return null;
        }
        $step = self::CHANGE * ($this->size($from) ?: 1.0);
        $node = $this->analysis->nodes[$to];
        $more = $this->formulas->with($node, [...$values, $from => $values[$from] + $step], $index);
        $less = $this->formulas->with($node, [...$values, $from => $values[$from] - $step], $index);
        if ($more !== null && $less !== null) {
            return ($more - $less) / (2.0 * $step);
        }
        $here = $this->formulas->with($node, $values, $index);

        return $here === null || ($more === null && $less === null) ? null : ($more !== null ? $more - $here : $here - $less) / $step;
    }
}
