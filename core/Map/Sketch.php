<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Map;

use MerryOrbit\Core\Formula\FormulaText;
use MerryOrbit\Core\Formula\Name;
use MerryOrbit\Core\Model\Element;
use MerryOrbit\Core\Model\Flow;
use MerryOrbit\Core\Model\Model;
use MerryOrbit\Core\Model\Parameter;
use MerryOrbit\Core\Model\Stock;
use MerryOrbit\Core\Model\TimeSettings;

/**
 * A causal map as an ordinary model without measure. Each factor is a stock of height 0, which is what is usual for it. It approaches
 * the hyperbolic tangent of what its causes add up to (each height × 1 or -1 × the weight of the link), so that no height leaves
 * -1 … 1 for ever. One link takes a beat; what acts late passes as many stocks more as it takes beats more. A link of open sign moves nothing.
 * Heights say which way things go and in which order, not how much.
 */
final class Sketch
{
    public const BEATS = 40.0;

    public const MOST_BEATS = 400.0;

    private const STEP = 0.125;

    private const WEIGHTS = ['weak' => 0.5, 'usual' => 1.0, 'strong' => 1.5];

    /** A hand moves faster than a cause: in a quarter of a beat. */
    private const HAND = 0.25;

    /** Later than any beat that is played. */
    private const NEVER = 1_000_000.0;

    public readonly Model $model;

    /** @var array<string, string> ids of the stocks of heights, by id of the factor */
    public readonly array $stocks;

    /** @var array<string, array{Element, string}> by id, with its formula */
    private array $written = [];

    /** @var array<string, string> ids by key of the name */
    private array $ids = [];

    /** @var array<string, string> names of what stands for a cause that acts late, by id of the factor */
    private array $late = [];

    /**
     * @param  list<Push>  $pushes  those of unknown factors are passed over
     * @param  array<string, float>  $starts  heights to begin with, by id of the factor
     * @param  float  $beats  how long it is played
     */
    public function __construct(CausalGraph $graph, array $pushes = [], array $starts = [], float $beats = self::BEATS)
    {
        $stocks = $names = [];
        foreach ($graph->names as $id => $name) {
            [$stocks[(string) $id], $names[(string) $id]] = $this->stock($name, max(-1.0, min(1.0, $starts[$id] ?? 0.0)));
        }
        $weights = [];
        foreach (self::WEIGHTS as $strength => $weight) {
            $weights[$strength] = $this->add("weight of a $strength link", (string) $weight, Parameter::class)[1];
        }
        $beat = $this->add('time of a link', '1', Parameter::class)[1];
        $hand = $this->add('time of a hand', (string) self::HAND, Parameter::class)[1];
        $sums = array_fill_keys(array_keys($stocks), '');
        foreach ($graph->links as $link) {
            if ($link->sign !== '?') {
                $cause = $link->late ? $this->lateOf($link->from, $names[$link->from], $beat) : $names[$link->from];
                $sums[$link->to] .= ($link->sign === '-' ? ' - ' : ' + ')."{$weights[$link->strength]} * ".Name::written($cause);
            }
        }
        foreach ($stocks as $id => $stock) {
            $own = array_values(array_filter($pushes, static fn (Push $p): bool => $p->factor === (string) $id));
            $hands = array_map(fn (Push $p): array => $this->hand($names[$id], $p), $own);
            $this->approach($stock, $names[$id], $this->target($sums[$id], $hands), $hands, $beat, $hand);
        }
        $this->stocks = $stocks;
        $this->model = $this->made(new TimeSettings(0.0, max(1.0, min(self::MOST_BEATS, ceil($beats))), self::STEP, 'beat'));
    }

    /** @param  list<array{Push, string, string}>  $hands */
    private function target(string $sum, array $hands): string
    {
        foreach ($hands as [$push, $by, $during]) {
            $sum .= $push->isHold ? '' : " + $by * $during";
        }

        return $sum === '' ? '0' : 'tanh('.preg_replace('/^ \+ /', '', $sum).')';
    }

    /** @param  list<array{Push, string, string}>  $hands */
    private function approach(string $stock, string $name, string $target, array $hands, string $beat, string $hand): void
    {
        $height = Name::written($name);
        $formula = "($target - $height) / $beat";
        foreach ($hands as [$push, $by, $during]) {
            $formula = $push->isHold ? "if($during, ($by - $height) / $hand, $formula)" : $formula;
        }
        $this->flow("change of $name", $stock, $formula);
    }

    /**
     * What a hand does, by parameters: another push is another number and no other formula.
     *
     * @return array{Push, string, string} with formulas for how far it goes, and for whether it is on
     */
    private function hand(string $name, Push $push): array
    {
        $parameter = fn (string $words, float $value): string => Name::written(
            $this->add(($push->isHold ? 'hold of ' : 'push on ')."$name$words", self::number($value), Parameter::class)[1],
        );
        $by = $parameter('', $push->by);
        $from = $parameter(' from', $push->from);
        $until = $parameter(' until', $push->until ?? self::NEVER);

        return [$push, $by, "(time >= $from and time < $until)"];
    }

    /** What a cause was a while ago: stocks that are each a beat behind the one before. They are shared by all its late links. */
    private function lateOf(string $id, string $name, string $beat): string
    {
        if (! isset($this->late[$id])) {
            $before = $name;
            for ($beats = 1; $beats < GraphLink::LATE; $beats++) {
                [$stock, $given] = $this->stock("$name $beats ".($beats === 1 ? 'beat' : 'beats').' ago', 0.0);
                $this->flow("change of $given", $stock, '('.Name::written($before).' - '.Name::written($given).") / $beat");
                $before = $given;
            }
            $this->late[$id] = $before;
        }

        return $this->late[$id];
    }

    private static function number(float $value): string
    {
        return json_encode($value, JSON_THROW_ON_ERROR);
    }

    /** @return array{string, string} its id and its name */
    private function stock(string $name, float $start): array
    {
        return $this->add($name, self::number($start), Stock::class);
    }

    private function flow(string $name, string $stock, string $formula): void
    {
        [$id] = $this->add($name, $formula, Flow::class);
        $flow = $this->written[$id][0];
        $this->written[$id][0] = $flow->with(['to' => $stock]);
    }

    /**
     * @param  class-string<Stock|Flow|Parameter>  $class
     * @return array{string, string} its id and the name it got
     */
    private function add(string $name, string $formula, string $class): array
    {
        $name = Name::tidy($name);
        $wanted = Name::refusal($name) === null ? $name : 'factor '.(count($this->written) + 1);
        for ($name = $wanted, $i = 2; isset($this->ids[Name::key($name)]); $i++) {
            $name = "$wanted $i";
        }
        $id = 'h'.count($this->written);
        $this->ids[Name::key($name)] = $id;
        $this->written[$id] = [new $class($id, $name, FormulaText::none()), $formula];

        return [$id, $name];
    }

    private function made(TimeSettings $time): Model
    {
        $elements = [];
        foreach ($this->written as $id => [$element, $formula]) {
            $elements[$id] = $element->with([
                'formula' => FormulaText::typed($formula, fn (string $key): ?string => $this->ids[$key] ?? null),
            ]);
        }

        return new Model('Sketch', time: $time, elements: $elements);
    }
}
