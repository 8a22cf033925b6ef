<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Map;

use MerryOrbit\Core\Formula\Name;
use MerryOrbit\Core\Model\Model;

/** What a link would say, and how many loops it would close, before it is there. */
final readonly class Foreseen
{
    /** @param  bool  $isComplete  false where there may be more loops: in a map of very many not all are looked at */
    private function __construct(public string $sentence, public int $closes, public bool $isComplete)
    {
    }

    /**
     * @param  string  $from  the name of the cause; it need not be there
     * @param  string  $to  the name of the effect
     * @param  '+'|'-'|'?'  $sign
     * @param  int  $most  so many loops of the map are looked at
     */
    public static function of(Model $model, string $from, string $to, string $sign, bool $late, int $most): self
    {
        $map = CausalGraph::ofMap($model);
        $names = $map->names;
        $ids = [];
        foreach ([$from, $to] as $called) {
            $name = Name::tidy($called);
            if ($name === '') {
                return new self('', 0, true);
            }
            // No id has a space in it.
            $ids[] = $id = $model->idOf(Name::key($name)) ?? 'new '.Name::key($name);
            $names[$id] ??= $model->nameOf($id) ?? $name;
        }
        $link = new GraphLink($ids[0], $ids[1], $sign, $late);
        $others = array_filter($map->links, static fn (GraphLink $l): bool => $l->from !== $link->from || $l->to !== $link->to);
        $graph = CausalGraph::of($names, [...array_values($others), $link], $map->wordings);
        $loops = Loops::of($graph, $most);
        $isNew = $map->link($link->from, $link->to) === null;
        $closed = array_filter($isNew ? $loops->loops : [], static fn (Loop $l): bool => $l->passes($link->from, $link->to));

        return new self((new Sentences($graph))->bothWays($link)[0], count($closed), ! $isNew || $loops->isComplete);
    }
}
