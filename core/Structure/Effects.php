<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Structure;

use MerryOrbit\Core\Analysis\Analysis;
use MerryOrbit\Core\Formula\Node\NameUse;
use MerryOrbit\Core\Formula\Node\Node;
use MerryOrbit\Core\Plan\Key;
use MerryOrbit\Core\Plan\Plan;
use MerryOrbit\Core\Shape\ExtentError;
use MerryOrbit\Core\Shape\Extents;
use MerryOrbit\Core\Shape\ShapedPlan;
use MerryOrbit\Core\Simulate\Trajectory;

/**
 * How strongly causal links act in a run: the partial effect of a cause on what it feeds, everything else held, by a
 * central difference of the formula at saved moments.
 */
final class Effects
{
    /** Elements along dimensions at which a sign is looked for. */
    private const ELEMENTS = 12;

    /** Moments at which a sign is looked for. */
    private const LOOKS = 25;

    /** The change of the cause, as a share of its size in the run. */
    private const CHANGE = 1e-4;

    private readonly FormulaInRun $formulas;

    /** @var array<string, float> by id, the largest size in the run */
    private array $sizes = [];

    private readonly ShapedPlan $shaped;

    /** @var array<string, ?Node> formulas by what they are of, and of which element */
    private array $written = [];

    /** @param  array<string, string>  $look  at which element of a dimension it is looked, by ids; along others at none alone */
    public function __construct(private readonly Analysis $analysis, private readonly Trajectory $run, private readonly array $look = [])
    {
        $this->formulas = new FormulaInRun($analysis, $run);
        $this->shaped = new ShapedPlan($analysis->outline(), new Extents($analysis->model, $analysis->extents));
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
        for ($n = 0; $n < min($this->analysis->shaped === null ? self::ELEMENTS : 2, $this->shaped->sizeOf($to)); $n++) {
            $place = $this->shaped->place($to, $n);
            for ($i = 0; $i < $looks; $i++) {
                $effect = $this->effect($from, $to, $place, $looks === 1 ? 0 : intdiv($i * ($length - 1), $looks - 1))['effect'] ?? null;
                $rises = $rises || $effect > 0.0;
                $falls = $falls || $effect < 0.0;
            }
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
            $place = $this->looked($to);
            $effect = $place === null ? null : $this->effect($from, $to, $place, $index);
            if ($effect !== null) {
                $effects[$to]["$from>$to"] = $effect['effect'];
                $weights[$to]["$from>$to"] = abs($effect['weight']);
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

    /**
     * The one element of a thing that is looked at.
     *
     * @return array<string, string>|null ids of elements by dimension; null if it is not one
     */
    private function looked(string $id): ?array
    {
        $place = [];
        foreach ($this->shaped->extent($id) as $dimension) {
            foreach ($this->look as $at => $element) {
                if ($this->shaped->extents->dimensions->pair((string) $at, $dimension)) {
                    $place[$dimension] = $element;
                }
            }
            if ($this->shaped->extents->dimensions->place($dimension, $place[$dimension] ?? '') === null) {
                return null;
            }
        }

        return $place;
    }

    /**
     * The formula of one element.
     *
     * @param  array<string, string>  $place
     */
    private function node(string $id, array $place): ?Node
    {
        $name = "{$id}[".implode(',', $place).']';
        if (! array_key_exists($name, $this->written)) {
            try {
                // What looks among all elements gets no value here, and so no effect.
                $this->written[$name] = $this->shaped->at(
                    $this->analysis->nodes[$id],
                    $place,
                    static fn (Node $n): NameUse => new NameUse('?', '?', 0, 0),
                );
            } catch (ExtentError) {
                $this->written[$name] = null;
            }
        }

        return $this->written[$name];
    }

    private function size(string $key): float
    {
        return $this->sizes[$key] ??=
            $this->run->has($key) && $this->run->length() > 0 ? max([0.0, ...array_map(abs(...), $this->run->column($key))]) : 0.0;
    }

    /**
     * The partial effect of a cause; of one with several elements in the formula, of all of them together.
     *
     * @param  array<string, string>  $place  of what is affected
     * @return array{effect: float, weight: float}|null and how much of the value it makes up; null where the formula has no value around that moment
     */
    private function effect(string $from, string $to, array $place, int $index): ?array
    {
        $node = $this->node($to, $place);
        if ($node === null) {
            return null;
        }
        $values = [];
        foreach (Plan::keys($node) as $key) {
            $value = $this->formulas->saved($key, $index);
            if ($value === null) {
                return null;
            }
            $values[$key] = $value;
        }
        $own = array_filter($values, static fn (string $k): bool => Key::ownerOf($k) === $from, ARRAY_FILTER_USE_KEY);
        if ($own === []) {
            return null;
        }
        $step = self::CHANGE * (max(array_map($this->size(...), array_keys($own))) ?: 1.0);
        $effect = $this->slope($node, $values, array_fill_keys(array_keys($own), $step), $step, $index);
        if (count($own) === 1) {
            return $effect === null ? null : ['effect' => $effect, 'weight' => $effect * reset($own)];
        }
        // All of them a little larger, each by its own size.
        $weight = $this->slope($node, $values, array_map(static fn (float $x): float => self::CHANGE * $x, $own), self::CHANGE, $index);

        return $effect === null ? null : ['effect' => $effect, 'weight' => $weight ?? 0.0];
    }

    /**
     * @param  array<string, float>  $values
     * @param  array<string, float>  $changes  by key
     */
    private function slope(Node $node, array $values, array $changes, float $step, int $index): ?float
    {
        $moved = static fn (float $sign): array => array_replace(
            $values,
            array_combine(
                array_keys($changes),
                array_map(static fn (string $k, float $by): float => $values[$k] + $sign * $by, array_keys($changes), $changes),
            ),
        );
        $more = $this->formulas->with($node, $moved(1.0), $index);
        $less = $this->formulas->with($node, $moved(-1.0), $index);
        if ($more !== null && $less !== null) {
            return ($more - $less) / (2.0 * $step);
        }
        $here = $this->formulas->with($node, $values, $index);

        return $here === null || ($more === null && $less === null) ? null : ($more !== null ? $more - $here : $here - $less) / $step;
    }
}
