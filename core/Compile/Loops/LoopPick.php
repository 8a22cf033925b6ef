<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Compile\Loops;

use MerryOrbit\Core\Compile\Code;
use MerryOrbit\Core\Formula\Node\Node;
use MerryOrbit\Core\Formula\Node\Pick;
use MerryOrbit\Core\Shape\Move;

/** Turns picks into mentions of elements elsewhere in their lists. */
final readonly class LoopPick
{
    public function __construct(private LoopFormula $formula, private LoopIndex $index)
    {
    }

    public function node(Pick $node, LoopPlace $place): Node
    {
        $fixed = $conditions = [];
        $mapped = null;
        foreach ($this->formula->shaped->extents->moves($node) as $dimension => $move) {
            $dimension = (string) $dimension;
            if ($move->mapping !== null) {
                $mapped = [$dimension, $move];
            } elseif ($move->element !== null) {
                $own = $this->formula->shaped->extents->dimensions->place($dimension, $move->element);
                $fixed[$dimension] = (string) ($own ?? 0);
                array_push($conditions, ...$own === null ? ['false'] : []);
            } else {
                [$code, $isPart] = $this->moved($dimension, $move, $place);
                $fixed[$dimension] = $code;
                array_push($conditions, ...$isPart === null ? [] : [$isPart]);
            }
        }
        if ($mapped !== null) {
            [$dimension, $move] = $mapped;

            return $this->through($node, $dimension, $move, $place, $fixed, $conditions);
        }
        $offset = $this->offset($node, $place);
        if ($offset !== null && $offset[0] === '$n - 1' && isset($this->formula->behind[$node->of->key])) {
            return $this->unless($conditions, new Code($this->formula->behind[$node->of->key]), $node, $place);
        }
        [$index, $parts] = $offset ?? $this->index->index($this->formula->shaped->extent($node->of->key), $place, $fixed);

        return $this->unless($conditions, new Code($this->index->value($node->of->key, $index, $parts)), $node, $place);
    }

    /**
     * Where a pick looks that goes so many elements back or on from the present one.
     *
     * @return array{string, array{}}|null null for others
     */
    private function offset(Pick $node, LoopPlace $place): ?array
    {
        $extent = $this->formula->shaped->extent($node->of->key);
        $by = 0;
        foreach ($extent === $place->own ? $this->formula->shaped->extents->moves($node) : [null] as $dimension => $move) {
            if ($move === null || $move->by === 0 || $move->over !== (string) $dimension) {
                return null;
            }
            $inner = array_slice($extent, (int) array_search((string) $dimension, $extent, true) + 1);
            $by += $move->by * $this->formula->shaped->sizeOver($inner);
        }

        return [$by < 0 ? '$n - '.-$by : "\$n + $by", []];
    }

    /** @return array{string, ?string} where a pick looks, and what must hold for something to be there */
    private function moved(string $dimension, Move $move, LoopPlace $place): array
    {
        $dimensions = $this->formula->shaped->extents->dimensions;
        $over = (string) $move->over;
        $from = $place->found($dimensions, $over);
        if ($from !== null && $move->by !== 0 && $dimensions->elements($from) === $dimensions->elements($dimension)) {
            $here = $place->at[$from];
            $size = $dimensions->size($dimension);

            return $move->by < 0
                ? ["$here - ".-$move->by, "$here >= ".-$move->by]
                : ["$here + $move->by", "$here < ".($size - $move->by)];
        }
        [$code, $isPart] = $this->index->position($over, $dimension, $move->by, $place);

        return [$code, $isPart ? "$code >= 0" : null];
    }

    /** @param  list<string>  $conditions */
    private function unless(array $conditions, Node $found, Pick $node, LoopPlace $place): Node
    {
        // Without another value it is known that something is there.
        return $conditions === [] || $node->otherwise === null
            ? $found
            : $this->formula->chosen(
                new Code(implode(' && ', $conditions), true),
                [$found, []],
                $this->formula->apart($node->otherwise, $place),
            );
    }

    /**
     * A value by way of a mapping: where an element belongs to several, their mean by weight.
     *
     * @param  array<string, string>  $fixed
     * @param  list<string>  $conditions
     */
    private function through(Pick $node, string $dimension, Move $move, LoopPlace $place, array $fixed, array $conditions): Node
    {
        $dimensions = $this->formula->shaped->extents->dimensions;
        $from = (string) $place->found($dimensions, (string) $move->over);
        $roster = $this->formula->shaped->extents->rosters->find($move->mapping->from ?? '');
        if ($roster !== null) {
            $in = $roster->of('in', $move->mapping->id ?? '')."[{$place->at[$from]}]";
            $all = $this->formula->shaped->extent($node->of->key);
            [$index, $parts] = $this->index->index($all, $place, [...$fixed, $dimension => $in]);
            // Who belongs nowhere has no value there.
            $conditions[] = "$in >= 0";
            $code = $this->index->value($node->of->key, $index, $parts);

            return $node->otherwise === null
                ? new Code("($in >= 0 ? $code : \\NAN)")
                : $this->unless($conditions, new Code($code), $node, $place);
        }
        $begins = [0];
        $targets = $weights = [];
        $pairs = [];
        foreach ($move->mapping->pairs ?? [] as [$one, $to, $weight]) {
            $pairs[$one][] = [$to, $weight];
        }
        $counts = [];
        foreach ($dimensions->elements($from) as $element) {
            foreach ($pairs[$element] ?? [] as [$to, $weight]) {
                if ($weight !== 0.0) {
                    $targets[] = $dimensions->place($dimension, $to) ?? -1;
                    $weights[] = $weight;
                }
            }
            $counts[] = count($targets) - end($begins);
            $begins[] = count($targets);
        }
        [$at, $begin, $target] = [$place->at[$from], $this->formula->data->add($begins), $this->formula->data->add($targets)];
        $at1 = "{$begin}[$at + 1]";
        $at = "{$begin}[$at]";
        array_push($conditions, ...in_array(0, $counts, true) ? ["$at1 > $at"] : []);
        $of = function (string $j) use ($node, $place, $fixed, $dimension, $target, $targets): string {
            $to = "{$target}[$j]";
            [$index, $parts] = $this->index->index($this->formula->shaped->extent($node->of->key), $place, [
                ...$fixed,
                $dimension => $to,
            ]);

            return $this->index->value($node->of->key, $index, [...$parts, ...in_array(-1, $targets, true) ? ["$to >= 0"] : []]);
        };
        if (max([0, ...$counts]) <= 1) {
            return $this->unless($conditions, new Code($of($at)), $node, $place);
        }
        [$e, $f, $j, $w] = [...array_map($this->formula->data->variable(...), ['e', 'e', 'j']), $this->formula->data->add($weights)];
        $lines = [
            "$e = 0.0; $f = 0.0;",
            "for ($j = $at; $j < $at1; $j++) { $e += {$w}[$j] * {$of($j)}; $f += {$w}[$j]; }",
            "$e = $at1 - $at === 1 ? {$of($at)} : $e / $f;",
        ];
        if ($conditions === [] || $node->otherwise === null) {
            $this->formula->before(...$lines);

            return new Code($e);
        }

        return $this->formula->chosen(
            new Code(implode(' && ', $conditions), true),
            [new Code($e), $lines],
            $this->formula->apart($node->otherwise, $place),
        );
    }
}
