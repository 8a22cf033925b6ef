<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Compile\Loops;

use MerryOrbit\Core\Compile\Code;
use MerryOrbit\Core\Compile\Emitter;
use MerryOrbit\Core\Formula\Node\Along;
use MerryOrbit\Core\Formula\Node\Binary;
use MerryOrbit\Core\Formula\Node\Call;
use MerryOrbit\Core\Formula\Node\NameUse;
use MerryOrbit\Core\Formula\Node\Node;
use MerryOrbit\Core\Formula\Node\NumberLiteral;
use MerryOrbit\Core\Formula\Operator;
use MerryOrbit\Core\Model\Mapping;
use MerryOrbit\Core\Roster\OpenRoster;
use MerryOrbit\Core\Shape\Bound;

/** The loops of one gathering over dimensions, at the place where others stand. */
final class LoopGathering
{
    /** @var list<string> what has to come before the result is there */
    public array $lines = [];

    public function __construct(private readonly LoopFormula $formula)
    {
    }

    /** @return string the variable with the result */
    public function into(Call $node, LoopPlace $place): string
    {
        $extents = $this->formula->shaped->extents;
        $value = array_values(array_filter($node->arguments, static fn (Node $a): bool => ! ($a instanceof Along)))[0];
        $base = $extents->of($value);
        $bound = $extents->bound($node, $base);
        $e = $this->formula->data->variable('e');
        $name = $node->function->name;
        if ($name === 'sum' && $this->isWhole($value, $base, $bound)) {
            $this->lines[] = "$e = (float) \\array_sum(".$this->formula->index->wholeOf($value->key).');';

            return $e;
        }
        $count = $this->formula->data->variable('e');
        match ($name) {
            'sum' => $this->added($e, $value, $bound, $place),
            'mean' => $this->mean($e, $count, $value, $bound, $place),
            'product' => $this->loops(
                $bound,
                $place,
                "$e = 1.0;",
                fn (LoopPlace $at): array => $this->joined($e, Operator::Multiply, $value, $at),
            ),
            'least', 'greatest' => $this->extreme($e, $name === 'least' ? '<' : '>', $value, $bound, $place),
            'any', 'all' => $this->held($e, $name === 'any', $value, $bound, $place),
            'sd' => $this->deviation($e, $count, $value, $bound, $place),
            default => throw new \LogicException("No way to gather by $name"),
        };

        return $e;
    }

    /**
     * @param  list<string>  $base
     * @param  list<Bound>  $bound
     *
     * @phpstan-assert-if-true NameUse $value
     */
    private function isWhole(Node $value, array $base, array $bound): bool
    {
        return $value instanceof NameUse &&
            $this->formula->shaped->extent($value->key) !== [] &&
            // Lists of members are longer than there are members.
            $this->formula->shaped->roster($value->key) === null &&
            array_map(static fn (Bound $b): string => $b->mapping === null ? $b->dimension : '', $bound) === $base;
    }

    /**
     * How many terms there are.
     *
     * @param  list<Bound>  $bound
     * @return ?string null where a mapping decides
     */
    private function sizeOf(array $bound): ?string
    {
        if (array_filter($bound, static fn (Bound $b): bool => $b->mapping !== null) !== []) {
            return null;
        }
        $over = array_map(static fn (Bound $b): string => $b->dimension, $bound);
        $shaped = $this->formula->shaped;

        return $shaped->extents->rosters->in($over) === null
            ? Emitter::literal((float) $shaped->sizeOver($over))
            : "(float) ({$shaped->sizeCode($over)})";
    }

    /** @param  list<Bound>  $bound */
    private function added(string $e, Node $value, array $bound, LoopPlace $place): void
    {
        $add = fn (LoopPlace $at, string $weight): array => $this->joined($e, Operator::Add, $value, $at, $weight);
        $this->loops($bound, $place, "$e = 0.0;", $add);
    }

    /** @param  list<Bound>  $bound */
    private function mean(string $e, string $count, Node $value, array $bound, LoopPlace $place): void
    {
        $size = $this->sizeOf($bound);
        $this->loops(
            $bound,
            $place,
            $size === null ? "$e = 0.0; $count = 0.0;" : "$e = 0.0;",
            fn (LoopPlace $at, string $w): array => [
                ...$this->joined($e, Operator::Add, $value, $at, $w),
                ...$size === null ? ["$count += ".($w === '' ? '1.0' : $w).';'] : [],
            ],
        );
        $this->lines[] = "$e /= ".($size ?? $count).';';
    }

    /** @param  list<Bound>  $bound */
    private function extreme(string $e, string $sign, Node $value, array $bound, LoopPlace $place): void
    {
        $x = $this->formula->data->variable('e');
        $this->loops(
            $bound,
            $place,
            "$e = ".($sign === '<' ? '\\INF;' : '-\\INF;'),
            fn (LoopPlace $at): array => [...$this->valued($x, $value, $at), "\$check += $x; $e = $e $sign $x ? $e : $x;"],
        );
        // Of nothing there is none.
        $this->lines[] = "\$check += $e;";
    }

    /** @param  list<Bound>  $bound */
    private function held(string $e, bool $any, Node $value, array $bound, LoopPlace $place): void
    {
        $x = $this->formula->data->variable('e');
        [$first, $then, $when] = $any ? ['0.0', '1.0', '!='] : ['1.0', '0.0', '=='];
        $this->loops(
            $bound,
            $place,
            "$e = $first;",
            fn (LoopPlace $at): array => [
                ...$this->valued($x, $value, $at),
                "if ($x $when 0.0) { $e = $then; break ".count($bound).'; }',
            ],
        );
    }

    /** @param  list<Bound>  $bound */
    private function deviation(string $e, string $count, Node $value, array $bound, LoopPlace $place): void
    {
        $mean = $this->formula->data->variable('e');
        $size = $this->sizeOf($bound);
        $this->loops(
            $bound,
            $place,
            $size === null ? "$e = 0.0; $count = 0.0;" : "$e = 0.0;",
            fn (LoopPlace $at): array => [...$this->joined($e, Operator::Add, $value, $at), ...$size === null ? ["$count += 1.0;"] : []],
        );
        $count = $size ?? $count;
        $this->lines[] = "$mean = $e / $count;";
        $square = new Binary(Operator::Power, new Binary(Operator::Subtract, $value, new Code($mean)), NumberLiteral::of(2.0));
        $this->loops($bound, $place, "$e = 0.0;", fn (LoopPlace $at): array => $this->joined($e, Operator::Add, $square, $at));
        $this->lines[] = "$e = \\sqrt($e / $count);";
    }

    /** @return list<string> */
    private function valued(string $variable, Node $value, LoopPlace $at): array
    {
        $plain = $this->formula->inside($value, $at, $before);

        return [...$before, ...$this->formula->emitter->assign($variable, $plain)];
    }

    /** @return list<string> */
    private function joined(string $e, Operator $how, Node $value, LoopPlace $at, string $weight = ''): array
    {
        $plain = $this->formula->inside($value, $at, $before);
        $plain = $weight === '' ? $plain : new Binary(Operator::Multiply, new Code($weight), $plain);

        return [...$before, ...$this->formula->emitter->assign($e, new Binary($how, new Code($e), $plain))];
    }

    /**
     * @param  list<Bound>  $bound
     * @param  \Closure(LoopPlace, string): list<string>  $body  for the place of a term and code for its weight, empty if it is 1
     */
    private function loops(array $bound, LoopPlace $place, string $first, \Closure $body): void
    {
        $dimensions = $this->formula->shaped->extents->dimensions;
        $heads = [];
        $weights = [];
        $at = $place;
        foreach ($bound as $one) {
            $j = $this->formula->data->variable('j');
            if ($one->mapping === null) {
                $heads[] = ["for ($j = 0; $j < {$this->formula->shaped->sizeCode([$one->dimension])}; $j++) {"];
            } else {
                $k = $this->formula->data->variable('k');
                [$heads[], $weight] = $this->mapped($one, $one->mapping, $place, $j, $k);
                array_push($weights, ...$weight === '' ? [] : [$weight]);
            }
            $at = $at->moved($dimensions, $one->dimension, $j);
        }
        $outer = $this->formula->index->rowsOf(fn (): array => $body($at, implode(' * ', $weights)), $within);
        $innermost = array_pop($heads) ?? [];
        array_push(
            $this->lines,
            $first,
            ...array_merge(...$heads, ...[[]]),
            ...$outer,
            ...$innermost,
            ...$within,
            ...array_fill(0, count($bound), '}'),
        );
    }

    /**
     * A loop over what belongs to the present element by a mapping.
     *
     * @return array{list<string>, string} its head, and code for the weight, empty where all are 1
     */
    private function mapped(Bound $bound, Mapping $mapping, LoopPlace $place, string $j, string $k): array
    {
        $dimensions = $this->formula->shaped->extents->dimensions;
        $from = $place->found($dimensions, $mapping->to);
        $roster = $this->formula->shaped->extents->rosters->find($mapping->from);
        if ($roster !== null) {
            return $this->members($roster, $mapping, $from === null ? '0' : $place->at[$from], $j, $k);
        }
        $of = [];
        foreach ($mapping->pairs as [$one, $to, $weight]) {
            $of[$to][$one] = $weight;
        }
        $begins = [0];
        $sources = $weights = [];
        $elements = $dimensions->elements($bound->dimension);
        foreach ($from === null ? [] : $dimensions->elements($from) as $to) {
            foreach ($elements as $i => $element) {
                if (($of[$to][$element] ?? 0.0) !== 0.0) {
                    $sources[] = $i;
                    $weights[] = $of[$to][$element];
                }
            }
            $begins[] = count($sources);
        }
        $at = $from === null ? '0' : $place->at[$from];
        $weight =
            array_filter($weights, static fn (float $w): bool => $w !== 1.0) === [] ? '' : $this->formula->data->add($weights)."[$k]";
        if ($elements !== [] && count($sources) === (count($begins) - 1) * count($elements)) {
            $size = count($elements);

            return [["for ($j = 0, $k = $at * $size; $j < $size; $j++, $k++) {"], $weight];
        }
        $begin = $this->formula->data->add($begins);

        return [
            [
                "for ($k = {$begin}[$at], {$k}e = {$begin}[$at + 1]; $k < {$k}e; $k++) {",
                "$j = ".$this->formula->data->add($sources)."[$k];",
            ],
            $weight,
        ];
    }

    /**
     * A loop over the members that belong to the present element, or that the present member is related to.
     *
     * @return array{list<string>, string} its head, and code for the weight
     */
    private function members(OpenRoster $roster, Mapping $mapping, string $at, string $j, string $k): array
    {
        if (isset($roster->belongs[$mapping->id])) {
            return [
                ["for ($j = 0; $j < {$roster->count()}; $j++) {", "if ({$roster->of('in', $mapping->id)}[$j] !== $at) { continue; }"],
                '',
            ];
        }
        $begin = $roster->of('begin', $mapping->id);
        $isWeighted = array_filter($mapping->pairs, static fn (array $p): bool => $p[2] !== 1.0) !== [];

        return [
            ["for ($k = {$begin}[$at], {$k}e = {$begin}[$at + 1]; $k < {$k}e; $k++) {", "$j = {$roster->of('with', $mapping->id)}[$k];"],
            $isWeighted ? $roster->of('weight', $mapping->id)."[$k]" : '',
        ];
    }
}
