<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use App\Models\ModelDocument;
use App\Runs\RunSource;
use Illuminate\Http\JsonResponse;
use Illuminate\Http\Request;
use MerryOrbit\Core\Analysis\Analyser;
use MerryOrbit\Core\Edit\EditReader;
use MerryOrbit\Core\Edit\EditRefused;
use MerryOrbit\Core\Exchange\Fragment;
use MerryOrbit\Core\Map\CausalGraph;
use MerryOrbit\Core\Map\Loops;
use MerryOrbit\Core\Map\Sentences;
use MerryOrbit\Core\Model\Curve;
use MerryOrbit\Core\Reduce\Ranked;
use MerryOrbit\Core\Simulate\RunRefused;
use MerryOrbit\Core\Simulate\Simulator;
use MerryOrbit\Core\Structure\Comparison;
use MerryOrbit\Core\Structure\Effects;
use MerryOrbit\Core\Structure\EquationText;
use MerryOrbit\Core\Structure\Visits;

/** What can be asked about a model besides running it. */
final class InsightController
{
    /** So many loops are told at most. */
    private const LOOPS = 500;

    /** The signs of the links over the run, and how strongly they act at a time if one is given. */
    public function effects(Request $request, ModelDocument $model, Simulator $simulator): JsonResponse
    {
        set_time_limit(config()->integer('merry-orbit.run.seconds'));
        $trial = RunSource::of($model, $request->array('run'))->trial();
        $analysis = $trial->analysis;
        $run = $trial->run($simulator);
        $look = array_filter($request->array('look'), is_string(...));
        $effects = new Effects($analysis, $run, $look);
        $at = null;
        if ($request->has('at') && $run->length() > 0) {
            $time = $request->float('at');
            $index = 0;
            foreach ($run->times() as $i => $saved) {
                $index = $saved <= $time + 1e-9 ? $i : $index;
            }
            $at = (object) $effects->at($index);
        }

        return new JsonResponse([
            'revision' => $model->revision,
            'signs' => $request->boolean('signs', true) ? (object) $effects->signs() : null,
            'at' => $at,
        ]);
    }

    /** The elements of a thing with the greatest or least value at the end of a run. */
    public function ranked(Request $request, ModelDocument $model, string $element, Simulator $simulator): JsonResponse
    {
        $request->validate(
            [
                'pick' => ['required', 'in:greatest,least'],
                'most' => ['sometimes', 'integer', 'min:1', 'max:100'],
                'look' => ['sometimes', 'array'],
            ],
            [
                'pick.*' => '`pick` is greatest or least.',
                'most.*' => '`most` is a number from 1 to 100.',
                'look.*' => '`look` says by dimension what is looked at.',
            ],
        );
        set_time_limit(config()->integer('merry-orbit.run.seconds'));
        $source = RunSource::of($model, $request->array('run'));
        $analysis = $source->trial()->analysis;
        if ($analysis->model->element($element) === null) {
            throw EditRefused::gone();
        }
        $run = $source->trajectory($simulator, looked: [$element]);
        $look = array_filter($request->array('look'), is_string(...));
        $keys = Ranked::keys(
            $run,
            $analysis,
            $element,
            $look,
            $request->string('pick')->toString() === 'greatest',
            $request->integer('most', 10),
        );

        return new JsonResponse(['keys' => $keys]);
    }

    public function equation(ModelDocument $model, string $element): JsonResponse
    {
        $core = $model->core();

        return new JsonResponse(EquationText::of(Analyser::analyse($core), $core->element($element) ?? throw EditRefused::gone()));
    }

    /**
     * The feedback loops of what formulas use, flows move and people say; the shorter ones if they are too many to read. Signs that
     * formulas leave open are those of the run, if there is one.
     */
    public function loops(Request $request, ModelDocument $model, Simulator $simulator): JsonResponse
    {
        set_time_limit(config()->integer('merry-orbit.run.seconds'));
        $source = RunSource::of($model, $request->array('run'));
        try {
            $trial = $source->trial();
            $analysis = $trial->analysis;
            $signs = (new Effects($analysis, $trial->run($simulator)))->signs();
        } catch (RunRefused) {
            $analysis = Analyser::analyse($source->model());
            $signs = [];
        }
        $graph = CausalGraph::ofModel($analysis, $signs);
        $loops = $request->boolean('independent') ? Loops::independent($graph, self::LOOPS) : Loops::of($graph, self::LOOPS);

        return new JsonResponse([
            'complete' => $loops->isComplete,
            'loops' => array_map((new Sentences($graph))->record(...), $loops->loops),
        ]);
    }

    /** Where a run has been on a curve. */
    public function visits(Request $request, ModelDocument $model, string $element, Simulator $simulator): JsonResponse
    {
        set_time_limit(config()->integer('merry-orbit.run.seconds'));
        $trial = RunSource::of($model, $request->array('run'))->trial();
        $analysis = $trial->analysis;
        $curve = $analysis->model->element($element);
        if (! ($curve instanceof Curve)) {
            throw $curve === null
                ? EditRefused::gone()
                : EditRefused::because('curve.kind', "`$curve->name` is a {$curve->kind()->value}; only a curve is looked up at inputs.");
        }

        return new JsonResponse(['visits' => Visits::of($analysis, $trial->run($simulator), $curve)]);
    }

    /** Which formulas an edit would make read otherwise; it is tried and not written. */
    public function preview(Request $request, ModelDocument $model): JsonResponse
    {
        $core = $model->core();

        return new JsonResponse(['formulas' => Comparison::formulas($core, EditReader::read($request->input('edit'))->apply($core))]);
    }

    /** Some things as a file of their own, for the clipboard. */
    public function copy(Request $request, ModelDocument $model): JsonResponse
    {
        $request->validate(
            ['ids' => ['required', 'list'], 'ids.*' => ['string']],
            ['ids.*' => 'Say what to copy: `ids`, a list of ids.', 'ids' => 'Say what to copy: `ids`, a list of ids.'],
        );
        /** @var list<string> $ids */
        $ids = $request->array('ids');

        return new JsonResponse(['text' => Fragment::of($model->core(), $ids)]);
    }
}
