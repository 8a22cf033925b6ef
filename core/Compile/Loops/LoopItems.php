<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Compile\Loops;

use MerryOrbit\Core\Compile\Frame;
use MerryOrbit\Core\Formula\Catalogue;
use MerryOrbit\Core\Formula\Nature;
use MerryOrbit\Core\Formula\Node\Call;
use MerryOrbit\Core\Formula\Node\NameUse;
use MerryOrbit\Core\Formula\Node\Node;
use MerryOrbit\Core\Formula\Node\Pick;
use MerryOrbit\Core\Plan\Pace;
use MerryOrbit\Core\Plan\Plan;
use MerryOrbit\Core\Plan\Planner;
use MerryOrbit\Core\Shape\Bound;
use MerryOrbit\Core\Shape\Lifted;
use MerryOrbit\Core\Shape\ShapedPlan;

/** What is computed in a step of a plan that extends over dimensions, and what each of it reads. */
final class LoopItems
{
    private readonly Plan $plan;

    private readonly ShapedPlan $shaped;

    private readonly Frame $frame;

    public function __construct(private readonly LoopContext $context)
    {
        $this->plan = $context->plan;
        $this->shaped = $context->shaped;
        $this->frame = $context->frame;
    }

    /**
     * All that is computed in a step, each after what it needs.
     *
     * @return array{list<LoopItem>, list<LoopItem>} and what was lifted and stays the same during a run
     */
    public function items(): array
    {
        $nodes = $early = [];
        foreach ($this->frame->moving as $equation) {
            $nodes[$equation->key] = $this->context->lifting->of($equation->node, $this->shaped->extent($equation->key));
            $early[$equation->key] =
                $this->context->looped && ($equation->pace === Pace::Step || ! isset($this->plan->drives[$equation->key]));
        }
        $watches = [];
        foreach ($this->plan->cells as $key => $cell) {
            if ($cell->watched !== null) {
                $watches[$key] = $this->context->lifting->of($cell->watched, $this->shaped->extent($key));
            }
        }
        $end = $this->plan->endWhen === null ? null : $this->context->lifting->of($this->plan->endWhen, []);
        $lifted = $this->context->lifting->lifted;
        $steadyKeys = [...array_fill_keys([...$this->plan->parameters, ...$this->frame->constants()], true)];
        $drive = $this->driving($nodes, $early);
        $items = $steady = [];
        foreach ($lifted as $key => $one) {
            $isSteady =
                ! $this->shaped->extents->rosters->isAny() &&
                Planner::isTimeless($this->withoutAlong($one->node)) &&
                array_diff_key(array_flip(Plan::keys($one->node)), $steadyKeys) === [];
            $steadyKeys += $isSteady ? [$key => true] : [];
            $isEarly = $this->context->looped && ! isset($drive[$key]);
            $item = ($isSteady ? null : $this->sumItem($one, $nodes, $isEarly)) ?? $this->item('lifted', $key, $one->node, $isEarly);
            $isSteady ? ($steady[] = $item) : ($items[] = $item);
        }
        foreach ($nodes as $key => $node) {
            $items[] = $this->item('equation', (string) $key, $node, $early[$key]);
        }
        foreach ($watches as $key => $node) {
            $items[] = $this->item('watch', (string) $key, $node, $this->context->looped);
        }
        if ($end !== null) {
            $items[] = $this->item('end', '', $end, $this->context->looped);
        }
        foreach ($this->plan->states as $key => $state) {
            if ($this->context->looped || ! $this->context->masses->owns($key)) {
                $items[] = $this->rateItem((string) $key);
            }
        }

        return [$items, $steady];
    }

    /** Stands for the formula where it is asked whether it stays the same: looking along dimensions changes nothing about that. */
    private function withoutAlong(Node $node): Node
    {
        return $node->map(
            fn (Node $part): ?Node => $part instanceof Call && $part->function->nature === Nature::Along
                ? new Call(Catalogue::all()['max'], array_map($this->withoutAlong(...), $part->arguments), 0, 0)
                : null,
        );
    }

    /**
     * What of the lifted is needed at every look.
     *
     * @param  array<string, Node>  $nodes
     * @param  array<string, bool>  $early
     * @return array<string, true>
     */
    private function driving(array $nodes, array $early): array
    {
        $driving = [];
        $queue = array_keys(array_filter($early, static fn (bool $e): bool => ! $e));
        while (($key = array_pop($queue)) !== null) {
            $node = $nodes[$key] ?? ($this->context->lifting->lifted[$key]->node ?? null);
            foreach ($node === null ? [] : Plan::keys($node) as $used) {
                if (isset($this->context->lifting->lifted[$used]) && ! isset($driving[$used])) {
                    $driving[$used] = true;
                    $queue[] = $used;
                }
            }
        }

        return $driving;
    }

    /** @param  'equation'|'lifted'|'watch'|'end'  $kind */
    private function item(string $kind, string $key, Node $node, bool $early): LoopItem
    {
        $extent = $this->shaped->extent($key);
        $near = $far = $behind = [];
        $this->reads($node, $extent, false, $near, $far, $behind);
        if ($kind === 'equation') {
            foreach ($this->context->capsOf($key) as $stock) {
                $near[$stock] = true;
            }
        }
        if ($kind === 'lifted') {
            [$near, $far, $behind] = [[], $near + $far + array_fill_keys(array_keys($behind), true), []];
        }

        return new LoopItem($kind, $key, $extent, $node, $early, $near, $far, $behind, $this->shaped->sizeOver($extent));
    }

    /**
     * A sum over the last dimensions of what a loop computes anyway is added up there.
     *
     * @param  array<string, Node>  $moving  by key, what steps compute
     * @return ?LoopItem null where it needs a loop of its own
     */
    private function sumItem(Lifted $lifted, array $moving, bool $early): ?LoopItem
    {
        if (! in_array($lifted->node->function->name, ['sum', 'mean'], true)) {
            return null;
        }
        $value = $lifted->node->arguments[0];
        $extents = $this->shaped->extents;
        $bound = $extents->bound($lifted->node, $extents->of($value));
        $over = array_map(static fn (Bound $b): string => $b->mapping === null ? $b->dimension : '', $bound);
        $extent = [...$this->shaped->extent($lifted->key), ...$over];
        $near = $far = $behind = [];
        $this->reads($value, $extent, false, $near, $far, $behind);
        $isFit =
            array_intersect_key($near, $moving) !== [] &&
            array_diff($extents->of($value), $extent) === [] &&
            array_filter(Plan::keys($value), fn (string $k): bool => count($this->shaped->extent($k)) > count($extent)) === [];

        return $isFit
            ? new LoopItem('sum', $lifted->key, $extent, $lifted->node, $early, $near, $far, $behind, $this->shaped->sizeOver($extent))
            : null;
    }

    private function rateItem(string $key): LoopItem
    {
        $extent = $this->shaped->extent($key);
        $far = [];
        $near = [$key => true];
        foreach ($this->plan->states[$key]->rates as [$flow, $_]) {
            if ($this->shaped->extent($flow) === $extent) {
                $near[$flow] = true;
            } else {
                $far[$flow] = true;
            }
        }

        return new LoopItem('rate', $key, $extent, null, false, $near, $far, [], $this->shaped->sizeOver($extent));
    }

    /**
     * @param  list<string>  $extent
     * @param  array<string, true>  $near
     * @param  array<string, true>  $far
     * @param  array<string, int>  $behind
     */
    private function reads(Node $node, array $extent, bool $elsewhere, array &$near, array &$far, array &$behind): void
    {
        if ($node instanceof NameUse) {
            $same = ! $elsewhere && $this->shaped->extent($node->key) === $extent;
            $same ? ($near[$node->key] = true) : ($far[$node->key] = true);

            return;
        }
        $back = $node instanceof Pick && ! $elsewhere ? $this->looksBack($node, $extent) : 0;
        if ($node instanceof Pick && $back > 0) {
            $behind[$node->of->key] = max($back, $behind[$node->of->key] ?? 0);
            if ($node->otherwise !== null) {
                $this->reads($node->otherwise, $extent, $elsewhere, $near, $far, $behind);
            }

            return;
        }
        foreach ($node->parts() as $part) {
            $isElsewhere =
                $elsewhere ||
                ($node instanceof Pick && $part === $node->of) ||
                ($node instanceof Call && $node->function->nature === Nature::Along);
            $this->reads($part, $extent, $isElsewhere, $near, $far, $behind);
        }
    }

    /**
     * How many elements before its own a pick looks; 0 if it looks elsewhere.
     *
     * @param  list<string>  $extent
     */
    private function looksBack(Pick $node, array $extent): int
    {
        $back = 0;
        foreach ($this->shaped->extent($node->of->key) === $extent ? $this->shaped->extents->moves($node) : [] as $dimension => $move) {
            if ($move->by >= 0 || $move->over !== (string) $dimension) {
                return 0;
            }
            $inner = array_slice($extent, (int) array_search((string) $dimension, $extent, true) + 1);
            $back -= $move->by * $this->shaped->sizeOver($inner);
        }

        return $back;
    }
}
