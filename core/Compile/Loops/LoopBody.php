<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Compile\Loops;

use MerryOrbit\Core\Compile\Code;
use MerryOrbit\Core\Compile\Emitter;
use MerryOrbit\Core\Compile\Frame;
use MerryOrbit\Core\Formula\Node\Binary;
use MerryOrbit\Core\Formula\Node\Call;
use MerryOrbit\Core\Formula\Node\NameUse;
use MerryOrbit\Core\Formula\Operator;
use MerryOrbit\Core\Plan\Equation;
use MerryOrbit\Core\Plan\Pace;
use MerryOrbit\Core\Plan\Plan;
use MerryOrbit\Core\Shape\Lifting;
use MerryOrbit\Core\Shape\ShapedPlan;

/** The lines of what shares one loop over elements. */
final class LoopBody
{
    private readonly Plan $plan;

    private readonly ShapedPlan $shaped;

    private readonly Frame $frame;

    private readonly LoopData $data;

    public function __construct(private readonly LoopContext $context)
    {
        $this->plan = $context->plan;
        $this->shaped = $context->shaped;
        $this->frame = $context->frame;
        $this->data = $context->data;
    }

    /**
     * @param  non-empty-list<LoopItem>  $group
     * @return list<string>
     */
    public function groupLines(array $group): array
    {
        if ($this->context->careful) {
            $keys = array_map(
                static fn (LoopItem $i): string => $i->key,
                array_filter($group, static fn (LoopItem $i): bool => $i->kind !== 'watch' && $i->kind !== 'end'),
            );
            $lines = $this->context->watched(
                $this->bodyLines($group, true),
                array_values(array_unique($keys)),
                $this->context->looped ? 'x' : 'y',
            );

            return $group[0]->early ? ['if ($stage === 0) {', ...$lines, '}'] : $lines;
        }
        $isSaved =
            array_filter(
                $group,
                fn (LoopItem $i): bool => $i->kind === 'equation' &&
                    isset($this->context->looked[$i->key]) &&
                    ! isset($this->context->kept[$i->key]),
            ) !== [];
        $usual = $this->bodyLines($group, false);
        $lines =
            $isSaved && $group[0]->extent !== []
                ? ['if ($saving) {', ...$this->bodyLines($group, true), '} else {', ...$usual, '}']
                : $usual;

        return $group[0]->early ? ['if ($stage === 0) {', ...$lines, '}'] : $lines;
    }

    /**
     * @param  non-empty-list<LoopItem>  $group
     * @return list<string>
     */
    private function bodyLines(array $group, bool $saving): array
    {
        $extent = $group[0]->extent;
        $early = $group[0]->early;
        $state = $this->context->looped && ! $early ? 'x' : 'y';
        $emitter = $this->frame->emitter('$'.$state);
        $nest = $this->context->nest($extent);
        $place = $nest->place();
        $formula = $this->context->formula($emitter, $state, $nest);
        if ($group[0]->kind === 'lifted' && $group[0]->node instanceof Call && Lifting::isAmong($group[0]->node)) {
            return (new LoopAmong($formula))->lines($group[0]->node, $extent, $this->context->whole($group[0]->key, $state));
        }
        $loads = [];
        $made = [];
        foreach ($group as $item) {
            foreach ($extent === [] ? [] : array_keys($item->near) as $key) {
                $key = (string) $key;
                if ($this->context->isMemory($key)) {
                    $emitter->rename($key, $this->context->whole($key, $state).'[$n]');
                } elseif (! isset($made[$key]) && ! isset($loads[$key])) {
                    $whole = $this->context->whole($key, $state);
                    $loads[$key] = LoopContext::local($whole)." = {$whole}[\$n];";
                    $emitter->rename($key, LoopContext::local($whole));
                }
            }
            $made[$item->name()] = true;
            if ($extent !== [] && ($item->kind === 'equation' || $item->kind === 'lifted')) {
                $whole = $this->context->whole($item->key, $state);
                if (isset($this->plan->cells[$item->key])) {
                    $emitter->rename($item->key.'h', "{$whole}h[\$n]");
                }
                $isStep = ($this->plan->equations[$item->key]->pace ?? null) === Pace::Step;
                $emitter->rename($item->key, $isStep ? "{$whole}[\$n]" : LoopContext::local($whole));
            }
        }
        $caps = $body = $handed = [];
        foreach ($group as $item) {
            foreach ($item->behind as $key => $back) {
                if ($back === 1 && isset($made[$key]) && ! isset($handed[$key])) {
                    $variable = $formula->behind[$key] = '$b'.substr($this->context->whole($key, $state), 1);
                    $nest->before[0][] = "$variable = 0.0;";
                    $handed[$key] = "$variable = ".$emitter->variable($key).';';
                }
            }
            array_push($body, ...$this->itemLines($item, $formula, $nest, $saving, $caps));
        }

        return $nest->around([...array_values($loads), ...$body, ...array_values($handed)]);
    }

    /**
     * @param  array<string, true>  $caps  of which stocks it is said already what they can give
     * @return list<string>
     */
    private function itemLines(LoopItem $item, LoopFormula $formula, LoopNest $nest, bool $saving, array &$caps): array
    {
        $place = $nest->place();

        return match ($item->kind) {
            'equation' => $this->equationLines($item, $formula, $place, $saving, $caps),
            'rate' => $this->rateLines($item, $formula, $place),
            'lifted' => $this->liftedLines($item, $formula, $place),
            'sum' => $this->sumLines($item, $formula, $nest),
            'end' => $this->valueLines('$ends', $item, $formula, $place),
            'watch' => $this->watchLines($item, $formula, $place),
        };
    }

    /** @return list<string> what a cell keeps of the start of a step */
    private function watchLines(LoopItem $item, LoopFormula $formula, LoopPlace $place): array
    {
        $at = $this->frame->isIndexed($item->key) ? '[$n]' : '';
        [$next, $q] = [$this->frame->whole('next', $item->key), $this->frame->whole('q', $item->key)];

        return match ($this->plan->cells[$item->key]->kind) {
            'previous' => $this->valueLines("$next$at", $item, $formula, $place),
            'shift' => [...$this->valueLines($next, $item, $formula, $place), "{$q}{$at}->put(\$i, $next);"],
            default => $this->valueLines($this->frame->whole('v', $item->key)."h$at", $item, $formula, $place),
        };
    }

    /** @return list<string> */
    private function valueLines(string $variable, LoopItem $item, LoopFormula $formula, LoopPlace $place): array
    {
        $plain = $formula->plain($item->node ?? throw new \LogicException(), $place);
        $before = $formula->taken();

        return [...$before, ...$formula->emitter->assign($variable, $plain)];
    }

    /** @return list<string> */
    private function liftedLines(LoopItem $item, LoopFormula $formula, LoopPlace $place): array
    {
        $variable = $formula->emitter->variable($item->key);
        $whole = $this->context->whole($item->key, 'y');

        return [
            ...$this->valueLines($variable, $item, $formula, $place),
            ...$variable === $whole || ! isset($this->context->kept[$item->key]) ? [] : ["{$whole}[\$n] = $variable;"],
        ];
    }

    /** @return list<string> */
    private function sumLines(LoopItem $item, LoopFormula $formula, LoopNest $nest): array
    {
        $call = $item->node instanceof Call ? $item->node : throw new \LogicException('A sum is a call.');
        $lead = $this->shaped->extent($item->key);
        $e = $this->data->variable('e');
        $whole =
            $this->context->whole($item->key, 'y').($lead === [] ? '' : '['.$formula->index->index($lead, $nest->place())[0].']');
        $over = array_slice($item->extent, count($lead));
        $count =
            $this->shaped->extents->rosters->in($over) === null
                ? Emitter::literal((float) $this->shaped->sizeOver($over))
                : "(float) ({$this->shaped->sizeCode($over)})";
        $nest->before[count($lead)][] = "$e = 0.0;";
        $nest->after[count($lead)][] = "$whole = $e".($call->function->name === 'mean' ? " / $count;" : ';');
        $plain = $formula->plain($call->arguments[0], $nest->place());

        return [...$formula->taken(), ...$formula->emitter->assign($e, new Binary(Operator::Add, new Code($e), $plain))];
    }

    /**
     * @param  array<string, true>  $caps
     * @return list<string>
     */
    private function equationLines(LoopItem $item, LoopFormula $formula, LoopPlace $place, bool $saving, array &$caps): array
    {
        $key = $item->key;
        $equation = $this->plan->equations[$key];
        $lines = [];
        foreach ($this->context->capsOf($key) as $stock) {
            if (! isset($caps[$stock])) {
                $level = $formula->emitter->variable($stock);
                $lines[] = $this->frame->whole('cap', $stock)." = ($level > 0.0 ? $level : 0.0) / \$step;";
                $caps[$stock] = true;
            }
        }
        $node =
            $equation->draw === null && ! ($equation->pace === Pace::Step && $equation->node instanceof Call)
                ? $formula->plain($item->node ?? $equation->node, $place)
                : $formula->kept($item->node ?? $equation->node, $place);
        $plain = new Equation($key, $equation->owner, $node, $equation->pace, $equation->draw);
        array_push($lines, ...$formula->taken());
        $first = $this->context->looped && ! $item->early ? null : true;
        array_push($lines, ...$this->frame->equationLines($formula->emitter, $plain, $first, $this->context->drawCode($equation)));
        if (in_array($key, $this->context->masses->flows(), true)) {
            $lines[] =
                $this->frame->variable('g', $key).
                ($this->context->looped ? ' += $weight * ' : ' = ').
                $formula->emitter->variable($key).
                ';';
        }
        $isStored = isset($this->context->kept[$key]) || ($saving && isset($this->context->looked[$key]));
        if ($item->extent !== [] && $equation->pace !== Pace::Step && $isStored) {
            $lines[] = $this->frame->variable('v', $key).' = '.$formula->emitter->variable($key).';';
        }

        return $lines;
    }

    /** @return list<string> */
    private function rateLines(LoopItem $item, LoopFormula $formula, LoopPlace $place): array
    {
        $key = $item->key;
        [$lines, $rate] = $this->rate($key, $formula, $place);
        if ($this->context->careful) {
            return [...$lines, $this->frame->variable('d', $key)." = $rate;"];
        }
        if ($this->context->looped) {
            return [
                ...$lines,
                "\$k = $rate;",
                $this->frame->variable('a', $key).
                ' += $weight * $k; '.
                $this->frame->variable('x', $key).
                ' = '.
                $this->frame->variable('y', $key).
                ' + $reach * $k;',
            ];
        }

        return [...$lines, $this->frame->variable('y', $key).' = '.$formula->emitter->variable($key)." + \$step * ($rate);"];
    }

    /** @return array{list<string>, string} lines before it, and the rate of change of a state from its flows */
    private function rate(string $key, LoopFormula $formula, LoopPlace $place): array
    {
        $dimensions = $this->shaped->extents->dimensions;
        $lines = [];
        $code = '';
        foreach ($this->plan->states[$key]->rates as [$flow, $sign]) {
            $extent = $this->shaped->extent($flow);
            $wider = array_values(array_filter($extent, static fn (string $d): bool => $place->found($dimensions, $d) === null));
            $symbol = $sign > 0 ? ($code === '' ? '' : ' + ') : ($code === '' ? '0.0 - ' : ' - ');
            if ($wider === []) {
                $plain = $formula->plain(new NameUse($flow, $flow, 0, 0), $place);
                $code .= $symbol.$formula->emitter->value($plain, true);

                continue;
            }
            $e = $this->data->variable('e');
            $lines[] = "$e = ".($code === '' ? '0.0' : $code).';';
            $within = $place;
            foreach ($wider as $dimension) {
                $j = $this->data->variable('j');
                $lines[] = "for ($j = 0; $j < {$this->shaped->sizeCode([$dimension])}; $j++) {";
                $within = $within->moved($dimensions, $dimension, $j);
            }
            $plain = $formula->plain(new NameUse($flow, $flow, 0, 0), new LoopPlace($within->at));
            $lines[] = "$e ".($sign > 0 ? '+=' : '-=').' '.$formula->emitter->value($plain, true).';';
            array_push($lines, ...array_fill(0, count($wider), '}'));
            $code = $e;
        }

        return [$lines, $code === '' ? '0.0' : $code];
    }
}
