<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use App\Models\ModelDocument;
use Illuminate\Http\JsonResponse;
use Illuminate\Http\Request;
use Illuminate\Http\Response;
use MerryOrbit\Core\Analysis\Analyser;
use MerryOrbit\Core\Formula\Name;
use MerryOrbit\Core\Map\Arrivals;
use MerryOrbit\Core\Map\CausalGraph;
use MerryOrbit\Core\Map\GraphLink;
use MerryOrbit\Core\Map\Loop;
use MerryOrbit\Core\Map\Loops;
use MerryOrbit\Core\Map\Proposals;
use MerryOrbit\Core\Map\Push;
use MerryOrbit\Core\Map\Record;
use MerryOrbit\Core\Map\Sentences;
use MerryOrbit\Core\Map\Sketch;
use MerryOrbit\Core\Map\Structures;
use MerryOrbit\Core\Map\Told;
use MerryOrbit\Core\Model\CausalLink;
use MerryOrbit\Core\Model\NotUnderstood;
use MerryOrbit\Core\Model\TimeSettings;
use MerryOrbit\Core\Simulate\Simulator;

/** What can be asked about the causal map of a study. */
final class MapController
{
    /** So many loops are told at most. */
    private const LOOPS = 500;

    /** What is told of a play ends there: nobody reads on. */
    private const TOLD = 300;

    /** Between two heights that are told, in beats. */
    private const SAVED = 0.25;

    /** The map read as sentences, its loops, and what it does without numbers. */
    public function show(Request $request, ModelDocument $model, Simulator $simulator): JsonResponse
    {
        $core = $model->core();
        $graph = CausalGraph::ofMap($core);
        $pushes = $this->pushes($request);
        $starts = array_map(floatval(...), array_filter($request->array('starts'), is_numeric(...)));
        $loops = $request->boolean('independent') ? Loops::independent($graph, self::LOOPS) : Loops::of($graph, self::LOOPS);
        $sketch = new Sketch($graph, $pushes, $starts, $request->float('beats', Sketch::BEATS));
        $time = $sketch->model->time;
        $time = new TimeSettings($time->start, $time->end, $time->step, $time->unit, saveEvery: self::SAVED);
        $run = $simulator->run(Analyser::made($sketch->model->with(['time' => $time]), []));
        $rounded = static fn (array $course): array => array_map(static fn (mixed $h): float => round((float) $h, 4), $course);

        return new JsonResponse([
            'revision' => $model->revision,
            'sentences' => (object) self::sentences($graph, $core->part('causalLinks')),
            'complete' => $loops->isComplete,
            'loops' => array_map(
                static fn (Loop $l): array => [
                    'name' => $l->name,
                    'polarity' => $l->sign,
                    'delayed' => $l->delayed,
                    'path' => $l->path,
                ],
                $loops->loops,
            ),
            'times' => $run->times(),
            'heights' => (object) array_map(static fn (string $stock): array => $rounded($run->column($stock)), $sketch->stocks),
            'proposals' => Proposals::of($core),
            'told' => array_slice((new Told($graph, self::arrivals($graph, $pushes), $loops))->sentences(), 0, self::TOLD),
        ]);
    }

    /** The common structures with the courses they make, and where this map looks like one. */
    public function structures(ModelDocument $model, Simulator $simulator): JsonResponse
    {
        $told = [];
        foreach (Structures::all() as $structure) {
            $sketch = new Sketch($structure->graph(), $structure->play);
            $time = $sketch->model->time;
            $time = new TimeSettings($time->start, $time->end, $time->step, $time->unit, saveEvery: 2 * self::SAVED);
            $run = $simulator->run(Analyser::made($sketch->model->with(['time' => $time]), []));
            $told[] = [
                'id' => $structure->id,
                'title' => $structure->title,
                'recognise' => $structure->recognise,
                'course' => $structure->course,
                'helps' => $structure->helps,
                'roles' => (object) $structure->roles,
                'links' => array_map(
                    static fn (GraphLink $l): array => ['from' => $l->from, 'to' => $l->to, 'sign' => $l->sign, 'late' => $l->late],
                    $structure->links,
                ),
                'loops' => array_map(
                    static fn (Loop $l): array => [
                        'name' => $l->name,
                        'polarity' => $l->sign,
                        'delayed' => $l->delayed,
                        'path' => $l->path,
                    ],
                    Loops::of($structure->graph())->loops,
                ),
                'heights' => (object) array_map(
                    static fn (string $s): array => array_map(static fn (mixed $h): float => round((float) $h, 3), $run->column($s)),
                    $sketch->stocks,
                ),
            ];
        }

        return new JsonResponse([
            'structures' => $told,
            'found' => array_map(
                static fn (array $f): array => ['structure' => $f['structure'], 'roles' => (object) $f['roles']],
                Structures::in(CausalGraph::ofMap($model->core())),
            ),
        ]);
    }

    /** A loop told step by step; it is named by its path. */
    public function story(Request $request, ModelDocument $model): JsonResponse
    {
        $graph = CausalGraph::ofMap($model->core());
        $path = array_values(array_filter($request->array('path'), is_string(...)));
        foreach ($path as $i => $id) {
            if ($graph->link($id, $path[($i + 1) % count($path)]) === null) {
                throw NotUnderstood::because('This loop is not closed any more: one of its links has gone.');
            }
        }

        return $path === []
            ? throw NotUnderstood::because('Say which loop: `path`, the ids of its factors.')
            : new JsonResponse(['story' => (new Sentences($graph))->ofLoop(new Loop('', Loops::signOf($graph, $path)[0], false, $path))]);
    }

    /** What was asked, said and found, as Markdown. */
    public function record(ModelDocument $model): Response
    {
        return new Response(Record::markdown($model->core()), 200, ['Content-Type' => 'text/markdown; charset=UTF-8']);
    }

    /** What a link would say and how many loops it would close, before it is there. */
    public function foresee(Request $request, ModelDocument $model): JsonResponse
    {
        $core = $model->core();
        $known = CausalGraph::ofMap($core);
        $names = $known->names;
        $ids = [];
        foreach (['from', 'to'] as $end) {
            $name = Name::tidy($request->string($end)->toString());
            $ids[$end] = $core->idOf(Name::key($name)) ?? 'new '.Name::key($name);
            $names[$ids[$end]] = $core->nameOf($ids[$end]) ?? $name;
        }
        if ($names[$ids['from']] === '' || $names[$ids['to']] === '') {
            return new JsonResponse(['sentence' => '', 'closes' => 0, 'most' => self::LOOPS]);
        }
        $sign = in_array($request->input('sign'), CausalLink::SIGNS, true) ? (string) $request->string('sign') : '?';
        $link = new GraphLink($ids['from'], $ids['to'], $sign, $request->boolean('late'));
        $others = array_filter($known->links, static fn (GraphLink $l): bool => $l->from !== $link->from || $l->to !== $link->to);
        $graph = CausalGraph::of($names, [...array_values($others), $link], $known->wordings);
        $closed = array_filter(Loops::of($graph, self::LOOPS)->loops, static fn (Loop $l): bool => $l->passes($link->from, $link->to));

        return new JsonResponse([
            'sentence' => (new Sentences($graph))->bothWays($link)[0],
            'closes' => $known->link($link->from, $link->to) === null ? count($closed) : 0,
            'most' => self::LOOPS,
        ]);
    }

    /**
     * @param  array<mixed>  $links  causal links by id
     * @return array<string, array{string, string}>
     */
    private static function sentences(CausalGraph $graph, array $links): array
    {
        $sentences = new Sentences($graph);
        $read = [];
        foreach ($links as $link) {
            if ($link instanceof CausalLink) {
                $read[$link->id] = $sentences->bothWays(new GraphLink($link->from, $link->to, $link->sign, $link->late));
            }
        }

        return $read;
    }

    /** @param  list<Push>  $pushes */
    private static function arrivals(CausalGraph $graph, array $pushes): Arrivals
    {
        $pushed = $since = [];
        foreach ($pushes as $push) {
            if (isset($graph->names[$push->factor]) && $push->direction() !== '?') {
                $pushed[$push->factor] ??= $push->direction();
                $since[$push->factor] ??= (int) floor($push->from);
            }
        }

        return new Arrivals($graph, $pushed, $since);
    }

    /**
     * @return list<Push>
     *
     * @throws NotUnderstood
     */
    private function pushes(Request $request): array
    {
        $given = array_values($request->array('pushes'));

        return count($given) > Push::MOST
            ? throw NotUnderstood::because('At most '.Push::MOST.' hands act on a map. Let some go.')
            : array_map(Push::read(...), $given);
    }
}
