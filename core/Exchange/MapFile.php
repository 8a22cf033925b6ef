<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Exchange;

use MerryOrbit\Core\Edit\EditRefused;
use MerryOrbit\Core\Edit\MoveOnMap;
use MerryOrbit\Core\Edit\SayLink;
use MerryOrbit\Core\Formula\Name;
use MerryOrbit\Core\Map\MapCsv;
use MerryOrbit\Core\Model\CausalLink;
use MerryOrbit\Core\Model\Model;
use MerryOrbit\Core\Model\Point;
use MerryOrbit\Core\Problem\NotUnderstood;

/** Causal maps alone, in and out: as a table of links, and as a graph (GraphML). */
final class MapFile
{
    /** @throws FileRefused */
    public static function fromCsv(string $text): Imported
    {
        try {
            $lines = MapCsv::lines($text);
        } catch (NotUnderstood $e) {
            throw FileRefused::because($e->getMessage());
        }

        return self::made(
            array_map(
                static fn (array $l): array => [
                    'from' => $l['from'],
                    'to' => $l['to'],
                    'sign' => $l['sign'],
                    'said' => [
                        'late' => $l['late'],
                        'strength' => $l['strength'],
                        'mechanism' => $l['mechanism'],
                        'grounds' => $l['evidence'],
                    ],
                ],
                $lines,
            ),
            [],
            [],
            'Causal map',
        );
    }

    /**
     * A map of what a file says. Two lines of opposite sign between the same two leave it open.
     *
     * @param  list<array{from: string, to: string, sign: string, said: array<string, mixed>}>  $links  by names, with what else is said of them
     * @param  list<string>  $alone  names of further factors
     * @param  array<string, Point>  $spots  by name
     *
     * @throws FileRefused
     */
    public static function made(array $links, array $alone, array $spots, string $name): Imported
    {
        $log = [];
        if (count($links) > CausalLink::MOST) {
            throw FileRefused::because(
                'This map has more than '.number_format(CausalLink::MOST).' links, which a study cannot hold.',
            );
        }
        $model = new Model($name);
        $single = array_map(static fn (string $n): array => ['from' => $n, 'to' => '', 'sign' => '?', 'said' => []], $alone);
        foreach ([...$links, ...$single] as $i => $line) {
            $ids = [$model->idOf(Name::key(Name::tidy($line['from']))), $model->idOf(Name::key(Name::tidy($line['to'])))];
            $known = $ids[0] !== null && $ids[1] !== null ? SayLink::between($model, $ids[0], $ids[1]) : null;
            $said = ['sign' => $line['sign'], ...$line['said']];
            if ($known !== null && $known->sign !== $line['sign']) {
                $said = ['sign' => '?'];
                $log[] = new LogLine('link '.($i + 1), "`{$line['from']}` acts on `{$line['to']}` both ways here: that was left open.");
            }
            try {
                $model = (new SayLink('l'.($i + 1), $line['from'], 'f'.(2 * $i + 1), $line['to'], 'f'.(2 * $i + 2), $said))->apply(
                    $model,
                );
            } catch (EditRefused $e) {
                throw FileRefused::because('Link '.($i + 1).": {$e->getMessage()}");
            }
        }
        $at = [];
        foreach ($spots as $called => $spot) {
            $id = $model->idOf(Name::key(Name::tidy((string) $called)));
            $at += $id === null ? [] : [$id => $spot];
        }

        return new Imported($at === [] ? $model : (new MoveOnMap($at))->apply($model), $log);
    }

    /** @return list<LogLine> what a file of links alone cannot hold */
    public static function losses(Model $model, bool $holdsFactors): array
    {
        $log = [];
        $linked = [];
        foreach ($model->part('causalLinks') as $link) {
            $linked += $link instanceof CausalLink ? [$link->from => true, $link->to => true] : [];
        }
        $loose = count(array_diff_key($model->part('mapSpots'), $linked));
        if ($loose > 0 && ! $holdsFactors) {
            $log[] = new LogLine(
                'factors',
                $loose === 1 ? 'One factor without a link is not in it.' : "$loose factors without a link are not in it.",
            );
        }
        if ($model->withoutFactors()->elements !== []) {
            $log[] = new LogLine(
                'model',
                'It holds the causal map alone: formulas, runs, plots and all else of the study are not in it.',
            );
        }

        return $log;
    }
}
