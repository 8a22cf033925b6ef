<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Compile\Loops;

use MerryOrbit\Core\Compile\Code;
use MerryOrbit\Core\Compile\Emitter;
use MerryOrbit\Core\Formula\Catalogue;
use MerryOrbit\Core\Formula\Nature;
use MerryOrbit\Core\Formula\Node\Binary;
use MerryOrbit\Core\Formula\Node\Call;
use MerryOrbit\Core\Formula\Node\Cases;
use MerryOrbit\Core\Formula\Node\NameUse;
use MerryOrbit\Core\Formula\Node\Node;
use MerryOrbit\Core\Formula\Node\NumberLiteral;
use MerryOrbit\Core\Formula\Node\Pick;
use MerryOrbit\Core\Formula\Operator;
use MerryOrbit\Core\Model\Mapping;
use MerryOrbit\Core\Shape\CaseChoice;
use MerryOrbit\Core\Shape\ShapedPlan;

/**
 * Turns a formula that picks and gathers into plain arithmetic at the place where loops stand, with the lines that have to come
 * before it. Terms are added in the order of the elements, as where all of it is written out.
 */
final class LoopFormula
{
    /** @var list<string> */
    private array $lines = [];

    /** @var array<string, true> keys whose element at the place itself is mentioned */
    public array $near = [];

    /** @var array<string, string> by key, the variable with the value of the element before the present one, where it is handed on */
    public array $behind = [];

    public function __construct(
        public readonly ShapedPlan $shaped,
        public readonly LoopData $data,
        public readonly Emitter $emitter,
        public readonly LoopIndex $index,
    ) {
    }

    /** Adds lines that come before what is asked for. */
    public function before(string ...$lines): void
    {
        array_push($this->lines, ...array_values($lines));
    }

    /** @return list<string> the lines that come before what was asked for so far; they are handed over */
    public function taken(): array
    {
        [$lines, $this->lines] = [$this->lines, []];

        return $lines;
    }

    public function plain(Node $node, LoopPlace $place): Node
    {
        return $node->map(
            fn (Node $part): ?Node => match (true) {
                $part instanceof NameUse => $this->name($part, $place),
                $part instanceof Pick => (new LoopPick($this, $this->index))->node($part, $place),
                $part instanceof Cases => $this->cases($part, $place),
                $part instanceof Call && $part->function->nature === Nature::Along => $this->along($part, $place),
                $part instanceof Call && $part->function->name === 'if' => $this->choice($part, $place),
                $part instanceof Call && $part->function->name === 'divide' => $this->divide($part, $place),
                $part instanceof Binary => $this->joined($part, $place),
                default => null,
            },
        );
    }

    /**
     * What stands within loops of its own.
     *
     * @param-out list<string> $lines  that come before it there
     */
    public function inside(Node $node, LoopPlace $place, mixed &$lines): Node
    {
        [$plain, $lines] = $this->apart($node, $place);

        return $plain;
    }

    /** A function with a memory of its own, whose arguments are plain. */
    public function kept(Node $node, LoopPlace $place): Node
    {
        return $node instanceof Call
            ? new Call(
                $node->function,
                array_map(fn (Node $a): Node => $this->plain($a, $place), $node->arguments),
                $node->from,
                $node->length,
            )
            : $this->plain($node, $place);
    }

    /** @return array{Node, list<string>} for a branch that may not be taken, with its own lines */
    public function apart(Node $node, LoopPlace $place): array
    {
        $before = $this->taken();
        $plain = $this->plain($node, $place);
        $own = $this->taken();
        $this->lines = $before;

        return [$plain, $own];
    }

    private function choice(Call $node, LoopPlace $place): Node
    {
        $condition = $this->plain($node->arguments[0], $place);

        return $this->chosen($condition, $this->apart($node->arguments[1], $place), $this->apart($node->arguments[2], $place));
    }

    /**
     * @param  array{Node, list<string>}  $then
     * @param  array{Node, list<string>}  $else
     */
    public function chosen(Node $condition, array $then, array $else): Node
    {
        if ($then[1] === [] && $else[1] === []) {
            return new Call(Catalogue::all()['if'], [$condition, $then[0], $else[0]], 0, 0);
        }
        $chosen = $this->data->variable('e');
        $this->lines = [
            ...$this->lines,
            ...$this->emitter->assign(
                $chosen,
                new Call(Catalogue::all()['if'], [$condition, self::number(1.0), self::number(0.0)], 0, 0),
            ),
            "if ($chosen != 0.0) {",
            ...$then[1],
            ...$this->emitter->assign($chosen, $then[0]),
            '} else {',
            ...$else[1],
            ...$this->emitter->assign($chosen, $else[0]),
            '}',
        ];

        return new Code($chosen);
    }

    private function divide(Call $node, LoopPlace $place): Node
    {
        [$a, $b, $c] = $node->arguments;
        $above = $this->apart($a, $place);
        $otherwise = $this->apart($c, $place);
        $below = $this->plain($b, $place);
        if ($above[1] === [] && $otherwise[1] === []) {
            return new Call($node->function, [$above[0], $below, $otherwise[0]], $node->from, $node->length);
        }
        $code = $this->data->variable('e');
        array_push($this->lines, ...$this->emitter->assign($code, $below));
        $above[0] = new Binary(Operator::Divide, $above[0], new Code($code));

        return $this->chosen(new Code("$code != 0.0", true), $above, $otherwise);
    }

    private function joined(Binary $node, LoopPlace $place): ?Node
    {
        if ($node->operator !== Operator::And && $node->operator !== Operator::Or) {
            return null;
        }
        $left = $this->plain($node->left, $place);
        $right = $this->apart($node->right, $place);
        if ($right[1] === []) {
            return new Binary($node->operator, $left, $right[0]);
        }
        $right[0] = new Binary(Operator::Unequal, $right[0], self::number(0.0));
        $settled = [self::number($node->operator === Operator::Or ? 1.0 : 0.0), []];

        return $node->operator === Operator::And ? $this->chosen($left, $right, $settled) : $this->chosen($left, $settled, $right);
    }

    private function name(NameUse $node, LoopPlace $place): Node
    {
        $extent = $this->shaped->extent($node->key);
        if ($extent === []) {
            return $node;
        }
        if ($extent === $place->own) {
            $this->near[$node->key] = true;

            return $node;
        }
        [$index, $conditions] = $this->index->index($extent, $place);

        return new Code($this->index->value($node->key, $index, $conditions));
    }

    private function cases(Cases $node, LoopPlace $place): Node
    {
        $which = $this->which($node, $place);
        $chosen = $this->apart($node->main, $place);
        foreach ($node->exceptions as $i => $exception) {
            $other = $this->apart($exception, $place);
            $before = $this->taken();
            $one = $this->chosen(new Code("$which === ".($i + 1), true), $other, $chosen);
            $chosen = [$one, $this->taken()];
            $this->lines = $before;
        }
        array_push($this->lines, ...$chosen[1]);

        return $chosen[0];
    }

    /** Code for which of the exceptions holds at a place, from 1; 0 for none. Members that come and go are told by what they are known by. */
    private function which(Cases $node, LoopPlace $place): string
    {
        $over = array_map(strval(...), array_keys($place->at));
        $roster = $this->shaped->extents->rosters->in($over);
        if ($roster === null) {
            return $this->whichOver($node, $place, $over, []);
        }
        $rest = array_values(array_diff($over, [$roster->dimension]));
        $code = $this->whichOver($node, $place, $rest, []);
        $named = array_merge([], ...array_map(static fn (array $r): array => $r[$roster->dimension] ?? [], $node->regions));
        foreach (array_unique($named) as $member) {
            $one = $this->whichOver($node, $place, $rest, [$roster->dimension => $member]);
            $code =
                "({$roster->variable('name')}[{$place->at[$roster->dimension]}] === ".var_export($member, true)." ? $one : $code)";
        }

        return $code;
    }

    /**
     * @param  list<string>  $over  dimensions whose elements are all gone through
     * @param  array<string, string>  $fixed  by dimension, one element
     */
    private function whichOver(Cases $node, LoopPlace $place, array $over, array $fixed): string
    {
        $dimensions = $this->shaped->extents->dimensions;
        $choice = new CaseChoice($dimensions);
        $places = [$fixed];
        foreach ($over as $dimension) {
            $next = [];
            foreach ($places as $one) {
                foreach ($dimensions->elements($dimension) as $element) {
                    $next[] = [...$one, $dimension => $element];
                }
            }
            $places = $next;
        }
        $which = array_map(
            static fn (array $p): int => (int) array_search($choice->of($node, $p), [$node->main, ...$node->exceptions], true),
            $places,
        );

        return $over === [] ? (string) $which[0] : $this->data->add($which).'['.$this->index->index($over, $place)[0].']';
    }

    private function along(Call $node, LoopPlace $place): Node
    {
        $dimensions = $this->shaped->extents->dimensions;
        $name = $node->function->name;
        if (! in_array($name, ['count', 'position', 'number', 'is'], true)) {
            $gathering = new LoopGathering($this);
            $code = $gathering->into($node, $place);
            array_push($this->lines, ...$gathering->lines);

            return new Code($code);
        }
        $mapping = $name === 'count' ? $this->shaped->extents->counted($node) : null;
        if ($mapping !== null) {
            return $this->belonging($mapping, $place);
        }
        $dimension = $this->shaped->extents->dimension($node->arguments[0]);
        if ($name === 'count') {
            $roster = $this->shaped->extents->rosters->find($dimension->id);

            return $roster === null ? self::number((float) $dimensions->size($dimension->id)) : new Code("(float) {$roster->count()}");
        }
        $from = (string) $place->found($dimensions, $dimension->id);
        $elements = $dimensions->elements($from);
        if ($name === 'is') {
            $wanted = array_search($this->shaped->extents->elementOf($dimension, $node->arguments[1]), $elements, true);

            return $wanted === false ? self::number(0.0) : new Code("{$place->at[$from]} === $wanted", true);
        }
        $list = array_map(
            static fn (string $e): float => $name === 'number' ? (float) $e : (float) (1 + (int) $dimensions->place($dimension->id, $e)),
            $elements,
        );

        return new Code($this->data->add($list)."[{$place->at[$from]}]");
    }

    /** How many belong to the present element. */
    private function belonging(Mapping $mapping, LoopPlace $place): Node
    {
        $dimensions = $this->shaped->extents->dimensions;
        $at = $place->at[(string) $place->found($dimensions, $mapping->to)];
        $roster = $this->shaped->extents->rosters->find($mapping->from);
        if ($roster === null) {
            $counts = [];
            foreach ($dimensions->elements((string) $place->found($dimensions, $mapping->to)) as $to) {
                $own = array_filter($mapping->pairs, static fn (array $p): bool => $p[1] === $to && $p[2] !== 0.0);
                $counts[] = (float) count(
                    array_filter($own, static fn (array $p): bool => $dimensions->place($mapping->from, $p[0]) !== null),
                );
            }

            return new Code($this->data->add($counts)."[$at]");
        }
        if (isset($roster->relations[$mapping->id])) {
            $begin = $roster->of('begin', $mapping->id);

            return new Code("(float) ({$begin}[$at + 1] - {$begin}[$at])");
        }
        [$e, $j] = [$this->data->variable('e'), $this->data->variable('j')];
        $in = $roster->of('in', $mapping->id);
        $this->lines[] = "$e = 0.0; for ($j = 0; $j < {$roster->count()}; $j++) { if ({$in}[$j] === $at) { $e += 1.0; } }";

        return new Code($e);
    }

    private static function number(float $value): NumberLiteral
    {
        return NumberLiteral::of($value);
    }
}
