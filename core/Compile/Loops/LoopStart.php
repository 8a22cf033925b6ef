<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Compile\Loops;

use MerryOrbit\Core\Compile\Frame;
use MerryOrbit\Core\Formula\Node\Call;
use MerryOrbit\Core\Formula\Node\Node;
use MerryOrbit\Core\Plan\Equation;
use MerryOrbit\Core\Plan\Plan;
use MerryOrbit\Core\Shape\Lifting;
use MerryOrbit\Core\Shape\ShapedPlan;

/** The lines of what is known at the start of a run, one after the other. */
final class LoopStart
{
    private const HISTORY = '\\MerryOrbit\\Core\\Library\\History';

    private readonly Plan $plan;

    private readonly ShapedPlan $shaped;

    private readonly Frame $frame;

    public function __construct(private readonly LoopContext $context)
    {
        $this->plan = $context->plan;
        $this->shaped = $context->shaped;
        $this->frame = $context->frame;
    }

    /** @var array<string, true> what was lifted and is known by now */
    private array $lookedUp = [];

    /**
     * What is known at the start, one after the other.
     *
     * @param  list<LoopItem>  $steady  what was lifted and stays the same
     * @return list<string>
     */
    public function startLines(array $steady): array
    {
        $lines = [];
        foreach ($this->plan->starts as $key => $node) {
            $key = (string) $key;
            $node = $this->context->lifting->of($node, $this->shaped->extent($key));
            foreach (Plan::keys($node) as $used) {
                array_push($lines, ...$this->liftedAtStart($used));
            }
            array_push($lines, ...$this->context->watched($this->once($key, $node, $this->context->whole($key, 'y')), [$key], 'y', true));
            $lines[] = '$check += '.$this->frame->sum($this->context->isState($key) ? 'y' : 'v', $key).';';
        }
        foreach ($this->plan->cells as $key => $cell) {
            array_push($lines, ...$this->cellStart((string) $key, $cell->kind));
        }
        foreach ($steady as $item) {
            array_push($lines, ...$this->liftedAtStart($item->key));
        }

        return $lines;
    }

    /** @return list<string> */
    private function liftedAtStart(string $key): array
    {
        $one = $this->context->lifting->lifted[$key] ?? null;
        if ($one === null || isset($this->lookedUp[$key])) {
            return [];
        }
        $this->lookedUp[$key] = true;
        $lines = [];
        foreach (Plan::keys($one->node) as $used) {
            array_push($lines, ...$this->liftedAtStart($used));
        }

        return [
            ...$lines,
            ...$this->context->watched($this->once($key, $one->node, $this->context->whole($key, 'y')), [$key], 'y', true),
        ];
    }

    /** @return list<string> */
    private function cellStart(string $key, string $kind): array
    {
        $v = $this->frame->whole('v', $key);
        $size = $this->frame->isIndexed($key) ? $this->shaped->sizeCode($this->shaped->extent($key)) : '';
        $filled = static fn (string $value): string => $size === '' ? $value : "\\array_fill(0, $size, $value)";

        return match ($kind) {
            'highest' => ["{$v}h = ".$filled('-\\INF').';'],
            'lowest' => ["{$v}h = ".$filled('\\INF').';'],
            'times' => ["$v = ".$filled('0.0')."; {$v}h = ".$filled('0.0').';'],
            'shift' => $size === ''
                ? ["{$this->frame->whole('q', $key)} = new ".self::HISTORY."($v, \$start, \$step);"]
                : [
                    "{$this->frame->whole('q', $key)} = [];",
                    ...$this->frame->each($key, [
                        "{$this->frame->whole('q', $key)}[] = new ".self::HISTORY."({$v}[\$n], \$start, \$step);",
                    ]),
                ],
            'previous' => [],
            default => ["$v = ".$filled('0.0').';'],
        };
    }

    /**
     * What members start with who come while a run goes on.
     *
     * @param  string  $first  code for the place of the first of them
     * @return list<string>
     */
    public function from(string $key, Node $node, string $first): array
    {
        return $this->once(
            $key,
            $this->context->lifting->of($node, $this->shaped->extent($key)),
            $this->context->whole($key, 'y'),
            $first,
        );
    }

    /**
     * Stocks that a hand holds, set to its course at a look.
     *
     * @param  'x'|'y'  $state  the letter of the stocks that are looked at
     * @return list<string>
     */
    public function heldLines(string $state, string $time): array
    {
        $lines = [];
        foreach ($this->plan->states as $key => $one) {
            if ($one->forced !== null) {
                $node = $this->context->lifting->of($one->forced, $this->shaped->extent((string) $key));
                array_push($lines, ...$this->once((string) $key, $node, $this->frame->whole($state, (string) $key), state: $state));
            }
        }

        return $lines === [] ? [] : ["\$t = $time;", ...$lines];
    }

    /**
     * @param  'x'|'y'  $state
     * @return list<string> one formula for all its elements
     */
    private function once(string $key, Node $node, string $whole, string $first = '0', string $state = 'y'): array
    {
        $extent = $this->shaped->extent($key);
        $emitter = $this->frame->emitter("\$$state", false);
        $nest = $this->context->nest($extent);
        $nest->first = $first;
        $formula = $this->context->formula($emitter, $state, $nest);
        if (isset($this->context->lifting->lifted[$key]) && $node instanceof Call && Lifting::isAmong($node)) {
            return (new LoopAmong($formula))->lines($node, $extent, $whole);
        }
        $place = $nest->place();
        $variable = $whole.($extent === [] ? '' : '[$n]');
        $equation = $this->plan->equations[$key] ?? null;
        $isDraw = $equation !== null && $equation->draw !== null && $node === $equation->node;
        $plain = $isDraw ? $formula->kept($node, $place) : $formula->plain($node, $place);
        foreach ($extent === [] ? [] : array_keys($formula->near) as $used) {
            $emitter->rename((string) $used, $this->context->whole((string) $used, $state).'[$n]');
        }
        // Once more, now that the names are known.
        $formula->taken();
        $plain = $isDraw ? $formula->kept($node, $place) : $formula->plain($node, $place);
        $before = $formula->taken();
        $code = $isDraw
            ? [
                "$variable = 0.0;",
                ...$emitter->kept(
                    $variable,
                    new Equation($key, $equation->owner, $plain, $equation->pace, $equation->draw),
                    $this->context->drawCode($equation),
                ),
            ]
            : $emitter->assign($variable, $plain);

        return $nest->around([...$before, ...$code]);
    }
}
