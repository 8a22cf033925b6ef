<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Map;

use MerryOrbit\Core\Model\Factor;
use MerryOrbit\Core\Model\Kind;
use MerryOrbit\Core\Model\Model;
use MerryOrbit\Core\Model\Stock;

/**
 * What the factors of a map could become in a model of stocks and flows, and why. On what nothing acts is a given number; what is called
 * after a doing is a rate; what such a rate acts on builds up and drains; and since every loop needs something that remembers, the
 * factor that most of the loops without any pass is one, too. All else follows at once from what acts on it.
 */
final class Proposals
{
    /** Loops that are looked at for something that remembers. */
    private const LOOPS = 400;

    /** Words for something that goes on, in a name. */
    private const DOING = '/(\b\w{3,}ing\b|\brate\b|\bper\b|\b(inflow|outflow|loss|gain|catch|harvest)\b)/iu';

    /**
     * @return list<array{id: string, kind: string, why: string}> of what is a factor still: stocks first, then flows, givens and the rest
     */
    public static function of(Model $model): array
    {
        $graph = CausalGraph::ofMap($model);
        $into = $kinds = $why = [];
        foreach ($graph->links as $link) {
            $into[$link->to][] = $link->from;
        }
        $isFactor = static fn (string $id): bool => $model->element($id) instanceof Factor;
        foreach ($graph->names as $id => $name) {
            $id = (string) $id;
            if ($isFactor($id) && ! isset($into[$id])) {
                [$kinds[$id], $why[$id]] = [Kind::Parameter, 'Nothing on the map acts on it: it is a given number.'];
            } elseif ($isFactor($id) && preg_match(self::DOING, $name) === 1 && $graph->linksFrom($id) !== []) {
                [$kinds[$id], $why[$id]] = [Kind::Flow, 'It is called after something that goes on: it is a rate, so much in a time.'];
            }
        }
        $isFlow = static fn (string $id): bool => ($kinds[$id] ?? $model->element($id)?->kind()) === Kind::Flow;
        foreach ($graph->links as $link) {
            if ($isFactor($link->to) && ! isset($kinds[$link->to]) && $isFlow($link->from) && $link->sign !== '?') {
                $kinds[$link->to] = Kind::Stock;
                $why[$link->to] = "`{$graph->names[$link->from]}` fills or drains it: it builds up over time.";
            }
        }
        self::remember($model, $graph, $kinds, $why);
        foreach (array_keys($graph->names) as $id) {
            if ($isFactor((string) $id) && ! isset($kinds[(string) $id])) {
                [$kinds[(string) $id], $why[(string) $id]] = [Kind::Auxiliary, 'It follows at once from what acts on it.'];
            }
        }
        $order = array_flip([Kind::Stock->value, Kind::Flow->value, Kind::Parameter->value, Kind::Auxiliary->value]);
        $proposals = [];
        foreach ($kinds as $id => $kind) {
            $proposals[] = ['id' => (string) $id, 'kind' => $kind->value, 'why' => $why[$id]];
        }
        usort(
            $proposals,
            static fn (array $a, array $b): int => ($order[$a['kind']] ?? 9) <=> ($order[$b['kind']] ?? 9) ?:
            strcmp($graph->names[$a['id']], $graph->names[$b['id']]),
        );

        return $proposals;
    }

    /**
     * Every loop passes something that remembers: else it would have to be settled at one moment.
     *
     * @param  array<string, Kind>  $kinds
     * @param  array<string, string>  $why
     */
    private static function remember(Model $model, CausalGraph $graph, array &$kinds, array &$why): void
    {
        $remembers = static function (string $id) use ($model, &$kinds): bool {
            return ($kinds[$id] ?? null) === Kind::Stock || $model->element($id) instanceof Stock;
        };
        $open = Loops::of($graph, self::LOOPS)->loops;
        while (true) {
            $open = array_values(array_filter($open, static fn (Loop $l): bool => array_filter($l->path, $remembers) === []));
            $passes = [];
            foreach ($open as $loop) {
                foreach ($loop->path as $id) {
                    if ($model->element($id) instanceof Factor && ($kinds[$id] ?? null) === null) {
                        $passes[$id] = ($passes[$id] ?? 0) + 1;
                    }
                }
            }
            if ($passes === []) {
                return;
            }
            $most = max($passes);
            $ids = array_keys($passes, $most, true);
            usort($ids, static fn (string $a, string $b): int => strcmp($graph->names[$a], $graph->names[$b]));
            $kinds[$ids[0]] = Kind::Stock;
            $loops = $most === 1 ? 'A loop passes' : "$most loops pass";
            $why[$ids[0]] = "$loops through it, and something in a loop has to remember: it builds up over time.";
        }
    }
}
