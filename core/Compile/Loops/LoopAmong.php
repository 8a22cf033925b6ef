<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Compile\Loops;

use MerryOrbit\Core\Compile\Code;
use MerryOrbit\Core\Formula\Node\Along;
use MerryOrbit\Core\Formula\Node\Binary;
use MerryOrbit\Core\Formula\Node\Call;
use MerryOrbit\Core\Formula\Node\Node;
use MerryOrbit\Core\Formula\Operator;

/** The loops of what looks among all elements along a dimension: ranks, running sums, allotments, for all of them in one go. */
final readonly class LoopAmong
{
    private const LIBRARY = '\\MerryOrbit\\Core\\Library\\Among::';

    public function __construct(private LoopFormula $formula)
    {
    }

    /**
     * @param  list<string>  $extent
     * @return list<string> lines that fill the list of all elements
     */
    public function lines(Call $node, array $extent, string $whole): array
    {
        $values = array_values(array_filter($node->arguments, static fn (Node $a): bool => ! ($a instanceof Along)));
        $base = $extent;
        $along = $this->formula->shaped->extents->bound($node, $base)[0]->dimension;
        $at = [];
        $lines = [];
        foreach (array_diff($extent, [$along]) as $dimension) {
            $at[$dimension] = $this->formula->data->variable('j');
            $lines[] = "for ($at[$dimension] = 0; $at[$dimension] < {$this->formula->shaped->sizeCode([
                $dimension,
            ])}; $at[$dimension]++) {";
        }
        $j = $this->formula->data->variable('j');
        $place = new LoopPlace([...$at, $along => $j]);
        $loop = "for ($j = 0; $j < {$this->formula->shaped->sizeCode([$along])}; $j++) {";
        $own = $whole.'['.$this->formula->index->index($extent, $place)[0].']';
        $lines = [
            ...$lines,
            ...$node->function->name === 'cumulate'
                ? $this->running($values[0], $place, $loop, $own)
                : $this->called($node, $values, $place, $loop, $j, $own),
        ];

        return [...$lines, ...array_fill(0, count($extent) - 1, '}')];
    }

    /** @return list<string> */
    private function running(Node $value, LoopPlace $place, string $loop, string $own): array
    {
        $e = $this->formula->data->variable('e');

        return ["$e = 0.0;", $loop, ...$this->valued($e, $value, $place, new Code($e)), "$own = $e;", '}'];
    }

    /**
     * @param  list<Node>  $values
     * @return list<string>
     */
    private function called(Call $node, array $values, LoopPlace $place, string $loop, string $j, string $own): array
    {
        $lists = $body = [];
        $x = $this->formula->data->variable('e');
        foreach ($values as $value) {
            $list = $lists[] = $this->formula->data->variable('l');
            $body = [...$body, ...$this->valued($x, $value, $place), "{$list}[] = $x; \$check += $x;"];
        }
        $function = $node->function->name === 'rank' ? 'ranks' : 'allotted';
        $result = $this->formula->data->variable('l');

        return [
            implode(' ', array_map(static fn (string $l): string => "$l = [];", $lists)),
            $loop,
            ...$body,
            '}',
            "$result = ".self::LIBRARY."$function(".implode(', ', $lists).');',
            $loop,
            "$own = {$result}[$j];",
            '}',
        ];
    }

    /** @return list<string> */
    private function valued(string $variable, Node $value, LoopPlace $place, ?Code $sum = null): array
    {
        $plain = $this->formula->inside($value, $place, $lines);

        return [
            ...$lines,
            ...$this->formula->emitter->assign($variable, $sum === null ? $plain : new Binary(Operator::Add, $sum, $plain)),
        ];
    }
}
