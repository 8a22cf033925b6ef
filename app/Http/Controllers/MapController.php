<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use App\Models\ModelDocument;
use Illuminate\Http\JsonResponse;
use Illuminate\Http\Request;
use Illuminate\Http\Response;
use MerryOrbit\Core\Analysis\Analyser;
use MerryOrbit\Core\Map\Arrivals;
use MerryOrbit\Core\Map\CausalGraph;
use MerryOrbit\Core\Map\Foreseen;
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
use MerryOrbit\Core\Model\ActionIdea;
use MerryOrbit\Core\Model\CausalLink;
use MerryOrbit\Core\Model\TimeSettings;
use MerryOrbit\Core\Problem\NotUnderstood;
use MerryOrbit\Core\Simulate\Simulator;

/** What can be asked about the causal map of a study. */
final class MapController
{
    /** So many loops are told at most. */
    private const LOOPS = 500;

    /** So many steps of a play are told: nobody reads on. */
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
        $told = (new Told($graph, Arrivals::ofPlay($graph, $pushes, $starts), $loops))->sentences();

        return new JsonResponse([
            'revision' => $model->revision,
            'sentences' => (object) self::sentences($graph, $core->part('causalLinks')),
            'complete' => $loops->isComplete,
            'loops' => self::loops($loops),
            ...self::played(new Sketch($graph, $pushes, $starts, $request->float('beats', Sketch::BEATS)), $simulator),
            'longest' => Sketch::MOST_BEATS,
            'proposals' => Proposals::of($core),
            'ideas' => array_column(ActionIdea::ranked($core), 'id'),
            'steps' => count($told),
            'told' => array_slice($told, 0, self::TOLD),
        ]);
    }

    /** The common structures with the courses they make, and where this map looks like one. */
    public function structures(ModelDocument $model, Simulator $simulator): JsonResponse
    {
        $told = [];
        foreach (Structures::all() as $structure) {
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
                'loops' => self::loops(Loops::of($structure->graph())),
                ...self::played(new Sketch($structure->graph(), $structure->play), $simulator),
            ];
        }

        return new JsonResponse([
            'structures' => $told,
            'found' => array_map(
                static fn (array $f): array => [
                    'places' => array_map(static fn (array $roles): object => (object) $roles, $f['places']),
                    'complete' => $f['isComplete'],
                ],
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
        $at = array_search($request->input('sign'), CausalLink::SIGNS, true);
        $foreseen = Foreseen::of(
            $model->core(),
            $request->string('from')->toString(),
            $request->string('to')->toString(),
            $at === false ? '?' : CausalLink::SIGNS[$at],
            $request->boolean('late'),
            self::LOOPS,
        );

        return new JsonResponse(['sentence' => $foreseen->sentence, 'closes' => $foreseen->closes, 'complete' => $foreseen->isComplete]);
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

    /** @return list<array{name: string, polarity: string, delayed: bool, path: list<string>}> */
    private static function loops(Loops $loops): array
    {
        return array_map(
            static fn (Loop $l): array => ['name' => $l->name, 'polarity' => $l->sign, 'delayed' => $l->delayed, 'path' => $l->path],
            $loops->loops,
        );
    }

    /** @return array{times: list<float>, heights: object} in beats, and by id of the factor */
    private static function played(Sketch $sketch, Simulator $simulator): array
    {
        $time = $sketch->model->time;
        $time = new TimeSettings($time->start, $time->end, $time->step, $time->unit, saveEvery: self::SAVED);
        $run = $simulator->run(Analyser::made($sketch->model->with(['time' => $time]), []));
        $rounded = static fn (mixed $h): float => round((float) $h, 4);

        return [
            'times' => $run->times(),
            'heights' => (object) array_map(static fn (string $s): array => array_map($rounded, $run->column($s)), $sketch->stocks),
        ];
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
